using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
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
public sealed partial class Marking
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
                    : $"{Wording.Capital(finding.Words)}: it showed, and is not among your remarks."
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
                : $"{Wording.Capital(string.Join("; ", wrong.Select(f => f.Words)))}: this rig does not do that."
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
                : right ? $"{Wording.Capital(SituationText.Word(overall))}."
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
                : $"{Wording.Capital(string.Join(", ", shut))}."
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
