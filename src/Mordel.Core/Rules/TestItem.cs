using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Rules;

/// <summary>What kind of answer an item takes.</summary>
public enum ItemKind
{
    /// <summary>A differential in psid or kPa.</summary>
    Differential,

    /// <summary><c>tight</c> or <c>leaks</c>.</summary>
    TightOrLeaks,

    /// <summary>True or false.</summary>
    TrueOrFalse,

    /// <summary>A static pressure in psi or kPa.</summary>
    LinePressure,

    /// <summary>A clearance in mm or in.</summary>
    Length,
}

/// <summary>One thing that a test establishes.</summary>
/// <param name="Id">Stable name: <c>check-1</c>.</param>
/// <param name="Kind">What answer it takes.</param>
/// <param name="Name">What people call it.</param>
public sealed record TestItem(string Id, ItemKind Kind, string Name)
{
    public static readonly TestItem Apparent = new("apparent", ItemKind.Differential, "Apparent reading");
    public static readonly TestItem ReliefOpening = new(
        "relief-opening",
        ItemKind.Differential,
        "Relief opening point"
    );
    public static readonly TestItem Check1 = new("check-1", ItemKind.Differential, "CV1 differential");
    public static readonly TestItem Check2 = new("check-2", ItemKind.Differential, "CV2 differential");
    public static readonly TestItem Check2BackPressure = new(
        "check-2-back-pressure",
        ItemKind.TightOrLeaks,
        "CV2 against back pressure"
    );
    public static readonly TestItem ReliefBuffer = new("buffer", ItemKind.Differential, "Buffer");
    public static readonly TestItem AirInletOpening = new(
        "air-inlet-opening",
        ItemKind.Differential,
        "Air inlet opening point"
    );
    public static readonly TestItem AirInletFullyOpen = new(
        "air-inlet-fully-open",
        ItemKind.TrueOrFalse,
        "Air inlet fully open"
    );
    public static readonly TestItem CheckAboveInlet = new(
        "check-above-inlet",
        ItemKind.TrueOrFalse,
        "Check above inlet"
    );
    public static readonly TestItem Shutoff1 = new("shutoff-1", ItemKind.TightOrLeaks, "SO1");
    public static readonly TestItem Shutoff2 = new("shutoff-2", ItemKind.TightOrLeaks, "SO2");
    public static readonly TestItem Static = new("static", ItemKind.TrueOrFalse, "Static, no flow");
    public static readonly TestItem StaticLine = new("line-pressure", ItemKind.LinePressure, "Line pressure");
    public static readonly TestItem ReliefClearance = new("relief-clearance", ItemKind.Length, "Relief port clearance");

    /// <summary>All items, in the order in which reports list them.</summary>
    public static ImmutableArray<TestItem> All { get; } =
    [
        Static,
        StaticLine,
        Apparent,
        ReliefOpening,
        Check1,
        ReliefBuffer,
        Check2BackPressure,
        Check2,
        AirInletOpening,
        AirInletFullyOpen,
        CheckAboveInlet,
        Shutoff1,
        Shutoff2,
        ReliefClearance,
    ];

    /// <summary>
    /// Whether a test may come to its end without being able to say tight or leaking: a shutoff with nowhere to leak
    /// to.
    /// </summary>
    public bool MayBeNotShown => this == Shutoff1 || this == Shutoff2;

    /// <summary>The item with this name, or null.</summary>
    public static TestItem? Named(string id) => All.FirstOrDefault(i => i.Id == id);

    /// <summary>Whether an assembly of this type has such a thing at all.</summary>
    public bool AppliesTo(AssemblyType type) =>
        this switch
        {
            _ when this == Apparent
                    || this == ReliefOpening
                    || this == ReliefBuffer
                    || this == Check2BackPressure
                    || this == ReliefClearance => type == AssemblyType.RP,
            _ when this == Check2 => type is AssemblyType.RP or AssemblyType.DC,
            _ when this == AirInletOpening || this == AirInletFullyOpen || this == CheckAboveInlet || this == Static =>
                type is AssemblyType.PVB or AssemblyType.SVB,
            _ => true,
        };

    /// <summary>
    /// What is plausible for a reading of this item, in psid (formats: unit-suspect); null where nothing is known.
    /// </summary>
    public (decimal Low, decimal High)? Plausible(AssemblyType type) =>
        this switch
        {
            { Kind: not ItemKind.Differential } => null,
            _ when this == ReliefBuffer => null,
            _ when type == AssemblyType.RP && (this == Check1 || this == Apparent) => (3m, 13m),
            _ when this == ReliefOpening => (0.5m, 6m),
            _ => (0.3m, 6m),
        };
}
