using System.Net;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;

namespace Mordel.Web.Tests;

/// <summary>The Rounds room: proposed in the background, changed, accepted, and seen by the tester.</summary>
[Collection("second town")]
public sealed partial class RoundsRoomTests(Town town)
{
    private static string Day(int ahead) => DateTime.Today.AddDays(ahead).ToString("yyyy-MM-dd");

    private static async Task<(string Address, string Page)> Proposed(Visitor wilma, params (string, string)[] choice)
    {
        var begun = await wilma.PostForm("/rounds", "/rounds?handler=Plan", choice);
        Assert.Equal(HttpStatusCode.Redirect, begun.StatusCode);
        var address = begun.Headers.Location!.ToString();
        for (var i = 0; i < 300; i++)
        {
            var progress = await wilma.Client.GetStringAsync($"{address}?handler=Progress");
            if (JsonDocument.Parse(progress).RootElement.GetProperty("state").GetString() != "looking")
                return (address, await wilma.Page(address));
            await Task.Delay(100);
        }

        throw new Xunit.Sdk.XunitException("The rounds are looked for still.");
    }

    [Fact]
    public async Task What_is_due_becomes_rounds_that_the_tester_sees_when_they_are_accepted()
    {
        var wilma = await town.As("wilma");
        var (ines, standing) = await town.InStore(async s =>
            ((await s.Users.FirstAsync(u => u.UserName == "ines")).Id, await s.Stops.Select(x => x.Id).ToListAsync())
        );
        var (address, page) = await Proposed(
            wilma,
            ("day", Day(6)),
            ("until", Day(6)),
            ("dueBy", Day(60)),
            ("most", "6"),
            ("testers", $"{ines}")
        );
        Assert.Contains("Accept these rounds", page, StringComparison.Ordinal);
        var stop = Stops().Match(page).Groups[1].Value;
        var moved = await wilma.PostForm(
            address,
            $"{address}?handler=Move",
            ("stop", stop),
            ("tester", $"{ines}"),
            ("on", Day(6)),
            ("at", "05:15")
        );
        var broken = await wilma.Page(moved.Headers.Location!.ToString());
        Assert.Contains("It cannot be gone like this", broken, StringComparison.Ordinal);
        var refused = await wilma.PostForm(address, $"{address}?handler=Accept");
        Assert.Contains(
            "cannot be gone like this",
            await refused.Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
        await wilma.PostForm(address, $"{address}?handler=Undo");
        var accepted = await wilma.PostForm(address, $"{address}?handler=Accept", ("tell", "true"));
        Assert.Equal(HttpStatusCode.Redirect, accepted.StatusCode);
        Assert.Contains("Accepted by Wilma Quent", await wilma.Page(address), StringComparison.Ordinal);
        var made = await town.InStore(s => s.Stops.Where(x => !standing.Contains(x.Id)).ToListAsync());
        Assert.NotEmpty(made);
        Assert.All(made, m => Assert.True(m.PlannedAt is not null && m.TesterId == ines));
        Assert.Contains("Ines Tarrow", await wilma.Page("/rounds"), StringComparison.Ordinal);
        await town.InStore(s => s.Stops.Where(x => !standing.Contains(x.Id)).ExecuteDeleteAsync());
    }

    [Fact]
    public async Task The_rest_of_a_broken_day_is_planned_anew_from_now()
    {
        var wilma = await town.As("wilma");
        var begun = await wilma.PostForm("/rounds", "/rounds?handler=Again");
        // Late in the evening nobody works any more, and that is said.
        if (begun.StatusCode == HttpStatusCode.OK)
            Assert.Contains("working day is over", await begun.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        else
            Assert.Matches("^/rounds/[0-9a-f-]{36}$", begun.Headers.Location!.ToString());
    }

    [Fact]
    public async Task What_was_marked_in_due_is_what_is_planned()
    {
        var wilma = await town.As("wilma");
        var ids = await town.InStore(s =>
            s.Assemblies.Where(a => a.NextDue != null).OrderBy(a => a.Tag).Take(3).Select(a => a.Id).ToListAsync()
        );
        var form = await wilma.PostForm(
            "/due",
            "/rounds?handler=Choose",
            [.. ids.Select(i => ("ids", i.ToString())), ("day", "x"), ("testerId", "y")]
        );
        var page = await form.Content.ReadAsStringAsync();
        Assert.Contains("3 marked in Due", page, StringComparison.Ordinal);
        Assert.All(ids, i => Assert.Contains($"value=\"{i}\"", page, StringComparison.Ordinal));
        var none = await wilma.PostForm("/due", "/rounds?handler=Choose");
        Assert.Contains("Nothing was marked", await none.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("day", "0001-01-01")]
    [InlineData("day", "yesterday")]
    [InlineData("until", "9999-12-31")]
    [InlineData("testers", "nobody")]
    [InlineData("most", "-4")]
    [InlineData("dueBy", "9999-12-31")]
    public async Task Nonsense_is_answered_kindly(string field, string value)
    {
        var wilma = await town.As("wilma");
        var answer = await wilma.PostForm("/rounds", "/rounds?handler=Plan", (field, value));
        Assert.True((int)answer.StatusCode < 400, $"{answer.StatusCode}");
        Assert.Contains("role=\"alert\"", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await wilma.Client.GetAsync($"/rounds/{Guid.NewGuid()}")).StatusCode);
    }

    [Fact]
    public async Task A_calendar_follows_the_own_rounds_at_an_address_that_can_be_ended()
    {
        var (ines, odd) = (await town.As("ines"), await town.As("odd"));
        var (mine, others) = await town.InStore(async s =>
        {
            var id = (await s.Users.FirstAsync(u => u.UserName == "ines")).Id;
            var today = DateOnly.FromDateTime(DateTime.Today);
            var stops = await s
                .Stops.Where(x => x.Day >= today.AddDays(-7) && x.Day < today.AddDays(70))
                .Select(x => new { x.TesterId, x.Assembly!.Tag })
                .ToListAsync();
            return (
                stops.Where(x => x.TesterId == id).Select(x => x.Tag).ToList(),
                stops.Where(x => x.TesterId != id).Select(x => x.Tag).ToList()
            );
        });
        async Task<string> Address()
        {
            var page = await (await ines.PostForm("/", "/?handler=Calendar")).Content.ReadAsStringAsync();
            return Calendars().Match(page).Value;
        }

        var nobody = town.Nobody().Client;
        var first = await Address();
        var calendar = await nobody.GetStringAsync(first);
        Assert.Equal(mine.Count, calendar.Split("BEGIN:VEVENT").Length - 1);
        Assert.All(mine, tag => Assert.Contains(tag, calendar, StringComparison.Ordinal));
        Assert.Contains("SEQUENCE:", calendar, StringComparison.Ordinal);
        Assert.Equal(
            calendar.Split("BEGIN:VEVENT").Length,
            (await ines.Client.GetStringAsync("/calendar.ics")).Split("BEGIN:VEVENT").Length
        );
        Assert.DoesNotContain(
            mine.Except(others).First(),
            await odd.Client.GetStringAsync("/calendar.ics"),
            StringComparison.Ordinal
        );
        var second = await Address();
        Assert.Equal(HttpStatusCode.NotFound, (await nobody.GetAsync(first)).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await nobody.GetAsync(second)).StatusCode);
        await ines.PostForm("/", "/?handler=NoCalendar");
        Assert.Equal(HttpStatusCode.NotFound, (await nobody.GetAsync(second)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await nobody.GetAsync("/calendar/abc.ics")).StatusCode);
    }

    [GeneratedRegex("/calendar/[0-9a-f]{48}\\.ics")]
    private static partial Regex Calendars();

    [GeneratedRegex("data-stop=\"([0-9a-f-]{36})\"")]
    private static partial Regex Stops();
}
