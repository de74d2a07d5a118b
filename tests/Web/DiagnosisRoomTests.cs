using System.Net;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Web.Tests;

/// <summary>The findings board, its log, the owner's link, the endpoint.</summary>
[Collection("second town")]
public partial class DiagnosisRoomTests(Town town)
{
    [GeneratedRegex("/look/([0-9a-f]{48})")]
    private static partial Regex Link { get; }

    private static async Task<HttpResponseMessage> Ask(Visitor who, string evidence)
    {
        using var body = new StringContent(evidence, System.Text.Encoding.UTF8, "application/json");
        return await who.Client.PostAsync("/api/diagnoses", body);
    }

    private async Task<Guid> AnRp() =>
        await town.InStore(s =>
            s.Assemblies.Where(a => a.Type == "RP").OrderBy(a => a.Tag).Select(a => a.Id).FirstAsync()
        );

    private async Task<string> Open(Visitor who)
    {
        var answer = await who.PostForm("/diagnoses", "/diagnoses", ("assembly", (await AnRp()).ToString()));
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        return answer.Headers.Location!.ToString();
    }

    private static Task<HttpResponseMessage> Saw(Visitor who, string board, string look, string outlet) =>
        who.PostForm(board, $"{board}?handler=Saw", ("look", look), ("outlet", outlet));

