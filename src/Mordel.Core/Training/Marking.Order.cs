using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using static Mordel.Core.Training.Narrator;

namespace Mordel.Core.Training;

// How the order of the work is marked, by what the water did.
public partial class Marking
{
    private void TwoWay()
    {
        foreach (var (item, value) in examiner.State.Results().Values.OrderBy(v => TestItem.All.IndexOf(v.Key)))
        {
            if (
                value is not (ItemValue.Tightness or ItemValue.YesNo)
                || item == TestItem.CheckAboveInlet
                || item == TestItem.Shutoff1
                || item == TestItem.Shutoff2
                || !examiner.Plan.School.Asks(item)
            )
                continue;
            var given = seen.Writes.GetValueOrDefault(item);
            Add(
                $"{item.Id}.answer",
                $"{item.Name}: the right answer",
                given?.Write.Value == value,
                2,
                given?.At ?? recording.End,
                given is null ? $"No answer was given; a careful tester says {value}."
                    : given.Write.Value == value ? $"You said {value}."
                    : $"You said {given.Write.Value}; on this rig it is {value}."
            );
        }
    }

    private void Order()
    {
        if (Rig.Has(Parts.AirInlet))
            InletUnread();
        if (Rig.Has(Parts.Relief))
        {
            FeedFlung();
            ZoneRestored();
        }

        if (examiner.Findings.Contains(FindingKind.So1Leaks))
            Compensated();
    }

    // SO1 shut with SO2 open takes the body's water to the site, and the inlet drops before anybody reads it. Where
    // nothing drew, nothing was lost.
    private void InletUnread()
    {
        var until = seen.Writes.GetValueOrDefault(TestItem.AirInletOpening)?.At ?? recording.End;
        var lost = seen.Scenes.FirstOrDefault(s =>
            s.What.What == RigEventKind.InletOpens
            && s.What.At <= until
            && !s.Rig[Parts.So1].IsOpen
            && s.Rig[Parts.So2].IsOpen
        );
        var did = lost.What.What == RigEventKind.InletOpens;
        Add(
            "so2-first",
            "SO2 shut before SO1",
            !did,
            3,
            lost.What.At,
            did
                ? $"SO1 was shut while SO2 stood open: the body's water ran off to the site, the needle fell to "
                    + $"{Shown(lost.What.Needle)} by itself and the inlet dropped before you could lower it "
                    + $"and read it."
                : "The body kept its water until you lowered it."
        );
    }

    private void FeedFlung()
    {
        // The controls may have been shut again by the time the water is at the port.
        var poured = seen.Scenes.FirstOrDefault(s =>
            s.What.What == RigEventKind.Pours && s.What.Part == Parts.Relief && Joined(s.Rig)
        );
        var did = poured.What.What == RigEventKind.Pours;
        var before = poured.What.At - Recording.PerSecond;
        Add(
            "fed-slowly",
            "Zone fed slowly",
            !did,
            2,
            before,
            did
                ? $"The low control stood {Number((double)poured.Rig[Parts.LowControl].Fraction * 100, 0)} % open: "
                    + $"supply water rushed into the zone, the needle fell from "
                    + $"{Shown(seen.Live.EventLog.NeedleAt(before))} to "
                    + $"{Shown(seen.Live.EventLog.NeedleAt(poured.What.At + (Recording.PerSecond / 2)))} within "
                    + $"a second and the relief poured. That flood is the tester's, not the valve's; its "
                    + $"first drip went by unread."
                : "The relief came to its point drop by drop."
        );
    }

    private bool Joined(RigState state) =>
        Rig.Has(Parts.LowControl)
        && (double)state[Parts.LowControl].Fraction > FlungOpen
        && state[Parts.HighControl].IsOpen
        && state.Connections.ContainsKey(Parts.HighHose)
        && state.Connections.ContainsKey(Parts.LowHose);

    private void ZoneRestored()
    {
        if (
            !examiner.Exact.TryGetValue(TestItem.Check1, out var exact)
            || !seen.Writes.TryGetValue(TestItem.Check1, out var pulled)
            || exact < 3
        )
            return;
        var restored = pulled.Needle >= exact - 0.3;
        Add(
            "zone-restored",
            "Zone restored before CV1 is read",
            restored,
            2,
            pulled.At,
            restored
                ? "The zone had been let down: the needle stood up at what CV1 holds."
                : $"The zone still held the water that had been fed into it: the needle stood at "
                    + $"{Shown(pulled.Needle)}, where CV1 holds {Shown(exact)}."
        );
    }

    private void Compensated()
    {
        foreach (var item in new[] { TestItem.Check1, TestItem.Check2 })
        {
            if (
                !seen.Writes.TryGetValue(item, out var pulled)
                || !examiner.Exact.TryGetValue(item, out var exact)
                || pulled.Write.Value is not ItemValue.Measured { Reading.Value: var written }
            )
                continue;
            var good =
                pulled.Outlet <= OnlyDrips
                || exact < AsGoodAsZero
                || Math.Abs((double)written.In(DifferentialUnit.Psid) - exact) <= 0.05;
            Add(
                $"{item.Id}.bled",
                $"{item.Name}: SO1’s leak bled away",
                good,
                2,
                pulled.At,
                good
                    ? "It only dripped when you read."
                    : $"Water still ran out at {Flow(pulled.Outlet)} when you read: SO1 let it in and held the "
                        + $"needle up at {Shown(pulled.Needle)}. Bled at the tee until it only drips, it stands at "
                        + $"{Shown(exact)}."
            );
        }
    }
}
