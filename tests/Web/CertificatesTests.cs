using System.Net;
using System.Net.Http.Headers;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Web.Tests;

/// <summary>
/// Certificates by authority and type, with their papers; what they allow is enforced where work begins.
/// </summary>
[Collection("town")]
public class CertificatesTests(Town town)
{
    private static readonly byte[] Paper = [.. "%PDF-1.7 a certificate"u8];

    private Task<Account> Named(string name) => town.InStore(s => s.Users.FirstAsync(u => u.UserName == name));

    private static async Task<HttpResponseMessage> Send(
        Visitor who,
        string page,
        string to,
        byte[]? paper,
        params (string Name, string Value)[] fields
    )
    {
        using var form = new MultipartFormDataContent
        {
            { new StringContent(Visitor.TokenOf(await who.Page(page))), "__RequestVerificationToken" },
        };
        foreach (var (name, value) in fields)
            form.Add(new StringContent(value), name);
        if (paper is not null)
        {
            var file = new ByteArrayContent(paper);
            file.Headers.ContentType = new MediaTypeHeaderValue("application/pdf");
            form.Add(file, "scan", "../a <certificate>.pdf");
        }

        return await who.Client.PostAsync(to, form);
    }

    private async Task<(Account Sanna, string Number, string Page)> Added(params (string, string)[] more)
    {
        var (sanna, wilma) = (await Named("sanna"), await town.As("wilma"));
        var (number, page) = ($"T-{Guid.NewGuid():N}"[..12], $"/kits-and-people/{sanna.Id}");
        var answer = await Send(
            wilma,
            page,
            $"{page}?handler=Certificate",
            Paper,
            [
                ("number", number),
                ("issuedBy", "A guild"),
                ("class", "class III"),
                ("from", "2020-01-01"),
                ("until", "2020-12-31"),
                ("types", "PVB"),
                .. more,
            ]
        );
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        return (sanna, number, page);
    }

    [Fact]
    public async Task A_certificate_is_kept_with_its_authority_class_types_and_paper()
    {
        var valley = await town.InStore(s => s.Authorities.FirstAsync(a => a.ReportsAs == ReportForms.Pdf));
        var (sanna, number, page) = await Added(("authorityId", $"{valley.Id}"));
        var wilma = await town.As("wilma");
        var shown = await wilma.Page(page);
        Assert.Contains($"taken by {valley.Name} only", shown, StringComparison.Ordinal);
        Assert.Contains("class III", shown, StringComparison.Ordinal);
        var row = await town.InStore(s => s.Certificates.Include(c => c.Paper).SingleAsync(c => c.Number == number));
        Assert.Equal(("PVB", "a certificate.pdf"), (row.Types, row.Paper!.Name));
        // The office and the person see the paper, nobody else.
        var paper = $"/papers/{row.PaperId}";
        Assert.Equal(Paper, await wilma.Client.GetByteArrayAsync(paper));
        Assert.Equal(Paper, await (await town.As("sanna")).Client.GetByteArrayAsync(paper));
        Assert.Equal(HttpStatusCode.NotFound, (await (await town.As("ines")).Client.GetAsync(paper)).StatusCode);
        Assert.Equal(sanna.Id, row.AccountId);
    }

