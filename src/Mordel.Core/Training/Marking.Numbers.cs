using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Simulation;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using static Mordel.Core.Training.Narrator;

namespace Mordel.Core.Training;

// How the written numbers are marked.
public partial class Marking
{
    private void Number(TestItem item)
    {
        if (item.Kind != ItemKind.Differential || item == TestItem.Apparent || item == TestItem.ReliefBuffer)
            return;
        if (!examiner.Exact.TryGetValue(item, out var exact))
            return;
        if (
            !seen.Writes.TryGetValue(item, out var pulled)
            || pulled.Write.Value is not ItemValue.Measured { Reading.Value: var written }
        )
        {
            Add(
                $"{item.Id}.taken",
                $"{item.Name} taken",
                false,
                4,
                recording.End,
                $"Nothing was written down. A careful tester reads {Shown(exact)}."
            );
            return;
        }

        var value = (double)written.In(DifferentialUnit.Psid);
        Add($"{item.Id}.taken", $"{item.Name} taken", true, 1, pulled.At, $"You wrote {written}.");
        Hose(item, pulled);
        if (Rig.At(new(Parts.LowHose, "kit")) is not null && pulled.High is not null)
            Air(item, pulled);
        if (pulled.Low is null && hooked[item].Low is null)
            Height(item, pulled);
        Moment(item, pulled, value, exact);
        // A draw-down begins at two by the tester's own hand.
        var off = examiner.Plan.Procedure.Id == "dc-draw-down" ? 0.5 : Tolerance;
        var close = Math.Abs(value - exact) <= off + 1e-9 || RanDown(value, exact);
        Add(
            $"{item.Id}.number",
            $"{item.Name}: the right number",
            close,
            2,
            pulled.At,
            close
                ? $"You wrote {written}, a careful tester reads {Shown(exact)}."
                : $"You wrote {written}; done with care this rig gives {Shown(exact)}."
        );
    }

    private void Hose(TestItem item, WrittenAnswer pulled)
    {
        var (high, low) = hooked[item];
        var right = pulled.High == high && (pulled.Low == low || (low is null && pulled.Low is null));
        var crossed = high is not null && low is not null && pulled.High == low && pulled.Low == high;
        Add(
            $"{item.Id}.hoses",
            $"{item.Name}: hoses where they belong",
            right,
            2,
            pulled.At,
            right ? $"The high port felt the water {Place(pulled.High)}."
                : crossed
                    ? $"The hoses were swapped: the high port felt the water {Place(pulled.High)} and the low port "
                        + $"the water {Place(pulled.Low)}, so the needle was driven below zero, to "
                        + $"{Shown(pulled.Needle)}, and nothing you turned could lift it."
                : (
                    pulled.High is null
                        ? "The high port felt no water: its cock was closed or the hose hung loose"
                        : $"The high port felt the water {Place(pulled.High)}"
                ) + $"; it belongs {Place(high)}{(low is null ? "" : $", and the low port {Place(low)}")}."
        );
    }

    private void Air(TestItem item, WrittenAnswer pulled)
    {
        var airy = pulled.Air > Perception.AirFelt;
        Add(
            $"{item.Id}.purged",
            $"{item.Name}: air purged first",
            !airy,
            2,
            pulled.At,
            airy
                ? $"{Math.Round(pulled.Air * 100)} % of the high hose was still air when you took the number. Air "
                    + $"squeezes and stretches: the needle turned slowly, and with no water to stand in it the "
                    + $"hose's height counted as well. It stood at {Shown(pulled.Needle)}."
                : "The hose was full of water."
        );
    }

    private void Height(TestItem item, WrittenAnswer pulled)
    {
        var low = seen.Surface(pulled) - pulled.Stands;
        var right = Math.Abs(low) <= Inch;
        Add(
            $"{item.Id}.height",
            $"{item.Name}: gauge level with the water",
            right,
            2,
            pulled.At,
            right
                ? "The gauge's centre was level with the water."
                : $"The gauge hung {Number(Math.Abs(low), 0)} in {(low > 0 ? "below" : "above")} the water that "
                    + $"the reading refers to. That much water in the hose {(low > 0 ? "added" : "took off")} "
                    + $"{Number(Math.Abs(low) * Sizes.PsiPerInch, 2)} psid: the needle stood at "
                    + $"{Shown(pulled.Needle)}{(low > 0 ? ", too high" : ", too low")}."
        );
    }

