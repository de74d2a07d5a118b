using System.Net;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Links;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;

namespace Mordel.Web.Tests;

/// <summary>Owners' pages and the pages with which the office tells them, as a browser gets them.</summary>
[Collection("town")]
public class OwnerPagesTests(Town town)
{
    private static readonly CancellationToken None = CancellationToken.None;

    // An owner with reports, a stop in five days, and a link.
    private async Task<(Guid Owner, StopRow Stop, string Link)> Visited()
    {
        var stop = await town.InStore(async s =>
        {
            var assembly = await s
                .Assemblies.Include(a => a.Place)
                .FirstAsync(a =>
                    a.LastTestOn != null && a.Place!.Owner!.Mail != "" && !s.Stops.Any(x => x.AssemblyId == a.Id)
                );
            var row = new StopRow
            {
                Id = Guid.NewGuid(),
                Day = DateOnly.FromDateTime(DateTime.Today).AddDays(5),
                TesterId = (await s.Users.FirstAsync(u => u.UserName == "odd")).Id,
                Order = 90,
                AssemblyId = assembly.Id,
                Assembly = assembly,
                WindowFrom = new(9, 0),
                WindowUntil = new(12, 0),
                PlannedAt = new(10, 0),
                Minutes = 30,
            };
            s.Stops.Add(row);
            await s.SaveChangesAsync();
            return row;
        });
        var owner = stop.Assembly!.Place!.OwnerId;
        var link = await town.With<string, KeepNotices>(async k =>
            (await k.OwnerLink(owner, new("Wilma"), None)).Value!
        );
        return (owner, stop, link);
    }

    private Task<int> Gone(StopRow stop) =>
        town.InStore(async s =>
        {
            await s.Consents.Where(c => c.StopId == stop.Id).ExecuteDeleteAsync();
            return await s.Stops.Where(x => x.Id == stop.Id).ExecuteDeleteAsync();
        });

