using System.Collections.Immutable;

namespace Mordel.Core.Planning;

/// <summary>A way of a round.</summary>
/// <param name="From">The number of the place it leads from.</param>
/// <param name="To">The number of the place it leads to.</param>
/// <param name="Leave">When it begins, a minute of the day.</param>
/// <param name="Minutes">How long it is.</param>
public readonly record struct PlanLeg(int From, int To, int Leave, int Minutes)
{
    /// <summary>The ways of a round in their order, the way back last.</summary>
    public static ImmutableArray<PlanLeg> Of(PlanProblem problem, PlanRoute route)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(route);
        if (problem.Shift(route.Tester, route.Day) is not { } shift || route.Visits.IsEmpty)
            return [];
        var legs = ImmutableArray.CreateBuilder<PlanLeg>(route.Visits.Length + 1);
        var (place, free) = (shift.Start, route.Leave);
        foreach (var visit in route.Visits)
        {
            if (problem.Stop(visit.Stop) is not { } stop)
                continue;
            legs.Add(Leg(problem, route, place, stop.Place, free, visit.Begin));
            (place, free) = (stop.Place, visit.End);
        }

        legs.Add(Leg(problem, route, place, shift.End, free, route.Back));
        return legs.DrainToImmutable();
    }

    // Behind the meal, where it lies between and is not taken on arrival.
    private static PlanLeg Leg(PlanProblem problem, PlanRoute route, int from, int to, int free, int by)
    {
        var way = problem.Travel.Minutes(from, to, free) ?? 0;
        if (route.Lunch is not { } lunch || lunch.From < free || lunch.Until > by || free + way <= lunch.From)
            return new(from, to, free, way);
        return new(from, to, lunch.Until, problem.Travel.Minutes(from, to, lunch.Until) ?? 0);
    }
}
