using Mordel.Core.Planning;

namespace Mordel.Planning.Tests;

public class RoundTests
{
    [Fact]
    public void No_plan_breaks_a_constraint_and_each_stop_is_in_it_or_is_left_out_with_a_reason()
    {
        foreach (var seed in Cases.Of([.. Enumerable.Range(1, 60)], nameof(Days)))
        {
            var problem = Days.ByLot(seed, 4 + (seed % 17), 1 + (seed % 4), 1 + (seed % 3));
            var plan = problem.Planned();
            Assert.True(
                PlanCheck.Of(problem, plan) is { IsEmpty: true },
                $"{seed}: {string.Join(" ", PlanCheck.Of(problem, plan).Select(b => b.Says))}"
            );
            Assert.Equal(
                problem.Stops.Select(s => s.Id).Order(),
                plan.Routes.SelectMany(r => r.Visits)
                    .Select(v => v.Stop)
                    .Concat(plan.LeftOut.Select(l => l.Stop))
                    .Order()
            );
            Assert.All(plan.LeftOut, l => Assert.True(l.Limits.Length > 0 && l.Says.EndsWith('.')));
        }
    }

    [Fact]
    public void The_same_seed_gives_the_same_plan()
    {
        var problem = Days.ByLot(7, 20, 3, 2);
        // By solutions alone: what ends by the clock hangs on what else the machine does.
        var counted = Days.Short with { Time = TimeSpan.FromMinutes(5) };
        var (one, other) = (problem.Planned(counted), problem.Planned(counted));
        Assert.Equal(one.Routes, other.Routes);
        Assert.Equal(one.LeftOut, other.LeftOut);
    }

    [Fact]
    public void A_plan_for_one_tester_is_as_good_as_the_best_of_all_orders()
    {
        for (var seed = 1; seed <= 8; seed++)
        {
            var lot = new Random(seed);
            var places = Enumerable
                .Range(0, 8)
                .Select(_ => (lot.Next(-3000, 3000), lot.Next(-3000, 3000)))
                .Prepend((0, 0))
                .ToList();
            var stops = Enumerable
                .Range(1, 7)
                .Select(i => Days.Stop($"s{i}", i) with { Windows = i % 3 == 0 ? [new(480, 720)] : [new(480, 960)] })
                .ToArray();
            var problem = Of(places, stops, [Days.Able("a", "Ada")], [Days.Shift("a")], steady: true);
            var best = Orders(stops)
                .Select(o => (Route: DayTimes.Of(problem, problem.Shifts[0], [.. o], out var late), Late: late))
                .Where(o => o.Late == 0)
                .Min(o => PlanCost.Of(problem, new([o.Route], [])));
            var cost = PlanCost.Of(problem, problem.Planned());
            Assert.True(cost <= best * 1.03, $"{seed}: {cost}, best {best}");
        }
    }

    [Fact]
    public void Rounds_of_known_length_are_found_within_three_in_a_hundred()
    {
        // Six rays from the middle, each as long as a day can go out and back once; stops along each, none on two.
        foreach (var seed in Cases.Of([1, 2, 3], nameof(Of)))
        {
            (int East, int North)[] ray = [(1, 0), (-1, 0), (0, 1), (0, -1), (2, 1), (-1, 2)];
            var places = ray.SelectMany(r => Enumerable.Range(1, 8).Select(i => (r.East * i * 700, r.North * i * 700)))
                .Prepend((0, 0))
                .ToList();
            var stops = Enumerable
                .Range(1, 48)
                .Select(i => Days.Stop($"s{i}", i, 40) with { Windows = [new(480, 1200)] })
                .ToArray();
            var testers = Enumerable.Range(0, 6).Select(t => Days.Able($"t{t}", $"T{t}")).ToArray();
            var problem = Of(
                places,
                stops,
                testers,
                [.. testers.Select(t => new PlanShift(t.Id, Days.Monday, new(480, 1200), 0, 0))],
                steady: true
            ) with
            {
                Seed = seed,
            };
            // Out along a ray and back: each way of it once in each direction, by the table itself.
            var shortest = Enumerable
                .Range(0, 6)
                .Sum(r =>
                    Enumerable
                        .Range(0, 8)
                        .Sum(i => problem.Travel.Minutes(i == 0 ? 0 : (r * 8) + i, (r * 8) + i + 1, 0)!.Value)
                    + problem.Travel.Minutes((r * 8) + 8, 0, 0)!.Value
                );
            var plan = problem.Planned(new(TimeSpan.FromSeconds(10), 2_000));
            Assert.Empty(plan.LeftOut);
            var drive = plan.Routes.Sum(r => PlanLeg.Of(problem, r).Sum(l => l.Minutes));
            Assert.True(drive <= shortest * 1.03, $"{seed}: {drive} of {shortest}");
        }
    }