    private void Moment(TestItem item, WrittenAnswer pulled, double value, double exact)
    {
        var (title, id) = ($"{item.Name}: taken at the right moment", $"{item.Id}.moment");
        if (item == TestItem.ReliefOpening && exact > 0.3)
            AtTheDrip(id, title, pulled, value);
        else if (item == TestItem.AirInletOpening && exact > 0.1)
            AtThePop(id, title, pulled, value);
        else
        {
            var still = Math.Abs(pulled.Rate) <= Still;
            var read = Math.Abs(value - pulled.Needle) <= Misread + (Kpa ? 0.1 : 0) || RanDown(value, pulled.Needle);
            // A number noted while the needle rested, before the tee was opened, is written down later.
            var noted = seen.Scenes.Any(s =>
                s.What.What == RigEventKind.Rests
                && s.What.At <= pulled.At
                && s.What.At > pulled.At - (NotedFor * Recording.PerSecond)
                && Math.Abs(s.What.Needle - value) <= Misread
            );
            Add(
                id,
                title,
                noted || (still && read),
                2,
                pulled.At,
                !still && !noted
                        ? $"The needle was still {(pulled.Rate < 0 ? "falling" : "rising")} by "
                            + $"{Number(Math.Abs(pulled.Rate), 2)} psid a second{Rested(pulled.At)}."
                    : read || noted ? "The needle stood still."
                    : $"The needle stood at {Shown(pulled.Needle)}; you wrote {Shown(value)}."
            );
        }
    }

    // A check that leaks is written down as zero, though the last of its water holds the needle a little above.
    private static bool RanDown(double value, double needle) => value == 0 && Math.Abs(needle) <= AsGoodAsZero;

    private string Rested(int after) =>
        seen.Scenes.FirstOrDefault(s => s.What.At > after && s.What.What == RigEventKind.Rests)
            is { What: { What: RigEventKind.Rests } rest }
            ? $"; it came to rest at {Shown(rest.Needle)}"
            : "";

    private void AtTheDrip(string id, string title, WrittenAnswer pulled, double value)
    {
        // The first water from a dry port with both hoses on.
        RigEvent? first = null;
        var wet = false;
        foreach (
            var scene in seen.Scenes.Where(s =>
                s.What.Part == Parts.Relief && s.What.At <= pulled.At && s.What.What <= RigEventKind.Pours
            )
        )
        {
            if (scene.What.What == RigEventKind.Dry)
                wet = false;
            else if (!wet)
            {
                wet = true;
                if (scene.Rig.Connections.ContainsKey(Parts.HighHose))
                    first = scene.What;
            }
        }

        if (first is not { } drip)
        {
            Add(
                id,
                title,
                false,
                2,
                pulled.At,
                "Nothing had dripped from the relief port yet: whatever the needle showed was not its opening point."
            );
            return;
        }

        var atOnce = Math.Abs(value - drip.Needle) <= Tolerance && pulled.At - drip.At <= Late * Recording.PerSecond;
        // Over a leaking CV1 it drips on, and the needle rests at the relief's point.
        var atRest =
            pulled.Relief < 0.05
            && Math.Abs(pulled.Rate) <= Still
            && Math.Abs(value - pulled.Needle) <= Misread + (Kpa ? 0.1 : 0);
        var good = atOnce || atRest;
        Add(
            id,
            title,
            good,
            2,
            drip.At,
            good
                ? $"The first drip came at {Shown(drip.Needle)}."
                : $"The first drip came at {Shown(drip.Needle)}; you wrote "
                    + $"{Shown(value)}{(pulled.Relief > 1 ? ", with the relief pouring" : "")}."
        );
    }

    private void AtThePop(string id, string title, WrittenAnswer pulled, double value)
    {
        if (
            seen.Scenes.LastOrDefault(s => s.What.What == RigEventKind.InletOpens && s.What.At <= pulled.At)
            is not { What: { What: RigEventKind.InletOpens } pop }
        )
        {
            Add(id, title, false, 2, pulled.At, $"The inlet had not opened when you wrote {Shown(value)}.");
            return;
        }

        var good = Math.Abs(value - pop.Needle) <= Tolerance;
        Add(
            id,
            title,
            good,
            2,
            pop.At,
            good
                ? $"The inlet opened at {Shown(pop.Needle)}."
                : $"The inlet opened at {Shown(pop.Needle)}, the needle going by at "
                    + $"{Number(Math.Abs(seen.Live.EventLog.Rate(pop.At)), 1)} psid a second; you wrote "
                    + $"{Shown(value)}."
        );
    }

    private static string Number(double value, int digits) => Narrator.Number(value, digits);
}
