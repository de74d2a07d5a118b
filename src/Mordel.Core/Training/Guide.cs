using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Simulation;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Training;

/// <summary>An instruction on the learner's sheet.</summary>
/// <param name="Say">The sentence.</param>
/// <param name="Done">Whether the rig has been where it leads.</param>
/// <param name="Parts">The parts a hand goes to.</param>
public sealed record GuidedLine(string Say, bool Done, ImmutableArray<PartId> Parts);

/// <summary>
/// The run sheet beside a rig that is worked by hand. It watches the rig and ticks an instruction when the rig has been
/// where the instruction leads; the log it writes is an ordinary run's. It never forbids anything: what stands
/// otherwise than the sheet has it is said.
/// </summary>
public sealed partial class Guide
{
    // Ticks between two looks; ticks that the eyes stay on the rig after a step's last turn before it counts as done.
    private const int Glance = 15,
        Watching = 4 * Recording.PerSecond;
    private const double Level = 0.75;

    private readonly LiveRig live;
    private readonly List<(int At, Entry Entry)> written = [];
    private readonly Eyes eyes;
    private Replay replay;
    private PlannedStep? at;
    private Ticking[] lines = [];
    private int doneAt;

    private sealed record Ticking(Act Act, Instruction Instruction)
    {
        public int Reached { get; set; }

        public bool Done => Reached >= Instruction.Moves.Length;
    }

    /// <summary>A sheet for a scenario, beside its rig.</summary>
    public Guide(Scenario scenario, LiveRig live)
    {
        ArgumentNullException.ThrowIfNull(scenario);
        this.live = live;
        Plan = scenario.Plan;
        replay = new(Plan);
        State = replay.State;
        eyes = new(live.Water, scenario.Situation.FullScale);
        Follow();
    }

    /// <summary>What the run is made with.</summary>
    public RunPlan Plan { get; }

    /// <summary>Where the run stands.</summary>
    public RunState State { get; private set; }

    /// <summary>The instructions of the step at hand.</summary>
    public IEnumerable<GuidedLine> Lines =>
        lines.Select(l => new GuidedLine(
            l.Instruction.Say,
            l.Done && (l.Instruction.Moves.Length > 0 || AllTurned),
            [.. l.Instruction.Touches]
        ));

    /// <summary>Whether all of the step's turning is done.</summary>
    public bool AllTurned => lines.All(l => l.Done);

    /// <summary>Whether the step waits for a word: it is for eyes and papers, and turns nothing.</summary>
    public bool WaitsForAWord =>
        at is { } step
        && step.Step.Capture is null
        && !step.Step.MustAnswer
        && lines.All(l => l.Instruction.Moves.Length == 0);

    /// <summary>Whether something is to be seen that the sheet has an answer for.</summary>
    public bool LooksOdd { get; private set; }

    /// <summary>How the rig stands otherwise than the sheet has it, as sentences.</summary>
    public IEnumerable<string> Astray
    {
        get
        {
            if (at is not { } step)
                yield break;
            var touched = lines.SelectMany(l => l.Instruction.Touches).ToHashSet();
            var (stands, should) = (live.Rig, State.Rig);
            foreach (var part in stands.Rig.Parts.Where(p => p.Turns && !touched.Contains(p.Id)))
            {
                if (
                    stands[part.Id].IsOpen == should[part.Id].IsOpen
                    || (part.Id == Parts.BleedOff && !stands.Connections.ContainsKey(part.Id))
                )
                    continue;
                yield return $"{Wording.Capital(part.Label)} is {(stands[part.Id].IsOpen ? "open" : "closed")}; "
                    + $"here the sheet has it {(should[part.Id].IsOpen ? "open" : "closed")}.";
            }

            foreach (var part in stands.Rig.Parts.Where(p => p.Attaches && !touched.Contains(p.Id)))
            {
                var (here, there) = (
                    stands.Connections.GetValueOrDefault(part.Id),
                    should.Connections.GetValueOrDefault(part.Id)
                );
                if (here != there)
                    yield return $"The {part.Label} is {Where(here)}; here the sheet has it {Where(there)}.";
            }

            string Where(PartId on) => on == default ? "off" : $"on {stands.Rig[on].Label}";
        }
    }

