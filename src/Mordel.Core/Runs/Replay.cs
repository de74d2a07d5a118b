using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Runs;

/// <summary>
/// Plays a log over a plan. Total: every entry either takes effect or is set aside with a reason, so that no log, in
/// whatever order its entries arrived, leads to a dead end.
/// </summary>
public sealed class Replay
{
    private readonly RunPlan plan;
    private readonly StepQueue agenda;
    private readonly Book book;
    private readonly List<Entry> notes = [];
    private readonly List<SetAside> setAside = [];
    private readonly List<EarlierSet> earlier = [];
    private readonly HoldTracker watches;
    private readonly Dictionary<TestItem, ItemValue> transcribed = [];
    private readonly List<RigState> passed = [];
    private readonly WaterMemory water = new();
    private readonly Dictionary<string, RigState> rigAt = [];
    private readonly SortedDictionary<string, EnteredPosition> found = new(StringComparer.Ordinal);
    private readonly SortedDictionary<string, EnteredPosition> left = new(StringComparer.Ordinal);
    private readonly Dictionary<Matter, AgreedWith> agreed = [];
    private RigState start,
        rig;
    private bool inletPassedOver,
        outletConfirmed,
        sitePushesBack;
    private EntryBody.SerialDiffers? serial;
    private EntryBody.GaugeOffset? height;
    private LinePressure? line;
    private string? notTestable,
        paused,
        remarks,
        pace;

    /// <summary>Begins to play; entries are added one by one.</summary>
    public Replay(RunPlan plan)
    {
        ArgumentNullException.ThrowIfNull(plan);
        this.plan = plan;
        start = rig = plan.Rig.InService();
        agenda = new(plan.Sheet);
        book = new(plan);
        watches = new(plan);
        rigAt[plan.Sheet.Steps[0].Step.Id] = rig;
    }

    /// <summary>Plays a log; more entries can be added one by one.</summary>
    public Replay(RunPlan plan, RunLog log)
        : this(plan)
    {
        ArgumentNullException.ThrowIfNull(log);
        var takenBack = Retracted(log);
        foreach (var entry in log.Entries)
            if (entry.Body is EntryBody.Corrected c && !takenBack.Contains(entry.Id))
                book.Corrections[c.Of] = c;
        foreach (var entry in log.Entries)
            if (!takenBack.Contains(entry.Id))
                Play(entry);
    }

