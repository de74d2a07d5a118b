using System.Collections.Immutable;

namespace Mordel.Core.Rigs;

/// <summary>The kinds of test kit (handbook chapter 1).</summary>
public enum KitKind
{
    /// <summary>High, low and bypass control; high and low bleed.</summary>
    FiveValve,

    /// <summary>High, low and bypass control; bleeds through the bypass hose.</summary>
    ThreeValve,

    /// <summary>A three-valve kit with a digital gauge; the moves are the same.</summary>
    Digital,

    /// <summary>High and low bleed, two hoses, no control: enough for every one-hose test.</summary>
    TwoValve,
}

/// <summary>
/// A kit's plumbing: each hose goes to its gauge port and to one side of its control; the controls' other sides meet in
/// one manifold; a bleed opens one side to the drain.
/// </summary>
/// <param name="Kind">Which kit.</param>
/// <param name="Name">The name in files: <c>five-valve</c>.</param>
/// <param name="Parts">Its parts.</param>
/// <param name="Chambers">Its spaces.</param>
public sealed record Kit(KitKind Kind, string Name, ImmutableArray<Part> Parts, ImmutableArray<Chamber> Chambers)
{
    /// <summary>Three controls and two bleeds.</summary>
    public static Kit FiveValve { get; } = Build(KitKind.FiveValve, "five-valve", controls: true, bleeds: true);

    /// <summary>Three controls, no bleed.</summary>
    public static Kit ThreeValve { get; } = Build(KitKind.ThreeValve, "three-valve", controls: true, bleeds: false);

    /// <summary>Three controls and a digital gauge.</summary>
    public static Kit Digital { get; } = Build(KitKind.Digital, "digital", controls: true, bleeds: false);

    /// <summary>Two bleeds, no control.</summary>
    public static Kit TwoValve { get; } = Build(KitKind.TwoValve, "two-valve", controls: false, bleeds: true);

    /// <summary>The kits that this version has the plumbing of.</summary>
    public static ImmutableArray<Kit> All { get; } = [FiveValve, ThreeValve, Digital, TwoValve];

    /// <summary>Whether it has a bleed of its own for each side.</summary>
    public bool HasBleeds => Parts.Any(p => p.Kind == PartKind.Bleed);

    /// <summary>The kit with this name in files, or null.</summary>
    public static Kit? Named(string? name) => All.FirstOrDefault(k => k.Name == name);

    private static Kit Build(KitKind kind, string name, bool controls, bool bleeds)
    {
        List<Part> parts = [new(Rigs.Parts.Gauge, PartKind.Gauge, "gauge", Opening.Full)];
        List<Port> high = [new(Rigs.Parts.Gauge, "high")],
            low = [new(Rigs.Parts.Gauge, "low")],
            bypass = [],
            manifold = [];
        void Add(PartId id, PartKind part, string label, Opening normal, List<Port> side, string port)
        {
            parts.Add(new(id, part, label, normal));
            side.Add(new(id, port));
        }

        if (controls)
        {
            Add(Rigs.Parts.HighControl, PartKind.Control, "high control", Opening.Closed, high, "in");
            Add(Rigs.Parts.BypassControl, PartKind.Control, "bypass control", Opening.Closed, bypass, "in");
            Add(Rigs.Parts.LowControl, PartKind.Control, "low control", Opening.Closed, low, "in");
            manifold.AddRange(parts.Where(p => p.Kind == PartKind.Control).Select(p => new Port(p.Id, "out")));
        }

        Add(Rigs.Parts.HighHose, PartKind.Hose, "high hose (H)", Opening.Full, high, "kit");
        if (controls)
            Add(Rigs.Parts.BypassHose, PartKind.Hose, "bypass hose (B)", Opening.Full, bypass, "kit");
        Add(Rigs.Parts.LowHose, PartKind.Hose, "low hose (L)", Opening.Full, low, "kit");
        if (bleeds)
        {
            Add(Rigs.Parts.HighBleed, PartKind.Bleed, "high bleed", Opening.Closed, high, "in");
            Add(Rigs.Parts.LowBleed, PartKind.Bleed, "low bleed", Opening.Closed, low, "in");
        }

        (string Id, List<Port> Ports)[] spaces =
        [
            ("high-side", high),
            ("low-side", low),
            ("bypass-side", bypass),
            ("manifold", manifold),
        ];
        return new(
            kind,
            name,
            [.. parts],
            [.. spaces.Where(s => s.Ports.Count > 0).Select(s => new Chamber(s.Id, [.. s.Ports]))]
        );
    }
}
