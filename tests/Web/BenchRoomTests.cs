using System.Net;
using System.Net.Http.Json;
using System.Net.WebSockets;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Training;
using Mordel.Simulators;

namespace Mordel.Web.Tests;

/// <summary>The bench's room, its classes and attempts, and the door of gauges that stream.</summary>
[Collection("town")]
public sealed partial class BenchRoomTests(Town town)
{
    private static RandomRig Drawn(int seed) =>
        new(SchoolCatalogue.Named("dc-sight-tube")!, Kit.FiveValve, RandomRigRules.Exam, seed);

    private static string RecordingOf(RandomRig rig) =>
        RecordingFormat.Write(Demonstration.Record(rig.Scenario), RecordingFormat.Write(rig));

    private static Task<HttpResponseMessage> HandIn(Visitor who, string body, bool withToken = true) =>
        Send(who, "/api/bench/attempts", body, withToken);

    private static async Task<HttpResponseMessage> Send(Visitor who, string to, string body, bool withToken = true)
    {
        var token = Visitor.PageToken().Match(await who.Client.GetStringAsync("/bench/free")).Groups[1].Value;
        using var request = new HttpRequestMessage(HttpMethod.Post, to)
        {
            Content = new StringContent(body, Encoding.UTF8, "application/json"),
        };
        if (withToken)
            request.Headers.Add("X-Mordel-Token", token);
        return await who.Client.SendAsync(request);
    }

