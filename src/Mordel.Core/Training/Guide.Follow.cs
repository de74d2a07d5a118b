using System.Collections.Immutable;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Simulation;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Training;

// How the sheet follows the hands.
public partial class Guide
{
    /// <summary>A tick has passed, or something was done.</summary>
    public void Look()
    {
        if (at is not { } step)
            return;
        foreach (var line in lines)
            Follow(line);
        Notice();
        if (live.Tick % Glance == 0)
            eyes.Look();
        if (!AllTurned || WaitsForAWord)
            return;
        if (doneAt < 0)
        {
            doneAt = live.Tick;
            eyes.HandsOff();
        }

        if (live.Tick % Glance != 0)
            return;
        var watched = live.Tick - doneAt;
        if (watched > Watching && step.Step.Sights.Length > 0)
            LooksOdd = ObservationRules.Find(step.Step with { MustAnswer = false }, Scene()) is { Good: false };
        if (step.Step.Capture is not null || step.Step.MustAnswer || LooksOdd)
            return;
        if (watched >= (step.Step.Sights.IsEmpty ? Glance : Watching + Glance))
            Write(new EntryBody.Done(step.Key));
    }

    private void Follow()
    {
        if (at?.Key == State.Current?.Key)
            return;
        at = State.Current;
        lines = at is null ? [] : [.. at.Step.Acts.Select(a => new Ticking(a, a.For(Plan.Rig)))];
        (doneAt, LooksOdd) = (-1, false);
        eyes.Begin();
        foreach (var line in lines)
            Follow(line);
    }

    private void Follow(Ticking line)
    {
        // A valve that an earlier instruction still waits for is not this one's yet.
        bool Taken(PartId part) =>
            lines.TakeWhile(l => l != line).Any(l => !l.Done && l.Instruction.Touches.Contains(part));
        while (
            !line.Done && line.Instruction.Moves[line.Reached] is var move && !Taken(move.About) && IsSo(line.Act, move)
        )
            line.Reached++;
    }

    private bool IsSo(Act act, Move move)
    {
        var (state, water) = (live.Rig, live.Water);
        return move switch
        {
            Move.Turn { To.IsOpen: false } t => (double)state[t.Part].Fraction <= 0.001 && !StillAiry(act),
            Move.Turn { To.Fraction: 1m } t when act is Act.RelieveHoses => state[t.Part].IsOpen
                || state
                    .Rig.Parts.Where(p => p.Kind == PartKind.Hose)
                    .All(h => water.PressureIn(state.Rig.At(new(h.Id, "kit"))!.Id) < 5),
            Move.Turn { To.Fraction: 1m } t => (double)state[t.Part].Fraction
                >= (state.Rig[t.Part].Kind is PartKind.Shutoff ? 0.95 : 0.3),
            Move.Turn t => state[t.Part].IsOpen,
            Move.Connect c => state.Connections.TryGetValue(c.Item, out var on) && on == c.To,
            Move.TakeOff o => !state.Connections.ContainsKey(o.Item),
            Move.Hold h => Math.Abs(water.GaugeStands - water.LevelOf(h.Level.With)) <= Level,
            _ => true,
        };
    }

    // Purging is done when no air is left, not when the valve has been opened and shut.
    private bool StillAiry(Act act)
    {
        if (act is not (Act.Purge or Act.StopRun))
            return false;
        var side = act is Act.Purge p ? p.Side : ((Act.StopRun)act).Side;
        var hose = side == Side.High ? Parts.HighHose : Parts.LowHose;
        return live.Rig.Connections.ContainsKey(hose) && live.EventLog.HasAir(hose);
    }

    private Scene Scene() =>
        new(
            eyes,
            AtTheEnd: false,
            Crossed: false,
            -live.Water.Through(Parts.BypassHose),
            live.Water.TubeLevel,
            live.Water.InletOpening,
            live.Water.Spills(Parts.BleedOff),
            live.Water.Spills(Parts.Site)
        );
}