    /// <summary>A number that is another whenever something on the sheet may read otherwise than before.</summary>
    public int Version { get; private set; }

    /// <summary>What is to be done next, as a hint; null when nothing is to be turned.</summary>
    public GuidedLine? Hint =>
        lines.FirstOrDefault(l => !l.Done) is { } line
            ? new(line.Instruction.Say, false, [line.Instruction.Moves[line.Reached].About])
            : null;

    /// <summary>
    /// The learner says that a step for eyes and papers is done; before and after the test all of a kind at once.
    /// </summary>
    public void Confirm()
    {
        if (at is not { } step)
            return;
        if (step.Stage != "before")
        {
            Write(new EntryBody.Done(step.Key));
            return;
        }

        while (at is { Stage: "before" } next)
            Write(new EntryBody.Done(next.Key));
    }

    /// <summary>The learner takes a number; its speed is known.</summary>
    public void Take(decimal amount)
    {
        if (at is not { Step.Capture: { } capture } step)
            return;
        var unit = Plan.Resolution.Unit;
        if (capture.Item.Kind == ItemKind.LinePressure)
            Write(
                new EntryBody.Answered(
                    step.Key,
                    capture.Item,
                    new ItemValue.Line(
                        new(amount, unit == DifferentialUnit.Psid ? LinePressureUnit.Psi : LinePressureUnit.Kpa)
                    )
                )
            );
        else if (capture.Item.Kind == ItemKind.Length)
            Write(
                new EntryBody.Answered(
                    step.Key,
                    capture.Item,
                    new ItemValue.Clearance(
                        new(amount, unit == DifferentialUnit.Psid ? LengthUnit.Inch : LengthUnit.Millimetre)
                    )
                )
            );
        else
        {
            var speed =
                (decimal)Math.Abs(live.EventLog.Rate(live.Tick))
                * (unit == DifferentialUnit.Psid ? 1 : DifferentialUnits.KpaPerPsi);
            Write(
                new EntryBody.Taken(
                    step.Key,
                    new Reading(new(amount, unit), Plan.Resolution, new Differential(decimal.Round(speed, 3), unit))
                )
            );
        }
    }

    /// <summary>The learner says what is to be seen.</summary>
    public void See(string sight)
    {
        if (at is { } step && step.Step.SightNamed(sight) is not null)
            Write(new EntryBody.Saw(step.Key, sight));
    }

    /// <summary>
    /// The bench has gone back to an earlier moment: what was written after it is gone from the sheet.
    /// </summary>
    public void Back()
    {
        written.RemoveAll(w => w.At > live.Tick);
        replay = new(Plan);
        State = replay.State;
        foreach (var (_, entry) in written)
            State = replay.Add(entry);
        at = null;
        Follow();
        Notice();
    }

    // FNV-1a over what the sheet shows: entries, ticks, what is open, what is on.
    private void Notice()
    {
        var hash = (uint)written.Count;
        void Mix(int value) => hash = (hash ^ (uint)value) * 16777619;
        foreach (var line in lines)
            Mix(line.Reached);
        Mix(LooksOdd ? 1 : 0);
        foreach (var part in live.Rig.Rig.Parts)
            if (part.Turns)
                Mix(live.Rig[part.Id].IsOpen ? 3 : 5);
        foreach (var (item, on) in live.Rig.Connections.OrderBy(c => c.Key.Value, StringComparer.Ordinal))
            Mix(item.Value.Length * on.Value[^1]);
        Version = (int)(hash & 0xFFFFFFF);
    }

    private void Write(EntryBody body)
    {
        var number = written.Count + 1L;
        var id = new byte[16];
        BitConverter.TryWriteBytes(id, number);
        var entry = new Entry(
            new(new Guid(id)),
            number,
            DateTimeOffset.UnixEpoch.AddSeconds(live.Tick / (double)Recording.PerSecond),
            body
        );
        written.Add((live.Tick, entry));
        State = replay.Add(entry);
        Follow();
        Notice();
    }
}
