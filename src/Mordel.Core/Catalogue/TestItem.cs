using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Catalogue;

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
/// <param name="Needs">The part without which an assembly has no such thing; null where every assembly has it.</param>
public sealed record TestItem(string Id, ItemKind Kind, string Name, PartId? Needs = null)
{
    /// <summary>CV1 differential of an RP before its first test.</summary>
    public static readonly TestItem Apparent = new("apparent", ItemKind.Differential, "Apparent reading", Parts.Relief);

    /// <summary>Supply less zone at the first drip of the relief valve.</summary>
    public static readonly TestItem ReliefOpening = new(
        "relief-opening",
        ItemKind.Differential,
        "Relief opening point",
        Parts.Relief
    );

    /// <summary>What the first check, or a vacuum breaker's only one, holds.</summary>
    public static readonly TestItem Check1 = new("check-1", ItemKind.Differential, "CV1 differential");

    /// <summary>What the second check holds.</summary>
    public static readonly TestItem Check2 = new("check-2", ItemKind.Differential, "CV2 differential", Parts.Cv2);

    /// <summary>Whether the second check lets anything back.</summary>
    public static readonly TestItem Check2BackPressure = new(
        "check-2-back-pressure",
        ItemKind.TightOrLeaks,
        "CV2 against back pressure",
        Parts.Relief
    );

    /// <summary>CV1 differential less relief opening point.</summary>
    public static readonly TestItem ReliefBuffer = new("buffer", ItemKind.Differential, "Buffer", Parts.Relief);

    /// <summary>What holds the air inlet as it opens.</summary>
    public static readonly TestItem AirInletOpening = new(
        "air-inlet-opening",
        ItemKind.Differential,
        "Air inlet opening point",
        Parts.AirInlet
    );

    /// <summary>Whether the air inlet opens all the way.</summary>
    public static readonly TestItem AirInletFullyOpen = new(
        "air-inlet-fully-open",
        ItemKind.TrueOrFalse,
        "Air inlet fully open",
        Parts.AirInlet
    );

    /// <summary>Whether the check holds more than its inlet needs.</summary>
    public static readonly TestItem CheckAboveInlet = new(
        "check-above-inlet",
        ItemKind.TrueOrFalse,
        "Check above inlet",
        Parts.AirInlet
    );

    /// <summary>Whether the inlet shutoff closes tight.</summary>
    public static readonly TestItem Shutoff1 = new("shutoff-1", ItemKind.TightOrLeaks, "SO1");

    /// <summary>Whether the outlet shutoff closes tight.</summary>
    public static readonly TestItem Shutoff2 = new("shutoff-2", ItemKind.TightOrLeaks, "SO2");

    /// <summary>Whether the water stands still.</summary>
    public static readonly TestItem Static = new("static", ItemKind.TrueOrFalse, "Static, no flow", Parts.AirInlet);

    /// <summary>Static supply pressure.</summary>
    public static readonly TestItem StaticLine = new("line-pressure", ItemKind.LinePressure, "Line pressure");

    /// <summary>Clear height under the relief port.</summary>
    public static readonly TestItem ReliefClearance = new(
        "relief-clearance",
        ItemKind.Length,
        "Relief port clearance",
        Parts.Relief
    );

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

    /// <summary>
    /// The part that is bad where this fails; null where it is none, or may be more than one: the buffer is small by a
    /// low check or by a high relief valve.
    /// </summary>
    public PartId? Shows =>
        this == Check1 || this == CheckAboveInlet ? Parts.Cv1
        : this == Check2 || this == Check2BackPressure ? Parts.Cv2
        : this == ReliefOpening ? Parts.Relief
        : this == AirInletOpening || this == AirInletFullyOpen ? Parts.AirInlet
        : this == Shutoff1 ? Parts.So1
        : this == Shutoff2 ? Parts.So2
        : null;

    /// <summary>The item with this name, or null.</summary>
    public static TestItem? Named(string id) => All.FirstOrDefault(i => i.Id == id);

    /// <summary>Whether an assembly of this type has such a thing at all.</summary>
    public bool AppliesTo(AssemblyType type) => Needs is not { } part || type.Facts().Has(part);

    /// <summary>
    /// What is plausible for a reading of this item, in psid (formats: unit-suspect); null where nothing is known.
    /// </summary>
    public (decimal Low, decimal High)? Plausible(AssemblyType type) =>
        this switch
        {
            { Kind: not ItemKind.Differential } => null,
            _ when this == ReliefBuffer => null,
            _ when this == Check1 || this == Apparent => type.Facts().PlausibleFirstCheck,
            _ when this == ReliefOpening => (0.5m, 6m),
            _ => (0.3m, 6m),
        };
}
