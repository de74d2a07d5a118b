using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Planning;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>Rounds out of the register: what is asked of whom, changed by hand, accepted.</summary>
public sealed class RoundsTests : IAsyncLifetime, IAsyncDisposable
{
    private static readonly CancellationToken None = CancellationToken.None;
    private static readonly Author Wilma = new("Wilma");
    private readonly SmallInstallation hamlet = new();

    public async Task InitializeAsync()
    {
        await hamlet.Filled([AssemblyTypes.DC, AssemblyTypes.RP, AssemblyTypes.PVB]);
        await hamlet.InStore(async s =>
        {
            foreach (var assembly in await s.Assemblies.Include(a => a.Place).ToListAsync())
            {
                (assembly.Place!.East, assembly.Place.North) = (900, 300);
                assembly.Location = $"Cellar {assembly.Tag}";
                assembly.NextDue = Tomorrow.AddDays(assembly.Type == "RP" ? -10 : 20);
            }

            return await s.SaveChangesAsync();
        });
    }

    Task IAsyncLifetime.DisposeAsync() => DisposeAsync().AsTask();

    public ValueTask DisposeAsync() => hamlet.DisposeAsync();

    private DateOnly Tomorrow => DateOnly.FromDateTime(hamlet.Clock.GetLocalNow().DateTime).AddDays(1);

    private WishedRounds Wished => new([Tomorrow], [hamlet.Tester], [.. hamlet.Assemblies]);

    private Task<PlanProblem> Problem() => hamlet.With<PlanProblem, RoundProblems>(r => r.Of(Wished, None));

    private Task<Reply<Guid>> Do(Func<ChangeProposal, Task<Reply<Guid>>> change) =>
        hamlet.With<Reply<Guid>, ChangeProposal>(change);

    private Task<Reply<Guid>> Accept(Guid id) =>
        hamlet.With<Reply<Guid>, AcceptRounds>(a => a.With(id, tell: true, Wilma, None));

    private Task<ProposalView?> View(Guid id) => hamlet.With<ProposalView?, ProposalList>(l => l.Of(id, None));

    // A proposal in which nothing has a place yet; the solver is tested elsewhere.
    private async Task<Guid> Proposed()
    {
        var begun = await hamlet.With<Reply<Guid>, ProposeRounds>(p => p.With(Wished, Wilma, None));
        Assert.Null(begun.Refusal);
        await hamlet.With<int, ChangeProposal>(async c =>
        {
            await c.Found(begun.Value, Plan.Nothing, "found", None);
            return 0;
        });
        return begun.Value;
    }

    private Task<Reply<Guid>> Put(Guid id, int assembly, int? at) =>
        Do(c => c.Move(id, hamlet.Assemblies[assembly].ToString(), hamlet.Tester.ToString(), Tomorrow, at, None));

    [Fact]
    public async Task What_is_asked_of_a_stop_comes_from_the_register_and_the_rules()
    {
        await hamlet.InStore(async s =>
        {
            var rp = await s.Assemblies.FirstAsync(a => a.Type == "RP");
            (rp.WaterOff, rp.ConfinedSpace, rp.FireLine, rp.Size) = ("06:00..07:30", true, true, "4 in");
            return await s.SaveChangesAsync();
        });
        var problem = await Problem();
        var stop = problem.Stops.First(s => s.Type == "RP");
        Assert.Equal([new Window(360, 450)], stop.Windows);
        Assert.Equal(["confined space", "fire line"], stop.Skills);
        Assert.Equal((55, 3), (stop.Minutes, stop.Priority));
        Assert.Contains("five-valve", stop.Kits);
        Assert.DoesNotContain("two-valve", stop.Kits);
        var shift = Assert.Single(problem.Shifts);
        Assert.Equal(new Window(450, 990), shift.Hours);
        Assert.True(problem.Travel.Minutes(shift.Start, stop.Place, 480) > 2);
        Assert.Equal(2, problem.Stops.First(s => s.Type == "DC").Skills.Length + 2);
        Assert.All(problem.Testers, t => Assert.Equal("K-9", Assert.Single(t.Kits).Serial));
        var without = await hamlet.With<PlanProblem, RoundProblems>(r =>
            r.Of(Wished with { WithoutKit = [hamlet.Tester] }, None)
        );
        Assert.Empty(without.Testers[0].Kits);
    }

