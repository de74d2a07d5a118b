using System.Collections.Immutable;

namespace Mordel.Core.Planning;

/// <summary>
/// Gives a round its times: each stop as early as the way and its window allow, the meal where it costs least, and the
/// departure no earlier than needed.
/// </summary>
public static class DayTimes
{
    /// <summary>The round of a shift with its stops in this order.</summary>
    /// <param name="problem">The problem.</param>
    /// <param name="shift">The working day.</param>
    /// <param name="stops">The stops in their order.</param>
    /// <param name="late">
    /// By how many minutes the round misses windows, what is settled, hours and the meal, all together; 0 where it can
    /// be gone as it is. A day on which a way is missing is late by a day.
    /// </param>
    public static PlanRoute Of(PlanProblem problem, PlanShift shift, ImmutableArray<PlanStop> stops, out int late) =>
        Of(problem, shift, stops, out late, out _);

    /// <summary>The same, and how many minutes of it are on the road.</summary>
    public static PlanRoute Of(
        PlanProblem problem,
        PlanShift shift,
        ImmutableArray<PlanStop> stops,
        out int late,
        out int drive
    )
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(shift);
        if (shift.Lunch is null)
            return Timed(problem, shift, stops, null, out late, out drive);
        var (best, least) = ((PlanRoute?)null, int.MaxValue);
        drive = 0;
        // Before each way or behind it, the way back among them.
        for (var at = 0; at < 2 * (stops.Length + 1); at++)
        {
            var route = Timed(problem, shift, stops, at, out var missed, out var ways);
            if (missed > least || (missed == least && best is not null && Length(route) >= Length(best)))
                continue;
            (best, least, drive) = (route, missed, ways);
        }

        late = least;
        return best!;
    }

    private static int Length(PlanRoute route) => route.Back - route.Leave;

    private static PlanRoute Timed(
        PlanProblem problem,
        PlanShift shift,
        ImmutableArray<PlanStop> stops,
        int? lunchAt,
        out int late,
        out int drive
    )
    {
        var (now, place, missed, ways) = (shift.Hours.From, shift.Start, 0, 0);
        Window? lunch = null;
        var visits = ImmutableArray.CreateBuilder<PlanVisit>(stops.Length);
        void Eat(int at)
        {
            if (shift.Lunch is not { } meal || lunchAt != at)
                return;
            var begin = Math.Max(now, meal.Within.From);
            missed += Math.Max(0, begin + meal.Minutes - meal.Within.Until);
            lunch = new(begin, begin + meal.Minutes);
            now = begin + meal.Minutes;
        }

        int Way(int to)
        {
            if (problem.Travel.Minutes(place, to, now) is { } minutes)
            {
                ways += minutes;
                return minutes;
            }

            missed += Window.Day;
            return 0;
        }

        for (var i = 0; i < stops.Length; i++)
        {
            Eat(2 * i);
            var arrive = now + Way(stops[i].Place);
            now = arrive;
            Eat((2 * i) + 1);
            var begin = Begin(stops[i], now, out var miss);
            missed += miss;
            visits.Add(new(stops[i].Id, arrive, begin, begin + stops[i].Minutes));
            (now, place) = (begin + stops[i].Minutes, stops[i].Place);
        }

        Eat(2 * stops.Length);
        var back = now + Way(shift.End);
        now = back;
        Eat((2 * stops.Length) + 1);
        missed += Math.Max(0, now - shift.Hours.Until);
        (late, drive) = (missed, ways);
        // A meal before anything else is taken at home, and the round begins behind it.
        var earliest = lunchAt == 0 ? lunch!.Value.Until : shift.Hours.From;
        if (visits.Count == 0)
            return new(shift.Tester, shift.Day, shift.Hours.From, [], lunch, back);
        var before = visits[0].Arrive - earliest;
        var route = JustInTime(
            problem,
            shift,
            stops[0],
            new(shift.Tester, shift.Day, earliest, [.. visits], lunch, back)
        );
        drive += route.Visits[0].Arrive - route.Leave - before;
        return route;
    }

    // The first stop's beginning stands; the departure moves as near to it as the way allows.
    private static PlanRoute JustInTime(PlanProblem problem, PlanShift shift, PlanStop first, PlanRoute route)
    {
        var visit = route.Visits[0];
        for (var leave = visit.Begin; leave > route.Leave; leave--)
            if (problem.Travel.Minutes(shift.Start, first.Place, leave) is { } way && leave + way <= visit.Begin)
                return route with
                {
                    Leave = leave,
                    Visits = [visit with { Arrive = leave + way }, .. route.Visits.Skip(1)],
                };
        return route;
    }

    private static int Begin(PlanStop stop, int arrive, out int missed)
    {
        if (stop.Pin?.At is { } at)
        {
            var begin = Math.Max(at, arrive);
            missed = begin - at + Outside(stop, begin);
            return begin;
        }

        var fitting = stop
            .Windows.Select(w => new Window(Math.Max(w.From, arrive), w.Until))
            .Where(w => w.Minutes >= stop.Minutes)
            .Select(w => (int?)w.From)
            .Min();
        missed = fitting is null ? Outside(stop, arrive) : 0;
        return fitting ?? arrive;
    }

    // How many minutes of the work lie outside the window that is nearest.
    private static int Outside(PlanStop stop, int begin) =>
        stop
            .Windows.Select(w => Math.Max(0, w.From - begin) + Math.Max(0, begin + stop.Minutes - w.Until))
            .DefaultIfEmpty(Window.Day)
            .Min();
}
