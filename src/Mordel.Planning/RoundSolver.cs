using System.Collections.Immutable;
using System.Diagnostics;
using Google.OrTools.ConstraintSolver;
using Google.Protobuf.WellKnownTypes;
using Mordel.Core.Planning;

namespace Mordel.Planning;

/// <summary>
/// Plans rounds with the routing solver of OR-Tools: each working day is a vehicle, what is made in one visit a node.
/// The ways are taken as slow as they may be at the hours at which one can set out, so that what the solver finds can
/// be gone; the times of the plan are then those of the ways as they are.
/// </summary>
public static class RoundSolver
{
    // The part of the time in which the solver searches; in the rest single visits are moved.
    private const double Searching = 0.8;

    /// <summary>Plans.</summary>
    /// <param name="problem">What is to be planned.</param>
    /// <param name="effort">How long it is looked for.</param>
    /// <param name="progress">Told whenever something better was found; may be null.</param>
    /// <param name="cancel">Ends the search; the best so far is the answer.</param>
    /// <returns>The best plan found. Each stop is in it, or is left out with a reason.</returns>
    public static Plan Solve(
        PlanProblem problem,
        PlanEffort effort,
        Action<PlanProgress>? progress,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(effort);
        var clock = Stopwatch.StartNew();
        var blocks = PlanBlock.Of(problem.Stops);
        var days = new RoutingDays(problem, blocks);
        var order = days.Nodes.IsEmpty || problem.Shifts.IsEmpty ? [] : Search(days, effort, progress, cancel);
        return new PlanFinish(problem, blocks).Of(order, () =>
            cancel.IsCancellationRequested || clock.Elapsed > effort.Time
        );
    }

    // The blocks of each shift, in their order.
    private static ImmutableArray<(PlanShift Shift, ImmutableArray<PlanBlock> Blocks)> Search(
        RoutingDays days,
        PlanEffort effort,
        Action<PlanProgress>? progress,
        CancellationToken cancel
    )
    {
        using var manager = new RoutingIndexManager(days.Locations, days.Vehicles, days.Starts, days.Ends);
        using var routing = new RoutingModel(manager);
        days.Write(routing, manager);
        var clock = Stopwatch.StartNew();
        var (seen, best) = (0, long.MaxValue);
        routing.AddAtSolutionCallback(() =>
        {
            seen++;
            var cost = routing.CostVar().Value();
            if (cost < best)
                progress?.Invoke(new(seen, days.Planned(routing, manager), best = cost, clock.Elapsed.TotalSeconds));
            if (cancel.IsCancellationRequested)
                routing.CancelSearch();
        });
        using var ending = cancel.Register(routing.CancelSearch);
        var search = operations_research_constraint_solver.DefaultRoutingSearchParameters();
        search.FirstSolutionStrategy = FirstSolutionStrategy.Types.Value.ParallelCheapestInsertion;
        search.LocalSearchMetaheuristic = LocalSearchMetaheuristic.Types.Value.GuidedLocalSearch;
        search.TimeLimit = Duration.FromTimeSpan(effort.Time * Searching);
        search.SolutionLimit = effort.Solutions;
        routing.CloseModelWithParameters(search);
        var begun = days.Before(routing, manager);
        var found = begun is null
            ? routing.SolveWithParameters(search)
            : routing.SolveFromAssignmentWithParameters(begun, search);
        return found is null ? [] : days.Read(routing, manager, found);
    }
}
