using Mordel.Core.Drawing;
using Mordel.Core.Rigs;

namespace Mordel.Core.Training;

/// <summary>
/// What a screen shows of a rig at a moment, as a row of numbers in a fixed order: cheap enough for sixty a second.
/// First the head, then two numbers a chamber (pressure in psi, part filled), then three a part (opening or lift, flow
/// through it, flow out of it to the air, in³/s), then the air in each hose.
/// </summary>
/// <param name="live">The rig.</param>
public sealed class BenchView(LiveRig live)
{
    /// <summary>
    /// Numbers in the head: tick, needle, its rate, tube level (−1 without), gauge height, tap, greatest pressure
    /// about, happenings so far, actions so far.
    /// </summary>
    public const int Head = 9;

    private readonly string[] chambers = [.. live.Water.Chambers];
    private readonly Part[] parts = [.. live.Rig.Rig.Parts];
    private readonly PartId[] hoses = [.. live.Rig.Rig.Parts.Where(p => p.Kind == PartKind.Hose).Select(p => p.Id)];

    /// <summary>The chambers, in the order of the row.</summary>
    public IReadOnlyList<string> Chambers => chambers;

    /// <summary>The parts, in the order of the row.</summary>
    public IReadOnlyList<Part> Parts => parts;

    /// <summary>The hoses, in the order of the row.</summary>
    public IReadOnlyList<PartId> Hoses => hoses;

    /// <summary>The row.</summary>
    public double[] Row()
    {
        var (water, row) = (live.Water, new double[Head + (2 * chambers.Length) + (3 * parts.Length) + hoses.Length]);
        var tube = water.TubeLevel;
        (row[0], row[1], row[2], row[3], row[4], row[5], row[7], row[8]) = (
            live.Tick,
            water.Needle,
            live.EventLog.Rate(live.Tick),
            double.IsNaN(tube) ? -1 : tube,
            water.GaugeStands,
            water.TapOpen ? 1 : 0,
            live.EventLog.All.Count,
            live.Actions.Count
        );
        row[6] = Math.Max(
            water.Situation.Supply.Psi + water.Situation.Supply.Swing,
            water.Situation.SiteBehind.Pressure
        );
        var at = Head;
        foreach (var chamber in chambers)
        {
            row[at++] = water.PressureIn(chamber);
            row[at++] = water.Fills(chamber);
        }

        foreach (var part in parts)
        {
            row[at++] = part.Turns ? (double)live.Rig[part.Id].Fraction : water.Lifts(part.Id);
            row[at++] = water.Through(part.Id);
            row[at++] =
                part.Kind == PartKind.Site
                    ? water.TapOpen
                        ? water.Spills(part.Id)
                        : 0
                    : water.Spills(part.Id);
        }

        foreach (var hose in hoses)
            row[at++] = water.AirIn(hose);
        return row;
    }

    /// <summary>The drawing and where things are on it.</summary>
    public BenchDrawing Draw(FlowDirection flow, out string svg) => BenchDrawing.Draw(live.Rig.Rig, flow, out svg);
}
