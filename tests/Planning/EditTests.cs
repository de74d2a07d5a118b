using Mordel.Core.Planning;

namespace Mordel.Planning.Tests;

/// <summary>Changes by hand, and what they change.</summary>
public class EditTests
{
    private static readonly PlanProblem Problem = RoundTests.Of(
        [(0, 0), (2000, 0), (0, 2000), (-2000, 0)],
        [
            Days.Stop("one", 1),
            Days.Stop("two", 2) with
            {
                Together = "pit",
            },
            Days.Stop("three", 2) with
            {
                Together = "pit",
            },
            Days.Stop("four", 3),
        ],
        [Days.Able("a", "Ada"), Days.Able("b", "Bo")],
        [Days.Shift("a"), Days.Shift("b")]
    );

    private static PlanEdit.Edited Move(PlanEdit.Edited of, string stop, string tester, int? at) =>
        PlanEdit.Move(of.Problem, of.Plan, stop, tester, Days.Monday, at)!.Value;

    [Fact]
    public void A_stop_that_is_put_at_an_hour_begins_then_and_its_company_comes_along()
    {
        var edited = Move(new(Problem, Problem.Planned()), "two", "b", 600);
        var (route, visit) = edited.Plan.Of("two")!.Value;
        Assert.Equal(("b", 600), (route.Tester, visit.Begin));
        Assert.Equal(625, edited.Plan.Of("three")!.Value.Visit.Begin);
        Assert.Empty(PlanCheck.Of(edited.Problem, edited.Plan));
        Assert.Equal(4, edited.Plan.Routes.Sum(r => r.Visits.Length));
    }

    [Fact]
    public void What_cannot_be_shows_and_nothing_is_refused()
    {
        var late = Move(new(Problem, Problem.Planned()), "one", "a", 950);
        Assert.Contains(PlanCheck.Of(late.Problem, late.Plan), b => b.Stop == "one" && b.Limit == PlanLimit.Window);
        var clash = Move(Move(new(Problem, Plan.Nothing), "one", "a", 600), "four", "a", 605);
        var breach = Assert.Single(PlanCheck.Of(clash.Problem, clash.Plan));
        Assert.Equal(("four", PlanLimit.Pin), (breach.Stop, breach.Limit));
        Assert.Matches("RP four is settled for 10:05; Ada can begin at 10:[0-9]{2}", breach.Says);
    }

    [Fact]
    public void Any_row_of_changes_by_hand_leaves_every_stop_once_and_the_check_sees_all_that_is_wrong()
    {
        for (var seed = 1; seed <= 20; seed++)
        {
            var lot = new Random(seed);
            var of = PlanEdit.TakeOut(Days.ByLot(seed, 14, 3, 2), Plan.Nothing, "s0")!.Value;
            for (var i = 0; i < 30; i++)
            {
                var stop = of.Problem.Stops[lot.Next(of.Problem.Stops.Length)].Id;
                var tester = $"t{lot.Next(3)}";
                of = lot.Next(6) switch
                {
                    0 => PlanEdit.TakeOut(of.Problem, of.Plan, stop) ?? of,
                    1 => PlanEdit.Pin(of.Problem, of.Plan, stop, lot.Next(2) == 0) ?? of,
                    2 => PlanEdit.Move(of.Problem, of.Plan, stop, tester, Days.Monday, null) ?? of,
                    _ => PlanEdit.Move(
                        of.Problem,
                        of.Plan,
                        stop,
                        tester,
                        Days.Monday.AddDays(lot.Next(2)),
                        lot.Next(400, 1000)
                    ) ?? of,
                };
                Assert.Equal(
                    of.Problem.Stops.Select(s => s.Id).Order(),
                    of.Plan.Routes.SelectMany(r => r.Visits)
                        .Select(v => v.Stop)
                        .Concat(of.Plan.LeftOut.Select(l => l.Stop))
                        .Order()
                );
            }

            // The solver mends around what was settled and can be.
            var mended = of.Problem.Planned();
            Assert.Empty(PlanCheck.Of(of.Problem, mended));
        }
    }

    [Fact]
    public void Changes_are_said_for_whoever_must_be_told()
    {
        var before = Problem.Planned();
        var at = before.Of("one")!.Value;
        var other = at.Route.Tester == "a" ? "b" : "a";
        var after = Move(new(Problem, before), "one", other, 840);
        var says = PlanChanges.Between(Problem, before, after.Plan).First(c => c.Stop == "one").Says;
        Assert.Equal(
            $"Mon 30 Nov, {Window.Says(at.Visit.Begin)}, {Problem.Tester(at.Route.Tester)!.Name} becomes "
                + $"Mon 30 Nov, 14:00, {Problem.Tester(other)!.Name}",
            says
        );
        Assert.Empty(PlanChanges.Between(Problem, before, before));
        var gone = PlanEdit.TakeOut(Problem, before, "one")!.Value.Plan;
        Assert.StartsWith(
            "out: ",
            PlanChanges.Between(Problem, before, gone).First(c => c.Stop == "one").Says,
            StringComparison.Ordinal
        );
        Assert.StartsWith(
            "new: ",
            PlanChanges.Between(Problem, gone, before).First(c => c.Stop == "one").Says,
            StringComparison.Ordinal
        );
        Assert.Equal(PlanFigures.Of(Problem, before).Stops, PlanFigures.Of(Problem, gone).Stops + 1);
    }
}
