using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Simulation;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using static Mordel.Core.Training.Narrator;

namespace Mordel.Core.Training;

/// <summary>
/// Marks a recording by what the rig was in when each thing was done: never by one literal order. What a careful tester
/// gets on the same rig is the measure; the simulated tester is that tester.
/// </summary>
public sealed class Marking
{
    // psid: as far from the examiner's number as a good one may be, as far from the needle as it may be written, what
    // counts as run down to zero; inches that height may be off.
    private const double Tolerance = 0.2,
        Misread = 0.15,
        AsGoodAsZero = 0.45,
        Inch = 1.25;

    // psid/s: slower than this the needle is still; seconds after its moment that a number is written down at the
    // latest.
    private const double Still = Perception.ReadsStill,
        Late = 30,
        NotedFor = 240;
    private const double FlungOpen = 0.25,
        OnlyDrips = Perception.OnlyDrips;

    private readonly Recording recording;
    private readonly BenchObserver seen;
    private readonly SimulatedTest examiner;
    private readonly Dictionary<TestItem, (string? High, string? Low)> hooked = [];
    private readonly ImmutableArray<MarkLine>.Builder marks = ImmutableArray.CreateBuilder<MarkLine>();

    private Marking(Recording recording, WorkBudget? budget)
    {
        this.recording = recording;
        examiner = recording.Scenario.Perform(null, budget);
        seen = new(recording, budget);
        var state = Rig.InService();
        foreach (var (_, step) in examiner.Plan.Sheet.Steps)
        {
            state = state.ApplyAll(examiner.Plan.Sheet.MovesOf(step));
            if (step.Capture is { Provisional: false } capture)
                hooked.TryAdd(capture.Item, (state.Feels(Parts.HighHose), state.Feels(Parts.LowHose)));
        }
    }

    private Rig Rig => recording.Scenario.Situation.Rig;

    private Situation Situation => recording.Scenario.Situation;

    private bool Kpa => examiner.Plan.Resolution.Unit == DifferentialUnit.Kpa;

    /// <summary>Marks a recording.</summary>
    /// <param name="recording">The recording.</param>
    /// <param name="budget">What may be spent on playing it; null for as much as it takes.</param>
    /// <exception cref="TooMuchWorkException">The budget is used up.</exception>
    public static MarkSheet Mark(Recording recording, WorkBudget? budget = null)
    {
        ArgumentNullException.ThrowIfNull(recording);
        var marking = new Marking(recording, budget);
        marking.Preparing();
        foreach (var (_, item) in marking.examiner.Plan.Captures.DistinctBy(c => c.Item))
            marking.Number(item);
        marking.TwoWay();
        marking.Order();
        marking.Report();
        marking.Leaving();
        return new(
            marking.marks.ToImmutable(),
            marking.examiner.Verdict.Overall,
            SituationText.Describe(marking.Situation),
            recording.End / (double)Recording.PerSecond
        );
    }

    private void Add(string id, string title, bool earned, int weight, int at, string says, bool endsIt = false) =>
        marks.Add(new(id, title, earned, weight, Math.Clamp(at, 0, recording.End), says, endsIt));

    private void Preparing()
    {
        var skipped = seen.FittedUnflushed.OrderBy(f => f.Value).ToList();
        Add(
            "flushed",
            "Cocks flushed before anything is fitted",
            skipped.Count == 0,
            1,
            skipped.FirstOrDefault().Value,
            skipped.Count == 0
                ? "Every cock ran before it took a hose."
                : $"{string.Join(", ", skipped.Select(s => Rig[s.Key].Label))} took a hose or fitting without "
                    + $"having run: grit in it goes into the gauge."
        );
        if (!Rig.Has(Parts.Relief))
            return;
        var dumped = seen
            .Scenes.Where(s =>
                s.What is { What: RigEventKind.Pours }
                && s.What.Part == Parts.Relief
                && !s.Rig.Connections.ContainsKey(Parts.HighHose)
            )
            .ToList();
        Add(
            "dumped",
            "The relief kept shut while flushing",
            dumped.Count == 0,
            1,
            dumped.FirstOrDefault().What.At,
            dumped.Count == 0
                ? "The zone stayed low."
                : $"The relief dumped: {Drawn(dumped[0].Rig)} drew the supply side down with nothing "
                    + $"running behind CV2."
        );
    }

    private string Drawn(RigState state) =>
        string.Join(", ", Rig.Body.AllCocks.Where(c => state[c].IsOpen).Select(c => Rig[c].Label))
            is { Length: > 0 } open
            ? open
            : "something";

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