    [Fact]
    public async Task An_owner_without_an_account_sees_the_visit_says_yes_and_takes_report_and_calendar_away()
    {
        var (_, stop, link) = await Visited();
        var somebody = town.Nobody();
        var page = await somebody.Page($"/owner/{link}");
        Assert.Contains("09:30", page, StringComparison.Ordinal);
        Assert.Contains("Yes, the water may be off then", page, StringComparison.Ordinal);
        var place = stop.Assembly!.PlaceId;
        (string, string)[] yes =
        [
            ("place", $"{place}"),
            ("yes", "true"),
            ("shown", $"{stop.Day:yyyy-MM-dd}"),
            ("shownFrom", "09:30"),
            ("shownUntil", "11:00"),
        ];
        var nameless = await somebody.PostForm($"/owner/{link}", $"/owner/{link}", yes);
        Assert.Contains("Your name", await nameless.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var kept = await somebody.PostForm($"/owner/{link}", $"/owner/{link}", [.. yes, ("name", "Ada <Holm>")]);
        Assert.Equal(HttpStatusCode.Redirect, kept.StatusCode);
        page = await somebody.Client.GetStringAsync($"/owner/{link}");
        Assert.Contains("Agreed", page, StringComparison.Ordinal);
        Assert.Contains("Ada &lt;Holm&gt;", page, StringComparison.Ordinal);

        var run = await town.InStore(s =>
            s.Runs.Where(r => r.SignedAt != null && r.AssemblyId == stop.AssemblyId).Select(r => r.Id).FirstAsync()
        );
        var report = await somebody.Client.GetAsync($"/owner/{link}/reports/{run}.pdf");
        Assert.Equal("application/pdf", report.Content.Headers.ContentType!.MediaType);
        var calendar = await somebody.Client.GetStringAsync($"/owner/{link}/visits.ics");
        Assert.Contains($"UID:{stop.Id}@mordel.invalid", calendar, StringComparison.Ordinal);
        Assert.Contains("SEQUENCE:0", calendar, StringComparison.Ordinal);

        var odd = await town.As("odd");
        var shown = await odd.Client.GetStringAsync($"/stops/{stop.Id}");
        Assert.Contains("Agreed", shown, StringComparison.Ordinal);
        Assert.Contains("Ada &lt;Holm&gt;", shown, StringComparison.Ordinal);
        await Gone(stop);
    }

    [Fact]
    public async Task Another_time_that_an_owner_asks_for_stands_in_the_rounds_room_until_it_is_given()
    {
        var (_, stop, link) = await Visited();
        var somebody = town.Nobody();
        (string, string)[] Other(string until) =>
            [
                ("place", $"{stop.Assembly!.PlaceId}"),
                ("yes", "false"),
                ("shown", $"{stop.Day:yyyy-MM-dd}"),
                ("day", $"{stop.Day.AddDays(2):yyyy-MM-dd}"),
                ("from", "13:00"),
                ("until", until),
                ("name", "Ada Holm"),
                ("note", "Mind the dog in the yard."),
            ];
        var wrong = await somebody.PostForm($"/owner/{link}", $"/owner/{link}", Other("12:00"));
        var page = await wrong.Content.ReadAsStringAsync();
        Assert.Contains("Say from when until when", page, StringComparison.Ordinal);
        // What was typed is there still.
        Assert.Contains("Mind the dog in the yard.", page, StringComparison.Ordinal);
        var kept = await somebody.PostForm($"/owner/{link}", $"/owner/{link}", Other("15:00"));
        Assert.Equal(HttpStatusCode.Redirect, kept.StatusCode);
        Assert.Contains("You asked for", await somebody.Page($"/owner/{link}"), StringComparison.Ordinal);
        var wilma = await town.As("wilma");
        Assert.Contains("Mind the dog in the yard.", await wilma.Page("/rounds"), StringComparison.Ordinal);
        await town.InStore(s =>
            s.Stops.Where(x => x.Id == stop.Id)
                .ExecuteUpdateAsync(x =>
                    x.SetProperty(y => y.Day, stop.Day.AddDays(2)).SetProperty(y => y.PlannedAt, new TimeOnly(13, 30))
                )
        );
        Assert.DoesNotContain("Mind the dog in the yard.", await wilma.Page("/rounds"), StringComparison.Ordinal);
        Assert.Contains("This visit lies in it", await somebody.Page($"/owner/{link}"), StringComparison.Ordinal);
        await Gone(stop);
    }

    [Fact]
    public async Task What_was_agreed_or_asked_for_stands_on_the_testers_today()
    {
        var (_, stop, _) = await Visited();
        Task<int> Say(bool yes, int ahead = 0) =>
            town.InStore(s =>
            {
                s.Consents.Add(
                    new()
                    {
                        Id = Guid.NewGuid(),
                        AssemblyId = stop.AssemblyId,
                        StopId = stop.Id,
                        At = DateTimeOffset.UtcNow,
                        Name = "Ada Holm",
                        Yes = yes,
                        Day = DateOnly.FromDateTime(DateTime.Today).AddDays(ahead),
                        From = new(0, 0),
                        Until = new(23, 59),
                        AskFor = "the porter",
                    }
                );
                return s.SaveChangesAsync();
            });
        // What else the tester has today would stand first: it waits until the end.
        var today = DateOnly.FromDateTime(DateTime.Today);
        var (odd, others) = await town.InStore(async s =>
        {
            var id = (await s.Users.FirstAsync(u => u.UserName == "odd")).Id;
            return (id, await s.Stops.Where(x => x.TesterId == id && x.Day == today).Select(x => x.Id).ToListAsync());
        });
        Task<int> MoveOthers(DateOnly day) =>
            town.InStore(s =>
                s.Stops.Where(x => others.Contains(x.Id)).ExecuteUpdateAsync(x => x.SetProperty(y => y.Day, day))
            );
        await MoveOthers(today.AddDays(-1));
        await town.InStore(s =>
            s.Stops.Where(x => x.Id == stop.Id)
                .ExecuteUpdateAsync(x => x.SetProperty(y => y.Day, today).SetProperty(y => y.TesterId, odd))
        );
        var tester = await town.As("odd");
        await Say(yes: true);
        var page = await tester.Page("/");
        Assert.Contains("Agreed", page, StringComparison.Ordinal);
        Assert.Contains("Ask for the porter", page, StringComparison.Ordinal);
        await Say(yes: false);
        Assert.Contains("As asked for", await tester.Page("/"), StringComparison.Ordinal);
        await Say(yes: false, ahead: 1);
        Assert.Contains("Another time is asked for", await tester.Page("/"), StringComparison.Ordinal);
        await Gone(stop);
        await MoveOthers(today);
    }

    [Fact]
    public async Task A_link_cannot_be_guessed_walked_to_another_owner_or_used_after_its_end()
    {
        var (owner, stop, link) = await Visited();
        var somebody = town.Nobody();
        var others = await town.InStore(s =>
            s.Runs.Where(r => r.SignedAt != null && r.Assembly!.Place!.OwnerId != owner)
                .Select(r => r.Id)
                .Take(5)
                .ToListAsync()
        );
        Assert.Equal(5, others.Count);
        foreach (var other in others)
            Assert.Equal(
                HttpStatusCode.NotFound,
                (await somebody.Client.GetAsync($"/owner/{link}/reports/{other}.pdf")).StatusCode
            );
        var look = await town.InStore(s =>
            s.Links.Where(l => l.Purpose != LinkPurposes.Owner && l.Purpose != LinkPurposes.Occupant)
                .Select(l => l.Hash)
                .ToListAsync()
        );
        foreach (
            var wrong in look.Select(h => h[..LinkSecrets.Length])
                .Append(new string('0', LinkSecrets.Length))
                .Append($"{link[..^1]}{(link[^1] == '0' ? '1' : '0')}")
        )
        {
            var answer = await somebody.Client.GetAsync($"/owner/{wrong}");
            Assert.True(answer.StatusCode is HttpStatusCode.NotFound or HttpStatusCode.BadRequest, wrong);
        }

        Assert.NotEqual(
            0,
            (await town.With<Data.Commands.Reply<int>, KeepNotices>(k => k.EndLinks(owner, None))).Value
        );
        var gone = await somebody.Client.GetAsync($"/owner/{link}");
        Assert.Equal(HttpStatusCode.NotFound, gone.StatusCode);
        Assert.Contains("nowhere any more", await gone.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await somebody.Client.GetAsync($"/owner/{link}/visits.ics")).StatusCode);
        await Gone(stop);
    }

