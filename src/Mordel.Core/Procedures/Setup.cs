using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Units;

namespace Mordel.Core.Procedures;

/// <summary>What a run sheet is written for: one assembly with one kit, under one school's rules.</summary>
/// <param name="Rig">Assembly and kit.</param>
/// <param name="Rules">Limits, holds and the items asked for.</param>
public sealed record Setup(Rig Rig, SchoolRules Rules)
{
    /// <summary>
    /// Whether it is a visit at which a seasonal line is put on or off: the line is walked before it is charged, and it
    /// is agreed how it is left.
    /// </summary>
    public bool Seasonal { get; init; }

    /// <summary>The assembly.</summary>
    public AssemblyBody Body => Rig.Body;

    /// <summary>What is written on a part: <c>TC3</c>.</summary>
    public string this[PartId part] => Rig[part].Label;

    /// <summary>Whether the profile wants an item's step on the sheet.</summary>
    public bool Asks(TestItem item) => Rules.Asks(item);

    /// <summary>Whether the profile does a step in a local way.</summary>
    public bool Does(StepVariant variant) => Rules.Variants.Contains(variant);

    /// <summary>A figure of the school's in the unit that the profile reads in.</summary>
    public string Figure(decimal psid, decimal kpa) =>
        Rules.Unit == DifferentialUnit.Kpa ? $"{kpa} kPa" : $"{psid} psid";

    /// <summary>Steps that stand on the sheet only when something is so.</summary>
    public static ImmutableArray<Step> When(bool so, params Step[] steps) => so ? [.. steps] : [];
}
