using System.Net;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Serialization;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Commands.Runs;
using UglyToad.PdfPig;

namespace Mordel.Web.Tests;

/// <summary>What stands behind signing, forms and the day's list.</summary>
[Collection("town")]
public class DeskTests(Town town)
{
    [Theory]
    [InlineData("M10 10 L200 90 L300 40", true)]
    [InlineData("typed", true)]
    [InlineData("M10 10 L200 90", false)]
    [InlineData("L10 10 L200 90 L300 40", false)]
    [InlineData("M10 10 L200 90 L300 40 Z", false)]
    [InlineData("M10 10 L200 90 L300 -40", false)]
    [InlineData("M1 1\nL2 2 L3 3 L4 4", false)]
    [InlineData("", false)]
    [InlineData(null, false)]
    public void A_signature_is_lines_and_nothing_else(string? ink, bool expected) =>
        Assert.Equal(expected, SignaturePath.IsSignature(ink));

    [Fact]
    public void A_signature_of_a_million_points_is_refused() =>
        Assert.False(SignaturePath.IsSignature("M1 1" + string.Concat(Enumerable.Repeat(" L2 2", 1_000_000))));

    [Theory]
    [InlineData(null, "Make is missing.")]
    [InlineData("  ", "Make is missing.")]
    [InlineData("a\u0007b", "Make holds a character that cannot be kept.")]
    public void A_form_says_what_a_text_lacks(string? value, string says)
    {
        var wanted = new FieldErrors();
        wanted.Text("make", value, "Make");
        Assert.Equal(new FieldError("make", says), wanted.Errors.Single());
    }

    [Fact]
    public async Task The_seals_of_an_assembly_form_a_chain()
    {
        var first = await (await town.Begin("ines")).Tested();
        await first.Sign();
        var assembly = await town.InStore(s =>
            s.Runs.Where(r => r.Id == first.Id).Select(r => r.AssemblyId).FirstAsync()
        );
        var chain = await town.InStore(s =>
            s.Seals.Where(x => x.AssemblyId == assembly)
                .OrderBy(x => x.Sequence)
                .Select(x => new { x.Link, x.Hash })
                .ToListAsync()
        );
        var links = chain.Select(x => SealFormat.ReadLink(x.Link)!).ToList();
        Assert.True(chain.Count > 1);
        Assert.Equal(ContentHash.Beginning, links[0].Previous);
        Assert.Equal(Enumerable.Range(1, chain.Count), links.Select(l => l.Sequence));
        foreach (var (before, after) in chain.Zip(links.Skip(1)))
            Assert.Equal(before.Hash, after.Previous);
        var end = await town.InStore(s =>
            s.Chains.Where(c => c.AssemblyId == assembly).Select(c => c.Head).FirstAsync()
        );
        Assert.Equal((chain.Count, chain[^1].Hash), (SealFormat.ReadHead(end)!.Length, SealFormat.ReadHead(end)!.Last));
    }