    [Fact]
    public async Task The_office_looks_at_letters_before_they_are_sent_reads_them_and_takes_answers()
    {
        var wilma = await town.As("wilma");
        var assembly = await town.InStore(s =>
            s.Assemblies.Where(a =>
                    a.NextDue != null && a.Place!.Owner!.Mail != "" && !s.Notices.Any(n => n.AssemblyId == a.Id)
                )
                .Select(a => a.Id)
                .FirstAsync()
        );
        (string, string)[] about = [("ids", $"{assembly}"), ("kind", "due")];
        var look = await wilma.PostForm("/due", "/notices/send?handler=Look", about);
        Assert.Contains("one letter", await look.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.False(await town.InStore(s => s.Notices.AnyAsync(n => n.AssemblyId == assembly)));
        var sent = await wilma.PostForm("/due", "/notices/send", about);
        Assert.Equal(HttpStatusCode.Redirect, sent.StatusCode);
        var letter = await town.InStore(s => s.Notices.SingleAsync(n => n.AssemblyId == assembly));
        await town.With<DateTimeOffset?, OutboxDelivery>(d => d.Due(None));
        var page = await wilma.Page($"/outbox/{letter.OutboxId}");
        Assert.Contains("A test is due", page, StringComparison.Ordinal);
        // The secret of the link is in the letter that was handed over, and nowhere on the office's screen.
        Assert.DoesNotContain("/owner/", page, StringComparison.Ordinal);
        var file = await wilma.Client.GetStringAsync($"/outbox/{letter.OutboxId}?handler=File");
        Assert.Contains("X-Simulated", file, StringComparison.Ordinal);

        var empty = await wilma.PostForm($"/outbox/{letter.OutboxId}", $"/outbox/{letter.OutboxId}?handler=Answer");
        Assert.Contains("Write an answer", await empty.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        await wilma.PostForm(
            $"/outbox/{letter.OutboxId}",
            $"/outbox/{letter.OutboxId}?handler=Answer",
            ("text", "Come on Tuesday.")
        );
        await town.With<int, IncomingLetters>(i => i.Take(None));
        Assert.Contains("Come on Tuesday.", await wilma.Page("/outbox"), StringComparison.Ordinal);
        var came = await town.InStore(s => s.Incoming.FirstAsync(i => i.OutboxId == letter.OutboxId));
        await wilma.PostForm("/outbox", "/outbox?handler=Seen", ("id", $"{came.Id}"));
        Assert.DoesNotContain("Come on Tuesday.", await wilma.Page("/outbox"), StringComparison.Ordinal);
        Assert.Contains("A test is due", await wilma.Page($"/register/{assembly}"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_words_of_a_notice_are_tried_on_the_register_and_kept_only_when_they_can_be_set()
    {
        var wilma = await town.As("wilma");
        Assert.Contains("Wasser aus", await wilma.Page("/notices/visit?language=de"), StringComparison.Ordinal);
        (string, string)[] own(string text) =>
            [("language", "de"), ("profile", "psid-standard"), ("subject", "Hallo {{ place }}"), ("text", text)];
        var tried = await wilma.PostForm(
            "/notices/reminder",
            "/notices/reminder?handler=Try",
            own("Bis bald, {{ to }}!")
        );
        Assert.Contains("Bis bald, ", await tried.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.False(await town.InStore(s => s.NoticeTemplates.AnyAsync(t => t.Kind == "reminder")));
        var wrong = await wilma.PostForm("/notices/reminder", "/notices/reminder", own("{{ wetter }}"));
        Assert.Contains("no such word", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var kept = await wilma.PostForm("/notices/reminder", "/notices/reminder", own("Bis bald, {{ to }}!"));
        Assert.Equal(HttpStatusCode.Redirect, kept.StatusCode);
        Assert.Contains("own words: de, psid-standard", await wilma.Page("/notices"), StringComparison.Ordinal);
        await wilma.PostForm("/notices/reminder", "/notices/reminder", [.. own(""), ("end", "true")]);
        Assert.DoesNotContain("own words", await wilma.Page("/notices"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await wilma.Client.GetAsync("/notices/nothing")).StatusCode);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await wilma.Client.GetAsync("/notices/visit?profile=nothing")).StatusCode
        );
    }

    [Fact]
    public async Task Answers_on_owners_pages_and_checks_of_reports_are_few_a_minute()
    {
        await using var own = new Host(demo: false, links: "20");
        using var client = own.CreateClient(new() { AllowAutoRedirect = false });
        var statuses = new List<HttpStatusCode>();
        for (var i = 0; i < 24; i++)
        {
            using var form = new FormUrlEncodedContent([new("name", "x")]);
            statuses.Add((await client.PostAsync($"/owner/{new string('a', 48)}", form)).StatusCode);
        }

        Assert.Equal(HttpStatusCode.TooManyRequests, statuses[^1]);
        Assert.NotEqual(HttpStatusCode.TooManyRequests, statuses[0]);
        statuses.Clear();
        for (var i = 0; i < 24; i++)
            statuses.Add((await client.GetAsync($"/verify/0000-0000-{i:D4}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, statuses[0]);
        Assert.Equal(HttpStatusCode.TooManyRequests, statuses[^1]);
    }
}
