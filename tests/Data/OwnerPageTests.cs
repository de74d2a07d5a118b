using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Planning;
using Mordel.Core.Runs;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Links;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>What an owner sees and answers by a link: only what is theirs, only while it holds.</summary>
public sealed class OwnerPageTests : IAsyncLifetime, IAsyncDisposable
{
    private static readonly CancellationToken None = CancellationToken.None;
    private readonly SmallInstallation hamlet = new();
    private Guid owner,
        place,
        stranger;

    public async Task InitializeAsync()
    {
        await hamlet.Filled([AssemblyTypes.DC, AssemblyTypes.RP, AssemblyTypes.PVB]);
        await hamlet.InStore(async s =>
        {
            (place, owner) = await s.Places.Select(p => new ValueTuple<Guid, Guid>(p.Id, p.OwnerId)).SingleAsync();
            await s.Assemblies.ExecuteUpdateAsync(a => a.SetProperty(x => x.NextDue, Tomorrow.AddDays(30)));
            var other = new OwnerRow
            {
                Id = stranger = Guid.NewGuid(),
                Name = "Somebody else",
                Address = "",
                Phone = "",
            };
            s.Owners.Add(other);
            return await s.SaveChangesAsync();
        });
    }

    Task IAsyncLifetime.DisposeAsync() => DisposeAsync().AsTask();

    public ValueTask DisposeAsync() => hamlet.DisposeAsync();

    private DateOnly Tomorrow => DateOnly.FromDateTime(hamlet.Clock.GetLocalNow().DateTime).AddDays(1);

    private async Task<LinkRow> Opened(string purpose = LinkPurposes.Owner, Guid? of = null)
    {
        var row = new LinkRow
        {
            Id = Guid.NewGuid(),
            Purpose = purpose,
            OfId = of ?? owner,
            Hash = Guid.NewGuid().ToString(),
            MadeBy = "Wilma",
            MadeAt = hamlet.Clock.Now(),
        };
        await hamlet.InStore(async s =>
        {
            s.Links.Add(row);
            return await s.SaveChangesAsync();
        });
        return row;
    }

    private Task<OwnerView?> Page(LinkRow link) => hamlet.With<OwnerView?, OwnerPage>(p => p.Of(link, None));

    private Task<Reply<Guid>> Say(LinkRow link, OwnerAnswer answer) =>
        hamlet.With<Reply<Guid>, AnswerVisit>(a => a.By(link, answer, None));

    private OwnerAnswer Yes(OwnerVisit visit, string name = "Ada Holm") =>
        new(place, name, true, visit.Day, visit.From, visit.Until, null, null, null, "the porter", null);

    private OwnerAnswer Other(DateOnly? shown, DateOnly? day, int from, int until) =>
        new(place, "Ada Holm", false, shown, null, null, day, new(from, 0), new(until, 0), null, "Mind the dog.");

    private Task<Guid> Stop(TimeOnly at, DateOnly? day = null) =>
        hamlet.InStore(async s =>
        {
            var row = new StopRow
            {
                Id = Guid.NewGuid(),
                Day = day ?? Tomorrow,
                TesterId = hamlet.Tester,
                Order = 1,
                AssemblyId = hamlet.Assemblies[0],
                WindowFrom = new(8, 0),
                WindowUntil = new(16, 0),
                PlannedAt = at,
                Minutes = 30,
            };
            s.Stops.Add(row);
            await s.SaveChangesAsync();
            return row.Id;
        });

    private Task<PlanProblem> Problem(DateOnly day) =>
        hamlet.With<PlanProblem, RoundProblems>(r => r.Of(new([day], [hamlet.Tester], [hamlet.Assemblies[0]]), None));

    [Fact]
    public async Task A_link_shows_what_belongs_to_its_owner_and_nothing_else()
    {
        await Stop(new(10, 0));
        var run = await hamlet.Signed(1);
        var mine = await Opened();
        var view = (await Page(mine))!;
        Assert.Equal("Mill Inns", view.Name);
        Assert.Equal((new TimeOnly(9, 30), new TimeOnly(11, 0)), (view.Visits[0].From, view.Visits[0].Until));
        Assert.Equal(run, Assert.Single(view.Reports).Run);
        Assert.Equal(hamlet.Assemblies[2], Assert.Single(Assert.Single(view.Due).Assemblies).Id);
        Assert.True(await hamlet.With<bool, OwnerPage>(p => p.MayRead(mine, run, None)));

        var theirs = await Opened(of: stranger);
        var other = (await Page(theirs))!;
        Assert.Empty(other.Visits);
        Assert.Empty(other.Due);
        Assert.Empty(other.Reports);
        Assert.False(await hamlet.With<bool, OwnerPage>(p => p.MayRead(theirs, run, None)));
        Assert.Contains("moved", (await Say(theirs, Yes(view.Visits[0]))).Refusal, StringComparison.Ordinal);
        Assert.Empty(await hamlet.InStore(s => s.Consents.ToListAsync()));

        var there = (await Page(await Opened(LinkPurposes.Occupant, place)))!;
        Assert.Equal(("Mill inn", 1), (there.Name, there.Visits.Count));
        Assert.Null(await Page(await Opened(of: Guid.NewGuid())));
    }

