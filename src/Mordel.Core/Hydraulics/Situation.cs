using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Hydraulics;

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