    [Theory]
    [InlineData("/bench/free", "Set the rig")]
    [InlineData("/bench/guided?procedure=rp-relief-first&kit=five-valve", "With the sheet")]
    [InlineData(
        "/bench/exam?procedure=svb-check-first&kit=digital&rules=field&seed=4&minutes=15",
        "data-minutes=\"15\""
    )]
    public async Task Every_way_to_the_bench_opens_and_may_start_the_core(string url, string wanted)
    {
        var pia = await town.As("pia");
        Assert.Contains(wanted, await pia.Page(url), StringComparison.Ordinal);
        var answer = await pia.Client.GetAsync(url);
        Assert.Contains(
            "'wasm-unsafe-eval'",
            answer.Headers.GetValues("Content-Security-Policy").Single(),
            StringComparison.Ordinal
        );
        Assert.DoesNotContain(
            "'wasm-unsafe-eval'",
            (await pia.Client.GetAsync("/run-sheets")).Headers.GetValues("Content-Security-Policy").Single(),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_server_moves_the_water_of_a_rig_for_a_page_that_waits_for_its_own_and_keeps_nothing()
    {
        var pia = await town.As("pia");
        const string Rig =
            """{"format":"mordel.scenario/1","assembly":{"type":"DC"},"procedure":"dc-sight-tube","kit":"digital"}""";
        string Asked(string deed, int ticks = 240) =>
            $$"""{"tape":{"format":"mordel.tape/1","rig":{{Rig}},"ticks":{{ticks}},"deeds":[{{deed}}]},"drawn":true}""";
        async Task<(HttpStatusCode Status, string Text)> Look(string body, bool withToken = true)
        {
            var answer = await Send(pia, "/api/bench/look", body, withToken);
            return (answer.StatusCode, await answer.Content.ReadAsStringAsync());
        }

        var attempts = await town.InStore(s => s.Attempts.CountAsync());
        var (status, open) = await Look(Asked("""{"at":60,"turn":"tc2","to":1}"""));
        Assert.Equal(HttpStatusCode.OK, status);
        var shut = JsonDocument.Parse((await Look(Asked(""))).Text).RootElement;
        var water = JsonDocument.Parse(open).RootElement;
        Assert.Equal(240, water.GetProperty("row")[0].GetInt32());
        Assert.NotEqual(
            water.GetProperty("row").EnumerateArray().Skip(9).Select(n => n.GetDouble()),
            shut.GetProperty("row").EnumerateArray().Skip(9).Select(n => n.GetDouble())
        );
        Assert.Contains("TC2", water.GetProperty("happened").EnumerateArray().Select(h => h.GetString()).First());
        Assert.Equal(HttpStatusCode.Forbidden, (await Look(Asked(""), withToken: false)).Status);
        (status, var long_) = await Look(Asked("", BenchLook.Latest + 1));
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("\"tape\"", long_, StringComparison.Ordinal);
        Assert.Equal(attempts, await town.InStore(s => s.Attempts.CountAsync()));
    }

    [Theory]
    [InlineData("/bench/exam?procedure=nonsense&kit=five-valve&rules=exam&seed=1", "is not a procedure")]
    [InlineData("/bench/guided?procedure=rp-relief-first&kit=two-valve", "cannot be done with a two-valve kit")]
    public async Task A_link_to_a_rig_that_cannot_be_leads_back_and_says_why(string url, string why)
    {
        var pia = await town.As("pia");
        var answer = await pia.Client.GetAsync(url);
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        Assert.Contains(why, await pia.Page(answer.Headers.Location!.ToString()), StringComparison.Ordinal);
        await pia.Page("/bench/elsewhere", HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_tape_is_marked_by_the_server_and_kept_for_its_learner_and_the_instructor_only()
    {
        var pia = await town.As("pia");
        var answer = await HandIn(pia, $$"""{"assignment":null,"tape":{{RecordingOf(Drawn(21))}}}""");
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        var at = (await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("at").GetString()!;
        Assert.Contains("100</span> of 100, passed", await pia.Page(at), StringComparison.Ordinal);
        using var marks = JsonDocument.Parse(await pia.Client.GetStringAsync($"/api{at}"));
        Assert.Equal("mordel.marks/1", marks.RootElement.GetProperty("format").GetString());
        Assert.NotNull(RecordingFormat.Read(await pia.Client.GetStringAsync($"/api{at}/tape"), out _));
        await (await town.As("tove")).Page(at);
        await (await town.As("wilma")).Page(at);
        await (await town.As("bram")).Page(at, HttpStatusCode.NotFound);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await (await town.As("bram")).Client.GetAsync($"/api{at}/tape")).StatusCode
        );
        Assert.Contains($"compare?a={at.Split('/')[^1]}", await pia.Page(at), StringComparison.Ordinal);
        Assert.Contains(
            "A careful tester on the same rig",
            await pia.Page($"/bench/compare?a={at.Split('/')[^1]}"),
            StringComparison.Ordinal
        );
        await (await town.As("ines")).Page($"/bench/compare?a={at.Split('/')[^1]}", HttpStatusCode.NotFound);
    }

    [Theory]
    [InlineData("{}", "tape: is missing")]
    [InlineData("""{"assignment":"x","tape":{}}""", "an assignment's id")]
    [InlineData(
        """{"tape":{"format":"mordel.tape/1","rig":{"format":"mordel.drawn/1","procedure":"dc-sight-tube","kit":"five-valve","rules":"exam","seed":1},"ticks":5,"deeds":[{"at":9,"turn":"so1","to":0}]}}""",
        "tape.deeds[0].at"
    )]
    [InlineData("not json", "not readable as JSON")]
    public async Task What_cannot_be_marked_is_refused_with_its_place(string body, string error)
    {
        var answer = await HandIn(await town.As("pia"), body);
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var said = await answer.Content.ReadFromJsonAsync<JsonElement>();
        Assert.Contains(
            error,
            string.Join(
                " | ",
                said.GetProperty("faults")
                    .EnumerateArray()
                    .Select(f => $"{f.GetProperty("place")}: {f.GetProperty("says")}")
            ),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Without_the_pages_token_nothing_is_handed_in() =>
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (
                await HandIn(await town.As("pia"), $$"""{"tape":{{RecordingOf(Drawn(3))}}}""", withToken: false)
            ).StatusCode
        );

    [Fact]
    public async Task An_instructor_makes_a_class_sets_a_rig_and_sees_who_did_what()
    {
        var tove = await town.As("tove");
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await tove.PostForm("/classes", "/classes", ("name", "Evening class"))).StatusCode
        );
        var id = await town.InStore(s =>
            s.Classes.Where(c => c.Name == "Evening class").Select(c => c.Id).FirstAsync()
        );
        Assert.Contains(
            "Nobody is in this class yet",
            await tove.Page($"/bench/classes/{id}"),
            StringComparison.Ordinal
        );
        var pia = await town.As("pia");
        await tove.PostForm(
            $"/bench/classes/{id}",
            $"/bench/classes/{id}?handler=Join",
            ("learner", pia.Account.Id.ToString())
        );
        Assert.Contains("Nothing is set yet", await tove.Page($"/bench/classes/{id}"), StringComparison.Ordinal);
        var refused = await tove.PostForm(
            $"/bench/classes/{id}",
            $"/bench/classes/{id}?handler=Assign",
            ("title", ""),
            ("procedure", "dc-sight-tube"),
            ("kit", "none"),
            ("rules", "exam"),
            ("seed", "33"),
            ("minutes", "0")
        );
        Assert.Contains("The title is missing.", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await tove.PostForm(
                    $"/bench/classes/{id}",
                    $"/bench/classes/{id}?handler=Assign",
                    ("title", "Lot 33"),
                    ("procedure", "dc-sight-tube"),
                    ("kit", "five-valve"),
                    ("rules", "exam"),
                    ("seed", "33"),
                    ("minutes", "20")
                )
            ).StatusCode
        );
        var assignment = await town.InStore(s => s.Assignments.FirstAsync(a => a.Title == "Lot 33"));
        Assert.Equal(
            Drawn(33).Scenario.Situation.Springs,
            RecordingFormat.ReadRig(assignment.Rig, out _)!.Situation.Springs
        );
        Assert.Contains("Lot 33", await pia.Page("/bench"), StringComparison.Ordinal);
        Assert.Contains(
            "data-minutes=\"20\"",
            await pia.Page($"/bench/exam?assignment={assignment.Id}"),
            StringComparison.Ordinal
        );
        await (await town.As("bram")).Page($"/bench/exam?assignment={assignment.Id}", HttpStatusCode.NotFound);
        // Only a recording of the assignment's own rig counts for it.
        var other = await HandIn(pia, $$"""{"assignment":"{{assignment.Id}}","tape":{{RecordingOf(Drawn(34))}}}""");
        Assert.Equal(HttpStatusCode.Conflict, other.StatusCode);
        Assert.True(
            (
                await HandIn(
                    pia,
                    $$"""{"assignment":"{{assignment.Id}}","tape":{{RecordingFormat.Write(Demonstration.Record(Drawn(33).Scenario), assignment.Rig)}}}"""
                )
            ).IsSuccessStatusCode
        );
        var glance = await tove.Page($"/bench/classes/{id}");
        Assert.Contains("✓ 100", glance, StringComparison.Ordinal);
        await tove.PostForm(
            $"/bench/classes/{id}",
            $"/bench/classes/{id}?handler=Leave",
            ("learner", pia.Account.Id.ToString())
        );
        Assert.DoesNotContain("✓ 100", await tove.Page($"/bench/classes/{id}"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Learners_neither_make_classes_nor_look_into_them()
    {
        var pia = await town.As("pia");
        var id = await town.InStore(s =>
            s.Classes.Where(c => c.Name == "Autumn beginners").Select(c => c.Id).FirstAsync()
        );
        await pia.Page($"/bench/classes/{id}", HttpStatusCode.NotFound);
        var answer = await pia.PostForm("/bench/free", "/classes", ("name", "Mine"));
        Assert.NotEqual(HttpStatusCode.OK, answer.StatusCode);
        Assert.False(await town.InStore(s => s.Classes.AnyAsync(c => c.Name == "Mine")));
    }

    [Fact]
    public async Task The_demos_class_is_seen_at_a_glance_with_where_it_loses_marks()
    {
        var tove = await town.As("tove");
        var id = await town.InStore(s =>
            s.Classes.Where(c => c.Name == "Autumn beginners").Select(c => c.Id).FirstAsync()
        );
        var page = await tove.Page($"/bench/classes/{id}");
        foreach (
            var wanted in new[]
            {
                "Arvid Stenlo",
                "First double check",
                "✓ 100",
                "✗",
                "not yet",
                "Where this class loses marks",
                "gauge level with the water",
            }
        )
            Assert.Contains(wanted, page, StringComparison.Ordinal);
        // Every mark of the demo can be made again from its recording.
        foreach (
            var attempt in await town.InStore(s =>
                s.Attempts.Where(a => a.Assignment!.ClassId == id).OrderBy(a => a.Id).Take(5).ToListAsync()
            )
        )
            Assert.Equal(
                attempt.Marks,
                MarksFormat.Write(Marking.Mark(RecordingFormat.Read(attempt.Recording, out _)!))
            );
    }

    // The gauge.
    private async Task<WebSocket> Socket(Visitor who, string path, string? key = null)
    {
        var client = town.Server.CreateWebSocketClient();
        client.ConfigureRequest = request =>
        {
            if (key is null)
                request.Headers.Cookie = string.Join("; ", who.Cookies);
            else
                request.Headers.Authorization = $"Bearer {key}";
        };
        return await client.ConnectAsync(new(town.Server.BaseAddress, path), CancellationToken.None);
    }

    private static async Task<JsonElement> Next(WebSocket socket)
    {
        var buffer = new byte[4096];
        using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(15));
        var got = await socket.ReceiveAsync(buffer, patience.Token);
        return JsonDocument.Parse(buffer.AsMemory(0, got.Count)).RootElement.Clone();
    }

    private static Task Say(WebSocket socket, string text) =>
        socket.SendAsync(Encoding.UTF8.GetBytes(text), WebSocketMessageType.Text, true, CancellationToken.None);

    [Fact]
    public async Task A_bridge_with_a_key_sends_lines_to_the_runs_screen()
    {
        var run = await town.Begin("ines");
        var key = await Key(run.Visitor, "write");
        using var screen = await Socket(run.Visitor, $"/api/runs/{run.Id}/gauge");
        using var bridge = await Socket(run.Visitor, $"/api/runs/{run.Id}/gauge/bridge", key);
        await Say(bridge, """{"value":1.8,"unit":"psid","rate":-0.02,"battery":0.5}""");
        var line = await Next(screen);
        Assert.Equal(
            (1.8m, "psid", -0.02m, 0.5m),
            (
                line.GetProperty("value").GetDecimal(),
                line.GetProperty("unit").GetString(),
                line.GetProperty("rate").GetDecimal(),
                line.GetProperty("battery").GetDecimal()
            )
        );
        Assert.False(line.TryGetProperty("simulated", out _));
        await Say(bridge, """{"value":13.79,"unit":"kPa"}""");
        Assert.Equal((2.000m, "psid"), ((await Next(screen)).GetProperty("value").GetDecimal(), "psid"));
        await Say(bridge, """{"value":1.8,"unit":"bar"}""");
        Assert.Contains(
            "cannot be used",
            (await Next(bridge)).GetProperty("error").GetString(),
            StringComparison.Ordinal
        );
        await Say(bridge, """{"value":1.7,"unit":"psid"}""");
        Assert.Equal(1.7m, (await Next(screen)).GetProperty("value").GetDecimal());
    }

    [Fact]
    public async Task A_bridge_is_named_on_the_screen_is_the_testers_own_and_ends_with_its_key()
    {
        var run = await town.Begin("ines");
        var key = await Key(run.Visitor, "write");
        using var screen = await Socket(run.Visitor, $"/api/runs/{run.Id}/gauge");
        using var bridge = await Socket(run.Visitor, $"/api/runs/{run.Id}/gauge/bridge", key);
        await Say(bridge, """{"value":1.8,"unit":"psid"}""");
        Assert.StartsWith("bridge ", (await Next(screen)).GetProperty("by").GetString(), StringComparison.Ordinal);
        await Say(bridge, """{"value":1.8,"unit":"psid","by":"somebody else"}""");
        Assert.Contains(
            "cannot be used",
            (await Next(bridge)).GetProperty("error").GetString(),
            StringComparison.Ordinal
        );
        // The office sees every run and sends to none.
        var office = await town.As("hester");
        var theirs = await Key(office, "write");
        using var asked = new HttpRequestMessage(HttpMethod.Get, $"/api/runs/{run.Id}/gauge/bridge");
        asked.Headers.Authorization = new("Bearer", theirs);
        var refused = await town.Nobody().Client.SendAsync(asked);
        Assert.Equal(HttpStatusCode.Forbidden, refused.StatusCode);
        Assert.Contains(
            "Only a bridge of Ines Tarrow",
            await refused.Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
        var row = await town.InStore(s =>
            s.Tokens.Where(t => t.AccountId == run.Visitor.Account.Id && t.RevokedAt == null)
                .OrderByDescending(t => t.CreatedAt)
                .FirstAsync()
        );
        await run.Visitor.PostForm("/programs", "/programs?handler=Revoke", ("id", $"{row.Id}"));
        Assert.True(await Ends(bridge));
        Assert.Equal(System.Net.WebSockets.WebSocketState.Open, screen.State);
        // And the screen with its session.
        await run.Visitor.PostForm("/account", "/sign-out");
        Assert.True(await Ends(screen));
    }

    private static async Task<bool> Ends(System.Net.WebSockets.WebSocket socket)
    {
        using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(20));
        try
        {
            return (await socket.ReceiveAsync(new byte[4096], patience.Token)).MessageType
                == System.Net.WebSockets.WebSocketMessageType.Close;
        }
        catch (Exception e) when (e is IOException or System.Net.WebSockets.WebSocketException)
        {
            return true;
        }
    }

    [Fact]
    public async Task A_simulated_gauge_says_that_it_is_one_and_follows_the_run()
    {
        var run = await town.Begin("ines");
        using var screen = await Socket(run.Visitor, $"/api/runs/{run.Id}/gauge?simulated=steady");
        var line = await Next(screen);
        Assert.True(line.GetProperty("simulated").GetBoolean());
        Assert.Equal("psid", line.GetProperty("unit").GetString());
        await Say(screen, """{"step":"cv1.shut-so1"}""");
        for (var i = 0; i < 40 && line.GetProperty("value").GetDecimal() < 14; i++)
            line = await Next(screen);
        Assert.True(line.GetProperty("value").GetDecimal() > 14, "the needle is pegged while SO1 is shut");
    }

    [Theory]
    [InlineData("/gauge", "A WebSocket is wanted here")]
    [InlineData("/gauge?simulated=wildly", "steady, drops or lags")]
    [InlineData("/gauge/bridge", "A bridge needs a key to write")]
    public async Task The_door_of_gauges_says_what_it_wants(string path, string why)
    {
        var run = await town.Begin("ines");
        var answer = await run.Visitor.Client.GetAsync($"/api/runs/{run.Id}{path}");
        Assert.InRange((int)answer.StatusCode, 400, 403);
        Assert.Contains(why, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await (await town.As("bram")).Client.GetAsync($"/api/runs/{run.Id}/gauge")).StatusCode
        );
    }

    [Fact]
    public async Task A_gauge_drops_out_and_lags_on_request()
    {
        var scenario = Drawn(2).Scenario;
        var clock = new ByHand();
        var gauge = new SimulatedGauge(scenario.Plan, clock);
        Assert.True(gauge.At("cv1.shut-so1", 5) > 14);
        Assert.Equal(gauge.At("cv1.read", 1e6), gauge.At("cv1.read", 1e7));
        Assert.Equal(0, gauge.At("nowhere", 3));
        async Task<List<double>> Times(GaugeMood mood)
        {
            var (times, began) = (new List<double>(), clock.LastAsked);
            await using var lines = gauge.Stream(() => "cv1.read", mood, CancellationToken.None).GetAsyncEnumerator();
            while (times.Count < 60)
            {
                var next = lines.MoveNextAsync().AsTask();
                while (!next.IsCompleted)
                    await clock.Tick(next);
                Assert.True(await next);
                times.Add((clock.LastAsked - began).TotalSeconds);
            }

            return times;
        }

        double Gap(List<double> times) => times.Zip(times.Skip(1), (a, b) => b - a).Max();
        Assert.InRange(Gap(await Times(GaugeMood.Steady)), 0.1, 0.5);
        Assert.InRange(Gap(await Times(GaugeMood.DropsOut)), 1.8, 2.6);
    }

    [Fact]
    public async Task A_number_captured_while_the_needle_ran_is_weighed_with_its_speed()
    {
        var run = await town.Begin("ines");
        var slow = await run.Visitor.Client.GetStringAsync(
            $"/api/runs/{run.Id}/weigh?step=cv1.read&value=1.8&speed=0.01"
        );
        var fast = await run.Visitor.Client.GetStringAsync(
            $"/api/runs/{run.Id}/weigh?step=cv1.read&value=1.8&speed=0.9"
        );
        Assert.DoesNotContain("fast", slow, StringComparison.OrdinalIgnoreCase);
        Assert.NotEqual(slow, fast);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await run.Visitor.Client.GetAsync($"/api/runs/{run.Id}/weigh?step=cv1.read&value=1.8&speed=-3")).StatusCode
        );
    }

