using System.Collections.Immutable;

namespace Mordel.Core.Rigs;

/// <summary>A named part. <paramref name="Label"/> is what is written on drawings and in sentences.</summary>
/// <param name="Id">Stable name.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Label">Short label such as <c>SO1</c> or <c>high bleed</c>.</param>
/// <param name="Normal">How far it stands open when nobody has touched it.</param>
public sealed record Part(PartId Id, PartKind Kind, string Label, Opening Normal)
{
    /// <summary>Its label as it stands in a sentence: "the vent screw", but "TC2".</summary>
    public string Named => Kind == PartKind.Screw ? $"the {Label}" : Label;

    /// <summary>Whether it has a handle that can be turned.</summary>
    public bool Turns =>
        Kind
            is PartKind.Shutoff
                or PartKind.Cock
                or PartKind.Screw
                or PartKind.Control
                or PartKind.Bleed
                or PartKind.BleedOff;

    /// <summary>Whether it has a free end that can be connected to an outlet.</summary>
    public bool Attaches => Kind is PartKind.Hose or PartKind.SightTube or PartKind.BleedOff;

    /// <summary>Whether something can be connected to its outlet.</summary>
    public bool HasOutlet => Kind is PartKind.Cock or PartKind.BleedOff;
}

/// <summary>One port of a part.</summary>
/// <param name="Part">The part.</param>
/// <param name="Name"><c>in</c>, <c>out</c>, <c>end</c>, <c>high</c>, <c>low</c> …</param>
public readonly record struct Port(PartId Part, string Name);

/// <summary>A space that is filled with water or air: all ports that meet in it are at one pressure.</summary>
/// <param name="Id">Stable name such as <c>between-checks</c>.</param>
/// <param name="Ports">The ports that meet.</param>
public sealed record Chamber(string Id, ImmutableArray<Port> Ports);

/// <summary>
/// An assembly with a kit and its fittings: parts, and chambers in which their ports meet. Instruction, drawing,
/// simulation and marking read this one model; nothing else knows an assembly type by name. Connections that people
/// make (hoses, tube, tee) are in <see cref="RigState"/>.
/// </summary>
public sealed class Rig
{
    private readonly ImmutableDictionary<PartId, Part> parts;
    private readonly ImmutableDictionary<Port, Chamber> byPort;

    /// <summary>Builds the rig of one assembly body and one kit.</summary>
    public Rig(AssemblyBody body, Kit kit)
    {
        ArgumentNullException.ThrowIfNull(body);
        ArgumentNullException.ThrowIfNull(kit);
        Body = body;
        Kit = kit;
        Parts = [.. body.Parts, .. kit.Parts, .. Fittings];
        Chambers = [.. body.Chambers, .. kit.Chambers];
        parts = Parts.ToImmutableDictionary(p => p.Id);
        byPort = Chambers.SelectMany(c => c.Ports.Select(p => (p, c))).ToImmutableDictionary(x => x.p, x => x.c);
    }

    private static ImmutableArray<Part> Fittings { get; } =
    [
        new(Rigs.Parts.SightTube, PartKind.SightTube, "sight tube", Opening.Full),
        new(Rigs.Parts.BleedOff, PartKind.BleedOff, "bleed-off tee", Opening.Closed),
    ];

    /// <summary>Its spaces and parts, numbered.</summary>
    internal Plumbing Plumbing => field ??= new(this);

    /// <summary>The assembly.</summary>
    public AssemblyBody Body { get; }

    /// <summary>The kit.</summary>
    public Kit Kit { get; }

    /// <summary>All parts: the assembly's in flow order, then the kit's, then the loose fittings.</summary>
    public ImmutableArray<Part> Parts { get; }

    /// <summary>All fixed chambers.</summary>
    public ImmutableArray<Chamber> Chambers { get; }

    /// <summary>The part with this name.</summary>
    /// <exception cref="KeyNotFoundException">The rig has no such part.</exception>
    public Part this[PartId id] =>
        parts.TryGetValue(id, out var part) ? part : throw new KeyNotFoundException($"This rig has no part {id}.");

    /// <summary>Whether the rig has this part.</summary>
    public bool Has(PartId id) => parts.ContainsKey(id);

    /// <summary>The chamber a port opens into; null for a free end or an open outlet.</summary>
    public Chamber? At(Port port) => byPort.GetValueOrDefault(port);

    /// <summary>A state in which the assembly is in service and the kit hangs beside it, closed.</summary>
    public RigState InService() =>
        new(
            this,
            Parts.Where(p => p.Turns).ToImmutableDictionary(p => p.Id, p => p.Normal),
            ImmutableDictionary<PartId, PartId>.Empty,
            null
        );
}
