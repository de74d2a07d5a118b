using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;

namespace Mordel.Validation;

/// <summary>Turns a rig's valves and moves its hoses without a tester, letting the water run after each.</summary>
public static class ByHand
{
    /// <summary>Turns valves at once, then lets the water run.</summary>
    public static void Turn(this WaterModel water, double seconds, params (PartId Part, decimal To)[] turns) =>
        water.Do(seconds, [.. turns.Select(t => (Move)new Move.Turn(t.Part, new Opening(t.To)))]);

    /// <summary>Connects a hose or fitting; a second passes.</summary>
    public static void Put(this WaterModel water, PartId item, PartId on) => water.Do(1, new Move.Connect(item, on));

    /// <summary>Holds the gauge level with a part.</summary>
    public static void Hold(this WaterModel water, PartId level) => water.Do(0, new Move.Hold(new(level)));

    /// <summary>An RP's two hoses on and purged, low side last; SO2 still open.</summary>
    public static void HookUpTwoHoses(this WaterModel water)
    {
        water.Put(Parts.HighHose, Parts.Tc2);
        water.Put(Parts.LowHose, Parts.Tc3);
        water.Turn(5, (Parts.Tc3, 1), (Parts.LowBleed, 1));
        water.Turn(5, (Parts.Tc2, 1), (Parts.HighBleed, 1));
        water.Turn(2, (Parts.HighBleed, 0));
        water.Turn(2, (Parts.LowBleed, 0));
    }

    /// <summary>
    /// A double check's first check against the tube: purged, filled, both shutoffs closed, TC3 still shut.
    /// </summary>
    public static void HookUpTheTube(this WaterModel water)
    {
        water.Put(Parts.SightTube, Parts.Tc3);
        water.Put(Parts.BleedOff, Parts.Tc2);
        water.Put(Parts.HighHose, Parts.BleedOff);
        water.Turn(4, (Parts.Tc2, 1), (Parts.HighBleed, 1));
        water.Turn(2, (Parts.HighBleed, 0));
        water.Turn(2, (Parts.Tc3, 1));
        water.Turn(2, (Parts.Tc3, 0));
        water.Hold(Parts.SightTube);
        water.Turn(2, (Parts.So2, 0));
        water.Turn(2, (Parts.So1, 0));
    }

    private static void Do(this WaterModel water, double seconds, params Move[] moves)
    {
        water.Set(water.Rig.ApplyAll(moves));
        water.Run(seconds);
    }
}
