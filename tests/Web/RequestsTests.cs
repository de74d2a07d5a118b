using System.Net;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Training;
using Mordel.Data.Commands.Bench;

namespace Mordel.Web.Tests;

/// <summary>
/// Whatever a client sends is answered in words: no method that a page has not, nothing twice, no work without a bound.
/// </summary>
[Collection("town")]
public class RequestsTests(Town town)
{
    // A day on which the tester's certificate still counts.
    private static readonly string Soon = $"{DateTime.Today.AddDays(33):yyyy-MM-dd}";

    [Theory]
    [InlineData("/", "PUT")]
    [InlineData("/", "DELETE")]
    [InlineData("/register", "POST")]
    [InlineData("/run-sheets", "PATCH")]
    [InlineData("/keys", "POST")]
    [InlineData("/water", "DELETE")]
    [InlineData("/rules/psid-standard/1/change", "PUT")]
    [InlineData("/api/runs", "POST")]
    [InlineData("/health", "DELETE")]
    [InlineData("/formats/verdict.schema.json", "POST")]
    public async Task A_method_that_an_address_has_not_is_405(string url, string method)
    {
        var wilma = await town.As("wilma");
        var token = Visitor.TokenOf(await wilma.Client.GetStringAsync("/kits-and-people"));
        using var request = new HttpRequestMessage(new(method), url);
        request.Headers.Add("X-Mordel-Token", token);
        Assert.Equal(HttpStatusCode.MethodNotAllowed, (await wilma.Client.SendAsync(request)).StatusCode);
    }

    [Fact]
    public async Task A_form_sent_twice_says_that_it_is_already_there()
    {
        var wilma = await town.As("wilma");
        var ines = await town.InStore(s => s.Users.FirstAsync(u => u.UserName == "ines"));
        var assembly = await town.InStore(s => s.Assemblies.OrderByDescending(a => a.Tag).FirstAsync());
        (string To, (string, string)[] Fields, string Page)[] forms =
        [
            (
                "/kits-and-people?handler=Kit",
                [
                    ("keeperId", (await town.InStore(s => s.Users.FirstAsync(u => u.UserName == "pia"))).Id.ToString()),
                    ("kind", "five-valve"),
                    ("make", "Gallibrand"),
                    ("model", "G5"),
                    ("serial", "TWICE-1"),
                    ("unit", "psid"),
                    ("resolution", "0.1"),
                    ("accuracy", "0.2"),
                    ("calibratedOn", "2026-01-01"),
                    ("calibratedBy", "bench"),
                ],
                "/kits-and-people"
            ),
            (
                "/kits-and-people?handler=Certificate",
                [
                    ("accountId", ines.Id.ToString()),
                    ("number", "TWICE-2"),
                    ("issuedBy", "Guild"),
                    ("from", "2026-01-01"),
                    ("until", "2027-01-01"),
                ],
                "/kits-and-people"
            ),
            (
                $"/register/{assembly.Id}",
                [("testerId", ines.Id.ToString()), ("day", Soon), ("from", "09:00"), ("until", "10:00")],
                $"/register/{assembly.Id}"
            ),
            ("/programs", [("name", "twice"), ("scope", "read"), ("days", "9")], "/programs"),
        ];
        foreach (var (to, fields, page) in forms)
        {
            await wilma.PostForm(page, to, fields);
            var again = await (await wilma.PostForm(page, to, fields)).Content.ReadAsStringAsync();
            Assert.True(
                again.Contains("already", StringComparison.Ordinal),
                $"{to}: {again[..Math.Min(400, again.Length)]}"
            );
        }

        Assert.Equal(
            (1, 1),
            await town.InStore(async s =>
                (
                    await s.Kits.CountAsync(k => k.Serial == "TWICE-1"),
                    await s.Certificates.CountAsync(c => c.Number == "TWICE-2")
                )
            )
        );
    }

