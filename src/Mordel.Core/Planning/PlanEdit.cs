using System.Collections.Immutable;

namespace Mordel.Core.Planning;

/// <summary>Changes of a plan by hand. Nothing is refused: what cannot be shows in the check of the plan.</summary>
public static class PlanEdit
{
    /// <summary>A problem and a plan for it.</summary>
    public readonly record struct Edited(PlanProblem Problem, Plan Plan);

    /// <summary>Puts a stop, with what is made in the same visit, into a round and settles it there.</summary>
    /// <param name="problem">The problem.</param>
    /// <param name="plan">The plan.</param>
    /// <param name="stop">The stop's id.</param>
    /// <param name="tester">Into whose round.</param>
    /// <param name="day">Of which day.</param>
    /// <param name="at">When the work begins; null for the best place in the round.</param>
    /// <returns>Null where there is no such stop, or the tester does not work on that day.</returns>
    public static Edited? Move(PlanProblem problem, Plan plan, string stop, string tester, DateOnly day, int? at)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(plan);
        if (BlockOf(problem, stop) is not { } block || problem.Shift(tester, day) is not { } shift)
            return null;
        var settled = Settle(problem, block, (s, offset) => new(tester, day, at + offset));
        var pinned = BlockOf(settled, stop)!;
        var days = Orders(plan, settled, [.. block.Stops.Select(s => s.Id)]);
        var there = days.GetValueOrDefault((tester, day), []);
        var loose = at is null ? Settle(settled, block, (_, _) => new(tester, day, null)) : settled;
        days[(tester, day)] = at is null
            ? PlanRoom.Insert(loose, shift, there, pinned) ?? there.AddRange(pinned.Stops)
            : there.InsertRange(Behind(plan, there, at.Value), pinned.Stops);
        return new(settled, Timed(settled, plan, days));
    }

    /// <summary>Takes a stop, with what is made in the same visit, out of all rounds.</summary>
    public static Edited? TakeOut(PlanProblem problem, Plan plan, string stop)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(plan);
        if (BlockOf(problem, stop) is not { } block)
            return null;
        var free = Settle(problem, block, (_, _) => null);
        return new(free, Timed(free, plan, Orders(plan, free, [.. block.Stops.Select(s => s.Id)])));
    }

    /// <summary>Settles a stop where it is, or lets go of it.</summary>
    public static Edited? Pin(PlanProblem problem, Plan plan, string stop, bool settled)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(plan);
        if (BlockOf(problem, stop) is not { } block || plan.Of(stop) is null)
            return null;
        return new(
            Settle(problem, block, (s, _) =>
                settled && plan.Of(s.Id) is { } at ? new(at.Route.Tester, at.Route.Day, at.Visit.Begin) : null
            ),
            plan
        );
    }

    /// <summary>The problem with what is settled by stop.</summary>
    public static PlanProblem With(PlanProblem problem, IReadOnlyDictionary<string, PlanPin> pins)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(pins);
        return problem with { Stops = [.. problem.Stops.Select(s => s with { Pin = pins.GetValueOrDefault(s.Id) })] };
    }

    private static PlanBlock? BlockOf(PlanProblem problem, string stop) =>
        PlanBlock.Of(problem.Stops).FirstOrDefault(b => b.Stops.Any(s => s.Id == stop));

    private static PlanProblem Settle(PlanProblem problem, PlanBlock block, Func<PlanStop, int, PlanPin?> how)
    {
        var pins = new Dictionary<string, PlanPin?>();
        var offset = 0;
        foreach (var stop in block.Stops)
        {
            pins[stop.Id] = how(stop, offset);
            offset += stop.Minutes;
        }

        return problem with
        {
            Stops = [.. problem.Stops.Select(s => pins.TryGetValue(s.Id, out var pin) ? s with { Pin = pin } : s)],
        };
    }

    private static Dictionary<(string Tester, DateOnly Day), ImmutableArray<PlanStop>> Orders(
        Plan plan,
        PlanProblem problem,
        HashSet<string> without
    ) =>
        plan.Routes.ToDictionary(
            r => (r.Tester, r.Day),
            r =>
                r.Visits.Where(v => !without.Contains(v.Stop))
                    .Select(v => problem.Stop(v.Stop))
                    .OfType<PlanStop>()
                    .ToImmutableArray()
        );

    // Among the others by their beginnings; what is made in one visit is not cut.
    private static int Behind(Plan plan, ImmutableArray<PlanStop> there, int at)
    {
        var place = there.Count(s => plan.Of(s.Id) is { } now && now.Visit.Begin < at);
        while (
            place > 0
            && place < there.Length
            && there[place].Together is { } key
            && there[place - 1].Together == key
            && there[place - 1].Place == there[place].Place
        )
            place++;
        return place;
    }

    private static Plan Timed(
        PlanProblem problem,
        Plan plan,
        Dictionary<(string Tester, DateOnly Day), ImmutableArray<PlanStop>> days
    )
    {
        var routes = problem
            .Shifts.OrderBy(s => s.Day)
            .Select(s => (Shift: s, Stops: days.GetValueOrDefault((s.Tester, s.Day), [])))
            .Where(x => !x.Stops.IsEmpty)
            .Select(x => DayTimes.Of(problem, x.Shift, x.Stops, out _))
            .ToImmutableArray();
        var planned = routes.SelectMany(r => r.Visits).Select(v => v.Stop).ToHashSet();
        var left = plan.LeftOut.Where(l => !planned.Contains(l.Stop)).ToDictionary(l => l.Stop);
        return new(
            routes,
            [
                .. problem
                    .Stops.Where(s => !planned.Contains(s.Id))
                    .Select(s =>
                        left.GetValueOrDefault(s.Id) ?? new(s.Id, [PlanLimit.Pin], "It was taken out by hand.", [])
                    ),
            ]
        );
    }
}
