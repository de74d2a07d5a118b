using Mordel.Core.Collections;

namespace Mordel.Core.Planning;

/// <summary>A place that a round can lead to.</summary>
/// <param name="Id">Its id in the problem.</param>
/// <param name="Name">Its name, for a person.</param>
/// <param name="East">Metres east of the zero stone.</param>
/// <param name="North">Metres north of it.</param>
public sealed record PlanPlace(string Id, string Name, int East, int North);

/// <summary>Something that somebody has settled beforehand.</summary>
/// <param name="Tester">Who goes.</param>
/// <param name="Day">When.</param>
/// <param name="At">The minute of the day at which the work begins; null where only day and tester are settled.</param>
public sealed record PlanPin(string Tester, DateOnly Day, int? At);

/// <summary>A test that is to be made.</summary>
/// <param name="Id">Its id in the problem.</param>
/// <param name="Name">What it is, for a person: <c>RP F-2031, Weir Street mill</c>.</param>
/// <param name="Place">The number of its place among the places of the problem.</param>
/// <param name="Minutes">How long the work takes, 1 to 720.</param>
/// <param name="Authority">The authority whose certificate it takes.</param>
/// <param name="Type">The type of the assembly: <c>RP</c>.</param>
public sealed record PlanStop(string Id, string Name, int Place, int Minutes, string Authority, string Type)
{
    /// <summary>The least and the most that <see cref="Priority"/> may be.</summary>
    public const int LeastPriority = 1,
        MostPriority = 5;

    /// <summary>When the water may be off; the work lies wholly within one of them.</summary>
    public EquatableArray<Window> Windows { get; init; } = [new(0, Window.Day)];

    /// <summary>The days on which it may be; empty where any will do.</summary>
    public EquatableArray<DateOnly> Days { get; init; }

    /// <summary>The kinds of kit of which one is wanted; empty where any will do.</summary>
    public EquatableArray<string> Kits { get; init; }

    /// <summary>What else whoever goes must be able to: <c>confined space</c>.</summary>
    public EquatableArray<string> Skills { get; init; }

    /// <summary>The day by which it is owed; null where it is not.</summary>
    public DateOnly? Due { get; init; }

    /// <summary>How much it matters, 1 to 5.</summary>
    public int Priority { get; init; } = 2;

    /// <summary>What it has in common with stops that are made in one visit; null where it stands alone.</summary>
    public string? Together { get; init; }

    /// <summary>What somebody has settled beforehand.</summary>
    public PlanPin? Pin { get; init; }
}

/// <summary>What a tester's certificate covers.</summary>
/// <param name="Authority">The authority that takes it; null where all do.</param>
/// <param name="Types">The types.</param>
/// <param name="From">Its first day.</param>
/// <param name="Until">Its last day.</param>
public sealed record PlanCertificate(string? Authority, EquatableArray<string> Types, DateOnly From, DateOnly Until);

/// <summary>A kit that a tester has.</summary>
/// <param name="Kind">Its kind: <c>five-valve</c>.</param>
/// <param name="Serial">Its number.</param>
/// <param name="CalibrationDue">The last day of its calibration.</param>
public sealed record PlanKit(string Kind, string Serial, DateOnly CalibrationDue)
{
    /// <summary>The days on which the tester has it; empty for all.</summary>
    public EquatableArray<DateOnly> Days { get; init; } = [];

    /// <summary>Whether the tester has it on a day.</summary>
    public bool IsThere(DateOnly day) => Days.IsEmpty || Days.Contains(day);
}

/// <summary>A tester.</summary>
/// <param name="Id">The id in the problem.</param>
/// <param name="Name">The name.</param>
public sealed record PlanTester(string Id, string Name)
{
    /// <summary>The certificates.</summary>
    public EquatableArray<PlanCertificate> Certificates { get; init; }

    /// <summary>The kits.</summary>
    public EquatableArray<PlanKit> Kits { get; init; }

    /// <summary>What he or she is able to beyond testing.</summary>
    public EquatableArray<string> Skills { get; init; }
}

/// <summary>A meal that nothing else may lie on.</summary>
/// <param name="Within">When it may be.</param>
/// <param name="Minutes">How long it is.</param>
public sealed record PlanLunch(Window Within, int Minutes);

/// <summary>A tester's working day.</summary>
/// <param name="Tester">Whose.</param>
/// <param name="Day">Which.</param>
/// <param name="Hours">From when until when he or she is on the road.</param>
/// <param name="Start">The number of the place where it begins.</param>
/// <param name="End">The number of the place where it ends.</param>
/// <param name="Lunch">The meal; null where there is none.</param>
public sealed record PlanShift(string Tester, DateOnly Day, Window Hours, int Start, int End, PlanLunch? Lunch = null);

/// <summary>Rounds that are to be planned: what, who, when, and how long the ways are.</summary>
/// <param name="Places">The places.</param>
/// <param name="Stops">What is to be tested.</param>
/// <param name="Testers">Who may go.</param>
/// <param name="Shifts">Their working days.</param>
/// <param name="Travel">The ways between the places.</param>
public sealed record PlanProblem(
    EquatableArray<PlanPlace> Places,
    EquatableArray<PlanStop> Stops,
    EquatableArray<PlanTester> Testers,
    EquatableArray<PlanShift> Shifts,
    TravelTable Travel
)
{
    /// <summary>What decides where otherwise nothing does; the same seed gives the same plan.</summary>
    public int Seed { get; init; } = 1;

    /// <summary>The plan that stands, which is to be changed as little as possible; null where there is none.</summary>
    public Plan? Before { get; init; }

    /// <summary>A stop by its id; null where there is none.</summary>
    public PlanStop? Stop(string id) => Stops.FirstOrDefault(s => s.Id == id);

    /// <summary>A tester by the id.</summary>
    public PlanTester? Tester(string id) => Testers.FirstOrDefault(t => t.Id == id);

    /// <summary>A tester's working day; null where there is none.</summary>
    public PlanShift? Shift(string tester, DateOnly day) =>
        Shifts.FirstOrDefault(s => s.Tester == tester && s.Day == day);
}
