using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Rigs;

namespace Mordel.Core.Procedures;

/// <summary>
/// What a procedure is called and what it is about: all that remains of it once its sheet has been written out.
/// </summary>
/// <param name="Id">Stable name: <c>dc-sight-tube</c>.</param>
/// <param name="Version">Counts up whenever a step, a sentence or an order of it changes; from 1.</param>
/// <param name="Title">What people call it.</param>
/// <param name="About">What it does in a sentence or two.</param>
/// <param name="Type">The type it tests.</param>
/// <param name="Bring">What must be at hand beside the kit.</param>
public sealed record ProcedureHead(
    string Id,
    int Version,
    string Title,
    string About,
    AssemblyType Type,
    EquatableArray<string> Bring
)
{
    /// <summary>What is in the bag for every test (handbook chapter 1).</summary>
    public static ImmutableArray<string> Always { get; } =
    [
        "bucket for loose hoses",
        "cord or hook to hang the gauge",
        "cloth",
        "small wrench",
        "flat screwdriver",
        "lever for stiff ball valves",
        "adapters and thread tape",
    ];

    /// <summary>
    /// Whether a needle and water that stand still in every test show that SO1 is tight: the main stands behind it, so
    /// that a leak could not stay hidden. Of SO2 they show nothing, because the site may have come to the same pressure
    /// (handbook chapter 3).
    /// </summary>
    public bool StillWaterShowsSo1 { get; init; }
}

/// <summary>
/// A school's sequence for one type. It is written anew for each setup: kit, body and profile decide about some of its
/// steps.
/// </summary>
/// <param name="Id">Stable name: <c>dc-sight-tube</c>.</param>
/// <param name="Title">What people call it.</param>
/// <param name="About">What it does in a sentence or two.</param>
/// <param name="Type">The type it tests.</param>
/// <param name="Kits">The kits it can be done with.</param>
/// <param name="Bring">What must be at hand beside the kit.</param>
/// <param name="Stages">Writes its own stages, without preliminaries and closing.</param>
public sealed record Procedure(
    string Id,
    string Title,
    string About,
    AssemblyType Type,
    ImmutableArray<KitKind> Kits,
    ImmutableArray<string> Bring,
    Func<Setup, ImmutableArray<Stage>> Stages
)
{
    /// <summary>Counts up whenever a step, a sentence or an order of it changes; from 1.</summary>
    public int Version { get; init; } = 1;

    /// <summary>
    /// The body it is written for where the type has more than one; it is done on the others by the cocks that stand in
    /// the same places.
    /// </summary>
    public string? Body { get; init; }

    /// <summary>
    /// Whether a needle and water that stand still in every test show SO1 tight; see
    /// <see cref="ProcedureHead.StillWaterShowsSo1"/>.
    /// </summary>
    public bool StillWaterShowsSo1 { get; init; }

    /// <summary>Whether its sentences call the kit's controls A (high), B (low) and C (vent).</summary>
    public bool LettersControls { get; init; }

    /// <summary>What it is called and what it is about.</summary>
    public ProcedureHead Head =>
        new(Id, Version, Title, About, Type, Bring) { StillWaterShowsSo1 = StillWaterShowsSo1 };

    /// <summary>Why a kit cannot do this school, kindly; null when it can.</summary>
    public string? Unfit(Kit kit)
    {
        ArgumentNullException.ThrowIfNull(kit);
        if (Kits.Contains(kit.Kind))
            return null;
        var others = string.Join(", ", Kit.All.Where(k => Kits.Contains(k.Kind)).Select(k => k.Name));
        var why =
            kit.Kind != KitKind.TwoValve
                ? "it lacks what the moves need"
                : Type.Facts().NeedsThreeHoses ?? "its moves need control valves, which this kit has not";
        return $"{Title} cannot be done with a {kit.Name} kit: {why}. Bring one of these: {others}.";
    }

    /// <summary>The run sheet for a setup.</summary>
    public RunSheet For(Setup setup) => RunSheet.WrittenBy(this, setup);
}
