using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;

namespace Mordel.Web.Tests;

[Collection("town")]
public class EntriesTests(Town town)
{
    [Fact]
    public async Task An_entry_sent_twice_is_kept_once()
    {
        var run = await town.Begin("ines");
        var entry = run.Done("before.notify");
        await run.Accepted(entry);
        var view = await run.Accepted(entry, entry);
        Assert.Equal(1, view.GetProperty("entries").GetInt32());
    }

    [Fact]
    public async Task An_entry_is_never_changed_by_a_later_one_with_its_id()
    {
        var run = await town.Begin("ines");
        var id = Guid.NewGuid();
        await run.Accepted(run.Entry("\"kind\":\"note\",\"step\":\"before.notify\",\"text\":\"first\"", id));
        Assert.Contains(
            "never changed",
            await run.Refused(
                HttpStatusCode.Conflict,
                RunInHand.Batch(run.Entry("\"kind\":\"note\",\"step\":\"before.notify\",\"text\":\"second\"", id))
            ),
            StringComparison.Ordinal
        );
        Assert.Contains("first", await run.Visitor.Page($"/api/runs/{run.Id}/log"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_device_that_has_the_core_at_hand_is_told_only_how_far_the_run_is()
    {
        var run = await town.Begin("ines");
        await run.Accepted(run.Done("before.notify"));
        var answer = await run.Send(RunInHand.Batch(run.Done("before.identify")), prefer: "return=minimal");
        Assert.Equal("return=minimal", answer.Headers.GetValues("Preference-Applied").Single());
        Assert.Equal("""{"entries":2,"sealed":false}""", await answer.Content.ReadAsStringAsync());
        var other = await run.Send(RunInHand.Batch(run.Done("before.inspect")), prefer: "respond-async");
        Assert.False(other.Headers.Contains("Preference-Applied"));
        var view = await other.Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal(3, view.GetProperty("entries").GetInt32());
        Assert.True(view.GetProperty("stages").GetArrayLength() > 0);
    }

    [Theory]
    [InlineData(null)]
    [InlineData("return=minimal")]
    public async Task Who_has_sent_an_entry_need_not_read_the_run_again_until_another_comes(string? prefer)
    {
        var run = await town.Begin("ines");
        var sent = await run.Send(RunInHand.Batch(run.Done("before.notify")), prefer: prefer);
        Task<HttpResponseMessage> Look() => run.Look(sent.Headers.ETag!.ToString(), prefer);
        using var same = await Look();
        Assert.Equal(HttpStatusCode.NotModified, same.StatusCode);
        await run.Accepted(run.Done("before.identify"));
        using var more = await Look();
        Assert.Equal(HttpStatusCode.OK, more.StatusCode);
        var view = await more.Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal(2, view.GetProperty("entries").GetInt32());
        Assert.Equal(prefer is null, view.TryGetProperty("stages", out _));
    }

    [Fact]
    public async Task Nothing_of_a_batch_with_a_fault_is_kept()
    {
        var run = await town.Begin("ines");
        var said = await run.Refused(
            HttpStatusCode.BadRequest,
            RunInHand.Batch(run.Done("before.notify"), run.Reading("cv1.read", "1.8", "bar"))
        );
        Assert.Contains("entries[1].reading.unit: \"bar\" is not a unit", said, StringComparison.Ordinal);
        Assert.Equal("[]", await run.Visitor.Page($"/api/runs/{run.Id}/log"));
    }

    [Fact]
    public async Task A_reading_in_a_unit_that_the_kit_does_not_show_is_refused()
    {
        var run = await town.Begin("ines");
        Assert.Contains(
            "this kit reads psid",
            await run.Refused(HttpStatusCode.Conflict, RunInHand.Batch(run.Reading("cv1.read", "13", "kPa"))),
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("99999999")]
    [InlineData("-99999999")]
    public async Task A_number_out_of_range_is_refused_with_its_place(string value)
    {
        var run = await town.Begin("ines");
        Assert.Contains(
            "entries[0].reading.value: is outside",
            await run.Refused(HttpStatusCode.BadRequest, RunInHand.Batch(run.Reading("cv1.read", value))),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Another_testers_run_is_not_there_for_me()
    {
        var run = await town.Begin("ines");
        var other = await town.Begin("bram");
        foreach (var path in new[] { "view", "log", "verdict", "weigh?step=cv1.read&value=1" })
            Assert.Equal(
                HttpStatusCode.NotFound,
                (await other.Visitor.Client.GetAsync($"/api/runs/{run.Id}/{path}")).StatusCode
            );
        Assert.Equal(HttpStatusCode.NotFound, (await other.Visitor.Client.GetAsync($"/runs/{run.Id}")).StatusCode);
        var forged = new RunInHand(other.Visitor, other.Id);
        await forged.Accepted(forged.Done("before.notify"));
        var theirs = new ForgedRun(other.Visitor, run.Id, other.Id);
        Assert.Equal(HttpStatusCode.NotFound, await theirs.Post(RunInHand.Batch(forged.Done("before.notify"))));
        Assert.Equal("[]", await run.Visitor.Page($"/api/runs/{run.Id}/log"));
    }

    private sealed class ForgedRun(Visitor visitor, Guid target, Guid own)
    {
        public async Task<HttpStatusCode> Post(string body)
        {
            var token = Visitor.PageToken().Match(await visitor.Client.GetStringAsync($"/runs/{own}")).Groups[1].Value;
            using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/runs/{target}/entries")
            {
                Content = new StringContent(body, System.Text.Encoding.UTF8, "application/json"),
            };
            request.Headers.Add("X-Mordel-Token", token);
            return (await visitor.Client.SendAsync(request)).StatusCode;
        }
    }

    [Fact]
    public async Task The_office_sees_a_run_and_cannot_enter_anything()
    {
        var run = await town.Begin("ines");
        await run.Accepted(run.Done("before.notify"));
        var office = await town.As("wilma");
        Assert.Contains("before.notify", await office.Page($"/api/runs/{run.Id}/view"), StringComparison.Ordinal);
        Assert.Contains("data-readonly=\"yes\"", await office.Page($"/runs/{run.Id}"), StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await new RunInHand(office, run.Id).Send(RunInHand.Batch(run.Done("before.identify")))).StatusCode
        );
    }

    [Fact]
    public async Task Without_the_pages_token_nothing_is_taken()
    {
        var run = await town.Begin("ines");
        Assert.Contains(
            "stale",
            await run.Refused(HttpStatusCode.Forbidden, RunInHand.Batch(run.Done("before.notify")), withToken: false),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Somebody_who_is_not_signed_in_gets_a_status_from_the_API_and_the_door_from_pages()
    {
        var nobody = town.Nobody();
        Assert.Equal(
            HttpStatusCode.Unauthorized,
            (await nobody.Client.GetAsync($"/api/runs/{Guid.NewGuid()}/view")).StatusCode
        );
        Assert.StartsWith(
            "/sign-in",
            (await nobody.Client.GetAsync("/")).Headers.Location!.PathAndQuery,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Two_tabs_that_begin_at_once_meet_in_the_same_run()
    {
        var ines = await town.As("ines");
        var stop = await town.NewStop("ines");
        var both = await Task.WhenAll(
            ines.PostForm($"/stops/{stop}", $"/stops/{stop}"),
            ines.PostForm($"/stops/{stop}", $"/stops/{stop}")
        );
        Assert.Equal(both[0].Headers.Location, both[1].Headers.Location);
        Assert.Equal(1, await town.InStore(s => s.Runs.CountAsync(r => r.StopId == stop)));
    }

    [Fact]
    public async Task A_second_device_sees_what_the_first_entered()
    {
        var run = await town.Begin("ines");
        await run.Accepted(run.Reading("cv1.read", "2.0"));
        var elsewhere = await town.As("ines");
        var view = await elsewhere.Page($"/api/runs/{run.Id}/view");
        Assert.Contains("\"value\":\"2.0\"", view, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_view_that_has_not_changed_is_not_sent_again()
    {
        var run = await town.Begin("ines");
        var first = await run.Visitor.Client.GetAsync($"/api/runs/{run.Id}/view");
        using var again = new HttpRequestMessage(HttpMethod.Get, $"/api/runs/{run.Id}/view");
        again.Headers.IfNoneMatch.Add(first.Headers.ETag!);
        Assert.Equal(HttpStatusCode.NotModified, (await run.Visitor.Client.SendAsync(again)).StatusCode);
    }
}
