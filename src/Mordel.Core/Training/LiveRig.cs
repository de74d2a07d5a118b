using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;

namespace Mordel.Core.Training;

/// <summary>
/// A rig under somebody's hands: time in ticks, valves that turn as long as a hand takes, a way back to any moment. It
/// says what the water does and nothing about what should be done.
/// </summary>
public sealed class LiveRig
{
    // Ticks between two moments that are kept for the way back.
    private const int KeepEvery = 10 * Recording.PerSecond;

    private readonly Situation situation;
    private readonly WaterMoment first;
    private readonly List<TimedAction> actions = [];
    private readonly List<Kept> kept = [];
    private readonly Dictionary<PartId, Turning> turning = [];
    private readonly List<PartId> arrived = [];

    private sealed record Turning(double From, double To, int Began, int Over);

    private sealed record Kept(int Tick, int Actions, WaterMoment Water, KeyValuePair<PartId, Turning>[] Turning);

    /// <summary>The rig in service, with its water at rest.</summary>
    /// <param name="situation">What is true of the rig.</param>
    /// <param name="budget">What may be spent on its water; null for as much as it takes.</param>
    public LiveRig(Situation situation, WorkBudget? budget = null)
    {
        this.situation = situation;
        Water = new(situation, budget);
        first = Water.Moment();
        EventLog = new(this);
    }

    /// <summary>The water.</summary>
    public WaterModel Water { get; }

    /// <summary>What has happened so far, in the order it was seen.</summary>
    public EventLog EventLog { get; }

    /// <summary>Ticks since the beginning.</summary>
    public int Tick { get; private set; }

    /// <summary>How the rig stands.</summary>
    public RigState Rig => Water.Rig;

    /// <summary>Everything done so far.</summary>
    public IReadOnlyList<TimedAction> Actions => actions;

    /// <summary>Does something now; answers why it cannot be done, in the field's words, or null.</summary>
    public string? Do(BenchAction action)
    {
        var before = EventLog.Before(action);
        var refusal = action switch
        {
            BenchAction.Turn t => Turn(t),
            BenchAction.Connect c => Connect(c),
            BenchAction.TakeOff o => Make(new Move.TakeOff(o.Item)),
            BenchAction.Lift l => Make(new Move.Lift(l.Inches)),
            BenchAction.DrawOff t => Tap(t.Open),
            _ => null,
        };
        if (refusal is not null)
            return refusal;
        actions.Add(new(Tick, action));
        if (before is { } coupling)
            EventLog.Watch(coupling);
        return null;
    }

    /// <summary>Lets time pass.</summary>
    /// <param name="ticks">How much.</param>
    /// <param name="look">Told of every tick after it has passed.</param>
    public void Advance(int ticks, Action<LiveRig>? look = null)
    {
        for (var i = 0; i < ticks; i++)
        {
            if (Tick % KeepEvery == 0 && (kept.Count == 0 || kept[^1].Tick < Tick))
                kept.Add(new(Tick, actions.Count, Water.Moment(), [.. turning]));
            Tick++;
            TurnOn();
            Water.Run(1.0 / Recording.PerSecond);
            EventLog.Look();
            look?.Invoke(this);
        }
    }

    /// <summary>Goes back to a moment that has been; what was done after it is gone.</summary>
    /// <param name="tick">The moment, not later than now.</param>
    public void Back(int tick)
    {
        ArgumentOutOfRangeException.ThrowIfGreaterThan(tick, Tick);
        ArgumentOutOfRangeException.ThrowIfNegative(tick);
        var again = actions.Where(d => d.At <= tick).ToArray();
        kept.RemoveAll(k => k.Tick > tick);
        var from = kept.Count > 0 ? kept[^1] : new(0, 0, first, []);
        actions.RemoveRange(from.Actions, actions.Count - from.Actions);
        Resume(from);
        EventLog.Forget(Tick);
        foreach (var (at, what) in again.Skip(from.Actions))
        {
            Advance(at - Tick);
            Do(what);
        }

        Advance(tick - Tick);
    }

    /// <summary>
    /// Goes to the kept moment next before a tick of a recording that has been played on this rig, so that only the
    /// rest need be played again.
    /// </summary>
    internal void Jump(int tick, IEnumerable<TimedAction> recording)
    {
        var from = kept.FindLast(k => k.Tick <= tick) ?? new(0, 0, first, []);
        // What is nearer by simply going on is not fetched.
        if (tick >= Tick && from.Tick <= Tick)
            return;
        actions.Clear();
        actions.AddRange(recording.Take(from.Actions));
        Resume(from);
        EventLog.Forget(Tick);
    }

    private void Resume(Kept from)
    {
        Water.Return(from.Water);
        Tick = from.Tick;
        turning.Clear();
        foreach (var (part, way) in from.Turning)
            turning.Add(part, way);
    }

    /// <summary>
    /// What a hose or fitting feels: the chamber its end opens into through an open cock; null while nothing does.
    /// </summary>
    public string? Feels(PartId item) =>
        Rig.CockOf(item) is { } cock && situation.Of(cock, FaultKind.Blocked) is null ? Rig.Feels(item) : null;

    private string? Turn(BenchAction.Turn t)
    {
        if (!Rig.Rig.Has(t.Part) || !Rig.Rig[t.Part].Turns)
            return $"{t.Part} has no handle on this rig.";
        if (t.Part == Parts.BleedOff && !Rig.Connections.ContainsKey(t.Part))
            return "Fit the bleed-off tee to a cock first.";
        turning.Remove(t.Part);
        if (t.Over <= 0)
            return Make(new Move.Turn(t.Part, t.To));
        turning[t.Part] = new((double)Rig[t.Part].Fraction, (double)t.To.Fraction, Tick, t.Over);
        return null;
    }

    private string? Connect(BenchAction.Connect c)
    {
        if (Rig.Connections.GetValueOrDefault(c.Item) == c.To && Rig.Connections.ContainsKey(c.Item))
            return null;
        return Make(new Move.Connect(c.Item, c.To));
    }

    private string? Tap(bool open)
    {
        Water.TapOpen = open;
        return null;
    }

    private void TurnOn()
    {
        if (turning.Count == 0)
            return;
        foreach (var (part, way) in turning)
        {
            var gone = Math.Min(1, (Tick - way.Began) / (double)way.Over);
            var now = gone >= 1 ? way.To : way.From + ((way.To - way.From) * gone);
            Make(new Move.Turn(part, new(Math.Round((decimal)now, 6))));
            if (gone >= 1)
                arrived.Add(part);
        }

        foreach (var part in arrived)
            turning.Remove(part);
        arrived.Clear();
    }

    private string? Make(Move move)
    {
        var moved = Water.Rig.Apply(move);
        if (moved.Refusal is { } why)
            return why;
        Water.Set(moved.State);
        return null;
    }
}