    [Fact]
    public async Task A_link_is_found_by_its_secret_for_its_purpose_until_it_ends()
    {
        var secret = await hamlet.With<string, KeepNotices>(async k =>
            (await k.OwnerLink(owner, new("Wilma"), None)).Value!
        );
        Task<LinkRow?> Find(string? s, params string[] purposes) =>
            hamlet.With<LinkRow?, KeepLinks>(l => l.Find(s, None, purposes));
        Assert.Equal(owner, (await Find(secret, LinkPurposes.Owner, LinkPurposes.Occupant))!.OfId);
        Assert.Null(await Find(secret, LinkPurposes.Look, LinkPurposes.Calendar));
        foreach (var wrong in new[] { null, "", "x", secret[..^1], secret + "0", secret.ToUpperInvariant() + "G" })
            Assert.Null(await Find(wrong, LinkPurposes.Owner));
        for (var i = 0; i < 200; i++)
            Assert.Null(
                await Find(
                    Convert.ToHexStringLower(Guid.NewGuid().ToByteArray().Concat(new byte[8]).ToArray()),
                    LinkPurposes.Owner
                )
            );
        // Neither the database nor a copy of it holds the secret.
        Assert.DoesNotContain(
            secret,
            string.Concat(await hamlet.InStore(s => s.Links.Select(l => l.Hash).ToListAsync())),
            StringComparison.Ordinal
        );
        hamlet.Clock.Offset += TimeSpan.FromDays(KeepLinks.OwnerDays - 1);
        Assert.NotNull(await Find(secret, LinkPurposes.Owner));
        hamlet.Clock.Offset += TimeSpan.FromDays(2);
        Assert.Null(await Find(secret, LinkPurposes.Owner));
        var again = await hamlet.With<string, KeepNotices>(async k =>
            (await k.OwnerLink(owner, new("Wilma"), None)).Value!
        );
        Assert.NotNull(await Find(again, LinkPurposes.Owner));
        Assert.Equal(2, (await hamlet.With<Reply<int>, KeepNotices>(k => k.EndLinks(owner, None))).Value);
        Assert.Null(await Find(again, LinkPurposes.Owner));
    }

