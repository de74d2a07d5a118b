using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Core.Simulation;

/// <summary>
/// Performs instructions on the water, move by move, with the patience and the slow hand that the procedure asks for.
/// </summary>
internal sealed partial class Hands(WaterModel water, Eyes eyes, Action looked)
{
    private const double Tick = 0.25,
        SlowestNeedle = 0.02;

    private PartId? feathered;
    private bool braking;
    private double feather;

    /// <summary>Whether the high and the low hose go to each other's cocks, as nobody has noticed yet.</summary>
    public bool Crossed { get; set; }

    /// <summary>Told of every move that was made, with its time in seconds.</summary>
    public Action<double, Move>? Moved { get; init; }

    /// <summary>Whether a valve was opened as far as it goes and what was waited for did not come.</summary>
    public bool ReachedTheEnd { get; private set; }

    /// <summary>Lets time pass, looking.</summary>
    public void Wait(double seconds)
    {
        for (var left = seconds; left > 1e-9; left -= Tick)
        {
            water.Run(Math.Min(Tick, left));
            eyes.Look();
            looked();
        }
    }

    /// <summary>Waits until all stands still, at most so long.</summary>
    public void Settle(double most)
    {
        for (var waited = 0.0; waited < most && !eyes.Still(); waited += 1)
            Wait(1);
    }

    /// <summary>A new step begins.</summary>
    public void Begin() => ReachedTheEnd = false;

    /// <summary>Performs one instruction.</summary>
    /// <param name="act">The instruction.</param>
    /// <param name="cue">What the step waits for.</param>
    public void Perform(Act act, Cue cue)
    {
        var rig = water.Situation.Rig;
        switch (act)
        {
            case Act.Do { Until: { } until, Move: Move.Turn turn }:
                Ease(turn.Part, until, 1);
                break;
            case Act.Do { Move: Move.Turn { Part: var screw, To.IsOpen: true } turn }
                when rig[screw].Kind == PartKind.Screw:
                // Gently to the end: the inlet may open on the way, and its point is wanted.
                Ease(screw, new(CueKind.Still), 1);
                Make(turn);
                break;
            case Act.Do { Move: Move.Turn { Part: var valve, Slowly: true, To: { IsOpen: true, Fraction: < 1m } } }
                when cue.Kind is CueKind.SlowsOrFalls or CueKind.Pop:
                Ease(valve, cue, 1);
                break;
            case Act.FeedZone:
                foreach (var move in act.MovesFor(rig))
                    if (move is not Move.Turn { Slowly: true })
                        Make(move);
                Ease(Parts.LowControl, cue, 0.3);
                break;
            case Act.LowerPressure { To: { IsOpen: true, Fraction: < 1m } }:
                foreach (var move in act.MovesFor(rig))
                    if (move is not Move.Turn { Slowly: true })
                        Make(move);
                Ease(rig.Kit.HasBleeds ? Parts.HighBleed : Parts.HighControl, cue, 1);
                break;
            case Act.OpenTap:
                water.TapOpen = true;
                break;
            case Act.CloseTap:
                water.TapOpen = false;
                break;
            case Act.Blip:
                foreach (var move in act.MovesFor(rig))
                {
                    Make(move);
                    Wait(2);
                }

                break;
            case Act.LetRun or Act.Purge or Act.RestoreZone:
                foreach (var move in act.MovesFor(rig))
                {
                    if (move is Move.Turn { To.IsOpen: false })
                        RunFree();
                    Make(move);
                }

                break;
            case Act.StopRun:
                RunFree();
                foreach (var move in act.MovesFor(rig))
                    Make(move);
                break;
            default:
                foreach (var move in act.MovesFor(rig))
                    Make(move);
                if (act is Act.Do { Move: Move.Turn { To.IsOpen: true } })
                    Wait(4);
                break;
        }
    }

    /// <summary>Makes a single move; a second passes.</summary>
    public void Make(Move move)
    {
        move =
            move is Move.Connect c && Crossed ? new Move.Connect(Other(c.Item), c.To)
            : move is Move.TakeOff o && Crossed ? new Move.TakeOff(Other(o.Item), o.IfThere)
            : move;
        if (move is Move.Connect put && water.Rig.On(put.To) is { } there && there != put.Item)
            Try(new Move.TakeOff(there, IfThere: true));
        Try(move);
        // The first spurt from an opened cock is over in no time.
        water.Run(0.02);
        eyes.Look();
        Wait(1);
    }

    /// <summary>
    /// Brings every valve and coupling to where the run says it stands; a valve that is held part-way stays there.
    /// </summary>
    public void Agree(RigState wanted)
    {
        // In the rig's own order: a dictionary's is another in every process, and a recording of these moves must not
        // be.
        foreach (var part in wanted.Rig.Parts.Where(p => p.Turns).Select(p => p.Id))
        {
            var opening = wanted[part];
            var heldPartWay = opening.IsOpen && opening.Fraction < 1m && water.Rig[part].IsOpen;
            if (water.Rig[part] == opening || heldPartWay || (braking && part == feathered))
                continue;
            Try(new Move.Turn(part, opening));
        }

        if (Crossed)
            return;
        var loose = wanted.Rig.Parts.Where(p => p.Attaches).OrderBy(p => p.Kind == PartKind.BleedOff).Select(p => p.Id);
        foreach (var item in loose)
            if (water.Rig.Connections.ContainsKey(item) && !wanted.Connections.ContainsKey(item))
                Try(new Move.TakeOff(item, IfThere: true));
        foreach (var item in loose.Reverse())
            if (wanted.Connections.TryGetValue(item, out var to) && water.Rig.Connections.GetValueOrDefault(item) != to)
                Try(new Move.Connect(item, to));
        if (wanted.Held is { } held && water.Rig.Held != held)
            Try(new Move.Hold(held));
    }

    private bool Met(Cue cue, double first, double firstOutlet) =>
        cue.Kind switch
        {
            CueKind.FirstDrip => eyes.NeedleAtDrip is not null,
            CueKind.Pop => eyes.NeedleAtPop is not null,
            CueKind.NeedleAt => eyes.Needle <= (double)cue.Psid,
            CueKind.SlowsOrFalls => eyes.Outlet < 0.5 * firstOutlet
                || (eyes.Needle < 0.5 * first && eyes.Outlet > 0.8 * firstOutlet),
            CueKind.Still => feather >= 1 || eyes.Still(),
            _ => false,
        };

    // psid/s: briskly where nothing is read, slowly where something may happen.
    private static double Speed(double needle) =>
        needle > 9 ? 0.8
        : needle > 6.5 ? 0.2
        : SlowestNeedle;

    private void RunFree()
    {
        Wait(4);
        var rig = water.Rig;
        bool Airy() => rig.Connections.Keys.Any(h => rig.Rig[h].Kind == PartKind.Hose && water.AirIn(h) > 0.01);
        for (var waited = 0; waited < 8 && Airy(); waited++)
            Wait(1);
    }

    private void Open(PartId valve, double to) => Try(new Move.Turn(valve, new Opening(Math.Round((decimal)to, 8))));

    private void Try(Move move)
    {
        var moved = water.Rig.Apply(move);
        if (moved.Refusal is not null || ReferenceEquals(moved.State, water.Rig))
            return;
        water.Set(moved.State);
        Moved?.Invoke(water.Time, move);
    }

    private static PartId Other(PartId hose) =>
        hose == Parts.HighHose ? Parts.LowHose
        : hose == Parts.LowHose ? Parts.HighHose
        : hose;
}
