using System.Net;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Serialization;
using Mordel.Data.Lists;
using Mordel.Web.Application;
using UglyToad.PdfPig;

namespace Mordel.Web.Tests;

[Collection("second town")]
public class SigningTests(Town town)
{
    private async Task<RunInHand> SignedRun(string remarks = "")
    {
        var run = await (await town.Begin("ines")).Tested();
        var answer = await run.Sign(remarks: remarks);
        Assert.Equal($"/reports/{run.Id}", answer.Headers.Location?.ToString());
        return run;
    }

    private async Task<bool> SealHolds(Guid id)
    {
        await using var scope = town.Services.CreateAsyncScope();
        return (await scope.ServiceProvider.GetRequiredService<FindRun>().Report(id, CancellationToken.None))!.Holds;
    }

    [Fact]
    public async Task A_signed_run_gives_a_report_whose_seal_holds()
    {
        var run = await SignedRun("All dry.");
        var page = await run.Visitor.Page($"/reports/{run.Id}");
        Assert.Matches("Seal number [0-9]+ holds", page);
        Assert.Contains("All dry.", page, StringComparison.Ordinal);
        Assert.Contains("2.1 psid", page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Where_the_firm_wants_it_whoever_signs_shows_first_that_it_is_they()
    {
        var run = await (await town.Begin("ines")).Tested();
        var options = town.Services.GetRequiredService<MordelOptions>();
        var verdict = $"/runs/{run.Id}/verdict";
        try
        {
            // Whatever was shown is older than that.
            options.ShowAgainMinutes = -60;
            Assert.Contains("Show that it is you", await run.Visitor.Page(verdict), StringComparison.Ordinal);
            var refused = await run.Sign();
            Assert.Contains(
                "Show first that it is you",
                await refused.Content.ReadAsStringAsync(),
                StringComparison.Ordinal
            );
            Assert.False(await town.InStore(s => s.Runs.AnyAsync(r => r.Id == run.Id && r.SignedAt != null)));
            var before = DateTimeOffset.UtcNow.AddSeconds(-1);
            var shown = await run.Visitor.PostForm("/show-again", "/show-again", ("returnUrl", verdict));
            Assert.Equal(verdict, shown.Headers.Location?.ToString());
            var me = run.Visitor.Account.Id;
            Assert.True(
                await town.InStore(s =>
                    s.Sessions.Where(x => x.AccountId == me && x.EndedAt == null).MaxAsync(x => x.ProvedAt)
                ) >= before
            );
            options.ShowAgainMinutes = 30;
            Assert.DoesNotContain("Show that it is you", await run.Visitor.Page(verdict), StringComparison.Ordinal);
            Assert.Equal($"/reports/{run.Id}", (await run.Sign()).Headers.Location?.ToString());
        }
        finally
        {
            options.ShowAgainMinutes = null;
        }
    }

    [Fact]
    public async Task After_the_seal_no_entry_is_taken_but_old_ones_are_acknowledged_again()
    {
        var run = await town.Begin("ines");
        var entry = run.Reading("cv1.read", "2.1");
        await run.Accepted(entry, run.Reading("cv2.read", "1.7"), run.Done("cv2.leave"), run.Done("finish.tell"));
        // The page's token is fetched before the seal, as in a tab left open.
        Assert.Equal(HttpStatusCode.Redirect, (await run.Sign()).StatusCode);
        Assert.Contains(
            "sealed",
            await run.Refused(HttpStatusCode.Conflict, RunInHand.Batch(run.Done("before.notify"))),
            StringComparison.Ordinal
        );
        await run.Accepted(entry);
    }

    [Fact]
    public async Task A_tester_whose_certificate_has_run_out_can_test_but_not_sign()
    {
        var run = await (await town.Begin("bram")).Tested();
        var page = await run.SignRefusedPage();
        Assert.Contains("Bram Oskelly has no certificate for a DC", page, StringComparison.Ordinal);
        var posted = await run.Visitor.PostForm(
            $"/runs/{run.Id}/verdict",
            $"/runs/{run.Id}/verdict",
            ("name", "Bram Oskelly"),
            ("ink", RunInHand.Drawn),
            ("seen", "4")
        );
        Assert.Equal(HttpStatusCode.OK, posted.StatusCode);
        Assert.False(await town.InStore(s => s.Runs.AnyAsync(r => r.Id == run.Id && r.SignedAt != null)));
    }

    [Fact]
    public async Task A_test_with_a_kit_out_of_calibration_cannot_be_signed() =>
        Assert.Contains(
            "GB-5122 has been out of calibration",
            await (await (await town.Begin("sanna")).Tested()).SignRefusedPage(),
            StringComparison.Ordinal
        );

    [Fact]
    public async Task A_run_that_is_not_at_its_end_cannot_be_signed()
    {
        var run = await town.Begin("ines");
        await run.Accepted(run.Reading("cv1.read", "2.1"));
        Assert.Contains("The run is not at its end", await run.SignRefusedPage(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_name_the_drawing_and_what_was_seen_must_be_right()
    {
        var run = await (await town.Begin("ines")).Tested();
        Assert.Contains(
            "not that of the tester",
            await run.SignRefused(name: "Somebody Else"),
            StringComparison.Ordinal
        );
        Assert.Contains("drawn signature is missing", await run.SignRefused(ink: ""), StringComparison.Ordinal);
        Assert.Contains(
            "drawn signature is missing",
            await run.SignRefused(ink: "M0 0\"><script>"),
            StringComparison.Ordinal
        );
        Assert.Contains("has changed since you looked", await run.SignRefused(seen: 3), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Redirect, (await run.Sign()).StatusCode);
    }

    [Fact]
    public async Task Who_may_not_amend_a_report_is_told_so_on_it()
    {
        var run = await (await town.Begin("ines")).Tested();
        await run.Sign();
        var office = await town.As("wilma");
        var answer = await office.PostForm("/register/new", $"/reports/{run.Id}", ("text", "The office knows better."));
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Contains("another tester", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.False(await town.InStore(s => s.Amendments.AnyAsync(a => a.RunId == run.Id)));
    }

    [Fact]
    public async Task Nobody_signs_anothers_run()
    {
        var run = await (await town.Begin("ines")).Tested();
        var office = await town.As("wilma");
        var answer = await office.PostForm(
            $"/runs/{run.Id}/verdict",
            $"/runs/{run.Id}/verdict",
            ("name", "Ines Tarrow"),
            ("ink", RunInHand.Drawn),
            ("seen", "4")
        );
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Contains("another tester", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.False(await town.InStore(s => s.Runs.AnyAsync(r => r.Id == run.Id && r.SignedAt != null)));
    }

    [Fact]
    public async Task An_amendment_is_a_new_sealed_record_and_the_run_stays_as_it_was()
    {
        var run = await SignedRun();
        var before = await run.Visitor.Page($"/api/runs/{run.Id}/log");
        await run.Visitor.PostForm(
            $"/reports/{run.Id}",
            $"/reports/{run.Id}",
            ("text", "The place is the second valve room.")
        );
        Assert.Contains(
            "The place is the second valve room.",
            await run.Visitor.Page($"/reports/{run.Id}"),
            StringComparison.Ordinal
        );
        Assert.Equal(before, await run.Visitor.Page($"/api/runs/{run.Id}/log"));
        var seals = await town.InStore(s =>
            s.Seals.Where(x => x.RunId == run.Id).OrderBy(x => x.Sequence).ToListAsync()
        );
        Assert.Equal(seals[0].Hash, SealFormat.ReadLink(seals[1].Link)!.Previous);
        Assert.True(await SealHolds(run.Id));
        await town.Alter("UPDATE Amendments SET Text = 'other' WHERE RunId = {0}", run.Id);
        Assert.False(await SealHolds(run.Id));
    }

    [Fact]
    public async Task An_empty_amendment_is_refused_and_says_what_is_wanted()
    {
        var run = await SignedRun();
        var answer = await run.Visitor.PostForm($"/reports/{run.Id}", $"/reports/{run.Id}", ("text", " "));
        Assert.Contains(
            "Say what was wrong",
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_passport_gets_the_outcome_and_the_next_date()
    {
        var run = await SignedRun();
        var assembly = await town.InStore(s => s.Runs.Where(r => r.Id == run.Id).Select(r => r.Assembly!).FirstAsync());
        Assert.Equal(
            ("pass", assembly.LastTestOn!.Value.AddMonths(12)),
            (assembly.LastOutcome, assembly.NextDue!.Value)
        );
        var passport = await run.Visitor.Page($"/register/{assembly.Id}");
        Assert.Contains("class=\"chart\"", passport, StringComparison.Ordinal);
        Assert.Contains("2.1 psid", passport, StringComparison.Ordinal);
        Assert.Contains("At the next test", passport, StringComparison.Ordinal);
        Assert.Contains("class=\"range line-1\"", passport, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task Another_serial_on_the_plate_is_a_new_assembly_linked_to_the_old_or_a_corrected_record(
        bool replaced
    )
    {
        var run = await (await town.Begin("ines")).Tested();
        var old = await town.InStore(s =>
            s.Runs.AsNoTracking().Where(r => r.Id == run.Id).Select(r => r.Assembly!).FirstAsync()
        );
        var earlier = await town.InStore(s =>
            s.Runs.Where(r => r.AssemblyId == old.Id && r.SignedAt != null).Select(r => r.Id).ToListAsync()
        );
        await run.Accepted(
            run.Entry($"\"kind\":\"serial\",\"serial\":\"NEW-{replaced}\",\"replaced\":{(replaced ? "true" : "false")}")
        );
        Assert.Equal(HttpStatusCode.Redirect, (await run.Sign()).StatusCode);
        var now = await town.InStore(s =>
            s.Runs.AsNoTracking().Where(r => r.Id == run.Id).Select(r => r.Assembly!).FirstAsync()
        );
        Assert.Equal(
            ($"NEW-{replaced}", old.Tag, replaced ? old.Id : old.ReplacesId),
            (now.Serial, now.Tag, now.ReplacesId)
        );
        Assert.Equal(replaced, now.Id != old.Id);
        Assert.Contains($"NEW-{replaced}", await run.Visitor.Page($"/reports/{run.Id}"), StringComparison.Ordinal);
        if (replaced)
            Assert.Contains(old.Serial, await run.Visitor.Page($"/register/{now.Id}"), StringComparison.Ordinal);
        // What was sealed before, under the old number, still holds.
        foreach (var id in earlier.Append(run.Id))
            Assert.True(await SealHolds(id));
    }

    [Fact]
    public async Task A_kPa_run_is_read_and_judged_in_kPa()
    {
        var run = await (await town.Begin("odd")).Tested("7", "13", "kPa");
        var page = await run.Visitor.Page($"/runs/{run.Id}/verdict");
        Assert.Contains("verdict-pass", page, StringComparison.Ordinal);
        Assert.Contains("7 kPa", page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_PDF_is_one_page_with_searchable_text_embedded_fonts_title_and_language()
    {
        var run = await SignedRun("SO2 stiff; greased. Näher prüfen: 0–5 °C.");
        var bytes = await run.Visitor.Client.GetByteArrayAsync($"/reports/{run.Id}/pdf");
        using var pdf = PdfDocument.Open(bytes);
        Assert.Equal(1, pdf.NumberOfPages);
        var text = string.Join(" ", pdf.GetPage(1).GetWords().Select(w => w.Text));
        var row = await town.InStore(s =>
            s.Runs.Include(r => r.Assembly).ThenInclude(a => a!.Place).FirstAsync(r => r.Id == run.Id)
        );
        var hash = ContentHash.Compute(await run.Visitor.Page($"/api/runs/{run.Id}/record"));
        foreach (
            var wanted in new[]
            {
                "Pass",
                row.Assembly!.Serial,
                row.Assembly.Make,
                row.Assembly.Size,
                row.Assembly.Place!.Name,
                row.Assembly.Serves,
                "2.1 psid",
                "1.7 psid",
                "least allowed",
                "dc-sight-tube",
                "psid-standard",
                "as found",
                "as left",
                "GB-5107",
                "calibrated",
                "Ines Tarrow",
                "RG-0417",
                "Näher prüfen: 0–5 °C.",
                hash[..20],
                "water authority",
            }
        )
            Assert.Contains(wanted, text, StringComparison.OrdinalIgnoreCase);
        Assert.Contains(row.Assembly.Serial, pdf.Information.Title, StringComparison.Ordinal);
        Assert.Equal(
            "en",
            ((UglyToad.PdfPig.Tokens.StringToken)pdf.Structure.Catalog.CatalogDictionary.Data["Lang"]).Data
        );
        Assert.All(pdf.GetPage(1).Letters.Select(l => l.FontName).Distinct(), f =>
            Assert.Contains("Atkinson", f, StringComparison.Ordinal)
        );
        Assert.Contains("/FontFile2", System.Text.Encoding.Latin1.GetString(bytes), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Long_remarks_go_on_to_a_further_page_and_nothing_of_them_is_lost()
    {
        var remarks = string.Join(" ", Enumerable.Range(1, 170).Select(i => $"remark-{i}"));
        var run = await SignedRun(remarks);
        await run.Visitor.PostForm(
            $"/reports/{run.Id}",
            $"/reports/{run.Id}",
            ("text", string.Join(" ", Enumerable.Range(1, 120).Select(i => $"amended-{i}")))
        );
        using var pdf = PdfDocument.Open(await run.Visitor.Client.GetByteArrayAsync($"/reports/{run.Id}/pdf"));
        var pages = pdf.GetPages().ToList();
        Assert.InRange(pages.Count, 2, 3);
        var words = pages.SelectMany(p => p.GetWords().Select(w => w.Text)).ToHashSet();
        Assert.All(Enumerable.Range(1, 170), i => Assert.Contains($"remark-{i}", words));
        Assert.All(Enumerable.Range(1, 120), i => Assert.Contains($"amended-{i}", words));
        Assert.All(pages.SelectMany(p => p.GetWords()), w => Assert.InRange(w.BoundingBox.Bottom, 10, 842));
        // An amendment stands beside the verdict, on the first page.
        Assert.Contains("amended-1", pages[0].GetWords().Select(w => w.Text));
        Assert.Contains(
            $"of {pages.Count}",
            string.Join(" ", pages[^1].GetWords().Select(w => w.Text)),
            StringComparison.Ordinal
        );
    }
}

internal static class SigningSteps
{
    /// <summary>The verdict page of a run that cannot be signed: it names why and offers no form.</summary>
    public static async Task<string> SignRefusedPage(this RunInHand run)
    {
        var page = await run.Visitor.Page($"/runs/{run.Id}/verdict");
        Assert.Contains("Cannot be signed", page, StringComparison.Ordinal);
        Assert.DoesNotContain("data-sign", page, StringComparison.Ordinal);
        return page;
    }
}
