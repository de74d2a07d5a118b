using System.Collections.Immutable;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Core.Runs;

/// <summary>
/// What hands must do to bring the rig from where it is to where a step expects it: needed when a test is repeated or
/// taken up again. Cocks first, then couplings, then the shutoffs, last the kit, so that nothing is undone under
/// pressure.
/// </summary>
public static class Restoring
{
    /// <summary>Whether a hose or fitting is elsewhere than it should be.</summary>
    public static bool MovesCouplings(RigState from, RigState to)
    {
        ArgumentNullException.ThrowIfNull(from);
        ArgumentNullException.ThrowIfNull(to);
        return from.Connections.Count != to.Connections.Count
            || from.Connections.Any(c => !to.Connections.TryGetValue(c.Key, out var at) || at != c.Value);
    }

    /// <summary>The acts, in a safe order; empty when the rig stands as it should.</summary>
    /// <param name="from">Where the rig is.</param>
    /// <param name="to">Where it should be.</param>
    /// <param name="airy">Sides that have air in them though their hose stays where it is.</param>
    public static ImmutableArray<Act> Acts(RigState from, RigState to, params Side[] airy)
    {
        ArgumentNullException.ThrowIfNull(from);
        ArgumentNullException.ThrowIfNull(to);
        var acts = ImmutableArray.CreateBuilder<Act>();
        var rig = from.Rig;
        var now = from;
        void Add(Act act)
        {
            acts.Add(act);
            now = act.MovesFor(rig).Aggregate(now, (state, move) => state.Apply(move).State);
        }

        void Turn(Func<Part, bool> which)
        {
            foreach (var part in rig.Parts.Where(p => p.Turns && now[p.Id] != to[p.Id]).Where(which))
                Add(new Act.Do(new Move.Turn(part.Id, to[part.Id], Slowly: part.Kind == PartKind.Shutoff)));
        }

        static bool OnTheKit(Part p) => p.Kind is PartKind.Control or PartKind.Bleed;
        static bool OnTheBody(Part p) => p.Kind is PartKind.Cock or PartKind.Screw or PartKind.BleedOff;
        List<Part> Moved()
        {
            var moved = rig
                .Parts.Where(p =>
                    p.Attaches && now.Connections.GetValueOrDefault(p.Id) != to.Connections.GetValueOrDefault(p.Id)
                )
                .ToList();
            // What hangs on a tee that moves comes off with it.
            if (
                moved.Exists(p => p.Kind == PartKind.BleedOff)
                && now.On(Parts.BleedOff) is { } riding
                && !moved.Exists(p => p.Id == riding)
            )
                moved.Add(rig[riding]);
            return moved;
        }

        Turn(p => OnTheBody(p) && !to[p.Id].IsOpen);
        // Every hose that comes off stood under pressure a moment ago; what is relieved with it and stays on is purged
        // again.
        var relieved = Moved().Exists(p => p.Kind == PartKind.Hose && now.Connections.ContainsKey(p.Id));
        if (relieved)
        {
            foreach (var cock in rig.Body.Cocks.Where(c => now[c].IsOpen))
                Add(new Act.Do(new Move.Turn(cock, Opening.Closed)));
            Add(new Act.RelieveHoses());
        }

        Turn(p => OnTheKit(p) && !to[p.Id].IsOpen);
        var moved = Moved();
        foreach (var part in moved.OrderBy(p => p.Kind == PartKind.BleedOff))
            if (now.Connections.ContainsKey(part.Id))
                Add(new Act.Do(new Move.TakeOff(part.Id, IfThere: true)));
        foreach (var part in moved.OrderByDescending(p => p.Kind == PartKind.BleedOff))
            if (to.Connections.TryGetValue(part.Id, out var at))
                Add(new Act.Do(new Move.Connect(part.Id, at)));
        Turn(p => p.Kind == PartKind.Shutoff);
        Turn(p => OnTheBody(p) && to[p.Id].IsOpen);
        foreach (var (hose, side) in new[] { (Parts.HighHose, Side.High), (Parts.LowHose, Side.Low) })
            if (
                (
                    moved.Exists(p => p.Id == hose)
                    || airy.Contains(side)
                    || (relieved && to.CockOf(hose) is { } cock && to[cock].IsOpen)
                ) && to.Connections.ContainsKey(hose)
            )
                Add(new Act.Purge(side));
        Turn(p => OnTheKit(p) && to[p.Id].IsOpen);
        if (to.Held is { } level && from.Held != level)
            Add(new Act.Do(new Move.Hold(level)));
        return acts.ToImmutable();
    }

    /// <summary>The step that asks for them.</summary>
    public static Step Step(string id, ImmutableArray<Act> acts) =>
        new(
            id,
            "Set the rig back for the repeat",
            acts,
            "The test starts again from here; the rig must stand as it did then."
        )
        {
            Caution = "Relieve the pressure before a coupling is undone.",
        };
}
