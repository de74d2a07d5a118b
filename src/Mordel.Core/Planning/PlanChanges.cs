using System.Collections.Immutable;

namespace Mordel.Core.Planning;

/// <summary>A stop that goes otherwise than before.</summary>
/// <param name="Stop">The stop's id.</param>
/// <param name="Says">What changes, in a sentence.</param>
public sealed record PlanChange(string Stop, string Says);

/// <summary>Figures of a plan, to compare it by.</summary>
/// <param name="Stops">How many stops are in it.</param>
/// <param name="Driving">Minutes on the road.</param>
/// <param name="Waiting">Minutes that are waited, meals not counted.</param>
/// <param name="Late">How many of its stops are made behind the day on which they are owed.</param>
public readonly record struct PlanFigures(int Stops, int Driving, int Waiting, int Late)
{
    /// <summary>The figures of a plan.</summary>
    public static PlanFigures Of(PlanProblem problem, Plan plan)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(plan);
        var (driving, away, late) = (0, 0, 0);
        foreach (var route in plan.Routes)
        {
            var drive = PlanLeg.Of(problem, route).Sum(l => l.Minutes);
            var meal =
                route.Lunch is { } lunch && lunch.From >= route.Leave && lunch.Until <= route.Back ? lunch.Minutes : 0;
            driving += drive;
            away += route.Back - route.Leave - drive - meal - route.Visits.Sum(v => v.Work.Minutes);
            late += route.Visits.Count(v => problem.Stop(v.Stop)?.Due < route.Day);
        }

        return new(plan.Routes.Sum(r => r.Visits.Length), driving, away, late);
    }
}

/// <summary>What is otherwise in one plan than in another.</summary>
public static class PlanChanges
{
    // Nobody is told of less.
    private const int Noticed = 5;

    /// <summary>The changes, in the order of the new rounds; what goes out last.</summary>
    public static ImmutableArray<PlanChange> Between(PlanProblem problem, Plan before, Plan after)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(before);
        ArgumentNullException.ThrowIfNull(after);
        var was = before.Routes.SelectMany(r => r.Visits.Select(v => (r, v))).ToDictionary(x => x.v.Stop);
        var changes = ImmutableArray.CreateBuilder<PlanChange>();
        string Who(string tester) => problem.Tester(tester)?.Name ?? "nobody";
        string Said(PlanRoute route, PlanVisit visit) =>
            $"{PlanWords.Day(route.Day)}, {Window.Says(visit.Begin)}, {Who(route.Tester)}";
        foreach (var route in after.Routes)
        foreach (var visit in route.Visits)
        {
            var now = Said(route, visit);
            if (!was.Remove(visit.Stop, out var earlier))
                changes.Add(new(visit.Stop, $"new: {now}"));
            else if (earlier.r.Day != route.Day || earlier.r.Tester != route.Tester)
                changes.Add(new(visit.Stop, $"{Said(earlier.r, earlier.v)} becomes {now}"));
            else if (Math.Abs(earlier.v.Begin - visit.Begin) > Noticed)
                changes.Add(
                    new(
                        visit.Stop,
                        $"{Window.Says(earlier.v.Begin)} becomes {Window.Says(visit.Begin)}, {Who(route.Tester)}"
                    )
                );
        }

        foreach (var (stop, (route, visit)) in was)
            changes.Add(new(stop, $"out: {Said(route, visit)}"));
        return changes.ToImmutable();
    }
}
