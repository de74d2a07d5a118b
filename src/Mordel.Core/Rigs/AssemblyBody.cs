using System.Collections.Immutable;

namespace Mordel.Core.Rigs;

/// <summary>The four types of assembly (handbook chapter 1).</summary>
public enum AssemblyType
{
    /// <summary>Reduced pressure zone assembly.</summary>
    RP,

    /// <summary>Double check assembly.</summary>
    DC,

    /// <summary>Pressure vacuum breaker.</summary>
    PVB,

    /// <summary>Spill-resistant vacuum breaker.</summary>
    SVB,
}

/// <summary>Which way the water runs through the assembly as the tester faces it.</summary>
public enum FlowDirection
{
    /// <summary>Inlet at the left.</summary>
    LeftToRight,

    /// <summary>Inlet at the right.</summary>
    RightToLeft,

    /// <summary>Inlet at the bottom.</summary>
    Upward,

    /// <summary>Inlet at the top.</summary>
    Downward,
}

/// <summary>
/// What an assembly is made of, in flow order. Inline parts divide the pipe into chambers; a cock opens into the chamber where it stands.
/// A new type is one more description here.
/// </summary>
/// <param name="Type">The type.</param>
/// <param name="Parts">Supply, the parts in flow order, site.</param>
/// <param name="Chambers">The spaces between the inline parts, in flow order.</param>
public sealed record AssemblyBody(AssemblyType Type, ImmutableArray<Part> Parts, ImmutableArray<Chamber> Chambers)
{
    /// <summary>Double check: TC1 · SO1 · TC2 · CV1 · TC3 · CV2 · TC4 · SO2.</summary>
    public static AssemblyBody DoubleCheck { get; } = InFlowOrder(AssemblyType.DC,
        ["inlet", "before-cv1", "between-checks", "behind-cv2", "outlet"],
        Cock(Rigs.Parts.Tc1), Shutoff(Rigs.Parts.So1), Cock(Rigs.Parts.Tc2), Check(Rigs.Parts.Cv1), Cock(Rigs.Parts.Tc3),
        Check(Rigs.Parts.Cv2), Cock(Rigs.Parts.Tc4), Shutoff(Rigs.Parts.So2));

    private static Part Cock(PartId id) => new(id, PartKind.Cock, id.Value.ToUpperInvariant(), Opening.Closed);

    private static Part Shutoff(PartId id) => new(id, PartKind.Shutoff, id.Value.ToUpperInvariant(), Opening.Full);

    private static Part Check(PartId id) => new(id, PartKind.Check, id.Value.ToUpperInvariant(), Opening.Closed);

    private static AssemblyBody InFlowOrder(AssemblyType type, string[] chamberNames, params Part[] flow)
    {
        var supply = new Part(Rigs.Parts.Supply, PartKind.Supply, "main", Opening.Full);
        var site = new Part(Rigs.Parts.Site, PartKind.Site, "site", Opening.Full);
        var chambers = ImmutableArray.CreateBuilder<Chamber>();
        var here = new List<Port> { new(supply.Id, "out") };
        foreach (var part in flow)
        {
            here.Add(new(part.Id, "in"));
            if (part.Kind == PartKind.Cock) continue;
            chambers.Add(new(chamberNames[chambers.Count], [.. here]));
            here = [new(part.Id, "out")];
        }

        here.Add(new(site.Id, "in"));
        chambers.Add(new(chamberNames[chambers.Count], [.. here]));
        return new(type, [supply, .. flow, site], chambers.ToImmutable());
    }

    /// <summary>The body of a type, or null while this version has no rig for it.</summary>
    public static AssemblyBody? Of(AssemblyType type) => type == AssemblyType.DC ? DoubleCheck : null;
}
