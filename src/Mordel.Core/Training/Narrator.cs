using System.Globalization;
using Mordel.Core.Collections;
using Mordel.Core.Rigs;

namespace Mordel.Core.Training;

/// <summary>Says in the field's words what the water did and how a rig stands.</summary>
public static class Narrator
{
    /// <summary>One happening, as a short sentence.</summary>
    /// <param name="e">What happened.</param>
    /// <param name="rig">Where.</param>
    /// <param name="numbers">Whether the needle is told; in an exam everybody reads it for himself.</param>
    public static string Say(RigEvent e, Rig rig, bool numbers = true)
    {
        ArgumentNullException.ThrowIfNull(rig);
        var at = Outlet(e.Part, rig);
        return e.What switch
        {
            RigEventKind.Dry => $"{at} has stopped.",
            RigEventKind.Drips => numbers ? $"{at} drips, needle at {Psid(e.Needle)}." : $"{at} drips.",
            RigEventKind.Runs => $"Water runs from {Lower(at)}.",
            RigEventKind.Pours => $"Water pours from {Lower(at)}.",
            RigEventKind.InletOpens => numbers ? $"The air inlet opens at {Psid(e.Needle)}." : "The air inlet opens.",
            RigEventKind.InletShuts => "The air inlet shuts.",
            RigEventKind.Pegs => "The needle is at its peg.",
            RigEventKind.LeavesPeg => "The needle leaves its peg.",
            RigEventKind.Rests => numbers ? $"The needle rests at {Psid(e.Needle)}." : "The needle rests.",
            RigEventKind.AirGone => $"The {rig[e.Part].Label} is free of air.",
            RigEventKind.AirIn => $"Air has come into the {rig[e.Part].Label}.",
            RigEventKind.TubeEmpty => "The tube has emptied.",
            RigEventKind.TubeFull => "The tube stands full.",
            RigEventKind.Hammer => $"The pipes knock: {rig[e.Part].Label} was flung.",
            RigEventKind.SpraysOff =>
                $"The {rig[e.Part].Label} sprays as it comes off, {Number(e.Amount, 0)} psi behind it.",
            _ => $"The {rig[e.Part].Label} is blown out, {Number(e.Amount, 0)} psi behind it.",
        };
    }

    /// <summary>
    /// What happened between two ticks, with the needle's way; what stopped again in between is left out.
    /// </summary>
    public static string Tell(LiveRig live, int from, int to)
    {
        ArgumentNullException.ThrowIfNull(live);
        var (first, last) = (live.EventLog.NeedleAt(from), live.EventLog.NeedleAt(to));
        var told = live
            .EventLog.All.Where(e =>
                e.At > from
                && e.At <= to
                && e.What is not (RigEventKind.Rests or RigEventKind.LeavesPeg or RigEventKind.Pegs or RigEventKind.Dry)
            )
            .GroupBy(e => (e.Part, Stream: e.What <= RigEventKind.Pours))
            .Select(g => g.Key.Stream ? g.MaxBy(e => e.What) : g.Last())
            .OrderBy(e => e.At)
            .Select(e => Say(e, live.Rig.Rig))
            .ToList();
        told.Insert(
            0,
            Math.Abs(last - first) < 0.05
                ? $"The needle stays at {Psid(last)}."
                : $"The needle goes from {Psid(first)} to {Psid(last)}."
        );
        return string.Join(" ", told);
    }