    [Fact]
    public async Task A_yes_binds_day_and_hours_of_the_next_plan_and_falls_with_them()
    {
        await Stop(new(10, 0));
        var link = await Opened();
        var visit = (await Page(link))!.Visits[0];
        Assert.False(visit.IsAgreed);
        Assert.Equal([new Window(420, 1020)], (await Problem(Tomorrow)).Stops[0].Windows);
        Assert.Null((await Say(link, Yes(visit))).Refusal);
        Assert.True((await Page(link))!.Visits[0].IsAgreed);
        var bound = (await Problem(Tomorrow)).Stops[0];
        Assert.Equal([new Window(570, 660)], bound.Windows);
        Assert.Equal([Tomorrow], bound.Days);
        // Moved out of these hours, it is agreed no longer.
        await hamlet.InStore(s =>
            s.Stops.ExecuteUpdateAsync(x => x.SetProperty(y => y.PlannedAt, new TimeOnly(14, 0)))
        );
        Assert.False((await Page(link))!.Visits[0].IsAgreed);
        // Who says yes to hours that have changed meanwhile is told so.
        Assert.Contains("changed", (await Say(link, Yes(visit))).Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Another_time_binds_the_plan_too_and_stands_open_until_the_round_gives_it()
    {
        var stop = await Stop(new(10, 0));
        var link = await Opened();
        Assert.Null((await Say(link, Other(Tomorrow, Tomorrow.AddDays(2), 13, 15))).Refusal);
        Task<IReadOnlyList<OpenWish>> Wishes() =>
            hamlet.With<IReadOnlyList<OpenWish>, ConsentList>(c => c.Open(null, None));
        var wish = Assert.Single(await Wishes());
        Assert.Equal((stop, "Mind the dog."), (wish.Stop!.Id, wish.Asked.Note));
        var bound = (await Problem(Tomorrow.AddDays(2))).Stops[0];
        Assert.Equal([new Window(780, 900)], bound.Windows);
        Assert.Equal([Tomorrow.AddDays(2)], bound.Days);
        await hamlet.InStore(s =>
            s.Stops.ExecuteUpdateAsync(x =>
                x.SetProperty(y => y.Day, Tomorrow.AddDays(2)).SetProperty(y => y.PlannedAt, new TimeOnly(13, 30))
            )
        );
        Assert.Empty(await Wishes());
    }

    [Fact]
    public async Task Hours_can_be_said_before_anybody_comes()
    {
        var link = await Opened();
        Assert.Null((await Say(link, Other(null, null, 6, 8))).Refusal);
        Assert.Equal([new Window(360, 480)], (await Problem(Tomorrow)).Stops[0].Windows);
        Assert.Equal("Ada Holm", Assert.Single((await Page(link))!.Due).Asked!.Name);
        // What was said of a visit before a test says nothing of the next.
        await hamlet.Signed();
        Assert.Empty(
            await hamlet.With<IReadOnlyList<OpenWish>, ConsentList>(async c =>
                [.. (await c.Open(null, None)).Where(w => w.Asked.AssemblyId == hamlet.Assemblies[0])]
            )
        );
    }

    [Fact]
    public async Task What_cannot_be_kept_is_refused_with_its_field()
    {
        await Stop(new(10, 0));
        var link = await Opened();
        var visit = (await Page(link))!.Visits[0];
        foreach (
            var (answer, field) in new[]
            {
                (Yes(visit, " "), "name"),
                (Yes(visit, new string('x', 121)), "name"),
                (Other(Tomorrow, null, 12, 10), "from"),
                (Other(Tomorrow, Tomorrow.AddDays(-3), 8, 10), "day"),
                (Other(Tomorrow, Tomorrow.AddDays(800), 8, 10), "day"),
                (Yes(visit) with { AskFor = new string('x', 121) }, "askFor"),
                (Yes(visit) with { Note = new string('x', 501) }, "note"),
            }
        )
            Assert.Equal(field, (await Say(link, answer)).Errors[0].Field);
        Assert.NotNull((await Say(link, Yes(visit) with { Place = Guid.NewGuid() })).Refusal);
        for (var i = 0; i < 40; i++)
            Assert.Null((await Say(link, Other(Tomorrow, null, 8, 10))).Refusal);
        Assert.Contains("a lot", (await Say(link, Other(Tomorrow, null, 8, 10))).Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Who_gave_permission_beforehand_stands_on_the_report_though_nobody_is_asked_again()
    {
        // Early in the morning: what is over is not asked about any more.
        var here = hamlet.Clock.GetLocalNow();
        hamlet.Clock.Offset += here.Date.AddDays(1).AddHours(5) - here.DateTime;
        var day = DateOnly.FromDateTime(hamlet.Clock.GetLocalNow().DateTime);
        var stop = await Stop(new(10, 0), day);
        var link = await Opened();
        Assert.Null((await Say(link, Yes((await Page(link))!.Visits[0]))).Refusal);
        var begun = await hamlet.With<Reply<Guid>, Commands.Runs.BeginRun>(b =>
            b.For(stop, hamlet.Tester, false, None)
        );
        var run = await hamlet.Run(begun.Value);
        Assert.Equal(
            ("Ada Holm", day, new TimeOnly(9, 30)),
            (run.Setup.Consent!.Name, run.Setup.Consent.Day, run.Setup.Consent.From)
        );
        var facts = EnteredFacts.Collect(run.Plan, run.State);
        Assert.Contains("Ada Holm", facts.First(f => f.Id == "permission").Text, StringComparison.Ordinal);
        Assert.DoesNotContain(EnteredFacts.Collect(run.Plan with { Consent = null }, run.State), f =>
            f is { Id: "permission", IsEntered: true }
        );
    }

    [Fact]
    public async Task The_calendar_of_an_owner_shows_the_hours_that_were_told_and_follows_changes()
    {
        var stop = await Stop(new(10, 0));
        var link = await Opened();
        var shown = Assert.Single(
            await hamlet.With<IReadOnlyList<Core.Outside.CalendarVisit>, OwnerPage>(p => p.Calendar(link, None))
        );
        Assert.Equal((stop.ToString(), 0, 90), (shown.Id, shown.Sequence, shown.Minutes));
        Assert.Equal(Tomorrow.ToDateTime(new(9, 30)), shown.Begin);
        Assert.Contains("Water off", shown.Title, StringComparison.Ordinal);
    }
}
