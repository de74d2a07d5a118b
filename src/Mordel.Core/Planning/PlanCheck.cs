using System.Collections.Immutable;

namespace Mordel.Core.Planning;

/// <summary>Something in a plan that cannot be.</summary>
/// <param name="Stop">The stop; null where it is the round.</param>
/// <param name="Tester">The round's tester.</param>
/// <param name="Day">The round's day.</param>
/// <param name="Limit">What is not kept.</param>
/// <param name="Says">That in a sentence.</param>
public sealed record PlanBreach(string? Stop, string Tester, DateOnly Day, PlanLimit Limit, string Says);

/// <summary>
/// Checks a plan against its problem, minute by minute, and knows nothing of who made it: neither how stops are fitted
/// nor how times are found is used here.
/// </summary>
public sealed class PlanCheck
{
    private readonly PlanProblem problem;
    private readonly Plan plan;
    private readonly Dictionary<string, PlanStop> stops;
    private readonly ImmutableArray<PlanBreach>.Builder breaches = ImmutableArray.CreateBuilder<PlanBreach>();

    private PlanCheck(PlanProblem problem, Plan plan) =>
        (this.problem, this.plan, stops) = (problem, plan, problem.Stops.ToDictionary(s => s.Id));

    /// <summary>Everything in it that cannot be; empty where it can be gone as it is.</summary>
    public static ImmutableArray<PlanBreach> Of(PlanProblem problem, Plan plan)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(plan);
        var check = new PlanCheck(problem, plan);
        foreach (var route in plan.Routes)
            check.Route(route);
        check.Once();
        check.Together();
        return check.breaches.ToImmutable();
    }

    private void Wrong(PlanRoute route, PlanVisit? visit, PlanLimit limit, string says) =>
        breaches.Add(new(visit?.Stop, route.Tester, route.Day, limit, says));

    private void Route(PlanRoute route)
    {
        if (problem.Tester(route.Tester) is not { } tester)
        {
            Wrong(route, null, PlanLimit.Day, $"Nobody is called {route.Tester}.");
            return;
        }

        if (problem.Shift(route.Tester, route.Day) is not { } shift)
        {
            Wrong(route, null, PlanLimit.Day, $"{tester.Name} does not work on {PlanWords.Day(route.Day)}.");
            return;
        }

        foreach (var visit in route.Visits)
            if (!stops.TryGetValue(visit.Stop, out var stop))
                Wrong(route, visit, PlanLimit.Room, $"There is no stop {visit.Stop}.");
            else
                Visit(route, visit, stop, tester);
        if (route.Visits.All(v => stops.ContainsKey(v.Stop)))
            OnTheRoad(route, shift, tester);
    }

    private void Visit(PlanRoute route, PlanVisit visit, PlanStop stop, PlanTester tester)
    {
        var day = PlanWords.Day(route.Day);
        if (visit.End - visit.Begin < stop.Minutes || visit.Begin < visit.Arrive)
            Wrong(route, visit, PlanLimit.Hours, $"{stop.Name} takes {stop.Minutes} minutes.");
        if (!stop.Windows.Any(w => w.From <= visit.Begin && visit.End <= w.Until))
            Wrong(
                route,
                visit,
                PlanLimit.Window,
                $"{stop.Name}: {visit.Work} is outside the time in which the water may be off, "
                    + $"{string.Join(", ", stop.Windows)}."
            );
        if (
            !tester.Certificates.Any(c =>
                c.Types.Contains(stop.Type)
                && c.From <= route.Day
                && route.Day <= c.Until
                && (c.Authority ?? stop.Authority) == stop.Authority
            )
        )
            Wrong(
                route,
                visit,
                PlanLimit.Certificate,
                $"{tester.Name} holds no certificate for a {stop.Type} at {stop.Authority} on {day}."
            );
        var kinds = tester
            .Kits.Where(k => k.Days.Length == 0 || k.Days.Any(d => d == route.Day))
            .Where(k => stop.Kits.Length == 0 || stop.Kits.Any(w => w == k.Kind))
            .ToArray();
        if (kinds.Length == 0)
            Wrong(route, visit, PlanLimit.Kit, $"{tester.Name} has no {PlanWords.Or(stop.Kits)} kit for {stop.Name}.");
        else if (kinds.All(k => k.CalibrationDue < route.Day))
            Wrong(
                route,
                visit,
                PlanLimit.Calibration,
                $"Kit {kinds[0].Serial} of {tester.Name} is out of calibration on {day}."
            );
        foreach (var skill in stop.Skills.Where(s => !tester.Skills.Any(t => t == s)))
            Wrong(route, visit, PlanLimit.Skill, $"{stop.Name} asks for {skill}, which {tester.Name} does not have.");
        if (stop.Days.Length > 0 && !stop.Days.Any(d => d == route.Day))
            Wrong(
                route,
                visit,
                PlanLimit.Day,
                $"{stop.Name} is agreed for {string.Join(", ", stop.Days.Select(PlanWords.Day))}, not for {day}."
            );
        if (stop.Pin is not { } pin)
            return;
        if (pin.Tester == route.Tester && pin.Day == route.Day && pin.At is { } wished && wished != visit.Begin)
            Wrong(
                route,
                visit,
                PlanLimit.Pin,
                $"{stop.Name} is settled for {Window.Says(wished)}; {tester.Name} can begin at "
                    + $"{Window.Says(visit.Begin)}."
            );
        else if (pin.Tester != route.Tester || pin.Day != route.Day)
            Wrong(
                route,
                visit,
                PlanLimit.Pin,
                $"{stop.Name} is settled for {problem.Tester(pin.Tester)?.Name ?? pin.Tester} on "
                    + $"{PlanWords.Day(pin.Day)}{(pin.At is { } a ? $" at {Window.Says(a)}" : "")}."
            );
    }

    private void OnTheRoad(PlanRoute route, PlanShift shift, PlanTester tester)
    {
        if (route.Leave < shift.Hours.From)
            Wrong(route, null, PlanLimit.Hours, $"{tester.Name} leaves before {Window.Says(shift.Hours.From)}.");
        if (Math.Max(route.Back, route.Lunch?.Until ?? 0) > shift.Hours.Until)
            Wrong(
                route,
                null,
                PlanLimit.Hours,
                $"{tester.Name} is back at {Window.Says(route.Back)}, after {Window.Says(shift.Hours.Until)}."
            );
        Meal(route, shift, tester);
        var (place, free) = (shift.Start, route.Leave);
        foreach (var visit in route.Visits)
        {
            Way(route, visit, place, stops[visit.Stop].Place, free, visit.Begin);
            (place, free) = (stops[visit.Stop].Place, visit.End);
        }

        if (!route.Visits.IsEmpty)
            Way(route, null, place, shift.End, free, route.Back);
    }

    private void Meal(PlanRoute route, PlanShift shift, PlanTester tester)
    {
        if (shift.Lunch is not { } meal)
            return;
        if (route.Lunch is not { } lunch)
            Wrong(route, null, PlanLimit.Hours, $"{tester.Name} has no time to eat.");
        else if (lunch.From < meal.Within.From || lunch.Until > meal.Within.Until || lunch.Minutes < meal.Minutes)
            Wrong(route, null, PlanLimit.Hours, $"{tester.Name} eats from {lunch}, not within {meal.Within}.");
        else if (route.Visits.Any(v => v.Begin < lunch.Until && lunch.From < v.End))
            Wrong(route, null, PlanLimit.Hours, $"{tester.Name} works at lunch.");
    }

    // The way fits between two minutes, beside the meal where that lies between them too.
    private void Way(PlanRoute route, PlanVisit? visit, int from, int to, int free, int by)
    {
        bool There(int leaving, int until) =>
            problem.Travel.Minutes(from, to, leaving) is { } way && leaving + way <= until;
        var name = visit is null ? "the way back" : stops[visit.Stop].Name;
        if (problem.Travel.Minutes(from, to, free) is null)
            Wrong(route, visit, PlanLimit.Way, $"No way is known to {problem.Places[to].Name}.");
        else if (
            route.Lunch is { } lunch && lunch.From >= free && lunch.Until <= by
                ? !There(lunch.Until, by) && !There(free, lunch.From)
                : !There(free, by)
        )
            Wrong(route, visit, PlanLimit.Hours, $"{Capital(name)}: the way cannot be made by {Window.Says(by)}.");
    }

    private static string Capital(string text) => text.Length == 0 ? text : char.ToUpperInvariant(text[0]) + text[1..];

    private void Once()
    {
        foreach (
            var twice in plan
                .Routes.SelectMany(r => r.Visits.Select(v => (r, v)))
                .GroupBy(x => x.v.Stop)
                .Where(g => g.Count() > 1)
        )
            Wrong(twice.Last().r, twice.Last().v, PlanLimit.Room, $"Stop {twice.Key} is in the plan twice.");
        foreach (var route in plan.Routes.GroupBy(r => (r.Tester, r.Day)).Where(g => g.Count() > 1))
            Wrong(route.Last(), null, PlanLimit.Room, $"{route.Key.Tester} has two rounds on one day.");
    }

    private void Together()
    {
        foreach (var group in problem.Stops.Where(s => s.Together is not null).GroupBy(s => (s.Together, s.Place)))
        {
            var at = group.Select(s => plan.Of(s.Id)).OfType<(PlanRoute Route, PlanVisit Visit)>().ToList();
            if (at.Count is 0 || (at.Count == group.Count() && InOneVisit(at)))
                continue;
            var (route, visit) = at[0];
            Wrong(
                route,
                visit,
                PlanLimit.Together,
                $"{PlanWords.And([.. group.Select(s => s.Name)])} are made in one visit."
            );
        }
    }

    private static bool InOneVisit(List<(PlanRoute Route, PlanVisit Visit)> at)
    {
        var route = at[0].Route;
        if (at.Exists(a => a.Route != route))
            return false;
        var first = at.Min(a => a.Visit.Begin);
        var last = at.Max(a => a.Visit.End);
        return route.Visits.Count(v => v.Begin >= first && v.End <= last) == at.Count;
    }
}