    [Fact]
    public async Task What_was_seen_names_the_part_stands_on_the_passport_and_can_be_taken_back_and_stays_in_the_log()
    {
        var ines = await town.As("ines");
        var board = await Open(ines);
        Assert.Contains("Nothing was seen yet", await ines.Page(board), StringComparison.Ordinal);
        await Saw(ines, board, "in-service", "runs");
        await Saw(ines, board, "so2-closed", "still");
        await Saw(ines, board, "tc4-opened", "stops");
        var page = await ines.Page(board);
        var first = page.IndexOf("class=\"hypotheses\"", StringComparison.Ordinal);
        Assert.Contains("CV1 leaks", page[first..(first + 200)], StringComparison.Ordinal);
        Assert.Contains(board, await ines.Page($"/register/{await AnRp()}"), StringComparison.Ordinal);
        var id = Guid.Parse(board.Split('/')[^1]);
        var log = await town.InStore(s =>
            s.Observations.Where(o => o.DiagnosisId == id).OrderBy(o => o.Number).ToListAsync()
        );
        Assert.Equal([1, 2, 3], log.Select(o => o.Number));
        for (var twice = 0; twice < 2; twice++)
            await ines.PostForm(board, $"{board}?handler=Back", ("observation", log[2].Id.ToString()));
        var after = await town.InStore(s =>
            s.Observations.Where(o => o.DiagnosisId == id).OrderBy(o => o.Number).ToListAsync()
        );
        Assert.Equal(4, after.Count);
        Assert.Equal(log[2].Json, after[2].Json);
        Assert.Equal(log[2].Id, after[3].TakesBack);
        Assert.Contains("taken back by Ines Tarrow", await ines.Page(board), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Nonsense_is_answered_in_place_and_nothing_of_it_is_kept()
    {
        var ines = await town.As("ines");
        var board = await Open(ines);
        foreach (var (look, outlet) in new[] { ("in-service", "stops"), ("sniffed", "dry"), ("", "") })
        {
            var answer = await Saw(ines, board, look, outlet);
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            Assert.Contains(
                "Choose one of the answers shown",
                await answer.Content.ReadAsStringAsync(),
                StringComparison.Ordinal
            );
        }

        var id = Guid.Parse(board.Split('/')[^1]);
        Assert.Equal(0, await town.InStore(s => s.Observations.CountAsync(o => o.DiagnosisId == id)));
        await ines.Page($"/diagnoses/{Guid.NewGuid()}", HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_link_asks_an_occupant_harmless_looks_alone_and_ends_when_it_is_revoked()
    {
        var wilma = await town.As("wilma");
        var board = await Open(wilma);
        var made = await wilma.PostForm(board, $"{board}?handler=Link", ("days", "3"));
        var link = Link.Match(await made.Content.ReadAsStringAsync()).Value;
        Assert.NotEmpty(link);
        var stranger = town.Nobody();
        var page = await stranger.Page(link);
        Assert.Contains("I am not sure", page, StringComparison.Ordinal);
        Assert.Contains("put a plug, a hose", page, StringComparison.Ordinal);
        Assert.DoesNotContain("/register/", page, StringComparison.Ordinal);
        var told = await stranger.PostForm(link, link, ("look", "in-service"), ("outlet", "runs"));
        Assert.Equal(HttpStatusCode.Redirect, told.StatusCode);
        var refused = await stranger.PostForm(link, link, ("look", "so2-closed"), ("outlet", "still"));
        Assert.Contains("for a tester", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var id = Guid.Parse(board.Split('/')[^1]);
        var row = await town.InStore(s => s.Observations.SingleAsync(o => o.DiagnosisId == id));
        Assert.Equal(ObservationWays.Owner, row.Way);
        Assert.Contains("by the link", await wilma.Page(board), StringComparison.Ordinal);
        var kept = await town.InStore(s => s.Links.SingleAsync(l => l.OfId == id));
        Assert.DoesNotContain(kept.Hash, link, StringComparison.Ordinal);
        await wilma.PostForm(board, $"{board}?handler=Revoke", ("link", kept.Id.ToString()));
        Assert.Contains("leads nowhere", await stranger.Page(link, HttpStatusCode.NotFound), StringComparison.Ordinal);
        await stranger.Page($"/look/{new string('0', 48)}", HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_run_brings_its_sights_and_takes_the_diagnosis_into_its_remarks()
    {
        var ines = await town.As("ines");
        var begun = await town.Begin("ines");
        var early = await ines.PostForm($"/runs/{begun.Id}", "/diagnoses?handler=Run", ("run", begun.Id.ToString()));
        var run = await begun.Tested();
        // What the run has seen since comes in when the board is looked at.
        Assert.Contains("in the run", await ines.Page(early.Headers.Location!.ToString()), StringComparison.Ordinal);
        async Task<string> Board() =>
            (
                await ines.PostForm($"/runs/{run.Id}/verdict", "/diagnoses?handler=Run", ("run", run.Id.ToString()))
            ).Headers.Location!.ToString();
        var board = await Board();
        Assert.Equal(board, await Board());
        var page = await ines.Page(board);
        Assert.Contains("in the run", page, StringComparison.Ordinal);
        var id = Guid.Parse(board.Split('/')[^1]);
        var once = await town.InStore(s => s.Observations.CountAsync(o => o.DiagnosisId == id));
        Assert.True(once > 0);
        await Board();
        Assert.Equal(once, await town.InStore(s => s.Observations.CountAsync(o => o.DiagnosisId == id)));
        // Debris was found when CV1 was opened: that decides it.
        await ines.PostForm(board, $"{board}?handler=Saw", ("opened", "cv1"), ("found", "debris"));
        for (var twice = 0; twice < 2; twice++)
        {
            var taken = await ines.PostForm(board, $"{board}?handler=Remark");
            Assert.Equal($"{board}?taken=yes", taken.Headers.Location!.ToString());
        }

        var verdict = await ines.Page($"/runs/{run.Id}/verdict");
        Assert.Single(Regex.Matches(verdict, "By comparison with the water model"));
    }

    [Fact]
    public async Task The_endpoint_diagnoses_as_the_command_line_does_and_says_where_evidence_is_wrong()
    {
        var ines = await town.As("ines");
        const string Evidence = """
            {"format":"mordel.evidence/1","assembly":{"type":"RP","body":"four-cock"},
             "looks":[{"look":"in-service","outlet":"runs"},{"look":"so2-closed","outlet":"stops"}]}
            """;
        using var answer = await Ask(ines, Evidence);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        using var read = JsonDocument.Parse(await answer.Content.ReadAsStringAsync());
        var hypotheses = read.RootElement.GetProperty("hypotheses");
        Assert.Equal("cv2", hypotheses[0].GetProperty("faults")[0].GetProperty("part").GetString());
        Assert.Equal(1m, hypotheses.EnumerateArray().Sum(h => h.GetProperty("weight").GetDecimal()));
        Assert.Equal(0, hypotheses[hypotheses.GetArrayLength() - 1].GetProperty("faults").GetArrayLength());
        using var wrong = await Ask(ines, Evidence.Replace("\"stops\"", "\"sings\"", StringComparison.Ordinal));
        Assert.Equal(HttpStatusCode.BadRequest, wrong.StatusCode);
        Assert.Contains("looks[1].outlet", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [GeneratedRegex(@"data-label=""Found"" class=""num"">(\d+) of (\d+)")]
    private static partial Regex Counted { get; }

    private async Task<string> BodyOf(Guid assembly) =>
        await town.InStore(s => s.Assemblies.Where(a => a.Id == assembly).Select(a => a.Body!).SingleAsync());

    [Fact]
    public async Task What_a_repair_found_counts_for_the_rates_until_it_is_taken_back_or_counting_begins_anew()
    {
        var (ines, owner) = (await town.As("ines"), await town.As("hester"));
        var learned = $"/diagnoses/learned?body=rp-{await BodyOf(await AnRp())}";
        async Task<int> Repairs()
        {
            var page = await ines.Page(learned);
            return Counted.Match(page) is { Success: true } found ? int.Parse(found.Groups[2].Value, null) : 0;
        }

        await owner.PostForm(learned, "/diagnoses/learned?handler=All");
        var before = await Repairs();
        var board = await Open(ines);
        await ines.PostForm(board, $"{board}?handler=Saw", ("opened", "rv"), ("found", "diaphragm-torn"));
        Assert.Equal(before + 1, await Repairs());
        // The same entry of a device, sent twice, stands once.
        var entry = Guid.NewGuid().ToString();
        for (var twice = 0; twice < 2; twice++)
            await ines.PostForm(board, $"{board}?handler=Saw", ("opened", "cv1"), ("found", "clean"), ("entry", entry));
        var id = Guid.Parse(board.Split('/')[^1]);
        Assert.Equal(2, await town.InStore(s => s.Observations.CountAsync(o => o.DiagnosisId == id)));
        Assert.Equal(before + 1, await Repairs());
        var csv = await ines.Page($"{learned}&handler=Csv");
        Assert.StartsWith("type,body,family,part,fault,shipped,found,repairs,rate", csv, StringComparison.Ordinal);
        Assert.Contains("RP,four-cock,,rv,leaks,0.06,", csv, StringComparison.Ordinal);
        Assert.DoesNotContain("Begin to count anew", await ines.Page(learned), StringComparison.Ordinal);
        var refused = await ines.PostForm(learned, "/diagnoses/learned?handler=Reset");
        Assert.NotEqual(HttpStatusCode.OK, refused.StatusCode);
        Assert.Equal(before + 1, await Repairs());
        await owner.PostForm(learned, "/diagnoses/learned?handler=Reset");
        Assert.Equal(0, await Repairs());
        await owner.PostForm(learned, "/diagnoses/learned?handler=All");
        Assert.Equal(before + 1, await Repairs());
        foreach (var row in await town.InStore(s => s.Observations.Where(o => o.DiagnosisId == id).ToListAsync()))
            await ines.PostForm(board, $"{board}?handler=Back", ("observation", row.Id.ToString()));
        Assert.Equal(before, await Repairs());
    }

    [Fact]
    public async Task Why_shows_what_the_imagined_assembly_does_beside_what_was_seen()
    {
        var ines = await town.As("ines");
        var board = await Open(ines);
        await Saw(ines, board, "in-service", "runs");
        await Saw(ines, board, "so2-closed", "still");
        await Saw(ines, board, "tc4-opened", "stops");
        var why = await ines.Page($"{board}/why?of=cv1.leaks");
        Assert.Contains("If CV1 leaks", why, StringComparison.Ordinal);
        Assert.Contains("here: it runs", why, StringComparison.Ordinal);
        Assert.Contains("here: it stops", why, StringComparison.Ordinal);
        Assert.Contains("Simulated water", why, StringComparison.Ordinal);
        var other = await ines.Page($"{board}/why?of=rv.leaks");
        Assert.Contains("does not go with it", other, StringComparison.Ordinal);
        foreach (var gone in new[] { "cv9.sings", "", "so1.leaks so1.leaks" })
            Assert.Equal(
                HttpStatusCode.Redirect,
                (await ines.Client.GetAsync(new Uri($"{board}/why?of={gone}", UriKind.Relative))).StatusCode
            );
    }
}