    private void Report()
    {
        // What a careful tester puts right at once is no finding of the assembly's.
        var wanted = examiner.Findings.Where(f => f.OfTheAssembly).ToImmutableSortedSet(FindingKind.ById);
        foreach (var finding in wanted)
            Add(
                $"found.{finding}",
                $"Found: {finding.Words}",
                seen.Findings.Contains(finding),
                2,
                seen.VerdictAt,
                seen.Findings.Contains(finding)
                    ? "It is on your report."
                    : $"{Capital(finding.Words)}: it showed, and is not among your remarks."
            );
        var wrong = seen.Findings.Except(wanted);
        Add(
            "found.nothing-else",
            "Nothing found that is not there",
            wrong.IsEmpty,
            1,
            seen.VerdictAt,
            wrong.IsEmpty
                ? "No false finding."
                : $"{Capital(string.Join("; ", wrong.Select(f => f.Words)))}: this rig does not do that."
        );
        var overall = examiner.Verdict.Overall;
        var right = seen.Verdict == overall;
        Add(
            "verdict",
            "The right verdict",
            right,
            3,
            seen.VerdictAt,
            seen.Verdict is not { } said ? $"No verdict was given; it is {SituationText.Word(overall)}."
                : right ? $"{Capital(SituationText.Word(overall))}."
                : $"You said {SituationText.Word(said)}; it is {SituationText.Word(overall)}. "
                    + $"{examiner.Verdict.Reason}",
            endsIt: overall == Overall.Fail && seen.Verdict == Overall.Pass
        );
    }

    private void Leaving()
    {
        var (rig, end) = (seen.Live.Rig, recording.End);
        var shut = Rig
            .Parts.Where(p => p.Kind == PartKind.Shutoff && rig[p.Id].Fraction < 0.95m)
            .Select(p => $"{p.Label} is not fully open")
            .Concat(
                Rig.Parts.Where(p => p.Kind is PartKind.Cock or PartKind.Screw && rig[p.Id].IsOpen)
                    .Select(p => $"{p.Label} stands open")
            )
            .Concat(
                rig.Connections.Keys.OrderBy(k => k.Value, StringComparer.Ordinal)
                    .Select(k => $"the {Rig[k].Label} is still on")
            )
            .ToList();
        Add(
            "restored",
            "Left as found",
            shut.Count == 0,
            3,
            end,
            shut.Count == 0
                ? "Shutoffs open, cocks closed, nothing left behind."
                : $"{Capital(string.Join(", ", shut))}."
        );
        var wet = Rig.Kit.Parts.Where(p => p.Turns && rig[p.Id].Fraction < 0.3m).Select(p => p.Label).ToList();
        Add(
            "drained",
            "Kit drained",
            wet.Count == 0,
            1,
            end,
            wet.Count == 0
                ? "Every valve of the kit is open."
                : $"The {string.Join(", ", wet)} {(wet.Count == 1 ? "is" : "are")} shut: the water left inside "
                    + $"freezes and breaks the kit."
        );
        Safe("hammer", "Shutoffs turned gently", RigEventKind.Hammer, 2, e =>
            e.Amount > Sizes.Atmosphere
                ? $"{Rig[e.Part].Label} was flung: {Number(e.Amount, 0)} psi stood across it, and the pipes knock."
                : $"{Rig[e.Part].Label} was flung: the flow was stopped at a blow, and the pipes knock."
        );
        Safe("relieved", "Couplings undone without pressure", RigEventKind.SpraysOff, 2, e =>
            $"The {Rig[e.Part].Label} came off with {Number(e.Amount, 0)} psi behind it: it sprays and whips."
        );
        if (Rig.Has(Parts.VentScrew))
            Safe("vent", "Vent screw taken out gently", RigEventKind.BlowsOut, 2, e =>
                $"The screw came out with {Number(e.Amount, 0)} psi behind it."
            );
    }

    private void Safe(string id, string title, RigEventKind what, int weight, Func<RigEvent, string> says)
    {
        var did = seen.Scenes.Where(s => s.What.What == what).Select(s => s.What).ToList();
        Add(
            id,
            title,
            did.Count == 0,
            weight,
            did.FirstOrDefault().At,
            did.Count == 0 ? "Nothing dangerous." : says(did[0])
        );
    }

    private string Shown(double psid) =>
        Kpa ? $"{Narrator.Number(psid * (double)DifferentialUnits.KpaPerPsi, 0)} kPa" : Psid(psid);

    private static string Number(double value, int digits) => Narrator.Number(value, digits);

    private static string Place(string? chamber) =>
        chamber switch
        {
            "inlet" => "before SO1",
            "before-cv1" => "before CV1",
            "between-checks" => "between the checks",
            "zone" => "in the zone",
            "behind-cv2" => "behind CV2",
            "body" => "in the body behind the check",
            "outlet" => "behind SO2",
            null => "in no water",
            _ => $"in the {chamber}",
        };
}
