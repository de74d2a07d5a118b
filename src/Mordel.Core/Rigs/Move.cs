using System.Collections.Immutable;

namespace Mordel.Core.Rigs;

/// <summary>What the gauge's centre is held level with.</summary>
/// <param name="With">The part that gives the level: the sight tube's water, or a cock's centre.</param>
public sealed record GaugeLevel(PartId With);

/// <summary>One thing a hand does to the rig.</summary>
public abstract record Move
{
    private Move() { }

    /// <summary>Turns a valve to an opening.</summary>
    /// <param name="Part">The valve.</param>
    /// <param name="To">Where it stands afterwards.</param>
    /// <param name="Slowly">Whether it must be turned slowly.</param>
    public sealed record Turn(PartId Part, Opening To, bool Slowly = false) : Move;

    /// <summary>Connects a hose's free end, the tube or the tee to an outlet.</summary>
    /// <param name="Item">What is connected.</param>
    /// <param name="To">The cock or tee that takes it.</param>
    public sealed record Connect(PartId Item, PartId To) : Move;

    /// <summary>Takes a hose's end, the tube or the tee off.</summary>
    /// <param name="Item">What is taken off.</param>
    /// <param name="IfThere">Whether it may be off already.</param>
    public sealed record TakeOff(PartId Item, bool IfThere = false) : Move;

    /// <summary>Holds the gauge's centre level with something.</summary>
    /// <param name="Level">The level.</param>
    public sealed record Hold(GaugeLevel Level) : Move;

    /// <summary>Holds the gauge's centre at a height, wherever that is.</summary>
    /// <param name="Inches">Above the body's centre line; negative below.</param>
    public sealed record Lift(decimal Inches) : Move;

    /// <summary>The part whose handle, end or level the move is about.</summary>
    public PartId About =>
        this switch
        {
            Turn t => t.Part,
            Connect c => c.Item,
            TakeOff o => o.Item,
            Hold or Lift => Parts.Gauge,
            _ => throw new InvalidOperationException("Unknown move."),
        };
}

/// <summary>The rig after a move, or why the move cannot be made.</summary>
/// <param name="State">The new state; the old one when refused.</param>
/// <param name="Refusal">Why not, in the field's words; null when it was made.</param>
public readonly record struct Moved(RigState State, string? Refusal);

/// <summary>
/// How far each valve is open, what is connected, where the gauge is held. Immutable; moves give a new one.
/// </summary>
/// <param name="Rig">The rig.</param>
/// <param name="Openings">Every valve's opening.</param>
/// <param name="Connections">From a hose, tube or tee to the outlet that carries it.</param>
/// <param name="Held">What the gauge is held level with; null while it hangs.</param>
public sealed record RigState(
    Rig Rig,
    ImmutableDictionary<PartId, Opening> Openings,
    ImmutableDictionary<PartId, PartId> Connections,
    GaugeLevel? Held
)
{
    /// <summary>
    /// Height at which the gauge is held free of any level, inches above the body's centre line; null while it is level
    /// with something or hangs.
    /// </summary>
    public decimal? Lifted { get; init; }

    /// <summary>How far a valve stands open.</summary>
    public Opening this[PartId part] => Openings[part];

    /// <summary>What hangs on an outlet; null when it is free.</summary>
    public PartId? On(PartId outlet) =>
        Connections.FirstOrDefault(c => c.Value == outlet) is { Key.Value: not null } found ? found.Key : null;

    /// <summary>
    /// The cock that carries a hose or fitting, through a tee where one is between; null while it is off.
    /// </summary>
    public PartId? CockOf(PartId item) =>
        !Connections.TryGetValue(item, out var on) ? null
        : Rig[on].Kind == PartKind.BleedOff ? CockOf(on)
        : on;

    /// <summary>The chamber that a hose or fitting feels through an open cock; null while it feels none.</summary>
    public string? Feels(PartId item) =>
        CockOf(item) is { } cock && this[cock].IsOpen ? Rig.At(new(cock, "in"))?.Id : null;

    /// <summary>Makes a move, or says why it cannot be made.</summary>
    public Moved Apply(Move move) =>
        move switch
        {
            Move.Turn t => !Rig.Has(t.Part) || !Rig[t.Part].Turns
                ? Refuse($"{t.Part} has no handle on this rig.")
                : new(this with { Openings = Openings.SetItem(t.Part, t.To) }, null),
            Move.Connect c => Connect(c),
            Move.TakeOff o => TakeOff(o),
            Move.Hold h => !Rig.Has(h.Level.With)
                ? Refuse($"{h.Level.With} is not on this rig.")
                : new(this with { Held = h.Level, Lifted = null }, null),
            Move.Lift l => new(this with { Held = null, Lifted = l.Inches }, null),
            _ => throw new InvalidOperationException("Unknown move."),
        };

    /// <summary>Makes the moves in order.</summary>
    /// <exception cref="InvalidOperationException">One cannot be made: a fault of the procedure, not of the
    /// tester.</exception>
    public RigState ApplyAll(IEnumerable<Move> moves) =>
        moves.Aggregate(this, (state, move) =>
            state.Apply(move) is { Refusal: null } made
                ? made.State
                : throw new InvalidOperationException(state.Apply(move).Refusal)
        );

    private Moved Connect(Move.Connect c)
    {
        if (!Rig.Has(c.Item) || !Rig[c.Item].Attaches)
            return Refuse($"{c.Item} cannot be connected on this rig.");
        if (!Rig.Has(c.To) || !Rig[c.To].HasOutlet || c.To == c.Item)
            return Refuse($"{c.To} takes no hose or fitting.");
        if (Rig[c.To].Kind == PartKind.BleedOff && !Connections.ContainsKey(c.To))
            return Refuse("Fit the bleed-off tee to a cock first.");
        if (On(c.To) is { } taken && taken != c.Item)
            return Refuse($"{Rig[c.To].Label} already carries the {Rig[taken].Label}.");
        return new(this with { Connections = Connections.SetItem(c.Item, c.To) }, null);
    }

    private Moved TakeOff(Move.TakeOff o)
    {
        if (!Connections.ContainsKey(o.Item))
            return o.IfThere ? new(this, null) : Refuse($"{o.Item} is not connected.");
        if (On(o.Item) is { } hose)
            return Refuse($"Take the {Rig[hose].Label} off the {Rig[o.Item].Label} first.");
        return new(this with { Connections = Connections.Remove(o.Item) }, null);
    }

    private Moved Refuse(string why) => new(this, why);
}
