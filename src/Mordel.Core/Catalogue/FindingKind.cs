using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Catalogue;

/// <summary>Something that a test can find wrong.</summary>
/// <param name="Id">Stable name: <c>cv1-leaks</c>.</param>
/// <param name="Words">In words, as the middle of a sentence: <c>CV1 leaks</c>.</param>
/// <param name="Needs">The part without which an assembly cannot have it; null where every assembly can.</param>
public sealed record FindingKind(string Id, string Words, PartId? Needs = null)
{
    /// <summary>The first check, or a vacuum breaker's only one, lets water back.</summary>
    public static FindingKind Cv1Leaks { get; } = new("cv1-leaks", "CV1 leaks");

    /// <summary>The second check lets water back.</summary>
    public static FindingKind Cv2Leaks { get; } = new("cv2-leaks", "CV2 leaks", Parts.Cv2);

    /// <summary>The relief valve discharges without being told to.</summary>
    public static FindingKind ReliefLeaks { get; } = new("relief-leaks", "the relief leaks by itself", Parts.Relief);

    /// <summary>The relief valve opens below its limit.</summary>
    public static FindingKind ReliefLow { get; } = new("relief-low", "the relief opens too low", Parts.Relief);

    /// <summary>The relief valve does not open at all.</summary>
    public static FindingKind ReliefStuck { get; } = new("relief-stuck", "the relief does not open", Parts.Relief);

    /// <summary>The air inlet does not open at all.</summary>
    public static FindingKind InletStuck { get; } = new("inlet-stuck", "the air inlet does not open", Parts.AirInlet);

    /// <summary>The air inlet opens only partly.</summary>
    public static FindingKind InletNotFull { get; } =
        new("inlet-not-full", "the air inlet does not open fully", Parts.AirInlet);

    /// <summary>The inlet shutoff lets water in when shut.</summary>
    public static FindingKind So1Leaks { get; } = new("so1-leaks", "SO1 leaks");

    /// <summary>The outlet shutoff lets water out to the site when shut.</summary>
    public static FindingKind So2LeaksWithFlow { get; } = new("so2-leaks-with-flow", "SO2 leaks with the flow");

    /// <summary>The outlet shutoff lets water in from the site when shut.</summary>
    public static FindingKind So2LeaksBackPressure { get; } =
        new("so2-leaks-back-pressure", "SO2 leaks, back pressure");

    /// <summary>Water is drawn, and nothing can be read.</summary>
    public static FindingKind NotStatic { get; } =
        new("not-static", "the water does not stand still", Parts.AirInlet) { OfTheAssembly = false };

    /// <summary>A cock lets nothing through.</summary>
    public static FindingKind CockBlocked { get; } = new("cock-blocked", "a cock is blocked");

    /// <summary>High and low hose were on each other's cocks.</summary>
    public static FindingKind HosesSwapped { get; } =
        new("hoses-swapped", "hoses were swapped") { OfTheAssembly = false };

    /// <summary>All of them, in the order in which they are offered.</summary>
    public static ImmutableArray<FindingKind> All { get; } =
    [
        Cv1Leaks,
        Cv2Leaks,
        ReliefLeaks,
        ReliefLow,
        ReliefStuck,
        InletStuck,
        InletNotFull,
        So1Leaks,
        So2LeaksWithFlow,
        So2LeaksBackPressure,
        NotStatic,
        CockBlocked,
        HosesSwapped,
    ];

    /// <summary>
    /// Whether it is something wrong with the assembly; else it is put right at once and says nothing of it.
    /// </summary>
    public bool OfTheAssembly { get; init; } = true;

    /// <summary>Whether it says that SO2 leaks, one way or the other.</summary>
    public bool IsOfSo2 => this == So2LeaksWithFlow || this == So2LeaksBackPressure;

    /// <summary>Whether an assembly with this body can have it.</summary>
    public bool AppliesTo(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        return Needs is not { } part || body.Parts.Any(p => p.Id == part);
    }

    /// <summary>The order by name, for lists that must come out the same whatever was found first.</summary>
    public static IComparer<FindingKind> ById { get; } =
        Comparer<FindingKind>.Create((a, b) => string.CompareOrdinal(a.Id, b.Id));

    /// <summary>The finding with this name, or null.</summary>
    public static FindingKind? Named(string? id) => All.FirstOrDefault(f => f.Id == id);

    /// <inheritdoc/>
    public override string ToString() => Id;
}
