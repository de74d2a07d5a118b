using Mordel.Core.Collections;

namespace Mordel.Core.Planning;

/// <summary>A stop in a round; all times are minutes of the day.</summary>
/// <param name="Stop">The stop's id.</param>
/// <param name="Arrive">When the tester is there.</param>
/// <param name="Begin">When the work begins.</param>
/// <param name="End">When it ends.</param>
public sealed record PlanVisit(string Stop, int Arrive, int Begin, int End)
{
    /// <summary>The work.</summary>
    public Window Work => new(Begin, End);
}

/// <summary>A tester's round of a day; all times are minutes of the day.</summary>
/// <param name="Tester">Who goes.</param>
/// <param name="Day">When.</param>
/// <param name="Leave">When it begins.</param>
/// <param name="Visits">The stops in their order.</param>
/// <param name="Lunch">The meal; null where there is none.</param>
/// <param name="Back">When it ends.</param>
public sealed record PlanRoute(
    string Tester,
    DateOnly Day,
    int Leave,
    EquatableArray<PlanVisit> Visits,
    Window? Lunch,
    int Back
);

/// <summary>What keeps a stop out of a plan.</summary>
public enum PlanLimit
{
    /// <summary>Nobody holds a certificate for type and authority on that day.</summary>
    Certificate,

    /// <summary>Nobody has a kit of the kind.</summary>
    Kit,

    /// <summary>The kit is out of calibration on that day.</summary>
    Calibration,

    /// <summary>Nobody is able to what it takes beside a test.</summary>
    Skill,

    /// <summary>Nobody works on the days that it may be.</summary>
    Day,

    /// <summary>The time in which the water may be off.</summary>
    Window,

    /// <summary>The hours that the testers work.</summary>
    Hours,

    /// <summary>There is no way there.</summary>
    Way,

    /// <summary>It is made in one visit with others, and not all of that fits.</summary>
    Together,

    /// <summary>It was settled beforehand, and that cannot be kept.</summary>
    Pin,

    /// <summary>It could be done, and others are in its place.</summary>
    Room,
}

/// <summary>A stop that no round has, and why.</summary>
/// <param name="Stop">The stop's id.</param>
/// <param name="Limits">What keeps it out.</param>
/// <param name="Says">That in a sentence.</param>
/// <param name="WouldHelp">What would bring it in, the smallest change first; each a sentence.</param>
public sealed record LeftOut(
    string Stop,
    EquatableArray<PlanLimit> Limits,
    string Says,
    EquatableArray<string> WouldHelp
);

/// <summary>Rounds for some days.</summary>
/// <param name="Routes">The rounds that have stops, by day and tester.</param>
/// <param name="LeftOut">The stops that none has.</param>
public sealed record Plan(EquatableArray<PlanRoute> Routes, EquatableArray<LeftOut> LeftOut)
{
    /// <summary>No round.</summary>
    public static Plan Nothing { get; } = new([], []);

    /// <summary>The round and the visit of a stop; null where none has it.</summary>
    public (PlanRoute Route, PlanVisit Visit)? Of(string stop) =>
        Routes
            .SelectMany(r => r.Visits.Select(v => (Route: r, Visit: v)))
            .Where(x => x.Visit.Stop == stop)
            .Select(x => ((PlanRoute, PlanVisit)?)x)
            .FirstOrDefault();
}
