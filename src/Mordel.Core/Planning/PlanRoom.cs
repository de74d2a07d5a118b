using System.Collections.Immutable;

namespace Mordel.Core.Planning;

/// <summary>Where in rounds that are full there could be room for some more work, and what it would take.</summary>
public sealed class PlanRoom
{
    private const int Longer = 15,
        Longest = 120,
        Named = 3;

    private readonly PlanProblem problem;
    private readonly PlanBlock block;
    private readonly ImmutableArray<(PlanShift Shift, ImmutableArray<PlanStop> Stops, PlanRoute? Route)> days;

    /// <summary>Looks at the days on which the work could be made, were there nothing else to do.</summary>
    /// <param name="problem">The problem.</param>
    /// <param name="plan">The plan, without the work.</param>
    /// <param name="block">The work.</param>
    /// <param name="shifts">Those days.</param>
    public PlanRoom(PlanProblem problem, Plan plan, PlanBlock block, ImmutableArray<PlanShift> shifts)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(plan);
        (this.problem, this.block) = (problem, block);
        days =
        [
            .. shifts
                .Select(s => (Shift: s, Route: plan.Routes.FirstOrDefault(r => (r.Tester, r.Day) == (s.Tester, s.Day))))
                .Select(x =>
                    (
                        x.Shift,
                        x.Route is null ? [] : x.Route.Visits.Select(v => problem.Stop(v.Stop)!).ToImmutableArray(),
                        x.Route
                    )
                ),
        ];
    }

    /// <summary>The best place for the work among the stops of a day; null where it fits nowhere.</summary>
    /// <param name="problem">The problem.</param>
    /// <param name="shift">The day.</param>
    /// <param name="stops">What is in it, in order.</param>
    /// <param name="block">The work.</param>
    public static ImmutableArray<PlanStop>? Insert(
        PlanProblem problem,
        PlanShift shift,
        ImmutableArray<PlanStop> stops,
        PlanBlock block
    )
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(shift);
        ArgumentNullException.ThrowIfNull(block);
        var (best, shortest) = ((ImmutableArray<PlanStop>?)null, int.MaxValue);
        foreach (var with in Places(stops, block))
        {
            var route = DayTimes.Of(problem, shift, with, out var late);
            if (late == 0 && route.Back - route.Leave < shortest)
                (best, shortest) = (with, route.Back - route.Leave);
        }

        return best;
    }

    /// <summary>The day with the work in each place among its stops; nothing goes between what is made in one
    /// visit.</summary>
    public static IEnumerable<ImmutableArray<PlanStop>> Places(ImmutableArray<PlanStop> stops, PlanBlock block)
    {
        ArgumentNullException.ThrowIfNull(block);
        for (var at = 0; at <= stops.Length; at++)
            if (
                at == 0
                || at == stops.Length
                || stops[at].Together is not { } key
                || (stops[at - 1].Together, stops[at - 1].Place) != (key, stops[at].Place)
            )
                yield return stops.InsertRange(at, block.Stops);
    }

    /// <summary>What is in its place.</summary>
    public string Says()
    {
        var taken = days.Take(Named)
            .Select(d => $"{problem.Tester(d.Shift.Tester)!.Name} on {PlanWords.Day(d.Shift.Day)} {Taken(d.Route)}")
            .ToList();
        var more = days.Length > Named ? $"; {days.Length - Named} more days are full too" : "";
        return $"There is no room {Hours()}: {string.Join("; ", taken)}{more}.";
    }

    private static string Taken(PlanRoute? route) =>
        route is null
            ? "is free"
            : $"has {route.Visits.Length} {(route.Visits.Length == 1 ? "stop" : "stops")}, "
                + $"{Window.Says(route.Leave)} to {Window.Says(route.Back)}";

    /// <summary>What would bring it in, the smallest change first.</summary>
    public IEnumerable<string> WouldHelp() =>
        days.SelectMany(Changes).OrderBy(c => c.Effort).Select(c => c.Says).Distinct();

    private string Hours() =>
        block.Stops[0].Windows is [var w] && w.Minutes < Window.Day
            ? $"for {block.Minutes} minutes between {Window.Says(w.From)} and {Window.Says(w.Until)}"
            : $"for {block.Minutes} minutes";

    private IEnumerable<(int Effort, string Says)> Changes(
        (PlanShift Shift, ImmutableArray<PlanStop> Stops, PlanRoute? Route) day
    )
    {
        var (shift, name, on) = (day.Shift, problem.Tester(day.Shift.Tester)!.Name, PlanWords.Day(day.Shift.Day));
        for (var more = Longer; more <= Longest; more += Longer)
            if (Insert(problem, Later(shift, more), day.Stops, block) is not null)
            {
                yield return (
                    more,
                    $"It would go if {name} worked until {Window.Says(shift.Hours.Until + more)} on {on}."
                );
                break;
            }

        var anytime = WhyLeftOut.Anytime(block);
        if (Insert(problem, shift, day.Stops, anytime) is { } other)
        {
            var route = DayTimes.Of(problem, shift, other, out _);
            var begin = route.Visits.First(v => v.Stop == block.Stops[0].Id).Begin;
            var off = new Window(begin, begin + block.Minutes);
            yield return (Longest, $"It would go if the water might be off from {off} on {on} ({name}).");
        }

        foreach (var stop in day.Stops.Where(s => s.Priority <= block.Stops.Max(b => b.Priority) && s.Pin is null))
            if (Insert(problem, shift, Without(day.Stops, stop), block) is not null)
            {
                yield return (Longest + stop.Priority, $"It would go if {stop.Name} were put off ({name}, {on}).");
                break;
            }
    }

    // What is made in one visit goes out together.
    private static ImmutableArray<PlanStop> Without(ImmutableArray<PlanStop> stops, PlanStop gone) =>
        stops.RemoveAll(s => s == gone || (gone.Together is { } key && s.Together == key && s.Place == gone.Place));

    private static PlanShift Later(PlanShift shift, int minutes) =>
        shift with
        {
            Hours = shift.Hours with { Until = shift.Hours.Until + minutes },
        };
}
