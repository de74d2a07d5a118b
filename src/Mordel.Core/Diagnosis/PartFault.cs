using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Rigs;

namespace Mordel.Core.Diagnosis;

/// <summary>A fault as a diagnosis names it: a part and what is wrong with it, whatever the size.</summary>
/// <param name="Part">The part; <c>kit</c> for the gauge and its hoses, <c>supply</c> for the main.</param>
/// <param name="Kind">A fault's name in files, or one of the two below.</param>
public readonly record struct PartFault(PartId Part, string Kind)
{
    /// <summary>A spring that holds less than its limit asks for.</summary>
    public const string SpringWeak = "spring-weak";

    /// <summary>A main whose pressure swings: nothing of the assembly.</summary>
    public const string Swings = "swings";

    /// <summary>A fault of the catalogue.</summary>
    public PartFault(PartId part, FaultKind kind)
        : this(part, FaultCatalogue.All.First(f => f.Kind == kind).Id) { }

    /// <summary>The kit, as files call it.</summary>
    public static PartId Kit { get; } = new("kit");

    /// <summary>The part of a rig that has it: the kit's faults are set on the gauge.</summary>
    public PartId OfRig => Part == Kit ? Parts.Gauge : Part;

    /// <summary>Whether it is the kit's or the main's, so that the assembly itself may be sound.</summary>
    public bool IsOutside => Part == Kit || Part == Parts.Supply;

    /// <summary>The catalogue's kind; null for a weak spring and a swinging main.</summary>
    public FaultKind? Known
    {
        get
        {
            foreach (var fault in FaultCatalogue.All)
                if (fault.Id == Kind)
                    return fault.Kind;
            return null;
        }
    }

    /// <summary>In words, as the middle of a sentence: <c>CV1 leaks</c>.</summary>
    /// <param name="body">Whose labels are used.</param>
    public string Words(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        var (part, kind) = this;
        if (part == Parts.Supply)
            return "the main's pressure swings";
        var says = FaultCatalogue.All.FirstOrDefault(f => f.Id == kind)?.Says;
        if (part == Kit)
            return says ?? kind;
        var label = body.Parts.FirstOrDefault(p => p.Id == part)?.Label ?? part.Value;
        return kind == SpringWeak ? $"{label}'s spring is weak" : $"{label} {says ?? kind}";
    }

    /// <inheritdoc/>
    public override string ToString() => $"{Part} {Kind}";
}

/// <summary>What may be wrong together; nothing when it is empty.</summary>
/// <param name="Faults">In flow order.</param>
public sealed record FaultSet(EquatableArray<PartFault> Faults)
{
    /// <summary>Nothing is wrong.</summary>
    public static FaultSet None { get; } = new([]);

    /// <summary>Whether it holds a fault.</summary>
    public bool Has(PartId part, string kind)
    {
        foreach (var fault in Faults)
            if (fault.Part == part && fault.Kind == kind)
                return true;
        return false;
    }

    /// <summary>What is wrong with a part; null when nothing is.</summary>
    public PartFault? Of(PartId part)
    {
        foreach (var fault in Faults)
            if (fault.Part == part)
                return fault;
        return null;
    }

    /// <summary>The parts of the assembly that must be put right.</summary>
    public ImmutableArray<PartId> Repair =>
        [.. Faults.Elements.Where(f => !f.IsOutside).Select(f => f.Part).Distinct()];

    /// <summary>In words: <c>CV1 leaks and SO2 leaks</c>.</summary>
    public string Words(AssemblyBody body) =>
        Faults.IsEmpty ? "nothing is wrong" : string.Join(" and ", Faults.Elements.Select(f => f.Words(body)));

    /// <inheritdoc/>
    public override string ToString() => string.Join(" + ", Faults.Elements);
}
