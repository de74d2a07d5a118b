using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;

namespace Mordel.Core.Simulation;

/// <summary>
/// What a tester sees while a step is done: the needle, water at every open end, the tube, the relief port, the inlet.
/// It looks at the model only through what shows outside.
/// </summary>
/// <param name="water">The water.</param>
/// <param name="peg">The gauge's full scale, psid.</param>
internal sealed class Eyes(WaterModel water, double peg)
{
    private readonly Queue<(double At, double Needle, double Outlet, double Tube)> past = [];
    private readonly HashSet<PartId> running = [];

    /// <summary>Where the needle stood when the step began.</summary>
    public double AtFirst { get; private set; }

    /// <summary>Where it stood a moment after the step's last turn.</summary>
    public double AfterTurning { get; private set; }

    /// <summary>What ran from the outlet when the step began.</summary>
    public double OutletAtFirst { get; private set; }

    /// <summary>What left a vacuum breaker's body when the step began.</summary>
    public double BodyAtFirst { get; private set; }

    /// <summary>Level in the sight tube when the step began.</summary>
    public double TubeAtFirst { get; private set; }

    /// <summary>Whether the relief port was wet when the step began.</summary>
    public bool ReliefWetAtFirst { get; private set; }

    /// <summary>Whether it left its upper peg at any moment of the step.</summary>
    public bool LeftThePeg { get; private set; }

    /// <summary>When the step began.</summary>
    public double Since { get; private set; }

    /// <summary>Where the needle stood at the first drop from a dry relief port; null while there was none.</summary>
    public double? NeedleAtDrip { get; private set; }

    /// <summary>Seconds into the step at that moment.</summary>
    public double DripAfter { get; private set; }

    /// <summary>
    /// Where the needle stood when the inlet opened; null while it has not. Kept until it has shut again.
    /// </summary>
    public double? NeedleAtPop { get; private set; }

    /// <summary>The needle as shown.</summary>
    public double Needle => water.Needle;

    /// <summary>Whether it lies at its upper peg.</summary>
    public bool Pegged => water.Needle > peg - Perception.AtThePeg;

    /// <summary>Whether it has visibly left its upper peg.</summary>
    public bool OffThePeg => water.Needle < peg - Perception.OffThePeg;

    /// <summary>What runs where a check's water leaves: the tube, an open cock, the vent.</summary>
    public double Outlet
    {
        get
        {
            var sum = water.Spills(Parts.SightTube) + water.Spills(Parts.VentScrew) + water.Spills(Parts.AirInlet);
            foreach (var cock in water.Situation.Rig.Body.Cocks)
                sum += water.Spills(cock);
            return sum;
        }
    }

    /// <summary>Whether water shows at the relief port.</summary>
    public bool ReliefWet => ReliefRuns >= Perception.SlowDrop;

    /// <summary>What runs from the relief port.</summary>
    public double ReliefRuns => water.Spills(Parts.Relief);

    /// <summary>What ran from it when the step began.</summary>
    public double ReliefAtFirst { get; private set; }

    /// <summary>Water that leaves the vacuum breaker's body anywhere: drain tube, canopy.</summary>
    public double BodySpill => water.Spills(Parts.HighBleed) + water.Spills(Parts.BypassHose) + Outlet;

    /// <summary>Whether water was ever seen to come from a cock, or from what is fitted on it.</summary>
    public bool HasRun(PartId cock) => running.Contains(cock);

    /// <summary>The greatest flow seen at the outlet during this step.</summary>
    public double Ran { get; private set; }

    /// <summary>Somebody else has seen a cock run.</summary>
    public void Believe(PartId cock) => running.Add(cock);

    /// <summary>A new step begins.</summary>
    public void Begin()
    {
        (AtFirst, OutletAtFirst, TubeAtFirst, ReliefWetAtFirst, Since, NeedleAtDrip) = (
            Needle,
            Outlet,
            water.TubeLevel,
            ReliefWet,
            water.Time,
            null
        );
        LeftThePeg = false;
        (DripAfter, Ran, BodyAtFirst, ReliefAtFirst) = (0, 0, BodySpill, ReliefRuns);
        past.Clear();
    }

    /// <summary>The step's turning is done.</summary>
    public void HandsOff() => AfterTurning = Needle;

    /// <summary>Looks once.</summary>
    public void Look()
    {
        if (NeedleAtDrip is null && !ReliefWetAtFirst && ReliefWet)
            (NeedleAtDrip, DripAfter) = (Needle, water.Time - Since);
        if (!water.InletOpen)
            NeedleAtPop = null;
        else
            NeedleAtPop ??= water.NeedleAtPop;
        foreach (var cock in water.Situation.Rig.Body.Cocks)
            if (water.Rig[cock].IsOpen && water.Spills(water.Rig.On(cock) ?? cock) >= Perception.SlowDrop)
                running.Add(cock);
        LeftThePeg |= AtFirst > peg - Perception.AtThePeg && OffThePeg;
        Ran = Math.Max(Ran, Outlet);
        past.Enqueue((water.Time, Needle, Outlet, water.TubeLevel));
        while (past.Peek().At < water.Time - Perception.Glance - 0.01)
            past.Dequeue();
    }

    /// <summary>How fast the needle falls, psid/s, over the last seconds.</summary>
    public double Falling(double over = 0.5)
    {
        foreach (var (at, seen, _, _) in past)
            if (at >= water.Time - over - 0.01)
                return water.Time > at ? (seen - Needle) / (water.Time - at) : 0;
        return 0;
    }

    /// <summary>Whether needle, water and tube have stood as they stand for as long as a tester looks.</summary>
    public bool Still()
    {
        if (past.Count == 0 || water.Time - past.Peek().At < Perception.Glance - 0.5)
            return false;
        foreach (var (_, seen, outlet, tube) in past)
        {
            if (Math.Abs(seen - Needle) > Perception.NeedleStands)
                return false;
            if (Math.Abs(outlet - Outlet) > Math.Max(Perception.SlowDrop, Perception.FlowStands * Outlet))
                return false;
            if (Math.Abs(tube - water.TubeLevel) > Perception.TubeStands)
                return false;
        }

        return true;
    }
}
