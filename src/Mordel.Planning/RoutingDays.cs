using System.Collections.Immutable;
using Google.OrTools.ConstraintSolver;
using Mordel.Core.Planning;

namespace Mordel.Planning;

/// <summary>
/// A problem as the routing solver wants it. Time is counted in minutes from midnight of the first day; the nodes are
/// the blocks first, then a beginning and an end for each shift. What is waited costs nothing here: with it, or with
/// any wish about times, the solver weighs each neighbour a hundred times slower.
/// </summary>
internal sealed class RoutingDays
{
    // Longer than any plan: a way that there is not.
    private const long Never = 1_000_000;

    // What is settled beforehand is given up last.
    private const int Settled = 20;

    private readonly PlanProblem problem;
    private readonly ImmutableArray<PlanShift> shifts;
    private readonly DateOnly first;

    public RoutingDays(PlanProblem problem, ImmutableArray<PlanBlock> blocks)
    {
        (this.problem, shifts) = (problem, problem.Shifts.Elements);
        first = shifts.Select(s => s.Day).DefaultIfEmpty().Min();
        var order = blocks
            .Select(b => new RoutingNode(b, Able(b), [.. Begins(b)]))
            .Where(n => n is { Shifts.Length: > 0, Begins.Length: > 0 })
            .ToArray();
        new Random(problem.Seed).Shuffle(order);
        Nodes = [.. order];
    }

    public ImmutableArray<RoutingNode> Nodes { get; }
    public int Vehicles => shifts.Length;
    public int Locations => Nodes.Length + (2 * Vehicles);
    public int[] Starts => [.. Enumerable.Range(0, Vehicles).Select(v => Nodes.Length + (2 * v))];
    public int[] Ends => [.. Enumerable.Range(0, Vehicles).Select(v => Nodes.Length + (2 * v) + 1)];

    /// <summary>Writes times, costs and what may go where.</summary>
    public void Write(RoutingModel routing, RoutingIndexManager manager)
    {
        var longest = ((shifts.Max(s => s.Day).DayNumber - first.DayNumber + 1) * Window.Day) + 1;
        var took = routing.RegisterTransitMatrix(Transits());
        routing.AddDimension(took, longest, longest, false, "time");
        var time = routing.GetMutableDimension("time");
        for (var n = 0; n < Nodes.Length; n++)
            Write(Nodes[n], manager.NodeToIndex(n), routing, time);
        var served = Served(routing, manager);
        for (var v = 0; v < Vehicles; v++)
        {
            var shift = shifts[v];
            time.CumulVar(routing.Start(v)).SetRange(At(shift.Day, shift.Hours.From), At(shift.Day, shift.Hours.Until));
            time.CumulVar(routing.End(v)).SetRange(At(shift.Day, shift.Hours.From), At(shift.Day, shift.Hours.Until));
            routing.SetArcCostEvaluatorOfVehicle(routing.RegisterTransitMatrix(Costs(v)), v);
            if (shift.Lunch is { } lunch)
                Meal(routing, time, v, shift.Day, lunch, served);
        }
    }

    /// <summary>The plan before as a beginning; null where there is none, or it cannot be gone any more.</summary>
    public Assignment? Before(RoutingModel routing, RoutingIndexManager manager)
    {
        if (problem.Before is not { } before)
            return null;
        var at = Nodes.SelectMany((n, i) => n.Block.Stops.Select(s => (s.Id, i))).ToDictionary(x => x.Id, x => x.i);
        var routes = shifts
            .Select(s =>
                (before.Routes.FirstOrDefault(r => (r.Tester, r.Day) == (s.Tester, s.Day))?.Visits ?? [])
                    .Where(v => at.ContainsKey(v.Stop))
                    .Select(v => manager.NodeToIndex(at[v.Stop]))
                    .Distinct()
                    .ToArray()
            )
            .ToArray();
        return routing.ReadAssignmentFromRoutes(routes, true);
    }

    /// <summary>The blocks of each shift in their order.</summary>
    public ImmutableArray<(PlanShift Shift, ImmutableArray<PlanBlock> Blocks)> Read(
        RoutingModel routing,
        RoutingIndexManager manager,
        Assignment found
    ) => [.. shifts.Select((s, v) => (s, Along(routing, v, i => found.Value(routing.NextVar(i)), manager)))];

    /// <summary>How many stops the solution at hand has.</summary>
    public int Planned(RoutingModel routing, RoutingIndexManager manager) =>
        Enumerable
            .Range(0, Vehicles)
            .Sum(v => Along(routing, v, i => routing.NextVar(i).Value(), manager).Sum(b => b.Stops.Length));

    private ImmutableArray<PlanBlock> Along(
        RoutingModel routing,
        int vehicle,
        Func<long, long> next,
        RoutingIndexManager manager
    )
    {
        var blocks = ImmutableArray.CreateBuilder<PlanBlock>();
        for (var at = next(routing.Start(vehicle)); !routing.IsEnd(at); at = next(at))
            blocks.Add(Nodes[manager.IndexToNode(at)].Block);
        return blocks.DrainToImmutable();
    }