    [Fact]
    public void What_is_settled_stays_and_what_is_on_one_line_is_made_in_one_visit()
    {
        var places = new List<(int, int)> { (0, 0), (900, 0), (0, 900), (-900, 0) };
        var problem = Of(
            places,
            [
                Days.Stop("settled", 1) with
                {
                    Pin = new("b", Days.Monday, 600),
                },
                Days.Stop("first", 2) with
                {
                    Together = "pit",
                },
                Days.Stop("between", 3),
                Days.Stop("second", 2) with
                {
                    Together = "pit",
                },
            ],
            [Days.Able("a", "Ada"), Days.Able("b", "Bo")],
            [Days.Shift("a"), Days.Shift("b")]
        );
        var plan = problem.Planned();
        Assert.Empty(plan.LeftOut);
        var (route, visit) = plan.Of("settled")!.Value;
        Assert.Equal(("b", 600), (route.Tester, visit.Begin));
        Assert.Equal(plan.Of("first")!.Value.Visit.End, plan.Of("second")!.Value.Visit.Begin);
    }

    [Fact]
    public void A_day_that_breaks_is_mended_touching_little()
    {
        var problem = Days.ByLot(11, 18, 3, 1) with { };
        problem = problem with { Stops = [.. problem.Stops.Where(s => s.Together is null && s.Pin is null)] };
        var before = problem.Planned();
        var gone = before.Routes[0].Visits[0].Stop;
        var broken = problem with { Stops = [.. problem.Stops.Where(s => s.Id != gone)], Before = before };
        var after = broken.Planned();
        Assert.Empty(PlanCheck.Of(broken, after));
        var moved = before
            .Routes.SelectMany(r => r.Visits.Select(v => (r, v.Stop)))
            .Count(x =>
                x.Stop != gone
                && after.Of(x.Stop) is { } now
                && (now.Route.Tester, now.Route.Day) != (x.r.Tester, x.r.Day)
            );
        Assert.True(moved <= 1, $"{moved} stops changed hands");
    }

    [Fact]
    public void A_search_that_is_stopped_answers_with_the_best_so_far()
    {
        var problem = Days.ByLot(5, 60, 4, 3);
        using var stop = new CancellationTokenSource();
        var told = new List<PlanProgress>();
        var plan = RoundSolver.Solve(
            problem,
            new(TimeSpan.FromSeconds(60), int.MaxValue),
            p =>
            {
                told.Add(p);
                if (told.Count == 3)
                    stop.Cancel();
            },
            stop.Token
        );
        Assert.Empty(PlanCheck.Of(problem, plan));
        Assert.NotEmpty(plan.Routes);
        Assert.True(told[^1].Seconds < 60 && told.Zip(told.Skip(1)).All(p => p.Second.Cost < p.First.Cost));
    }

    internal static PlanProblem Of(
        List<(int, int)> places,
        PlanStop[] stops,
        PlanTester[] testers,
        PlanShift[] shifts,
        bool steady = false
    )
    {
        var roads = Days.Roads(places);
        if (steady)
            roads = new(places.Count, [(0, roads.Parts.First().Minutes)]);
        return new(
            [.. places.Select((p, i) => new PlanPlace($"p{i}", $"Place {i}", p.Item1, p.Item2))],
            [.. stops],
            [.. testers],
            [.. shifts],
            roads
        );
    }

    private static IEnumerable<List<PlanStop>> Orders(PlanStop[] of) =>
        of.Length == 0
            ?
            [
                [],
            ]
            : of.SelectMany(s => Orders([.. of.Where(o => o != s)]).Select(o => o.Prepend(s).ToList()));
}