    [Fact]
    public async Task Assemblies_that_stand_in_the_same_spot_are_made_in_one_visit()
    {
        Assert.All((await Problem()).Stops, s => Assert.Null(s.Together));
        await hamlet.InStore(s => s.Assemblies.ExecuteUpdateAsync(a => a.SetProperty(x => x.Location, "Meter pit")));
        Assert.Single((await Problem()).Stops.Select(s => s.Together).Distinct());
        Assert.NotNull((await Problem()).Stops[0].Together);
    }

    [Fact]
    public async Task What_is_put_in_by_hand_and_accepted_is_the_testers_round()
    {
        var id = await Proposed();
        Assert.Null((await Put(id, 0, 540)).Refusal);
        Assert.Null((await Put(id, 1, 600)).Refusal);
        Assert.Null((await Put(id, 2, null)).Refusal);
        Assert.Null((await Do(c => c.Undo(id, None))).Refusal);
        var view = await View(id);
        Assert.Empty(view!.Breaches);
        Assert.Equal([hamlet.Assemblies[2].ToString()], view.Plan.LeftOut.Select(l => l.Stop));
        Assert.Null((await Accept(id)).Refusal);
        var stops = await hamlet.InStore(s => s.Stops.OrderBy(x => x.Order).ToListAsync());
        Assert.Equal([new TimeOnly(9, 0), new TimeOnly(10, 0)], stops.Select(s => s.PlannedAt));
        Assert.Equal([25, 30], stops.Select(s => s.Minutes));
        Assert.All(stops, s => Assert.Equal((Tomorrow, hamlet.Tester), (s.Day, s.TesterId)));
        Assert.Contains("accepted", (await Accept(id)).Refusal, StringComparison.Ordinal);
        Assert.Contains("accepted", (await Put(id, 2, 700)).Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Rounds_that_stand_are_planned_along_and_what_is_left_out_goes_out()
    {
        var first = await Proposed();
        await Put(first, 0, 540);
        await Put(first, 1, 600);
        await Accept(first);
        var kept = await hamlet.InStore(s => s.Stops.Where(x => x.AssemblyId == hamlet.Assemblies[0]).FirstAsync());
        var again = await Proposed();
        Assert.Equal(2, (await View(again))!.Problem.Before!.Routes[0].Visits.Length);
        await Put(again, 0, 720);
        await Accept(again);
        var stop = await hamlet.InStore(s => s.Stops.SingleAsync());
        Assert.Equal((kept.Id, new TimeOnly(12, 0)), (stop.Id, stop.PlannedAt));
        Assert.Equal((1, 2), (kept.Sequence, stop.Sequence));
        var third = await Proposed();
        await Put(third, 0, 720);
        await Accept(third);
        Assert.Equal(2, await hamlet.InStore(s => s.Stops.Select(x => x.Sequence).SingleAsync()));
    }

    [Fact]
    public async Task What_cannot_be_gone_is_not_accepted()
    {
        var id = await Proposed();
        await Put(id, 0, 300);
        Assert.Contains("cannot be gone", (await Accept(id)).Refusal, StringComparison.Ordinal);
        Assert.Empty(await hamlet.InStore(s => s.Stops.ToListAsync()));
        Assert.Null((await Do(c => c.TakeOut(id, hamlet.Assemblies[0].ToString(), None))).Refusal);
        Assert.Contains("no such stop", (await Do(c => c.TakeOut(id, "x", None))).Refusal, StringComparison.Ordinal);
        Assert.Equal(NotDone.NotFound, (await Accept(Guid.NewGuid())).Why);
    }

    [Fact]
    public async Task What_was_begun_meanwhile_stops_the_acceptance()
    {
        var first = await Proposed();
        await Put(first, 0, 540);
        await Accept(first);
        var again = await Proposed();
        await Put(again, 0, 720);
        var stop = await hamlet.InStore(s => s.Stops.Select(x => x.Id).SingleAsync());
        var begun = await hamlet.With<Reply<Guid>, BeginRun>(b => b.For(stop, hamlet.Tester, false, None));
        Assert.Null(begun.Refusal);
        Assert.Contains("Plan these rounds anew", (await Accept(again)).Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_settled_round_stays_settled_until_it_is_let_go()
    {
        var id = await Proposed();
        await Put(id, 0, null);
        var stop = hamlet.Assemblies[0].ToString();
        await Do(c => c.PinRound(id, hamlet.Tester.ToString(), Tomorrow, true, None));
        Assert.NotNull((await View(id))!.Problem.Stop(stop)!.Pin!.At);
        await Do(c => c.Pin(id, stop, false, None));
        Assert.Null((await View(id))!.Problem.Stop(stop)!.Pin);
    }

    [Fact]
    public async Task Nothing_is_proposed_for_days_that_are_over_for_nobody_or_for_nothing()
    {
        async Task Refused(WishedRounds wished, string says)
        {
            var reply = await hamlet.With<Reply<Guid>, ProposeRounds>(p => p.With(wished, Wilma, None));
            Assert.Contains(says, reply.Refusal, StringComparison.Ordinal);
        }

        await Refused(Wished with { Days = [Tomorrow.AddDays(-3)] }, "That day is over");
        await Refused(Wished with { Testers = [] }, "Choose who may go");
        await Refused(Wished with { Assemblies = [] }, "nothing to plan");
        await Refused(Wished with { Days = [] }, "one day");
        Assert.Empty(await hamlet.With<IReadOnlyList<ProposalList.Line>, ProposalList>(l => l.Latest(None)));
    }

    [Fact]
    public async Task A_working_day_is_kept_with_its_author_and_rounds_are_planned_within_it()
    {
        Task<Reply<Guid>> Keep(TimeOnly until, params string[] skills) =>
            hamlet.With<Reply<Guid>, KeepWorkingHours>(k =>
                k.With(new(hamlet.Tester, new(6, 0), until, 100, 200, 0, skills), Wilma, None)
            );
        Assert.NotNull((await Keep(new(5, 0))).Refusal);
        Assert.NotNull((await Keep(new(14, 0), "juggling")).Refusal);
        Assert.Null((await Keep(new(14, 0), WorkingHoursRow.FireLine)).Refusal);
        var problem = await Problem();
        Assert.Equal((new Window(360, 840), null), (problem.Shifts[0].Hours, problem.Shifts[0].Lunch));
        Assert.Equal(["fire line"], problem.Testers[0].Skills);
        Assert.Equal(100, problem.Places[problem.Shifts[0].Start].East);
        var change = Assert.Single(
            await hamlet.With<IReadOnlyList<ChangeRow>, ChangeList>(c => c.Of([hamlet.Tester], None))
        );
        Assert.Equal(("Wilma", "working day"), (change.By, change.Field));
    }

    [Fact]
    public async Task The_rest_of_a_day_is_planned_from_the_hour_and_from_where_the_tester_is()
    {
        var first = await Proposed();
        await Put(first, 0, 540);
        await Put(first, 1, 600);
        await Accept(first);
        var stop = await hamlet.InStore(s => s.Stops.OrderBy(x => x.Order).Select(x => x.Id).FirstAsync());
        Assert.Null((await hamlet.With<Reply<Guid>, BeginRun>(b => b.For(stop, hamlet.Tester, false, None))).Refusal);
        var rest = await hamlet.With<PlanProblem, RoundProblems>(r =>
            r.Of(Wished with { Assemblies = [], From = new(11, 15) }, None)
        );
        // What is begun is not planned any more; the other one stands as it was.
        Assert.Equal([hamlet.Assemblies[1].ToString()], rest.Stops.Select(s => s.Id));
        var shift = Assert.Single(rest.Shifts);
        Assert.Equal(
            (675, "Mill inn", "the yard"),
            (shift.Hours.From, rest.Places[shift.Start].Name, rest.Places[shift.End].Name)
        );
        Assert.Single(rest.Before!.Routes[0].Visits);
        var late = await hamlet.With<PlanProblem, RoundProblems>(r =>
            r.Of(Wished with { Assemblies = [], From = new(20, 0) }, None)
        );
        Assert.Empty(late.Shifts);
    }

    [Fact]
    public async Task What_runs_into_the_night_is_shown_and_not_accepted()
    {
        var id = await Proposed();
        await Put(id, 0, 1435);
        await Put(id, 1, 1439);
        var view = await View(id);
        Assert.True(view!.Plan.Routes[0].Back > Window.Day);
        Assert.NotEmpty(view.Breaches);
        Assert.Contains("cannot be gone", (await Accept(id)).Refusal, StringComparison.Ordinal);
        Assert.Null((await Do(c => c.Undo(id, None))).Refusal);
    }
}
