using Mordel.Core.Planning;

namespace Mordel.Planning.Tests;

/// <summary>The check finds what is spoiled in a plan that held.</summary>
public class CheckTests
{
    private static readonly PlanProblem Problem = RoundTests.Of(
        [(0, 0), (2000, 0), (0, 2000), (-2000, 0)],
        [Days.Stop("one", 1), Days.Stop("two", 2), Days.Stop("three", 3)],
        [Days.Able("a", "Ada"), Days.Able("b", "Bo") with { Certificates = [], Kits = [], Skills = [] }],
        [Days.Shift("a"), Days.Shift("b")]
    );

    private static PlanStop Change(PlanStop stop, Func<PlanStop, PlanStop> how) => stop.Id == "two" ? how(stop) : stop;

    private static PlanLimit[] Found(PlanProblem problem, Plan plan) =>
        [.. PlanCheck.Of(problem, plan).Select(b => b.Limit).Distinct()];

    [Fact]
    public void A_plan_that_holds_has_no_breach() => Assert.Empty(PlanCheck.Of(Problem, Problem.Planned()));

    [Fact]
    public void Each_constraint_of_a_stop_is_seen_when_it_is_not_kept()
    {
        var plan = Problem.Planned();
        var (_, two) = plan.Of("two")!.Value;
        (PlanLimit Limit, Func<PlanStop, PlanStop> How)[] spoils =
        [
            (PlanLimit.Certificate, s => s with { Type = "AVB" }),
            (PlanLimit.Kit, s => s with { Kits = ["digital"] }),
            (PlanLimit.Skill, s => s with { Skills = ["diving"] }),
            (PlanLimit.Day, s => s with { Days = [Days.Monday.AddDays(1)] }),
            (PlanLimit.Window, s => s with { Windows = [new(two.Begin + 1, 960)] }),
            (PlanLimit.Window, s => s with { Windows = [new(480, two.End - 1)] }),
            (PlanLimit.Hours, s => s with { Minutes = s.Minutes + 1 }),
            (PlanLimit.Pin, s => s with { Pin = new("a", Days.Monday, two.Begin + 5) }),
            (PlanLimit.Pin, s => s with { Pin = new("b", Days.Monday, null) }),
        ];
        Assert.All(spoils, s =>
            Assert.Equal(
                [s.Limit],
                Found(Problem with { Stops = [.. Problem.Stops.Select(p => Change(p, s.How))] }, plan)
            )
        );
    }

    [Fact]
    public void Ways_hours_meals_and_hands_are_seen()
    {
        var plan = Problem.Planned();
        var route = plan.Routes[0];
        Plan With(PlanRoute r) => plan with { Routes = [r, .. plan.Routes.Skip(1)] };
        Assert.Equal([PlanLimit.Hours], Found(Problem, With(route with { Leave = route.Leave + 1 })));
        Assert.Equal([PlanLimit.Hours], Found(Problem, With(route with { Back = route.Back - 1 })));
        Assert.Equal([PlanLimit.Hours], Found(Problem, With(route with { Lunch = null })));
        Assert.Equal([PlanLimit.Hours], Found(Problem, With(route with { Lunch = new(600, 630) })));
        Assert.Equal(
            [PlanLimit.Room],
            Found(Problem, plan with { Routes = [.. plan.Routes, route with { Tester = "a" }] })
        );
        var other = Found(Problem, With(route with { Tester = "b" }));
        Assert.Contains(PlanLimit.Certificate, other);
        Assert.Contains(PlanLimit.Kit, other);
        Assert.Equal([PlanLimit.Day], Found(Problem, With(route with { Tester = "nobody" })));
    }

    [Fact]
    public void A_kit_out_of_calibration_is_seen_on_its_day()
    {
        var plan = Problem.Planned();
        var tester = Problem.Testers[0] with { Kits = [new("five-valve", "GB-1", Days.Monday.AddDays(-1))] };
        Assert.Equal([PlanLimit.Calibration], Found(Problem with { Testers = [tester, Problem.Testers[1]] }, plan));
    }

    [Fact]
    public void A_kit_that_is_lent_away_on_that_day_is_no_kit()
    {
        var plan = Problem.Planned();
        PlanLimit[] With(DateOnly there)
        {
            var kit = Problem.Testers[0].Kits[0] with { Days = [there] };
            return Found(
                Problem with
                {
                    Testers = [Problem.Testers[0] with { Kits = [kit] }, Problem.Testers[1]],
                },
                plan
            );
        }

        Assert.Empty(With(Days.Monday));
        Assert.Equal([PlanLimit.Kit], With(Days.Monday.AddDays(1)));
    }
}
