using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Hydraulics;

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

/// <summary>
/// The springs, psid: the differential at which a check opens, at which a relief valve or an air inlet opens.
/// </summary>
/// <param name="Cv1">First check, or a vacuum breaker's only one.</param>
/// <param name="Cv2">Second check.</param>
/// <param name="Relief">Relief valve.</param>
/// <param name="Inlet">Air inlet.</param>
public readonly record struct Springs(double Cv1, double Cv2, double Relief, double Inlet)
{
    /// <summary>Healthy springs of a type, in the middle of what handbook chapter 1 gives.</summary>
    public static Springs Healthy(AssemblyType type) =>
        type switch
        {
            AssemblyType.RP => new(7.6, 1.8, 2.6, 0),
            AssemblyType.DC => new(2.1, 1.8, 0, 0),
            AssemblyType.PVB => new(1.6, 0, 0, 1.7),
            _ => new(3.2, 0, 0, 1.8),
        };
}

/// <summary>What stands behind SO2.</summary>
public enum SitePlumbing
{
    /// <summary>Closed pipes with their water.</summary>
    Closed,

    /// <summary>An outlet that stands open.</summary>
    OpenOutlet,

    /// <summary>A pressure of its own.</summary>
    OwnPressure,
}

/// <summary>The pipes behind the assembly.</summary>
/// <param name="Plumbing">What stands there.</param>
/// <param name="OutletHeight">Height of the open outlet, inches above the body.</param>
/// <param name="Pressure">Its own pressure, psi.</param>
public readonly record struct SitePipes(SitePlumbing Plumbing, double OutletHeight = 0, double Pressure = 0);

/// <summary>The main: static pressure, and swings on request.</summary>
/// <param name="Psi">Static pressure, psi, 0 to 1,000.</param>
/// <param name="Swing">How far it swings either side, psi.</param>
/// <param name="Period">Seconds from crest to crest.</param>
public readonly record struct MainSupply(double Psi, double Swing = 0, double Period = 20);

/// <summary>Everything that is true of a rig and that nobody sees: springs, pressures, what is wrong.</summary>
public sealed record Situation
{
    /// <summary>Assembly and kit.</summary>
    public required Rig Rig { get; init; }

    /// <summary>The springs.</summary>
    public required Springs Springs { get; init; }

    /// <summary>The main.</summary>
    public MainSupply Supply { get; init; } = new(60);

    /// <summary>The site.</summary>
    public SitePipes SiteBehind { get; init; }

    /// <summary>What is wrong.</summary>
    public ImmutableArray<Fault> Faults { get; init; } = [];

    /// <summary>
    /// How valves stand when the tester comes, where it is not as in service; they have stood so for a while.
    /// </summary>
    public ImmutableArray<(PartId Part, ValvePosition Position)> FoundPositions { get; init; } = [];

    /// <summary>Sizes of valves and spaces.</summary>
    public Sizes Sizes { get; init; } = Sizes.Usual;

    /// <summary>Decides what a hand or a main does by chance: where a swing begins.</summary>
    public int Seed { get; init; } = 1;

    /// <summary>The gauge's full scale, psid.</summary>
    public double FullScale { get; init; } = 15;

    /// <summary>A defect of a part, or null.</summary>
    public Fault? Of(PartId part, FaultKind kind)
    {
        foreach (var fault in Faults)
            if (fault.Kind == kind && fault.Part == part)
                return fault;
        return null;
    }

    /// <summary>The conductance of a part's leak, in³/s/√psi; 0 when it is tight.</summary>
    public double Leak(PartId part) =>
        Of(part, FaultKind.Leaks)?.Size switch
        {
            null => 0,
            LeakSize.Weep => Sizes.Weep,
            LeakSize.Small => Sizes.Small,
            LeakSize.Large => Sizes.Large,
            _ => Sizes.Gush,
        };

    /// <summary>Whether a defect of the kit is there, and by how much.</summary>
    public double? Kit(FaultKind kind) => Of(Parts.Gauge, kind)?.By;
}
