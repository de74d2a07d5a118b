namespace Mordel.Core.Planning;

/// <summary>What a plan costs; less is better. One unit is a tenth of a minute on the road.</summary>
public static class PlanCost
{
    /// <summary>A minute on the road.</summary>
    public const int Driving = 10;

    /// <summary>A minute that is waited or eaten.</summary>
    public const int Waiting = 3;

    /// <summary>A day behind the day on which a test was owed, for each step of its priority.</summary>
    public const int LateDay = 40;

    /// <summary>A stop that no round has, for each step of its priority.</summary>
    public const int OutOfIt = 6_000;

    /// <summary>A stop that goes to another tester or another day than in the plan before.</summary>
    public const int OtherHands = 400;

    /// <summary>A minute by which a stop begins earlier or later than in the plan before.</summary>
    public const int OtherMinute = 4;

    /// <summary>What it costs to make a stop on a day.</summary>
    public static long Late(PlanStop stop, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(stop);
        return stop.Due is { } due && due < day
            ? (long)Math.Min(day.DayNumber - due.DayNumber, 365) * LateDay * stop.Priority
            : 0;
    }

    /// <summary>What it costs to leave a stop out.</summary>
    public static long Out(PlanStop stop)
    {
        ArgumentNullException.ThrowIfNull(stop);
        // More than being late on the last day that there is, whatever the day.
        return (long)OutOfIt * stop.Priority + (stop.Due is null ? 0 : (long)366 * LateDay * stop.Priority);
    }

    /// <summary>What a plan costs, with what it changes of the plan before.</summary>
    public static long Of(PlanProblem problem, Plan plan)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(plan);
        var stops = problem.Stops.ToDictionary(s => s.Id);
        var cost = 0L;
        foreach (var route in plan.Routes)
        {
            var (work, drive) = (0, PlanLeg.Of(problem, route).Sum(l => l.Minutes));
            foreach (var visit in route.Visits)
            {
                work += visit.Work.Minutes;
                cost +=
                    Late(stops[visit.Stop], route.Day)
                    + (problem.Before?.Of(visit.Stop) is { } was ? Changed(was, route, visit) : 0);
            }

            cost += OnTheWay(drive, route.Back - route.Leave - work - drive);
        }

        var planned = plan.Routes.SelectMany(r => r.Visits).Select(v => v.Stop).ToHashSet();
        return cost + problem.Stops.Where(s => !planned.Contains(s.Id)).Sum(Out);
    }

    /// <summary>What minutes on the road and minutes between cost.</summary>
    public static long OnTheWay(int drive, int wait) => ((long)drive * Driving) + ((long)wait * Waiting);

    /// <summary>What it costs that a stop does not go as in the plan before.</summary>
    /// <param name="before">Its round and visit in that plan.</param>
    /// <param name="route">Its round now.</param>
    /// <param name="visit">Its visit now.</param>
    public static long Changed((PlanRoute Route, PlanVisit Visit) before, PlanRoute route, PlanVisit visit)
    {
        ArgumentNullException.ThrowIfNull(route);
        ArgumentNullException.ThrowIfNull(visit);
        return before.Route.Tester != route.Tester || before.Route.Day != route.Day
            ? OtherHands
            : (long)Math.Abs(before.Visit.Begin - visit.Begin) * OtherMinute;
    }
}