    [Fact]
    public async Task A_typed_signature_is_named_as_such_on_the_report_and_in_the_PDF()
    {
        var run = await (await town.Begin("ines")).Tested();
        await run.Visitor.PostForm(
            $"/runs/{run.Id}/verdict",
            $"/runs/{run.Id}/verdict",
            ("name", "Ines Tarrow"),
            ("typed", "yes"),
            ("seen", "4"),
            ("remarks", "")
        );
        Assert.Contains("(typed)", await run.Visitor.Page($"/reports/{run.Id}"), StringComparison.Ordinal);
        using var pdf = PdfDocument.Open(await run.Visitor.Client.GetByteArrayAsync($"/reports/{run.Id}/pdf"));
        Assert.Contains(
            "(typed)",
            string.Join(" ", pdf.GetPage(1).GetWords().Select(w => w.Text)),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Letters_that_the_typeface_lacks_do_not_lose_the_report()
    {
        var run = await (await town.Begin("ines")).Tested();
        await run.Sign(remarks: "Tag reads 漢字 and ✓.");
        using var pdf = PdfDocument.Open(await run.Visitor.Client.GetByteArrayAsync($"/reports/{run.Id}/pdf"));
        Assert.Contains(
            "Tag reads ??",
            string.Join(" ", pdf.GetPage(1).GetWords().Select(w => w.Text)),
            StringComparison.Ordinal
        );
        Assert.Contains("漢字", await run.Visitor.Page($"/reports/{run.Id}"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_was_found_and_left_stands_on_the_report()
    {
        var run = await town.Begin("ines");
        await run.Accepted(
            run.Entry("\"kind\":\"as-found\",\"part\":\"so2\",\"standing\":\"partly\""),
            run.Entry("\"kind\":\"as-left\",\"part\":\"so2\",\"standing\":\"closed\""),
            run.Entry("\"kind\":\"finding\",\"part\":\"tc3\",\"text\":\"handle missing\""),
            run.Entry("\"kind\":\"note\",\"step\":\"x\",\"text\":\"Dog in the yard.\""),
            run.Entry("\"kind\":\"line-pressure\",\"pressure\":{\"value\":62,\"unit\":\"psi\"}")
        );
        await run.Tested();
        await run.Sign(remarks: "Seen to.");
        var page = await run.Visitor.Page($"/reports/{run.Id}");
        foreach (
            var wanted in new[]
            {
                "SO2 partly",
                "SO2 closed",
                "TC3: handle missing",
                "Dog in the yard.",
                "line pressure 62 psi",
                "Seen to.",
            }
        )
            Assert.Contains(wanted, page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Two_readings_and_a_signature_report_and_PDF_say_what_is_missing_and_the_office_lists_it()
    {
        var odd = await town.As("odd");
        var today = DateOnly.FromDateTime(DateTime.Now);
        var stop = await town.InStore(s =>
            s.Stops.Where(x =>
                    x.TesterId == odd.Account.Id
                    && x.Day == today
                    && x.Assembly!.Type == "DC"
                    && !s.Runs.Any(r => r.StopId == x.Id)
                )
                .OrderBy(x => x.Order)
                .FirstAsync()
        );
        var begun = await odd.PostForm($"/stops/{stop.Id}", $"/stops/{stop.Id}");
        var run = new RunInHand(odd, Guid.Parse(begun.Headers.Location!.ToString().Split('/')[^1]));
        await run.Accepted(
            run.Reading("cv1.read", "14.5", "kPa"),
            run.Reading("cv2.read", "13.1", "kPa"),
            run.Done("finish.tell")
        );
        var verdict = await odd.Page($"/runs/{run.Id}/verdict");
        string[] asked = ["permission", "restoring", "foundSo1", "foundSo2", "leftSo1", "leftSo2"];
        Assert.All(asked, name => Assert.Contains($"name=\"{name}\"", verdict, StringComparison.Ordinal));
        Assert.Equal(
            $"/reports/{run.Id}",
            (await run.Sign(beside: ("leftSo2", "closed"))).Headers.Location?.ToString()
        );
        string[] missing =
        [
            "Permission given by",
            "SO1 as found",
            "SO2 as found",
            "SO1 as left",
            "Asked before restoring",
            "Steps passed over: ",
        ];
        var page = await odd.Page($"/reports/{run.Id}");
        Assert.All(missing, name => Assert.Contains(name, page, StringComparison.Ordinal));
        Assert.Contains("as left: SO1 not entered, SO2 closed", page, StringComparison.Ordinal);
        using var pdf = PdfDocument.Open(await odd.Client.GetByteArrayAsync($"/reports/{run.Id}/pdf"));
        var words = string.Join(" ", pdf.GetPages().SelectMany(p => p.GetWords()).Select(w => w.Text));
        Assert.All(missing, name => Assert.Contains(name.Trim(), words, StringComparison.Ordinal));
        var count = await town.InStore(s => s.Runs.Where(r => r.Id == run.Id).Select(r => r.NotEntered).FirstAsync());
        Assert.InRange(count, missing.Length, 40);
        Assert.Contains($"{count} not entered", await (await town.As("wilma")).Page("/"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_open_run_is_the_next_stop_whatever_its_place_in_the_round()
    {
        var odd = await town.As("odd");
        var today = DateOnly.FromDateTime(DateTime.Now);
        var last = await town.InStore(s =>
            s.Stops.Where(x => x.TesterId == odd.Account.Id && x.Day == today)
                .OrderByDescending(x => x.Order)
                .Select(x => new { x.Id, x.Assembly!.Place!.Name })
                .FirstAsync()
        );
        await odd.PostForm($"/stops/{last.Id}", $"/stops/{last.Id}");
        var page = await odd.Page("/");
        Assert.Contains("Still open", page, StringComparison.Ordinal);
        Assert.Contains($"<h1 id=\"next-title\">{last.Name}</h1>", page, StringComparison.Ordinal);
        Assert.Contains("Go on with the test", page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_stop_without_a_kit_says_what_to_do()
    {
        var stop = await town.NewStop("wilma");
        var answer = await (await town.As("wilma")).PostForm($"/stops/{stop}", $"/stops/{stop}");
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Contains(
            "No kit is assigned to you",
            await answer.Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_schemas_are_served_and_the_run_sheet_comes_as_text()
    {
        var visitor = await town.As("pia");
        foreach (var name in new[] { "test-record", "verdict", "procedure", "entries", "scenario", "outcome" })
            Assert.Contains(
                $"\"$id\": \"mordel.{name}/1\"",
                await visitor.Page($"/formats/{name}.schema.json"),
                StringComparison.Ordinal
            );
        Assert.Contains(
            "CV1 HOLDS",
            await visitor.Page("/run-sheets/dc-sight-tube/two-valve.txt"),
            StringComparison.Ordinal
        );
        await visitor.Page("/formats/secrets.json", HttpStatusCode.NotFound);
    }
}
