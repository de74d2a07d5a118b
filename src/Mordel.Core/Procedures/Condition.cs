using Mordel.Core.Rigs;

namespace Mordel.Core.Procedures;

/// <summary>
/// Something that must be so on the rig before a step makes sense: one of a closed set of cases, so that conditions can
/// be compared, printed and kept. Proved for every procedure by running it on the rig.
/// </summary>
public abstract record Condition
{
    private Condition() { }

    /// <summary>The valve lets nothing pass.</summary>
    public sealed record ValveClosed(PartId Part) : Condition;

    /// <summary>The valve stands open.</summary>
    public sealed record ValveOpen(PartId Part) : Condition;

    /// <summary>A hose, tube or tee is where it belongs.</summary>
    public sealed record Coupled(PartId Item, PartId Outlet) : Condition;

    /// <summary>The item is not connected anywhere.</summary>
    public sealed record Uncoupled(PartId Item) : Condition;

    /// <summary>The gauge is held level with this.</summary>
    public sealed record GaugeHeldAt(PartId Level) : Condition;

    /// <summary>The side has run free of air since its hose was connected.</summary>
    public sealed record SidePurged(Side Side) : Condition;

    /// <summary>The valve lets nothing pass.</summary>
    public static Condition IsClosed(PartId part) => new ValveClosed(part);

    /// <summary>The valve stands open.</summary>
    public static Condition IsOpen(PartId part) => new ValveOpen(part);

    /// <summary>A hose, tube or tee is where it belongs.</summary>
    public static Condition IsOn(PartId item, PartId outlet) => new Coupled(item, outlet);

    /// <summary>The item is not connected anywhere.</summary>
    public static Condition IsOff(PartId item) => new Uncoupled(item);

    /// <summary>The gauge is held level with this.</summary>
    public static Condition IsHeldAt(PartId level) => new GaugeHeldAt(level);

    /// <summary>The side has run free of air since its hose was connected.</summary>
    public static Condition IsPurged(Side side) => new SidePurged(side);

    /// <summary>The condition in words.</summary>
    public string Text =>
        this switch
        {
            ValveClosed c => $"{c.Part} is closed",
            ValveOpen o => $"{o.Part} is open",
            Coupled o => $"{o.Item} is on {o.Outlet}",
            Uncoupled o => $"{o.Item} is off",
            GaugeHeldAt h => $"the gauge is level with {h.Level}",
            SidePurged p => $"the {p.Side} side is purged",
            _ => throw new InvalidOperationException("Unknown condition."),
        };

    /// <summary>Whether it is so.</summary>
    public bool Holds(RigState state, WaterSketch water)
    {
        ArgumentNullException.ThrowIfNull(state);
        ArgumentNullException.ThrowIfNull(water);
        return this switch
        {
            ValveClosed c => !state[c.Part].IsOpen,
            ValveOpen o => state[o.Part].IsOpen,
            Coupled o => state.Connections.TryGetValue(o.Item, out var at) && at == o.Outlet,
            Uncoupled o => !state.Connections.ContainsKey(o.Item),
            GaugeHeldAt h => state.Held?.With == h.Level,
            SidePurged p => water.Purged.Contains(p.Side == Side.High ? "high-side" : "low-side"),
            _ => throw new InvalidOperationException("Unknown condition."),
        };
    }
}