    private static async Task<string> Key(Visitor who, string scope)
    {
        var answer = await who.PostForm(
            "/programs",
            "/programs",
            ("name", $"bridge {Guid.NewGuid():N}"),
            ("scope", scope),
            ("days", "30")
        );
        var html = await answer.Content.ReadAsStringAsync();
        return Issued().Match(html).Value;
    }

    [System.Text.RegularExpressions.GeneratedRegex("mordel_[A-Za-z0-9_-]{20,}")]
    private static partial System.Text.RegularExpressions.Regex Issued();

    // A clock whose seconds are short: timers of the stand-in run twenty times faster.
    /// <summary>
    /// A clock that stands until it is moved on, one beat of its timer at a time; whoever waits for the beat has asked
    /// the time before the next.
    /// </summary>
    private sealed class ByHand : TimeProvider
    {
        private DateTimeOffset now = new(2031, 4, 2, 8, 0, 0, TimeSpan.Zero);
        private Action ring = () => { };
        private TimeSpan period;
        private int asked;

        public DateTimeOffset LastAsked { get; private set; } = new(2031, 4, 2, 8, 0, 0, TimeSpan.Zero);

        public override DateTimeOffset GetUtcNow()
        {
            LastAsked = now;
            Interlocked.Increment(ref asked);
            return now;
        }

        public override ITimer CreateTimer(TimerCallback callback, object? state, TimeSpan dueTime, TimeSpan period)
        {
            (ring, this.period) = (() => callback(state), period);
            return new Beat();
        }

        public async Task Tick(Task next)
        {
            var before = Volatile.Read(ref asked);
            now += period;
            ring();
            while (Volatile.Read(ref asked) == before && !next.IsCompleted)
                await Task.Yield();
        }

        private sealed class Beat : ITimer
        {
            public bool Change(TimeSpan dueTime, TimeSpan period) => true;

            public void Dispose() { }

            public ValueTask DisposeAsync() => ValueTask.CompletedTask;
        }
    }
}