    [Fact]
    public async Task What_is_no_paper_or_no_type_is_refused_in_words()
    {
        var sanna = await Named("sanna");
        var (wilma, page) = (await town.As("wilma"), $"/kits-and-people/{sanna.Id}");
        (string, string)[] fields =
        [
            ("number", "T-0"),
            ("issuedBy", "A guild"),
            ("from", "2020-01-01"),
            ("until", "2020-12-31"),
        ];
        var answer = await Send(wilma, page, $"{page}?handler=Certificate", [.. "<html>"u8], fields);
        Assert.Contains("a PDF, a JPEG or a PNG", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        answer = await Send(wilma, page, $"{page}?handler=Certificate", null, [.. fields, ("types", "XX")]);
        Assert.Contains("A certificate is for", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        answer = await Send(
            wilma,
            page,
            $"{page}?handler=Certificate",
            null,
            [.. fields, ("authorityId", $"{Guid.NewGuid()}")]
        );
        Assert.Contains("no such authority", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        await wilma.Page($"/kits-and-people/{Guid.NewGuid()}", HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_certificate_can_be_ended_before_its_time_and_not_made_longer()
    {
        var (_, number, page) = await Added();
        var wilma = await town.As("wilma");
        var id = await town.InStore(s => s.Certificates.Where(c => c.Number == number).Select(c => c.Id).SingleAsync());
        Task<HttpResponseMessage> End(string day) =>
            wilma.PostForm(page, $"{page}?handler=End", ("certificate", $"{id}"), ("lastDay", day));
        Assert.Contains("lies between", await (await End("2021-02-01")).Content.ReadAsStringAsync());
        Assert.Equal(HttpStatusCode.Redirect, (await End("2020-06-30")).StatusCode);
        Assert.Contains("30 Jun 2020", await wilma.Page(page), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_person_s_page_says_for_each_authority_and_type_what_may_be_signed_on_a_day()
    {
        var (bram, wilma) = (await Named("bram"), await town.As("wilma"));
        var today = await wilma.Page($"/kits-and-people/{bram.Id}");
        Assert.Contains("has no certificate for a DC", today, StringComparison.Ordinal);
        var earlier = await wilma.Page($"/kits-and-people/{bram.Id}?day={DateTime.Today.AddDays(-60):yyyy-MM-dd}");
        Assert.DoesNotContain("has no certificate", earlier, StringComparison.Ordinal);
        Assert.Contains("Certificate RG-0388 of Bram", await wilma.Page("/kits-and-people"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_kit_that_is_found_wrong_shows_what_hangs_on_it_and_asks_for_tests_again()
    {
        var kit = await town.InStore(s => s.Kits.FirstAsync(k => k.Serial == "GB-5122"));
        var (wilma, page) = (await town.As("wilma"), $"/kits-and-people/kits/{kit.Id}");
        Assert.Contains("Calibration ended", await wilma.Page(page), StringComparison.Ordinal);
        (string, string)[] fields =
        [
            ("on", $"{DateTime.Today:yyyy-MM-dd}"),
            ("calibratedBy", "A bench"),
            ("due", $"{DateTime.Today.AddYears(1):yyyy-MM-dd}"),
        ];
        var wrong = await Send(wilma, page, page, null, [.. fields, ("foundHigh", "99")]);
        Assert.Contains("The gauge ends at 15", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var kept = await Send(wilma, page, page, Paper, [.. fields, ("foundHigh", "1.5")]);
        Assert.Equal(HttpStatusCode.Redirect, kept.StatusCode);
        var shown = await wilma.Page(page);
        Assert.Contains("1.5 psid high", shown, StringComparison.Ordinal);
        Assert.Contains("verdicts would read otherwise", shown, StringComparison.Ordinal);
        var calibration = await town.InStore(s => s.Calibrations.SingleAsync(c => c.FoundHigh == 1.5m));
        var asked = await wilma.PostForm(page, $"{page}?handler=Again", ("calibration", $"{calibration.Id}"));
        Assert.Equal(HttpStatusCode.Redirect, asked.StatusCode);
        Assert.Contains(
            "stand in Due",
            await wilma.Page(asked.Headers.Location!.OriginalString),
            StringComparison.Ordinal
        );
        Assert.True(await town.InStore(s => s.AssemblyEvents.AnyAsync(e => e.Kind == "in doubt")));
        await wilma.Page($"/kits-and-people/kits/{Guid.NewGuid()}", HttpStatusCode.NotFound);
        // As it was: others count on a kit that is out of calibration.
        await town.InStore(s =>
            s.Kits.Where(k => k.Id == kit.Id)
                .ExecuteUpdateAsync(k => k.SetProperty(x => x.CalibrationDue, kit.CalibrationDue))
        );
    }

    [Fact]
    public async Task A_test_that_could_not_be_signed_is_begun_only_by_who_says_so_and_is_not_planned()
    {
        var (stop, bram) = (await town.NewStop("bram"), await town.As("bram"));
        var page = await bram.Page($"/stops/{stop}");
        Assert.Contains("It could not be signed.", page, StringComparison.Ordinal);
        Assert.Contains("Begin it all the same", page, StringComparison.Ordinal);
        var refused = await bram.PostForm($"/stops/{stop}", $"/stops/{stop}");
        Assert.Contains("It could not be signed.", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var begun = await bram.PostForm($"/stops/{stop}", $"/stops/{stop}", ("unsigned", "true"));
        Assert.StartsWith("/runs/", begun.Headers.Location?.OriginalString, StringComparison.Ordinal);
        var assembly = await town.InStore(s => s.Assemblies.OrderBy(a => a.Tag).FirstAsync());
        var planned = await (await town.As("wilma")).PostForm(
            $"/register/{assembly.Id}",
            $"/register/{assembly.Id}",
            ("testerId", $"{bram.Account.Id}"),
            ("day", $"{DateTime.Today.AddDays(12):yyyy-MM-dd}"),
            ("from", "08:00"),
            ("until", "09:00")
        );
        Assert.Contains("RG-0388 ended on", await planned.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_kit_is_compared_and_lent_at_its_page_and_what_was_typed_wrongly_stays_there()
    {
        var (bram, wilma) = (await Named("bram"), await town.As("wilma"));
        var kits = await town.InStore(s => s.Kits.OrderBy(k => k.Serial).ToListAsync());
        var (own, beside) = (kits.First(k => k.KeeperId == bram.Id), kits.First(k => k.KeeperId is null));
        var page = $"/kits-and-people/kits/{own.Id}";
        (string, string)[] pairs =
        [
            ("otherId", $"{beside.Id}"),
            ("on", $"{DateOnly.FromDateTime(DateTime.Now):yyyy-MM-dd}"),
            ("where", "the rig in the yard"),
            ("one", "7.25"),
            ("other", "6.5"),
        ];
        var half = await wilma.PostForm(page, $"{page}?handler=Compare", [.. pairs, ("one", "3.5")]);
        var shown = await half.Content.ReadAsStringAsync();
        Assert.Contains("Reading 2 lacks", shown, StringComparison.Ordinal);
        Assert.Contains("value=\"7.25\"", shown, StringComparison.Ordinal);
        Assert.Equal(page, (await wilma.PostForm(page, $"{page}?handler=Compare", pairs)).Headers.Location!.ToString());
        Assert.Contains("cannot both be", await wilma.Page(page), StringComparison.Ordinal);
        Assert.Contains(
            $"beside {own.Serial}",
            await wilma.Page($"/kits-and-people/kits/{beside.Id}"),
            StringComparison.Ordinal
        );
        var odd = await Named("odd");
        var day = $"{DateTime.Now:yyyy-MM-dd}";
        await wilma.PostForm(page, $"{page}?handler=Lend", ("toId", $"{odd.Id}"), ("from", day), ("until", day));
        var lent = await wilma.Page(page);
        Assert.Contains($"{odd.FullName} has it, lent until", lent, StringComparison.Ordinal);
        Assert.Contains("is lent to", await wilma.Page("/kits-and-people"), StringComparison.Ordinal);
        var loan = await town.InStore(s => s.Loans.SingleAsync(l => l.KitId == own.Id));
        await wilma.PostForm(page, $"{page}?handler=Back", ("loan", $"{loan.Id}"));
        Assert.Contains($"{bram.FullName} has it", await wilma.Page(page), StringComparison.Ordinal);
    }
}
