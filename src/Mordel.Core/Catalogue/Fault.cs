using Mordel.Core.Rigs;

namespace Mordel.Core.Catalogue;

/// <summary>What can be wrong with a part (the list of <c>formats</c>).</summary>
public enum FaultKind
{
    /// <summary>It lets water pass when shut.</summary>
    Leaks,

    /// <summary>It does not open.</summary>
    StuckClosed,

    /// <summary>It opens only partly.</summary>
    Hangs,

    /// <summary>Nothing passes, however it is turned.</summary>
    Blocked,

    /// <summary>The high and the low hose are on each other's cocks.</summary>
    HosesSwapped,

    /// <summary>The hoses were not run free of air.</summary>
    AirInHoses,

    /// <summary>The needle does not rest at zero.</summary>
    ZeroOffset,

    /// <summary>The gauge is not held at its level.</summary>
    GaugeHeight,
}

/// <summary>How much passes a leak.</summary>
public enum LeakSize
{
    /// <summary>A few drops a second at most.</summary>
    Weep,

    /// <summary>A trickle.</summary>
    Small,

    /// <summary>It runs.</summary>
    Large,

    /// <summary>It pours.</summary>
    Gush,
}

/// <summary>Something that is wrong with the rig.</summary>
/// <param name="Part">The part; for the kit's faults the gauge.</param>
/// <param name="Kind">What is wrong.</param>
/// <param name="Size">How much a leak lets pass.</param>
/// <param name="By">psid for a zero offset, inches for the gauge's height (negative low).</param>
public sealed record Fault(PartId Part, FaultKind Kind, LeakSize Size = LeakSize.Small, double By = 0);