    private static void Write(RoutingNode node, long index, RoutingModel routing, RoutingDimension time)
    {
        var begins = node.Begins;
        time.CumulVar(index).SetRange(begins[0].From, begins[^1].Until);
        for (var i = 1; i < begins.Length; i++)
            if (begins[i - 1].Until + 1 <= begins[i].From - 1)
                time.CumulVar(index).RemoveInterval(begins[i - 1].Until + 1, begins[i].From - 1);
        routing.VehicleVar(index).SetValues([-1, .. node.Shifts.Select(s => (long)s)]);
        routing.AddDisjunction([index], node.Block.Stops.Sum(s => PlanCost.Out(s) * (s.Pin is null ? 1 : Settled)));
    }

    private void Meal(
        RoutingModel routing,
        RoutingDimension time,
        int vehicle,
        DateOnly day,
        PlanLunch lunch,
        long[] served
    )
    {
        var meal = routing
            .solver()
            .MakeFixedDurationIntervalVar(
                At(day, lunch.Within.From),
                At(day, lunch.Within.Until - lunch.Minutes),
                lunch.Minutes,
                false,
                $"lunch {vehicle}"
            );
        time.SetBreakIntervalsOfVehicle(new IntervalVarVector([meal]), vehicle, served);
    }

    private long[] Served(RoutingModel routing, RoutingIndexManager manager)
    {
        var served = new long[routing.Size() + Vehicles];
        for (var n = 0; n < Nodes.Length; n++)
            served[manager.NodeToIndex(n)] = Nodes[n].Block.Minutes;
        return served;
    }

    // The work at a node and the way behind it.
    private long[][] Transits()
    {
        var all = new long[Locations][];
        for (var from = 0; from < Locations; from++)
        {
            var (work, earliest, latest) = Leaving(from);
            all[from] = new long[Locations];
            for (var to = 0; to < Locations; to++)
                all[from][to] = work + (problem.Travel.Slowest(Place(from), Place(to), earliest, latest) ?? Never);
        }

        return all;
    }

    // The work at a node, and between which minutes of a day one sets out from it.
    private (int Work, int Earliest, int Latest) Leaving(int location)
    {
        if (location >= Nodes.Length)
        {
            var shift = shifts[(location - Nodes.Length) / 2];
            return (0, shift.Hours.From, shift.Hours.Until);
        }

        var node = Nodes[location];
        var meal = shifts.Max(s => s.Lunch?.Minutes ?? 0);
        var ends = node.Begins.Select(b => (From: b.From % Window.Day, Until: b.Until % Window.Day)).ToList();
        var work = node.Block.Minutes;
        return (work, ends.Min(e => e.From) + work, ends.Max(e => e.Until) + work + meal);
    }

    private int Place(int location) =>
        location < Nodes.Length ? Nodes[location].Block.Place
        : (location - Nodes.Length) % 2 == 0 ? shifts[(location - Nodes.Length) / 2].Start
        : shifts[(location - Nodes.Length) / 2].End;

    // The way to a node, the lateness of its stops on that day, and what changes by their going to this tester.
    private long[][] Costs(int vehicle)
    {
        var shift = shifts[vehicle];
        var goingThere = new long[Locations];
        for (var n = 0; n < Nodes.Length; n++)
            goingThere[n] = Nodes[n]
                .Block.Stops.Sum(s =>
                    PlanCost.Late(s, shift.Day)
                    + (
                        problem.Before?.Of(s.Id) is { } before
                        && (before.Route.Tester, before.Route.Day) != (shift.Tester, shift.Day)
                            ? PlanCost.OtherHands
                            : 0
                    )
                );
        var all = new long[Locations][];
        for (var from = 0; from < Locations; from++)
        {
            var (_, earliest, latest) = Leaving(from);
            all[from] = new long[Locations];
            for (var to = 0; to < Locations; to++)
                all[from][to] =
                    goingThere[to]
                    + ((problem.Travel.Slowest(Place(from), Place(to), earliest, latest) ?? 0) * PlanCost.Driving);
        }

        return all;
    }

    private ImmutableArray<int> Able(PlanBlock block) =>
        [
            .. Enumerable
                .Range(0, shifts.Length)
                .Where(v => Fitness.Fits(block, problem.Tester(shifts[v].Tester)!, shifts[v].Day)),
        ];

    private IEnumerable<Window> Begins(PlanBlock block) =>
        from day in shifts.Select(s => s.Day).Distinct().Order()
        where block.Stops.All(s => s.Days.IsEmpty || s.Days.Contains(day))
        from window in block.Begins(new(0, Window.Day))
        select new Window(At(day, window.From), At(day, window.Until));

    private int At(DateOnly day, int minute) => ((day.DayNumber - first.DayNumber) * Window.Day) + minute;
}

/// <summary>A block as a node.</summary>
/// <param name="Block">The stops.</param>
/// <param name="Shifts">The numbers of the shifts that may have it.</param>
/// <param name="Begins">When it may begin, in minutes from midnight of the first day.</param>
internal sealed record RoutingNode(PlanBlock Block, ImmutableArray<int> Shifts, ImmutableArray<Window> Begins);
