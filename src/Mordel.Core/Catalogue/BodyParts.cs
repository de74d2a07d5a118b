using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Catalogue;

/// <summary>What bodies are described with: parts as they stand in service, put together in flow order.</summary>
internal static class BodyParts
{
    /// <summary>An RP's relief valve.</summary>
    public static Part Relief => new(Parts.Relief, PartKind.Relief, "RV", Opening.Closed);

    /// <summary>A vacuum breaker's air inlet.</summary>
    public static Part Inlet => new(Parts.AirInlet, PartKind.Inlet, "AI", Opening.Closed);

    /// <summary>The screw that opens a body to air by hand.</summary>
    public static Part VentScrew => new(Parts.VentScrew, PartKind.Screw, "vent screw", Opening.Closed);

    /// <summary>A test cock, closed.</summary>
    public static Part Cock(PartId id) => new(id, PartKind.Cock, id.Value.ToUpperInvariant(), Opening.Closed);

    /// <summary>An isolation valve, open.</summary>
    public static Part Shutoff(PartId id) => new(id, PartKind.Shutoff, id.Value.ToUpperInvariant(), Opening.Full);

    /// <summary>A spring check.</summary>
    public static Part Check(PartId id) => new(id, PartKind.Check, id.Value.ToUpperInvariant(), Opening.Closed);

    /// <summary>A body from its parts in flow order: inline parts divide the pipe into chambers.</summary>
    /// <param name="type">The type.</param>
    /// <param name="name">The body's name where the type has more than one; else the type's.</param>
    /// <param name="chamberNames">Names of the chambers, one more than there are inline parts.</param>
    /// <param name="flow">The parts.</param>
    public static AssemblyBody InFlowOrder(AssemblyType type, string name, string[] chamberNames, params Part[] flow)
    {
        var supply = new Part(Parts.Supply, PartKind.Supply, "main", Opening.Full);
        var site = new Part(Parts.Site, PartKind.Site, "site", Opening.Full);
        var chambers = ImmutableArray.CreateBuilder<Chamber>();
        var here = new List<Port> { new(supply.Id, "out") };
        foreach (var part in flow)
        {
            here.Add(new(part.Id, "in"));
            if (part.Kind is not (PartKind.Shutoff or PartKind.Check))
                continue;
            chambers.Add(new(chamberNames[chambers.Count], [.. here]));
            here = [new(part.Id, "out")];
        }

        here.Add(new(site.Id, "in"));
        chambers.Add(new(chamberNames[chambers.Count], [.. here]));
        return new(type, name, [supply, .. flow, site], chambers.ToImmutable());
    }
}
