using Mordel.Core.Rigs;
using Mordel.Core.Simulation;

namespace Mordel.Core.Training;

// Where it looks.
public partial class EventLog
{
    private void LookAtNeedle()
    {
        var now = rig.Water.Needle;
        if (now > peg != pegged && (now > peg || now < peg - 0.2))
        {
            pegged = now > peg;
            Add(pegged ? RigEventKind.Pegs : RigEventKind.LeavesPeg, Parts.Gauge);
        }

        var moves = Math.Abs(Rate(rig.Tick, 2 * Recording.PerSecond)) > Perception.Rests;
        if (!moves && !resting && rig.Tick > 2 * Recording.PerSecond)
            Add(RigEventKind.Rests, Parts.Gauge);
        resting = !moves;
    }

    // What was shut in spurts and is over in no time; what goes on has the main behind it.
    private void LookAtCoupling()
    {
        if (undone is not { } coupling || rig.Tick - coupling.Off.At < AfterASpurt)
            return;
        undone = null;
        if (rig.Water.Spills(coupling.Off.Part) + rig.Water.Spills(coupling.From) > Perception.Gush)
            events.Add(coupling.Off with { At = rig.Tick });
    }

    private void LookAtOutlet(PartId outlet)
    {
        var flow = rig.Water.Spills(outlet);
        var level =
            flow < Perception.SlowDrop ? RigEventKind.Dry
            : flow < Perception.ThinStream ? RigEventKind.Drips
            : flow < Perception.Gush ? RigEventKind.Runs
            : RigEventKind.Pours;
        var was = Stream(outlet);
        if (level >= was)
            lessSince.Remove(outlet);
        if (level == was)
            return;
        if (level < was)
        {
            // A stream that falters for a moment has not stopped.
            if (!lessSince.TryGetValue(outlet, out var since))
                lessSince[outlet] = since = rig.Tick;
            if (rig.Tick - since < AWhile)
                return;
            lessSince.Remove(outlet);
        }

        streams[outlet] = level;
        Add(level, outlet, flow);
    }

    private void LookIntoHose(PartId hose)
    {
        if (!rig.Rig.Connections.ContainsKey(hose))
        {
            airy.Add(hose);
            return;
        }

        var air = rig.Water.AirIn(hose);
        if (air > 0.05 && airy.Add(hose))
            Add(RigEventKind.AirIn, hose, air);
        else if (air < 0.02 && airy.Remove(hose))
            Add(RigEventKind.AirGone, hose);
    }

    private void LookAtTube()
    {
        var level = rig.Water.TubeLevel;
        if (double.IsNaN(level))
            tubeFull = false;
        else if (!tubeFull && level > Perception.TubeFull)
            Turn(true);
        else if (tubeFull && level < Perception.TubeEmpty)
            Turn(false);
        void Turn(bool full)
        {
            tubeFull = full;
            Add(full ? RigEventKind.TubeFull : RigEventKind.TubeEmpty, Parts.SightTube);
        }
    }

    private void FeelForKnocks(PartId shutoff)
    {
        var open = (double)rig.Rig[shutoff].Fraction;
        var body = rig.Rig.Rig;
        if (open < Perception.TubeEmpty)
            lastShut[shutoff] = (
                rig.Tick,
                rig.Water.PressureIn(body.At(new(shutoff, "in"))!.Id)
                    - rig.Water.PressureIn(body.At(new(shutoff, "out"))!.Id)
            );
        else if (
            open > 0.5
            && lastShut.Remove(shutoff, out var shut)
            && rig.Tick - shut.Tick < Suddenly
            && Math.Abs(shut.Across) > Knocks
        )
            Add(RigEventKind.Hammer, shutoff, Math.Abs(shut.Across));
        if (open > 0.5)
            lastRan[shutoff] = (rig.Tick, rig.Water.Through(shutoff));
        else if (
            open < 0.02
            && lastRan.Remove(shutoff, out var ran)
            && rig.Tick - ran.Tick < Recording.PerSecond / 2
            && Math.Abs(ran.Flow) > Fast
        )
            Add(RigEventKind.Hammer, shutoff, Math.Abs(ran.Flow));
    }

    private void LookForBlowing()
    {
        if (!rig.Rig.Rig.Has(Parts.VentScrew))
            return;
        var flies =
            (double)rig.Rig[Parts.VentScrew].Fraction > 0.6
            && rig.Water.PressureIn(rig.Rig.Rig.At(new(Parts.VentScrew, "in"))!.Id) > Flies;
        if (flies && !blown)
            Add(
                RigEventKind.BlowsOut,
                Parts.VentScrew,
                rig.Water.PressureIn(rig.Rig.Rig.At(new(Parts.VentScrew, "in"))!.Id)
            );
        blown = flies;
    }
}
