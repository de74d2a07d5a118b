using System.Net;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Repairs;

namespace Mordel.Web.Tests;

/// <summary>Bench sheets as pages: everybody who is signed in may open them.</summary>
[Collection("town")]
public class BenchSheetPagesTests(Town town)
{
    public static TheoryData<string> Sheets => [.. BenchSheets.All.Select(s => s.Id)];

    [Theory]
    [MemberData(nameof(Sheets))]
    public async Task A_sheet_leads_from_the_first_step_out_to_the_last_one_in(string id)
    {
        var pia = await town.As("pia");
        var sheet = BenchSheets.Named(id)!;
        Assert.Contains($"/bench-sheets/{id}", await pia.Page("/bench-sheets"), StringComparison.Ordinal);
        foreach (var (order, steps, last) in new[] { ("out", sheet.Out, "put it"), ("in", sheet.In, "Closed.") })
            for (var step = 1; step <= steps.Count; step++)
            {
                var page = WebUtility.HtmlDecode(await pia.Page($"/bench-sheets/{id}?order={order}&step={step}"));
                Assert.Contains($"{steps[step - 1].Does}.</h1>", page, StringComparison.Ordinal);
                if (steps[step - 1].Caution is { } caution)
                    Assert.Contains(caution, page, StringComparison.Ordinal);
                Assert.Contains(
                    step < steps.Count ? $"order={order}&step={step + 1}#step" : last,
                    page,
                    StringComparison.Ordinal
                );
            }
    }

    [Fact]
    public async Task A_step_that_is_not_there_is_the_nearest_and_a_sheet_that_is_not_there_is_not_found()
    {
        var pia = await town.As("pia");
        var first = BenchSheets.All[0];
        foreach (var odd in new[] { "step=-7", "step=0", "order=sideways" })
            Assert.Contains(
                $"{first.Out[0].Does}.</h1>",
                WebUtility.HtmlDecode(await pia.Page($"/bench-sheets/{first.Id}?{odd}")),
                StringComparison.Ordinal
            );
        Assert.Contains(
            $"{first.In[^1].Does}.</h1>",
            WebUtility.HtmlDecode(await pia.Page($"/bench-sheets/{first.Id}?order=in&step=2147483647")),
            StringComparison.Ordinal
        );
        await pia.Page("/bench-sheets/no-such-family", HttpStatusCode.NotFound);
        var nobody = await town.Nobody().Client.GetAsync(new Uri("/bench-sheets", UriKind.Relative));
        Assert.Equal(HttpStatusCode.Redirect, nobody.StatusCode);
    }

    [Fact]
    public async Task What_the_desk_says_of_a_make_leads_from_its_passport_and_from_a_board_to_its_sheet()
    {
        var wilma = await town.As("wilma");
        var assembly = await town.InStore(s =>
            s.Assemblies.Where(a => a.Type == "RP").OrderBy(a => a.Tag).FirstAsync()
        );
        var passport = $"/register/{assembly.Id}";
        var kept = await wilma.PostForm(
            passport,
            $"{passport}?handler=Built",
            ("family", "tower-check"),
            ("relief", "relief-piston")
        );
        Assert.Equal(HttpStatusCode.Redirect, kept.StatusCode);
        var page = await wilma.Page(passport);
        Assert.Contains("href=\"/bench-sheets/tower-check\"", page, StringComparison.Ordinal);
        Assert.Contains("href=\"/bench-sheets/relief-piston\"", page, StringComparison.Ordinal);
        var opened = await wilma.PostForm("/diagnoses", "/diagnoses", ("assembly", assembly.Id.ToString()));
        var board = opened.Headers.Location!.ToString();
        await wilma.PostForm(board, $"{board}?handler=Saw", ("opened", "cv1"), ("found", "debris"));
        Assert.Contains("href=\"/bench-sheets/tower-check\"", await wilma.Page(board), StringComparison.Ordinal);
        // A vacuum breaker's family is none of an RP's, and a tester does not say it.
        var wrong = await wilma.PostForm(passport, $"{passport}?handler=Built", ("family", "vacuum-breaker"));
        Assert.Contains("No RP is built like that", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var tester = await town.As("ines");
        var refused = await tester.PostForm("/diagnoses", $"{passport}?handler=Built", ("family", ""));
        Assert.NotEqual(HttpStatusCode.OK, refused.StatusCode);
        Assert.Contains("/bench-sheets/tower-check", await wilma.Page(passport), StringComparison.Ordinal);
    }
}