    /// <summary>The state that a log leads to.</summary>
    public static RunState Run(RunPlan plan, RunLog log)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(log);
        return new Replay(plan, log).State;
    }

    /// <summary>
    /// The state after one entry more, for a log that is only written at its end. What changes earlier entries needs
    /// <see cref="Run"/>.
    /// </summary>
    /// <exception cref="ArgumentException">The entry takes back or corrects.</exception>
    public RunState Add(Entry entry)
    {
        ArgumentNullException.ThrowIfNull(entry);
        if (Rewrites(entry.Body))
            throw new ArgumentException("An entry that changes earlier ones needs the whole log.", nameof(entry));
        Play(entry);
        return Finished();
    }

    /// <summary>The state so far.</summary>
    public RunState State => Finished();

    /// <summary>Whether an entry changes what earlier entries say.</summary>
    public static bool Rewrites(EntryBody body) => body is EntryBody.TookBack or EntryBody.Corrected;

    // A taking-back can itself be taken back; later ones decide first.
    private HashSet<EntryId> Retracted(RunLog log)
    {
        var gone = new HashSet<EntryId>();
        if (!log.Entries.Any(e => e.Body is EntryBody.TookBack))
            return gone;
        var known = log.Entries.Select(e => e.Id).ToHashSet();
        foreach (var entry in log.Entries.Reverse())
        {
            if (entry.Body is not EntryBody.TookBack back || gone.Contains(entry.Id))
                continue;
            if (known.Contains(back.Of) && back.Of != entry.Id)
                gone.Add(back.Of);
            else
                setAside.Add(new(entry, "The entry it takes back is not in this run."));
        }

        return gone;
    }

    private void Play(Entry entry)
    {
        switch (entry.Body)
        {
            case EntryBody.Done done when Reach(entry, done.Step) is { } step:
                if (step.Step.MustAnswer)
                    Aside(entry, "This step ends with one of its sights.");
                else if (step.Step.Capture is { MayBePassed: false } capture && !book.Has(capture))
                    Aside(entry, "This step asks for an answer or a sight.");
                else
                    Leave(entry, step, Passing.Done);
                break;
            case EntryBody.Taken taken when Reach(entry, taken.Step) is { } step:
                Take(entry, step, taken.Reading);
                break;
            case EntryBody.Answered answered when Reach(entry, answered.Step) is { } step:
                Answer(entry, step, answered);
                break;
            case EntryBody.Saw saw when Reach(entry, saw.Step) is { } step:
                if (step.Step.SightNamed(saw.Sight) is not { } sight)
                    Aside(entry, "This step has no such sight.");
                else if (sight.Good && watches.Wanting(step, mustBeStill: true) is { } wanting)
                    Aside(entry, wanting);
                else
                    See(entry, step, sight);
                break;
            case EntryBody.TookOffer o when Reach(entry, o.Step) is { } step:
                if (step.Step.Offers.FirstOrDefault(x => x.Id == o.Offer) is { } offered)
                    agenda.Offer(step, offered);
                else
                    Aside(entry, "This step has no such offer.");
                break;
            case EntryBody.Agreed a:
                agreed[a.About] = new(a.Who, entry);
                break;
            case EntryBody.Explained { About: Oddity.Pace } e:
                pace = e.Text;
                break;
            case EntryBody.Glimpsed g when Reach(entry, g.Step) is { Step.Capture: not null } step:
                book.Glimpses[step.Key] = (g.Reading, entry.At);
                break;
            case EntryBody.HoldStarted h when Reach(entry, h.Step) is { } step:
                Try(entry, watches.Start(step, entry, h.Reading));
                break;
            case EntryBody.HoldWatched h:
                Try(entry, watches.Look(h.Step, h.Reading));
                break;
            case EntryBody.HoldEnded h when Reach(entry, h.Step) is { } step:
                if (Try(entry, watches.End(step.Key, entry, h)))
                    Decide(entry, step, h.Reading);
                break;
            case EntryBody.WentBack back:
                GoBack(entry, back.Step);
                break;
            case EntryBody.Mended m:
                if (agenda.Behind.Exists(b => b.Planned.Step.Capture is not null || b.Planned.Step.MustAnswer))
                    BeginAgain(
                        entry,
                        m.Part is { } p && plan.Rig.Has(p) ? $"{plan.Rig[p].Label}: {m.Text}" : m.Text,
                        0
                    );
                else
                    Aside(entry, "Nothing has been read yet that a repair could change.");
                break;
            case EntryBody.Paused p:
                if (agenda.Ahead.Count == 0)
                    Aside(entry, "The test is at its end.");
                else
                {
                    paused = p.Reason;
                    agenda.CloseUp(0);
                }

                break;
            case EntryBody.Resumed:
                if (paused is null)
                    Aside(entry, "The test was not broken off.");
                else
                    Resume(entry);
                break;
            case EntryBody.Noted:
                notes.Add(entry);
                break;
            case EntryBody.Found f:
                book.Findings.Add(
                    new(
                        null,
                        f.Part is { } about && plan.Rig.Has(about) ? $"{plan.Rig[about].Label}: {f.Text}" : f.Text,
                        entry,
                        f.Part
                    )
                );
                break;
            case EntryBody.AsFound a when !Stands(a.Part):
            case EntryBody.AsLeft l when !Stands(l.Part):
                Aside(entry, "This assembly has no such valve.");
                break;
            case EntryBody.AsFound a:
                found[a.Part.Value] = new(a.Position, entry);
                Arrive();
                break;
            case EntryBody.AsLeft a:
                left[a.Part.Value] = new(a.Position, entry);
                break;
            case EntryBody.SerialDiffers s:
                serial = s;
                break;
            case EntryBody.LineRead l:
                line = l.Pressure;
                break;
            case EntryBody.GaugeOffset g:
                height = g;
                break;
            case EntryBody.Stopped s:
                Stop(s.Reason);
                break;
            case EntryBody.Remarks r:
                remarks = r.Text;
                break;
            case EntryBody.Transcribed t:
                transcribed[t.Item] = t.Value;
                break;
        }
    }

    private bool Stands(PartId part) => ValvePositions.WrittenDownFor(plan.Rig.Body).Contains(part);

    // The line stands as it was found until something is turned; steps that hang on it come in or drop out.
    private void Arrive()
    {
        if (!plan.Sheet.GoesByArrival)
            return;
        agenda.Arrived(part => found.TryGetValue(part.Value, out var position) ? position.Position : null);
        if (passed.Count > 0)
            return;
        start = rig = found.Aggregate(plan.Rig.InService(), (state, f) =>
            state with
            {
                Openings = state.Openings.SetItem(new(f.Key), f.Value.Position.AsOpening()),
            }
        );
        foreach (var reached in rigAt.Keys)
            rigAt[reached] = rig;
    }

    // The step named by a key, brought to the front: steps of the sequence before it are passed over, as a tester who
    // knows it does.
    private PlannedStep? Reach(Entry entry, string key)
    {
        var at = agenda.Ahead.FindIndex(p => p.Key == key);
        if (at < 0)
        {
            Aside(
                entry,
                agenda.Behind.Exists(b => b.Planned.Key == key)
                    ? "That step was already behind when this came in; what was entered first stands."
                    : "This run has no such step."
            );
            return null;
        }

        for (var i = 0; i < at; i++)
        {
            if (agenda.Ahead[i].Step is not ({ MustAnswer: true } or { Capture: { MayBePassed: false } }))
                continue;
            Aside(entry, $"\"{agenda.Ahead[i].Step.Title}\" comes first: it needs an answer.");
            return null;
        }

        for (var i = 0; i < at; i++)
            Leave(entry, agenda.Ahead[0], Passing.PassedOver);
        return agenda.Ahead[0];
    }

    private void Leave(Entry entry, PlannedStep step, Passing how, Sight? sight = null)
    {
        agenda.Ahead.Remove(step);
        agenda.Behind.Add(new(step, how, entry, sight));
        if (!step.IsBranch)
            rigAt.TryAdd(step.Step.Id, rig);
        var moves = plan.Sheet.MovesOf(step.Step);
        inletPassedOver |= how == Passing.PassedOver && Shuts(moves, Parts.So1);
        outletConfirmed |= how != Passing.PassedOver && Shuts(moves, Parts.So2);
        Perform(moves);
    }

    private static bool Shuts(ImmutableArray<Move> moves, PartId valve) =>
        moves.Any(m => m is Move.Turn { To.IsOpen: false, Part: var part } && part == valve);

    private void Perform(ImmutableArray<Move> moves)
    {
        foreach (var move in moves)
        {
            rig = rig.Apply(move).State;
            passed.Add(rig);
        }
    }

    private void Take(Entry entry, PlannedStep step, Reading reading)
    {
        if (step.Step.Capture is not { Item.Kind: ItemKind.Differential } capture)
        {
            Aside(entry, "This step asks for no differential.");
            return;
        }

        if (!Try(entry, watches.Wanting(step, mustBeStill: false)))
            return;
        var goesOn = book.Take(entry, step, capture, reading);
        Leave(entry, step, Passing.Done);
        if (!goesOn)
            agenda.CloseUp(0);
    }

    private void Answer(Entry entry, PlannedStep step, EntryBody.Answered answer)
    {
        if (
            step.Step.Capture is not { } capture
            || capture.Item != answer.Item
            || !capture.Item.Takes(answer.Value)
            || answer.Value is ItemValue.Measured
        )
        {
            Aside(entry, "This step asks for another kind of answer.");
            return;
        }

        book.Given[capture.Item] = new(answer.Value, entry, StepQueue.Root(step.Key));
        Leave(entry, step, Passing.Done);
    }

    // Where the watched number is itself the result, it is now taken; where stillness is, a needle that stood still has
    // decided.
    private void Decide(Entry entry, PlannedStep step, Reading? end)
    {
        if (end is { } reading && step.Step.Capture?.Item.Kind == ItemKind.Differential)
            Take(entry, step, reading);
        else if (
            watches.StoodStill(step.Key)
            && step.Step.Sights.FirstOrDefault(s => s.Good) is { } good
            && step.Step.MustAnswer
        )
            See(entry, step, good);
    }

    private void See(Entry entry, PlannedStep step, Sight sight)
    {
        book.See(entry, step, sight);
        sitePushesBack |= sight.SitePushesBack;
        Leave(entry, step, Passing.LeftBySight, sight);
        agenda.Branch(step, sight);
        agenda.Ahead.RemoveAll(p => sight.Skips.Contains(p.Step.Id));
        switch (sight.Leads)
        {
            case LeadsTo.NotTestable:
                Stop(sight.Remark ?? sight.Means);
                break;
            case LeadsTo.CloseUp:
                agenda.CloseUp(sight.Branch.Length);
                break;
            case LeadsTo.Repeat:
                Requeue(sight.Again!, sight.Branch.Length);
                break;
            case LeadsTo.BeginAgain:
                BeginAgain(entry, sight.Remark ?? sight.Seen, sight.Branch.Length);
                break;
        }
    }

    private void GoBack(Entry entry, string stepId)
    {
        if (
            !rigAt.ContainsKey(stepId) || !agenda.Behind.Exists(b => !b.Planned.IsBranch && b.Planned.Step.Id == stepId)
        )
        {
            Aside(entry, "There is nothing to go back to: that step has not been reached.");
            return;
        }

        Requeue(stepId, 0);
    }

    // Puts the sequence from a step on in front again and the rig back to where that step found it; numbers taken since
    // are kept as repeated.
    private void Requeue(string stepId, int keep)
    {
        if (!rigAt.ContainsKey(stepId))
            stepId = plan.Sheet.Steps[0].Step.Id;
        var target = rigAt[stepId];
        var after = agenda
            .Ahead.Take(keep)
            .SelectMany(b => plan.Sheet.MovesOf(b.Step))
            .Aggregate(rig, (state, move) => state.Apply(move).State);
        var (stage, _) = plan.Sheet.Steps[plan.Sheet.At(stepId)];
        // With couplings moved meanwhile, the test is taken from its hook-up.
        if (Restoring.MovesCouplings(after, target))
            (stepId, target) = (agenda.FirstOf(stage).Id, rigAt.GetValueOrDefault(agenda.FirstOf(stage).Id, target));
        var at = plan.Sheet.At(stepId);
        // A whole test that begins again forgets what was shown beside the sequence too.
        var all = at <= plan.Sheet.At(plan.Sheet.FirstStep);
        book.Forget(root => plan.Sheet.At(root) is var place && (place >= at || (all && place < 0)));
        if (all)
            (inletPassedOver, outletConfirmed, sitePushesBack) = (false, false, false);
        (notTestable, paused) = (null, null);
        agenda.From(stepId, keep);
        var first = plan.Sheet.Steps[plan.Sheet.At(stepId)].Step;
        // A branch that sets the rig back itself is believed when it leaves what the step needs; the outlet stays shut
        // where nothing wants it open.
        if (keep > 0 && Suits(first, after))
            return;
        if (!after[Parts.So2].IsOpen && target[Parts.So2].IsOpen && OutletMayStayShut(stepId))
            target = target with { Openings = target.Openings.SetItem(Parts.So2, Opening.Closed) };
        var sketch = water.After(RigsSoFar);
        Side[] airy =
        [
            .. new[] { Side.High, Side.Low }.Where(s =>
                Condition.IsPurged(s) is var dry && first.Needs.Contains(dry) && !dry.Holds(after, sketch)
            ),
        ];
        var acts = Restoring.Acts(after, target, airy);
        if (!acts.IsEmpty)
            agenda.InFront($"{stepId}/again/rig.back", Restoring.Step("rig.back", acts), stage.Id, keep);
    }

    // Until a step turns SO2 itself, none may need it open.
    private bool OutletMayStayShut(string from)
    {
        foreach (var (_, step) in plan.Sheet.Steps.Skip(plan.Sheet.At(from)))
        {
            if (step.Needs.Contains(Condition.IsOpen(Parts.So2)))
                return false;
            if (plan.Sheet.MovesOf(step).Any(m => m is Move.Turn { Part: var part } && part == Parts.So2))
                return true;
        }

        return true;
    }

    private static bool Suits(Step step, RigState state)
    {
        var purged = WaterSketch.Nothing with { Purged = ["high-side", "low-side"] };
        return step.Needs.All(need => need.Holds(state, purged));
    }

    private void BeginAgain(Entry entry, string why, int keep)
    {
        Keep(entry, why);
        Requeue(plan.Sheet.FirstStep, keep);
    }

    private void Resume(Entry entry)
    {
        if (book.Readings.Count + book.Given.Count > 0)
            Keep(entry, $"Broken off: {paused}");
        // Another visit: who agreed and how things stood then says nothing about today.
        agreed.Clear();
        found.Clear();
        left.Clear();
        Arrive();
        Requeue(plan.Sheet.Steps[0].Step.Id, 0);
    }

    private void Keep(Entry entry, string why)
    {
        earlier.Add(new(Finished().Results(), [.. book.Findings], why, entry));
        book.Repeated.Clear();
    }

    // The test is over; what is left is closing up.
    private void Stop(string reason)
    {
        notTestable ??= reason;
        agenda.CloseUp(0);
    }

    private void Aside(Entry entry, string why) => setAside.Add(new(entry, why));

    private bool Try(Entry entry, string? whyNot)
    {
        if (whyNot is not null)
            Aside(entry, whyNot);
        return whyNot is null;
    }

    private StillWater StoodStill =>
        plan.Procedure.StillWaterShowsSo1
        && plan.Captures.Where(c => c.Item.Kind == ItemKind.Differential)
            .All(c =>
                book.Readings.TryGetValue(c.Item, out var r)
                && r.From is null
                && r.Entry.Body is EntryBody.Taken or EntryBody.HoldEnded
            )
            ? new(!inletPassedOver, outletConfirmed, sitePushesBack)
            : default;

    private ImmutableArray<RigState> RigsSoFar => [start, .. passed];

    private RunState Finished() =>
        new()
        {
            Ahead = [.. agenda.Ahead],
            Behind = [.. agenda.Behind],
            Rig = rig,
            RigHistory = RigsSoFar,
            Memory = water,
            Readings = book.Readings.ToImmutableDictionary(),
            Held = book.Held.ToImmutableDictionary(),
            Given = book.Given.ToImmutableDictionary(),
            Repeated = [.. book.Repeated],
            Earlier = [.. earlier],
            Holds = watches.Holds.ToImmutableDictionary(),
            Findings = [.. book.Findings],
            Notes = [.. notes],
            SetAside = [.. setAside],
            Transcribed = transcribed.ToImmutableDictionary(),
            Still = StoodStill,
            Agreed = agreed.ToImmutableDictionary(),
            PaceExplained = pace,
            AsFound = found.ToImmutableSortedDictionary(),
            AsLeft = left.ToImmutableSortedDictionary(),
            Serial = serial,
            Line = line,
            GaugeOffset = height?.Offset,
            NotTestable = notTestable,
            Paused = paused,
            OwnRemarks = remarks,
        };
}