    /// <summary>How a rig stands, for somebody who cannot see it.</summary>
    public static string Describe(LiveRig live)
    {
        ArgumentNullException.ThrowIfNull(live);
        var (state, rig) = (live.Rig, live.Rig.Rig);
        List<string> said = [$"Needle {Psid(live.Water.Needle)}{Moving(live)}."];
        said.AddRange(rig.Parts.Where(p => p.Kind is PartKind.Shutoff).Select(p => $"{p.Label} {Open(state[p.Id])}."));
        var open = rig
            .Parts.Where(p => p.Turns && p.Kind != PartKind.Shutoff && state[p.Id].IsOpen)
            .Select(p => $"{p.Label} {Open(state[p.Id])}")
            .ToList();
        said.Add(
            open.Count == 0
                ? "Every cock and kit valve closed."
                : $"{Wording.Capital(string.Join(", ", open))}; every other valve closed."
        );
        said.AddRange(
            state
                .Connections.OrderBy(c => c.Key.Value, StringComparer.Ordinal)
                .Select(c =>
                    $"{Wording.Capital(rig[c.Key].Label)} on "
                    + $"{rig[c.Value].Label}"
                    + $"{(live.EventLog.HasAir(c.Key) && rig[c.Key].Kind == PartKind.Hose ? ", air in it" : "")}."
                )
        );
        said.Add($"Gauge {Height(live.Water.GaugeStands)} the body's centre.");
        if (!double.IsNaN(live.Water.TubeLevel))
            said.Add($"Tube {Number(live.Water.TubeLevel * 100, 0)} per cent full.");
        if (rig.Has(Parts.AirInlet))
            said.Add(
                live.Water.InletOpen
                    ? live.Water.InletOpening < 0.9
                        ? "Air inlet partly open."
                        : "Air inlet open."
                    : "Air inlet shut."
            );
        said.AddRange(
            rig.Parts.Where(p => live.EventLog.Stream(p.Id) != RigEventKind.Dry)
                .Select(p =>
                    live.EventLog.Stream(p.Id) switch
                    {
                        RigEventKind.Drips => $"{Outlet(p.Id, rig)} drips.",
                        RigEventKind.Runs => $"{Outlet(p.Id, rig)} runs.",
                        _ => $"{Outlet(p.Id, rig)} pours.",
                    }
                )
        );
        return string.Join(" ", said);
    }

    internal static string Psid(double value) => $"{Number(value)} psid";

    internal static string Number(double value, int digits = 1)
    {
        var rounded = Math.Round(value, digits, MidpointRounding.AwayFromZero);
        return (rounded == 0 ? 0 : rounded).ToString($"F{digits}", CultureInfo.InvariantCulture);
    }

    internal static string Flow(double value) =>
        value < 0.005 ? "a drop now and then"
        : value < 0.05 ? "a drip"
        : $"{Number(value, value < 1 ? 2 : 1)} in³ a second";

    internal static string Outlet(PartId part, Rig rig) =>
        rig[part].Kind switch
        {
            PartKind.Cock => rig[part].Label,
            PartKind.Relief => "The relief port",
            PartKind.Inlet => "The canopy",
            PartKind.Screw => "The vent",
            PartKind.Bleed => $"The drain tube of the {rig[part].Label}",
            PartKind.Hose => $"The end of the {rig[part].Label}",
            PartKind.Gauge => "The gauge",
            _ => $"The {rig[part].Label}",
        };

    private static string Moving(LiveRig live)
    {
        var rate = live.EventLog.Rate(live.Tick, Recording.PerSecond);
        return Math.Abs(rate) < 0.02 ? ", still"
            : rate < 0 ? $", falling {Number(-rate, 2)} a second"
            : $", rising {Number(rate, 2)} a second";
    }

    private static string Open(Opening opening) =>
        !opening.IsOpen ? "closed"
        : opening.Fraction >= 0.95m ? "open"
        : $"{Number((double)opening.Fraction * 100, opening.Fraction < 0.1m ? 1 : 0)} per cent open";

    private static string Height(double inches) =>
        Math.Abs(inches) < 0.5
            ? "level with"
            : $"{Number(Math.Abs(inches), 0)} inches {(inches < 0 ? "below" : "above")}";

    internal static string Lower(string text) =>
        text.StartsWith("The ", StringComparison.Ordinal) ? $"t{text[1..]}" : text;
}