    [Fact]
    public async Task A_form_without_a_single_field_is_refused_and_breaks_nothing()
    {
        var wilma = await town.As("wilma");
        var assembly = await town.InStore(s => s.Assemblies.Select(a => a.Id).FirstAsync());
        var token = Visitor.TokenOf(await wilma.Client.GetStringAsync("/kits-and-people"));
        foreach (
            var url in new[]
            {
                $"/register/{assembly}",
                "/kits-and-people?handler=Kit",
                "/kits-and-people?handler=Certificate",
                "/register/new",
                "/programs",
            }
        )
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, url)
            {
                Content = new StringContent("nothing", Encoding.UTF8, "text/plain"),
            };
            request.Headers.Add("X-Mordel-Token", token);
            Assert.InRange((int)(await wilma.Client.SendAsync(request)).StatusCode, 200, 499);
        }
    }

    // A recording within every limit of the format that keeps the water busy from the first tick to the last.
    private static string Busy(int actions, int ticks)
    {
        var rig = new RandomRig(SchoolCatalogue.Named("rp-relief-first")!, Kit.FiveValve, RandomRigRules.Exam, 3);
        var cocks = rig.Scenario.Situation.Rig.Body.AllCocks;
        var list = Enumerable
            .Range(0, actions)
            .Select(i => new TimedAction(
                (int)((long)i * ticks / actions),
                new BenchAction.Turn(cocks[i % cocks.Length], new((i % 10) / 10m), 20)
            ));
        return RecordingFormat.Write(new Recording(rig.Scenario, [.. list], ticks), RecordingFormat.Write(rig));
    }

    private static async Task<(HttpStatusCode Status, string Says)> HandIn(Visitor visitor, string recording)
    {
        var token = Visitor.TokenOf(await visitor.Client.GetStringAsync("/bench"));
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/bench/attempts")
        {
            Content = new StringContent(
                $$"""{"assignment":null,"tape":{{recording}}}""",
                Encoding.UTF8,
                "application/json"
            ),
        };
        request.Headers.Add("X-Mordel-Token", token);
        var answer = await visitor.Client.SendAsync(request);
        return (answer.StatusCode, await answer.Content.ReadAsStringAsync());
    }

    [Trait("Turn", "1")]
    [Fact]
    public async Task A_tape_that_takes_too_much_work_is_refused_and_nothing_of_it_is_kept()
    {
        var pia = await town.As("pia");
        var before = await town.InStore(s => s.Attempts.CountAsync());
        Assert.Equal(800_000, new RequestWork().Most);
        var (status, says) = await HandIn(pia, Busy(19_000, Recording.Longest));
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("more work than is done for one request", says, StringComparison.Ordinal);
        Assert.Equal(before, await town.InStore(s => s.Attempts.CountAsync()));
    }

    [Fact]
    public async Task One_person_can_ask_for_so_much_at_once_and_no_more_while_others_are_answered()
    {
        var (jorn, mika) = (await town.As("bram"), await town.As("odd"));
        var heavy = Busy(1_500, 15_000);
        var asked = Enumerable.Range(0, 6).Select(_ => HandIn(jorn, heavy)).ToList();
        var small = await HandIn(mika, Busy(20, 600));
        Assert.Equal(HttpStatusCode.OK, small.Status);
        var answers = await Task.WhenAll(asked);
        Assert.Contains(answers, a => a.Status == HttpStatusCode.TooManyRequests);
        Assert.Contains(answers, a => a.Status == HttpStatusCode.OK);
        // The same recording again is the same attempt.
        Assert.All(answers, a =>
            Assert.Contains(
                a.Status,
                new[] { HttpStatusCode.OK, HttpStatusCode.TooManyRequests, HttpStatusCode.Conflict }
            )
        );
        Assert.Single(answers, a => a.Status == HttpStatusCode.OK);
    }

    [Fact]
    public async Task A_request_longer_than_any_format_is_refused_in_words()
    {
        var run = await town.Begin("ines");
        var answer = await run.Send("{\"entries\":[" + new string(' ', Node.LargestText) + "]}");
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("longer than 2 MiB", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("1e-28")]
    [InlineData("1e-400")]
    [InlineData("0.00000000000000000000000000001")]
    [InlineData("1E5")]
    public async Task A_number_that_would_not_come_back_is_refused_with_its_place_and_the_run_goes_on(string value)
    {
        var run = await town.Begin("ines");
        var said = await run.Refused(HttpStatusCode.BadRequest, RunInHand.Batch(run.Reading("cv1.read", value)));
        Assert.Contains("entries[0].reading.value", said, StringComparison.Ordinal);
        await run.Accepted(run.Reading("cv1.read", "2.1"));
    }

    [Theory]
    [InlineData("9999-12-31T23:59:59-14:00")]
    [InlineData("0001-01-01T00:00:00+14:00")]
    public async Task A_time_at_the_ends_of_the_calendar_is_refused_with_its_place_and_the_run_goes_on(string at)
    {
        var run = await town.Begin("ines");
        var entry = $$"""{"id":"{{Guid.NewGuid()}}","tick":1,"at":"{{at}}","kind":"done","step":"before.notify"}""";
        Assert.Contains(
            "entries[0].at",
            await run.Refused(HttpStatusCode.BadRequest, RunInHand.Batch(entry)),
            StringComparison.Ordinal
        );
        Assert.Equal(JsonValueKind.Object, (await run.Accepted(run.Done("before.notify"))).ValueKind);
    }

    [Fact]
    public async Task One_entry_that_cannot_be_read_hides_none_of_the_others()
    {
        var run = await town.Begin("ines");
        await run.Accepted(run.Done("before.notify"), run.Done("before.identify"), run.Reading("cv1.read", "2.1"));
        await town.Alter("UPDATE Entries SET Json = '{{\"broken' WHERE RunId = {0} AND Tick = 2", run.Id);
        var view = JsonDocument.Parse(await run.Visitor.Page($"/api/runs/{run.Id}/view")).RootElement;
        Assert.Equal((2, 1), (view.GetProperty("entries").GetInt32(), view.GetProperty("unreadable").GetArrayLength()));
        Assert.Contains(
            "cannot be read and is left out",
            await run.Visitor.Page($"/runs/{run.Id}/verdict"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_profile_that_cannot_be_read_takes_down_neither_Rules_nor_the_register_nor_run_sheets()
    {
        await town.Alter(
            """INSERT INTO Profiles (Id, ProfileId, Version, Json, MadeAt, MadeBy) VALUES ('0193EA4C-0000-7000-8000-0000000000AA', 'ruined', 1, '{{"format":"mordel.profile/1","limit":1.00000000000000000000000001', '2026-01-01T00:00:00.000Z', 'x')"""
        );
        var wilma = await town.As("wilma");
        Assert.Contains(
            "ruined, version 1, is kept and cannot be read",
            await wilma.Page("/rules"),
            StringComparison.Ordinal
        );
        foreach (
            var url in new[]
            {
                "/register",
                "/register/new",
                "/run-sheets",
                "/run-sheets/dc-sight-tube",
                "/",
                "/api/profiles",
            }
        )
            await wilma.Page(url);
    }
}
