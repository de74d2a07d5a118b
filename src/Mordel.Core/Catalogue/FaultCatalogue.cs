using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Catalogue;

/// <summary>What can be wrong with a kind of part: its name in files, what people say, whether it has a size.</summary>
/// <param name="Kind">The defect.</param>
/// <param name="Id">Stable name in files: <c>stuck-closed</c>.</param>
/// <param name="On">The kinds of part that can have it.</param>
/// <param name="Says">What follows the part's label: <c>does not open</c>; for the kit's own a whole phrase.</param>
public sealed record FaultDefinition(FaultKind Kind, string Id, ImmutableArray<PartKind> On, string Says)
{
    /// <summary>Whether it is a leak, which has a size.</summary>
    public bool HasSize => Kind == FaultKind.Leaks;
}

/// <summary>A fault that a rig can be set with.</summary>
/// <param name="Value">Stable name: <c>cv1 leaks</c>, <c>kit zero-offset 0.4</c>.</param>
/// <param name="Words">In words: <c>CV1 leaks</c>.</param>
/// <param name="Part">The part's name in files; <c>kit</c> for the kit's own.</param>
/// <param name="Kind">What is wrong.</param>
/// <param name="By">psid for a zero offset, inches for the gauge's height; null for the others.</param>
public sealed record FaultChoice(string Value, string Words, string Part, FaultDefinition Kind, decimal? By = null);

/// <summary>
/// The faults there are, once: files, forms and the water read this table (names: <c>docs/formats</c>).
/// </summary>
public static class FaultCatalogue
{
    /// <summary>All of them.</summary>
    public static ImmutableArray<FaultDefinition> All { get; } =
    [
        new(FaultKind.Leaks, "leaks", [PartKind.Shutoff, PartKind.Check, PartKind.Relief, PartKind.Inlet], "leaks"),
        new(FaultKind.StuckClosed, "stuck-closed", [PartKind.Relief, PartKind.Inlet], "does not open"),
        new(FaultKind.Hangs, "hangs", [PartKind.Inlet], "opens only partly"),
        new(FaultKind.Blocked, "blocked", [PartKind.Cock], "is blocked"),
        new(FaultKind.HosesSwapped, "hoses-swapped", [PartKind.Gauge], "hoses swapped"),
        new(FaultKind.AirInHoses, "air-in-hoses", [PartKind.Gauge], "air left in the hoses"),
        new(FaultKind.ZeroOffset, "zero-offset", [PartKind.Gauge], "needle off zero"),
        new(FaultKind.GaugeHeight, "gauge-height", [PartKind.Gauge], "gauge not at its level"),
    ];

    /// <summary>The fault with this name on a kind of part; null where there is none.</summary>
    public static FaultDefinition? Named(string id, PartKind on) =>
        All.FirstOrDefault(f => f.Id == id && f.On.Contains(on));

    /// <summary>What a rig of a body can be set with: its parts in flow order by kind, then the kit's.</summary>
    public static IEnumerable<FaultChoice> Choices(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        PartKind[] inOrder = [PartKind.Shutoff, PartKind.Check, PartKind.Relief, PartKind.Inlet];
        var inside = inOrder.SelectMany(kind => body.Parts.Where(p => p.Kind == kind));
        // A cock that no test draws from says nothing by being blocked.
        var cocks = body.Cocks.Select(cock => body.Parts.First(p => p.Id == cock));
        foreach (var part in inside.Concat(cocks))
        foreach (var fault in All.Where(f => f.On.Contains(part.Kind)))
            yield return Of(part, fault);
        foreach (var fault in All.Where(f => f.On.Contains(PartKind.Gauge)))
        {
            if (fault.Kind == FaultKind.ZeroOffset)
                yield return Kit(fault, 0.4m, "needle 0.4 off zero");
            else if (fault.Kind == FaultKind.GaugeHeight)
            {
                yield return Kit(fault, -12, "gauge a foot low");
                yield return Kit(fault, 3, "gauge 3 in high");
            }
            else
                yield return Kit(fault, null, fault.Says);
        }
    }

    /// <summary>The springs that a body has, by their names in files.</summary>
    public static IEnumerable<string> Springs(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        return body
            .Parts.Where(p => p.Kind is PartKind.Check or PartKind.Relief or PartKind.Inlet)
            .Select(p => p.Id.Value);
    }

    private static FaultChoice Of(Part part, FaultDefinition fault) =>
        new($"{part.Id} {fault.Id}", $"{part.Label} {fault.Says}", part.Id.Value, fault);

    private static FaultChoice Kit(FaultDefinition fault, decimal? by, string words) =>
        new(FormattableString.Invariant($"kit {fault.Id}{(by is { } b ? $" {b}" : "")}"), words, "kit", fault, by);
}
