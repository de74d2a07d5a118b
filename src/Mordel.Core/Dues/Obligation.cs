using Mordel.Core.Rigs;

namespace Mordel.Core.Dues;

/// <summary>Why a test is owed.</summary>
public enum DueCause
{
    /// <summary>It was installed and no test has followed.</summary>
    Installed,

    /// <summary>Time has passed since the last test that it passed.</summary>
    Interval,

    /// <summary>The season begins.</summary>
    StartUp,

    /// <summary>The authority's list gave the day.</summary>
    Announced,

    /// <summary>A test came to no result.</summary>
    NotFinished,

    /// <summary>It failed.</summary>
    Failed,

    /// <summary>Its last test is in doubt.</summary>
    Doubted,

    /// <summary>It was repaired.</summary>
    Repaired,

    /// <summary>It was moved.</summary>
    Relocated,

    /// <summary>Water ran back.</summary>
    Incident,

    /// <summary>It was put back into service.</summary>
    PutBack,
}

/// <summary>Whether an assembly protects something.</summary>
public enum Service
{
    /// <summary>It does.</summary>
    InService,

    /// <summary>It is shut off and drained for the time being.</summary>
    LaidUp,

    /// <summary>It was taken out for good.</summary>
    Removed,
}

/// <summary>What of an assembly decides how often it is tested.</summary>
/// <param name="Type">The type.</param>
/// <param name="Hazard"><c>high</c> or <c>low</c>.</param>
/// <param name="Use">The class of use; null where nobody has said.</param>
/// <param name="Season">When a seasonal line is in use; null where it is all year.</param>
/// <param name="InstalledOn">When it was installed.</param>
public sealed record DueFacts(AssemblyType Type, string Hazard, string? Use, Season? Season, DateOnly InstalledOn);

/// <summary>A test that is owed.</summary>
/// <param name="Cause">What asks for it first.</param>
/// <param name="Day">By when.</param>
/// <param name="Until">The last day of the authority's grace; the day itself where there is none.</param>
/// <param name="Why">Why, in a sentence.</param>
/// <param name="Then">What follows when it is missed, in a sentence.</param>
public sealed record Obligation(DueCause Cause, DateOnly Day, DateOnly Until, string Why, string Then)
{
    /// <summary>Whether its day lies behind.</summary>
    public bool IsOverdue(DateOnly today) => Day < today;
}
