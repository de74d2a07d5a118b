using System.Collections.Immutable;
using Mordel.Core.Planning;

namespace Mordel.Planning;

/// <summary>
/// Makes a plan of orders: gives times, fills what room there is, moves single visits where that costs less by the ways
/// and the waiting as they are, and says why the rest is left out.
/// </summary>
internal sealed class PlanFinish(PlanProblem problem, ImmutableArray<PlanBlock> blocks)
{
    private const int MostPasses = 12;

    private readonly Dictionary<PlanShift, ImmutableArray<PlanStop>> days = problem.Shifts.ToDictionary(
        s => s,
        _ => ImmutableArray<PlanStop>.Empty
    );

    private readonly Dictionary<string, (PlanRoute Route, PlanVisit Visit)> before = (
        problem.Before?.Routes.SelectMany(r => r.Visits.Select(v => (r, v))) ?? []
    ).ToDictionary(x => x.v.Stop);

    public Plan Of(ImmutableArray<(PlanShift Shift, ImmutableArray<PlanBlock> Blocks)> order, Func<bool> enough)
    {
        foreach (var (shift, inOrder) in order)
            days[shift] = Possible(shift, [.. inOrder]);
        Fill();
        for (var pass = 0; pass < MostPasses && Move(enough); pass++)
            Fill();
        var outside = Outside();
        var plan = new Plan(
            [
                .. problem
                    .Shifts.Where(s => !days[s].IsEmpty)
                    .OrderBy(s => s.Day)
                    .Select(s => DayTimes.Of(problem, s, days[s], out _)),
            ],
            []
        );
        return plan with { LeftOut = [.. outside.SelectMany(b => WhyLeftOut.Of(problem, plan, b))] };
    }

    private List<PlanBlock> Outside()
    {
        var planned = days.Values.SelectMany(d => d).ToHashSet();
        return [.. blocks.Where(b => !planned.Contains(b.Stops[0])).OrderByDescending(b => b.Stops.Sum(PlanCost.Out))];
    }

    // The meal may lie otherwise than the solver thought; what then fits no more goes out, the least of it first.
    private ImmutableArray<PlanStop> Possible(PlanShift shift, List<PlanBlock> inOrder)
    {
        while (true)
        {
            var stops = inOrder.SelectMany(b => b.Stops).ToImmutableArray();
            DayTimes.Of(problem, shift, stops, out var late);
            if (late == 0)
                return stops;
            inOrder.Remove(inOrder.MinBy(b => b.Stops.Sum(PlanCost.Out))!);
        }
    }

    private void Fill()
    {
        foreach (var block in Outside())
            if (Place(block, long.MaxValue) is { } place)
                days[place.Shift] = place.Stops;
    }

    // Each visit out of its round and where it costs least; whether anything became better by it.
    private bool Move(Func<bool> enough)
    {
        var better = false;
        foreach (var block in blocks.Where(b => !b.Stops.Any(s => s.Pin is { At: not null })))
        {
            if (enough())
                return false;
            var (shift, stops) = days.FirstOrDefault(d => d.Value.Contains(block.Stops[0]));
            if (shift is null)
                continue;
            var without = stops.RemoveRange(block.Stops);
            var saved = Cost(shift, stops) - Cost(shift, without);
            days[shift] = without;
            if (Place(block, saved) is { } place)
            {
                days[place.Shift] = place.Stops;
                better = true;
            }
            else
                days[shift] = stops;
        }

        return better;
    }

    // Where a block adds least, and less than that.
    private (PlanShift Shift, ImmutableArray<PlanStop> Stops)? Place(PlanBlock block, long lessThan)
    {
        var (best, least) = (((PlanShift, ImmutableArray<PlanStop>)?)null, lessThan);
        foreach (var (shift, stops) in days)
        {
            if (!Fitness.Fits(block, problem.Tester(shift.Tester)!, shift.Day))
                continue;
            var now = Cost(shift, stops);
            foreach (var with in PlanRoom.Places(stops, block))
                if (Cost(shift, with) is var cost and < long.MaxValue && cost - now < least)
                    (best, least) = ((shift, with), cost - now);
        }

        return best;
    }

    // What a day costs; the most there is where it cannot be gone.
    private long Cost(PlanShift shift, ImmutableArray<PlanStop> stops)
    {
        if (stops.IsEmpty)
            return 0;
        var route = DayTimes.Of(problem, shift, stops, out var late, out var drive);
        if (late > 0)
            return long.MaxValue;
        var cost = PlanCost.OnTheWay(drive, route.Back - route.Leave - drive - stops.Sum(s => s.Minutes));
        for (var i = 0; i < stops.Length; i++)
            cost +=
                PlanCost.Late(stops[i], shift.Day)
                + (before.TryGetValue(stops[i].Id, out var was) ? PlanCost.Changed(was, route, route.Visits[i]) : 0);
        return cost;
    }
}
