using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Reports;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using Mordel.Core.Views;
using Mordel.Data.Rows;

namespace Mordel.Web.Tests;

/// <summary>The doors of a device that works without a signal.</summary>
[Collection("town")]
public class FieldRoomsTests(Town town)
{
    private sealed record OnBoard(Visitor Visitor, JsonElement Round, string Token)
    {
        public JsonElement Stop(Guid id) =>
            Round.GetProperty("stops").EnumerateArray().Single(s => s.GetProperty("id").GetGuid() == id);

        public async Task<HttpResponseMessage> Send(string to, string body, string? token = null)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/{to}")
            {
                Content = new StringContent(body, Encoding.UTF8, "application/json"),
            };
            request.Headers.Add("X-Mordel-Token", token ?? Token);
            return await Visitor.Client.SendAsync(request);
        }
    }

    private async Task<OnBoard> TakeAlong(string who)
    {
        var visitor = await town.As(who);
        var me = await visitor.Client.GetFromJsonAsync<JsonElement>("/api/field/me");
        Assert.Equal(visitor.Account.Id, me.GetProperty("id").GetGuid());
        return new(
            visitor,
            await visitor.Client.GetFromJsonAsync<JsonElement>("/api/field/round"),
            me.GetProperty("token").GetString()!
        );
    }

    private async Task<Guid> StopToday(string who)
    {
        var stop = await town.NewStop(who);
        var today = DateOnly.FromDateTime(DateTime.Now);
        await town.InStore(s =>
            s.Stops.Where(x => x.Id == stop).ExecuteUpdateAsync(u => u.SetProperty(x => x.Day, today))
        );
        return stop;
    }

    [Fact]
    public async Task A_test_that_was_made_on_a_device_goes_through_the_doors_to_its_seal()
    {
        var id = await StopToday("ines");
        var board = await TakeAlong("ines");
        var stop = board.Stop(id);
        string Text(string name) => stop.GetProperty(name).GetString()!;
        var (run, begun) = (stop.GetProperty("run").GetGuid(), DateTimeOffset.UtcNow);
        var setup = Text("setup");
        var brought = JsonSerializer.Serialize(
            new
            {
                run,
                setup,
                pass = Text("pass"),
                begunAt = begun.ToString(JsonText.InstantPattern, null),
            }
        );
        Assert.Equal(HttpStatusCode.Forbidden, (await board.Send("field/runs", brought, "stale")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await board.Send("field/runs", brought)).StatusCode);
        var hand = new RunInHand(board.Visitor, run) { At = begun };
        await hand.Tested();
        var log = await board.Visitor.Client.GetStringAsync($"/api/runs/{run}/log");
        // The device makes the same view of the same log, to the byte.
        var device = DeviceRun.Open(setup, begun, out _)!;
        Assert.Empty(device.Take($"{{\"entries\":{log}}}"));
        Assert.Equal(
            await board.Visitor.Client.GetStringAsync($"/api/runs/{run}/view"),
            JsonSerializer.Serialize(device.View(false), ViewsJson.Border.RunView)
        );
        var shown = device.Verdict("", TimeSpan.Zero);
        string Signature(string overall) =>
            JsonSerializer.Serialize(
                new
                {
                    name = shown.Name,
                    ink = Signing.TypedName,
                    seen = shown.Entries,
                    log = shown.Log,
                    overall,
                    at = DateTimeOffset.UtcNow.ToString(JsonText.InstantPattern, null),
                }
            );
        var other = await board.Send($"field/runs/{run}/signature", Signature("fail"));
        Assert.Contains("another outcome", await other.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var signed = await board.Send($"field/runs/{run}/signature", Signature(shown.Overall));
        Assert.True(signed.IsSuccessStatusCode, await signed.Content.ReadAsStringAsync());
        Assert.True((await town.Report(run))!.Holds);
    }

    [Theory]
    [InlineData("field/runs", "{}", "run")]
    [InlineData("field/runs", "[]", "")]
    [InlineData("field/runs", "{\"run\":\"x\",\"setup\":1,\"pass\":\"\",\"begunAt\":\"soon\"}", "begunAt")]
    [InlineData("field/runs/0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0002/signature", "{\"name\":1}", "name")]
    [InlineData("field/diagnoses", "{\"run\":\"x\"}", "run")]
    [InlineData("field/diagnoses/0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0002/seen", "{\"look\":7}", "look")]
    [InlineData("field/repairs", "{\"id\":true}", "id")]
    [InlineData("field/repairs/0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0002/entries", "{\"entries\":{}}", "entries")]
    public async Task What_cannot_be_read_is_refused_with_its_place_and_nothing_of_it_is_kept(
        string to,
        string body,
        string place
    )
    {
        var board = await TakeAlong("ines");
        var answer = await board.Send(to, body);
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        var faults = (await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("faults");
        Assert.Contains(faults.EnumerateArray(), f => f.GetProperty("place").GetString() == place);
    }

    [Fact]
    public async Task A_search_and_a_repair_that_began_on_a_device_are_the_ones_that_others_see()
    {
        var run = await town.Begin("ines");
        var board = await TakeAlong("ines");
        var assembly = await town.InStore(s =>
            s.Runs.Where(r => r.Id == run.Id).Select(r => r.AssemblyId).FirstAsync()
        );
        async Task<Guid> Made(string to, object body)
        {
            var answer = await board.Send(to, JsonSerializer.Serialize(body));
            Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
            return (await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("id").GetGuid();
        }

        var search = await Made("field/diagnoses", new { run = run.Id, assembly });
        var entry = Guid.NewGuid();
        for (var i = 0; i < 2; i++)
            await Made(
                $"field/diagnoses/{search}/seen",
                new
                {
                    entry,
                    opened = "cv1",
                    found = "debris",
                }
            );
        Assert.Equal(1, await town.InStore(s => s.Observations.CountAsync(o => o.Id == entry)));
        var (id, at) = (Guid.NewGuid(), DateTimeOffset.UtcNow.ToString(JsonText.InstantPattern, null));
        var job = await Made(
            "field/repairs",
            new
            {
                id,
                assembly,
                at,
                diagnosis = search,
            }
        );
        Assert.Equal(id, job);
        await Made(
            $"field/repairs/{job}/entries",
            new
            {
                entries = new[]
                {
                    new
                    {
                        id = Guid.NewGuid(),
                        at,
                        kind = "agreed",
                        who = "Shift engineer",
                    },
                },
            }
        );
        Assert.Contains("Close SO2", await board.Visitor.Page($"/repairs/{job}"), StringComparison.Ordinal);
        var done = await board.Send(
            $"field/repairs/{job}/entries",
            $$"""{"entries":[{"id":"{{Guid.NewGuid()}}","at":"{{at}}","kind":"opened","sheet":"plain-check"}]}"""
        );
        Assert.Equal(HttpStatusCode.Conflict, done.StatusCode);
        Assert.Contains("under pressure", await done.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_desk_cuts_a_lost_device_off_and_the_device_is_told_so_each_time_it_asks()
    {
        var board = await TakeAlong("sanna");
        var (wilma, person) = (await town.As("wilma"), $"/kits-and-people/{board.Visitor.Account.Id}");
        var session = await town.InStore(s =>
            s.Sessions.Where(x => x.AccountId == board.Visitor.Account.Id && x.TookAlongAt != null)
                .OrderByDescending(x => x.TookAlongAt)
                .Select(x => x.Id)
                .FirstAsync()
        );
        Assert.Contains("Devices with a round on board", await wilma.Page(person), StringComparison.Ordinal);
        var cut = await wilma.PostForm(person, $"{person}?handler=CutOff", ("session", session.ToString()));
        Assert.Equal(HttpStatusCode.Redirect, cut.StatusCode);
        for (var i = 0; i < 2; i++)
        {
            var answer = await board.Visitor.Client.GetAsync("/api/field/me");
            Assert.Equal(HttpStatusCode.Unauthorized, answer.StatusCode);
            Assert.Equal("cut-off", answer.Headers.GetValues("X-Mordel-Device").Single());
        }

        Assert.Equal(
            HttpStatusCode.NotFound,
            (
                await wilma.PostForm(person, $"{person}?handler=CutOff", ("session", Guid.NewGuid().ToString()))
            ).StatusCode
        );
        // Whoever signs in anew is let in.
        Assert.True((await TakeAlong("sanna")).Round.TryGetProperty("stops", out _));
    }

    [Fact]
    public async Task Only_a_tester_takes_a_round_along()
    {
        var office = await town.As("wilma");
        Assert.Equal(HttpStatusCode.Conflict, (await office.Client.GetAsync("/api/field/round")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await town.Nobody().Client.GetAsync("/api/field/me")).StatusCode);
    }

    [Fact]
    public async Task Every_file_that_the_field_rooms_name_is_there()
    {
        var ines = await town.As("ines");
        var list = await ines.Client.GetFromJsonAsync<JsonElement>("/api/field/files");
        Assert.Equal(12, list.GetProperty("version").GetString()!.Length);
        var files = list.GetProperty("files").EnumerateArray().Select(f => f.GetString()!).ToList();
        Assert.Contains("/field", files);
        foreach (var file in files)
            Assert.True((await ines.Client.GetAsync(file)).IsSuccessStatusCode, file);
        foreach (var file in new[] { "/sw.js", "/app.webmanifest", "/icons/icon-180.png" })
            Assert.True((await ines.Client.GetAsync(file)).IsSuccessStatusCode, file);
        var app = await ines.Client.GetFromJsonAsync<JsonElement>("/app.webmanifest");
        foreach (var icon in app.GetProperty("icons").EnumerateArray())
            Assert.True((await ines.Client.GetAsync(icon.GetProperty("src").GetString())).IsSuccessStatusCode);
    }

    [Fact]
    public async Task The_thread_in_which_the_core_stands_is_on_board_and_of_all_scripts_it_alone_may_start_the_core()
    {
        var ines = await town.As("ines");
        var list = await ines.Client.GetFromJsonAsync<JsonElement>("/api/field/files");
        var scripts = list.GetProperty("files")
            .EnumerateArray()
            .Select(f => f.GetString()!)
            .Where(f => f.StartsWith("/js/", StringComparison.Ordinal))
            .ToList();
        var mayCompute = new List<string>();
        foreach (var script in scripts)
            if (
                (await ines.Client.GetAsync(script))
                    .Headers.GetValues("Content-Security-Policy")
                    .Single()
                    .Contains("'wasm-unsafe-eval'", StringComparison.Ordinal)
            )
                mayCompute.Add(script);
        Assert.True(scripts.Count > 20);
        Assert.StartsWith("/js/core-worker.", Assert.Single(mayCompute), StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_page_of_the_field_rooms_holds_no_customer()
    {
        var page = await (await town.As("ines")).Page("/field");
        var places = await town.InStore(s => s.Places.Select(p => p.Name).ToListAsync());
        Assert.DoesNotContain(places, p => page.Contains(p, StringComparison.Ordinal));
    }

    [Fact]
    public async Task Sun_and_left_hand_are_what_the_device_asks_for()
    {
        var ines = await town.As("ines");
        using var request = new HttpRequestMessage(HttpMethod.Get, "/account");
        request.Headers.Add("Cookie", string.Join("; ", [.. ines.Cookies, "theme=sun", "hand=left"]));
        var page = await (await ines.Client.SendAsync(request)).Content.ReadAsStringAsync();
        Assert.Contains("data-theme=\"sun\"", page, StringComparison.Ordinal);
        Assert.Contains("data-hand=\"left\"", page, StringComparison.Ordinal);
    }
}
