using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Simulation;

namespace Mordel.Core.Diagnosis;

/// <summary>Somebody in front of an assembly in service who looks at its port, waits, and turns a valve.</summary>
internal sealed class OutletWatch
{
    // Seconds: as long as anybody waits for water to answer; as long as is needed to tell spells from a steady flow.
    private const int Patience = 420,
        Spells = 60;

    private readonly WaterModel water;
    private readonly PartId port;
    private readonly Queue<double> seen = [];

    private OutletWatch(WaterModel water, PartId port) => (this.water, this.port) = (water, port);

    /// <summary>Makes every look at the port; nothing of the kit is used and the water is brought back each time.
    /// </summary>
    /// <param name="water">In service.</param>
    /// <param name="looks">Which looks.</param>
    /// <returns>For each look about the port what was seen.</returns>
    public static IEnumerable<(ServiceLook Look, PortState Seen)> Make(WaterModel water, IEnumerable<ServiceLook> looks)
    {
        var body = water.Situation.Rig.Body;
        if (ServiceLooks.PortOf(body) is not { } port)
            yield break;
        var watch = new OutletWatch(water, port);
        var before = watch.Watch();
        var inService = water.Moment();
        foreach (var look in looks.Where(l => !l.CanShow.IsEmpty))
        {
            if (look.Id == ServiceLooks.InService)
            {
                yield return (look, AtFirst(before));
                continue;
            }

            if (look.After is null)
                water.Return(inService);
            var was = look.After is null ? before : watch.Watch();
            watch.Act(look);
            yield return (look, Compared(was, watch.Watch()));
        }
    }

    private void Act(ServiceLook look)
    {
        if (look.OpensTap)
            water.TapOpen = true;
        foreach (var (part, to) in look.Turns)
            water.Set(water.Rig.Apply(new Move.Turn(part, to)).State);
    }

    private double Flow() => water.Spills(port) + (port == Parts.AirInlet ? water.Spills(Parts.VentScrew) : 0);

    // Waits until the flow stands still, then says how much it is on average and whether it came in spells.
    private (double Flow, bool InSpells) Watch()
    {
        seen.Clear();
        for (var waited = 0; waited < Patience && !Still(); waited++)
            Second();
        if (Still())
            return (seen.Average(), false);
        var (sum, wet, turns, last) = (0.0, 0, 0, false);
        for (var i = 0; i < Spells; i++)
        {
            Second();
            var now = Flow() >= Perception.SlowDrop;
            sum += Flow();
            wet += now ? 1 : 0;
            turns += now && !last ? 1 : 0;
            last = now;
        }

        return (sum / Spells, wet is > 0 and < Spells - 3 && turns >= 2);
    }

    private void Second()
    {
        water.Run(1);
        seen.Enqueue(Flow());
        while (seen.Count > Perception.Glance)
            seen.Dequeue();
    }

    private bool Still()
    {
        if (seen.Count < Perception.Glance)
            return false;
        var (least, most) = (seen.Min(), seen.Max());
        return most - least <= Math.Max(Perception.SlowDrop, Perception.FlowStands * most);
    }

    private static PortState AtFirst((double Flow, bool InSpells) seen) =>
        seen.InSpells ? PortState.Spits
        : seen.Flow < Perception.SlowDrop ? PortState.Dry
        : seen.Flow < Perception.ThinStream ? PortState.Drips
        : PortState.Runs;

    private static PortState Compared((double Flow, bool InSpells) was, (double Flow, bool InSpells) now)
    {
        var (wasWet, isWet) = (was.Flow >= Perception.SlowDrop, now.Flow >= Perception.SlowDrop);
        return !wasWet && !isWet ? PortState.Still
            : !wasWet ? PortState.More
            : !isWet ? PortState.Stops
            : now.Flow < 0.7 * was.Flow ? PortState.Less
            : now.Flow > 1.4 * was.Flow ? PortState.More
            : PortState.Still;
    }
}
