using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Hydraulics;

// What can be read off the water.
public partial class WaterModel
{
    /// <summary>How far it stands open, 0 to 1.</summary>
    public double InletOpening =>
        !InletOpen ? 0
        : Situation.Of(Parts.AirInlet, FaultKind.Hangs) is null ? 1
        : Situation.Sizes.InletHangs;

    /// <summary>Height of the water in the sight tube, 0 empty to 1 running over; NaN while it is not fitted.</summary>
    public double TubeLevel =>
        !Rig.Connections.ContainsKey(Parts.SightTube)
            ? double.NaN
            : Math.Clamp(
                (solver.Now.P[network.Tube] - network.Cells[network.Tube].FloorHead)
                    / (network.Cells[network.Tube].TopHead - network.Cells[network.Tube].FloorHead),
                0,
                1
            );

    /// <summary>Water that came in, in³, since the model began.</summary>
    public double CameIn => solver.In;

    /// <summary>Water that went out, in³.</summary>
    public double WentOut => solver.Out;

    /// <summary>Water in all spaces, in³.</summary>
    public double Stored
    {
        get
        {
            var sum = 0.0;
            foreach (var u in solver.U)
                sum += u;
            return sum;
        }
    }

    /// <summary>Pressure in a chamber at the body's centre line (the kit's: at the gauge), psi above the air.</summary>
    public double PressureIn(string chamber) => solver.Now.P[network.Named(chamber)];

    /// <summary>Part of a chamber that water fills, 0 to 1; the rest is air.</summary>
    public double Fills(string chamber) => Wet(network.Named(chamber));

    /// <summary>The chambers by name.</summary>
    public IEnumerable<string> Chambers => network.Cells.Select(c => c.Name);

    /// <summary>
    /// Water leaving to the air at a part, in³/s: a cock, a bleed, a hose's end, the tube's top, the relief, the inlet.
    /// </summary>
    public double Spills(PartId part)
    {
        var sum = 0.0;
        foreach (var element in network.Elements)
            if (element.Part == part && element.To == network.Air && element.Q > 0)
                sum += element.Q;
        return sum;
    }

    /// <summary>Water through a part, in³/s, positive with the flow.</summary>
    public double Through(PartId part)
    {
        var sum = 0.0;
        foreach (var element in network.Elements)
            if (element.Part == part)
                sum += element.Q;
        return sum;
    }

    /// <summary>
    /// How far the water has lifted a check or relief valve, or an air inlet has dropped: 0 shut to 1 fully open.
    /// </summary>
    public double Lifts(PartId part)
    {
        if (part == Parts.AirInlet)
            return InletOpening;
        foreach (var element in network.Elements)
        {
            if (element.Part != part)
                continue;
            if (element is SpringCheck check)
                return Math.Clamp(
                    (solver.Now.Seen[check.From] - solver.Now.Seen[check.To] - check.Makes.Spring) / check.Makes.Lift,
                    0,
                    1
                );
            if (element is ReliefSeat seat)
                return Math.Clamp(
                    (seat.Makes.Opens - (solver.Now.P[seat.Senses] - solver.Now.P[seat.From])) / seat.Makes.Stroke,
                    0,
                    1
                );
        }

        return 0;
    }

    /// <summary>Height of the gauge's centre, inches above the body's centre line.</summary>
    public double GaugeStands => GaugeHeight();

    /// <summary>
    /// Height that a part's water stands at when a gauge is held level with it, inches above the body's centre line.
    /// </summary>
    public double LevelOf(PartId part) =>
        part == Parts.SightTube ? Situation.Sizes.CockHeight + Situation.Sizes.TubeLength
        : part == Parts.AirInlet ? network.Cells[network.Body].Top
        : part == Parts.VentScrew ? Situation.Sizes.VentHeight
        : Situation.Sizes.CockHeight;

    /// <summary>Part of a hose that air fills now.</summary>
    public double AirIn(PartId hose) => 1 - Wet(Named(hose));
}
