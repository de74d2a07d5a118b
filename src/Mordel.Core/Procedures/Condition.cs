using Mordel.Core.Rigs;

namespace Mordel.Core.Procedures;

/// <summary>Something that must be so on the rig before a step makes sense. Proved for every procedure by running it on the rig.</summary>
/// <param name="Text">In words.</param>
/// <param name="Holds">The check.</param>
public sealed record Condition(string Text, Func<RigState, WaterSketch, bool> Holds)
{
    /// <summary>The valve lets nothing pass.</summary>
    public static Condition IsClosed(PartId part) => new($"{part} is closed", (s, _) => !s[part].IsOpen);

    /// <summary>The valve stands open.</summary>
    public static Condition IsOpen(PartId part) => new($"{part} is open", (s, _) => s[part].IsOpen);

    /// <summary>A hose, tube or tee is where it belongs.</summary>
    public static Condition IsOn(PartId item, PartId outlet) =>
        new($"{item} is on {outlet}", (s, _) => s.Connections.TryGetValue(item, out var at) && at == outlet);

    /// <summary>The item is not connected anywhere.</summary>
    public static Condition IsOff(PartId item) => new($"{item} is off", (s, _) => !s.Connections.ContainsKey(item));

    /// <summary>The gauge is held level with this.</summary>
    public static Condition IsHeldAt(PartId level) => new($"the gauge is level with {level}", (s, _) => s.Held?.With == level);

    /// <summary>The side has run free of air since its hose was connected.</summary>
    public static Condition IsPurged(Side side) =>
        new($"the {side} side is purged", (_, w) => w.Purged.Contains(side == Side.High ? "high-side" : "low-side"));
}
