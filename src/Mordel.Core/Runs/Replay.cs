using System.Collections.Immutable;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Runs;

/// <summary>
/// Plays a log over a plan. Total: every entry either takes effect or is set aside with a reason, so that no log, in whatever order
/// its entries arrived, leads to a dead end.
/// </summary>
public sealed class Replay
{
    private readonly RunPlan plan;
    private readonly List<PlannedStep> ahead = [];
    private readonly List<PassedStep> behind = [];
    private readonly Dictionary<TestItem, TakenReading> readings = [];
    private readonly Dictionary<TestItem, TakenReading> held = [];
    private readonly List<(TestItem, TakenReading)> repeated = [];
    private readonly List<Finding> findings = [];
    private readonly List<Entry> notes = [];
    private readonly List<SetAside> setAside = [];
    private readonly Dictionary<EntryId, EntryBody.Corrected> corrections = [];
    private readonly Dictionary<string, int> attempts = [];
    private readonly Dictionary<TestItem, ItemValue> transcribed = [];
    private readonly List<RigState> passed = [];
    private readonly SortedDictionary<string, Standing> found = new(StringComparer.Ordinal);
    private readonly SortedDictionary<string, Standing> left = new(StringComparer.Ordinal);
    private RigState rig;
    private EntryBody.SerialDiffers? serial;
    private LinePressure? line;
    private string? notTestable;
    private string? remarks;

    private Replay(RunPlan plan)
    {
        this.plan = plan;
        rig = plan.Rig.InService();
        foreach (var stage in plan.Procedure.WholeRun)
            foreach (var step in stage.Steps)
                ahead.Add(Plan(step.Id, step, stage.Id));
    }

    /// <summary>The state that a log leads to.</summary>
    public static RunState Of(RunPlan plan, RunLog log)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(log);
        var replay = new Replay(plan);
        var entries = log.Entries.ToList();
        var takenBack = replay.Retracted(entries);
        foreach (var entry in entries)
            if (entry.Body is EntryBody.Corrected c && !takenBack.Contains(entry.Id)) replay.corrections[c.Of] = c;
        foreach (var entry in entries)
            if (!takenBack.Contains(entry.Id)) replay.Play(entry);
        return replay.Finished();
    }

    // A taking-back can itself be taken back; later ones decide first.
    private HashSet<EntryId> Retracted(List<Entry> entries)
    {
        var gone = new HashSet<EntryId>();
        var known = entries.Select(e => e.Id).ToHashSet();
        foreach (var entry in Enumerable.Reverse(entries))
        {
            if (entry.Body is not EntryBody.TookBack back || gone.Contains(entry.Id)) continue;
            if (known.Contains(back.Of) && back.Of != entry.Id) gone.Add(back.Of);
            else setAside.Add(new(entry, "The entry it takes back is not in this run."));
        }

        return gone;
    }

    private void Play(Entry entry)
    {
        switch (entry.Body)
        {
            case EntryBody.Done done when Reach(entry, done.Step) is { } step:
                if (step.Step.MustAnswer) Aside(entry, "This step ends with one of its sights.");
                else if (step.Step.Capture is { } capture && Lacks(capture)) Aside(entry, "This step asks for a number or a sight.");
                else Leave(entry, step, Passing.Done);
                break;
            case EntryBody.Taken taken when Reach(entry, taken.Step) is { } step:
                Take(entry, step, taken.Reading);
                break;
            case EntryBody.Saw saw when Reach(entry, saw.Step) is { } step:
                if (step.Step.SightNamed(saw.Sight) is { } sight) See(entry, step, sight);
                else Aside(entry, "This step has no such sight.");
                break;
            case EntryBody.WentBack back:
                GoBack(entry, back.Step);
                break;
            case EntryBody.Noted:
                notes.Add(entry);
                break;
            case EntryBody.Found f:
                findings.Add(new(null, f.Part is { } p && plan.Rig.Has(p) ? $"{plan.Rig[p].Label}: {f.Text}" : f.Text, entry, f.Part));
                break;
            case EntryBody.AsFound a:
                found[a.Part.Value] = a.Standing;
                break;
            case EntryBody.AsLeft a:
                left[a.Part.Value] = a.Standing;
                break;
            case EntryBody.SerialDiffers s:
                serial = s;
                break;
            case EntryBody.LineRead l:
                line = l.Pressure;
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

    private bool Lacks(Capture capture) => !(capture.Provisional ? held : readings).ContainsKey(capture.Item);

    // The step named by a key, brought to the front: steps of the sequence before it are passed over, as a tester who knows it does.
    private PlannedStep? Reach(Entry entry, string key)
    {
        var at = ahead.FindIndex(p => p.Key == key);
        if (at < 0)
        {
            Aside(entry, behind.Any(b => b.Planned.Key == key) ? "That step was already behind when this came in; what was entered first stands." : "This run has no such step.");
            return null;
        }

        var skipped = ahead.Take(at).ToList();
        if (skipped.Find(p => p.Step.MustAnswer || p.Step.Capture is not null) is { } needed)
        {
            Aside(entry, $"\"{needed.Step.Title}\" comes first: it needs an answer.");
            return null;
        }

        foreach (var over in skipped) Leave(entry, over, Passing.PassedOver);
        return ahead[0];
    }

    private void Leave(Entry entry, PlannedStep step, Passing how, Sight? sight = null)
    {
        ahead.Remove(step);
        behind.Add(new(step, how, entry, sight));
        if (!step.Step.Acts.IsEmpty) Perform(step.Step);
    }

    private void Perform(Step step)
    {
        foreach (var act in step.Acts)
            foreach (var move in act.MovesFor(plan.Rig))
            {
                // A repeat or a skipped branch can ask for what is already so; the rig then stays as it is.
                rig = rig.Apply(move).State;
                passed.Add(rig);
            }
    }

    private void Take(Entry entry, PlannedStep step, Reading reading)
    {
        if (step.Step.Capture is not { } capture)
        {
            Aside(entry, "This step asks for no number.");
            return;
        }

        var into = capture.Provisional ? held : readings;
        var counted = corrections.TryGetValue(entry.Id, out var c)
            ? new TakenReading(entry, c.Reading, reading, c.Reason) : new TakenReading(entry, reading);
        into[capture.Item] = step.IsBranch && !capture.Provisional ? counted with { From = step.Step.Title } : counted;
        Leave(entry, step, Passing.Done);
    }

    private void See(Entry entry, PlannedStep step, Sight sight)
    {
        foreach (var id in sight.Findings.DefaultIfEmpty(null!))
            if (id is not null || sight.Remark is not null) findings.Add(new(id, sight.Remark, entry));
        if (sight.Item is { } item && sight.Takes != TakesValue.Nothing) TakeFromSight(entry, sight, item);
        if (sight.Leads == LeadsTo.NotTestable)
        {
            Leave(entry, step, Passing.LeftBySight, sight);
            Stop(sight.Remark ?? sight.Means);
            return;
        }

        // A sight of a step without a number of its own is an answer on the way: the step itself is then done.
        Leave(entry, step, Passing.LeftBySight, sight);
        ahead.InsertRange(0, sight.Branch.Select(b => Plan($"{Bare(step.Key)}/{sight.Id}/{b.Id}", b, step.Stage)));
        if (sight.Leads == LeadsTo.Repeat) Requeue(sight.Again!, afterBranch: sight.Branch.Length);
    }

    private void TakeFromSight(Entry entry, Sight sight, TestItem item)
    {
        var zero = new Differential(0m * plan.Resolution.Amount, plan.Resolution.Unit);
        var value = sight.Takes == TakesValue.ZeroOnDial ? new Reading(zero, plan.Resolution)
            : held.TryGetValue(item, out var noted) ? noted.Reading : (Reading?)null;
        if (value is { } reading)
        {
            readings[item] = corrections.TryGetValue(entry.Id, out var c)
                ? new(entry, c.Reading, reading, c.Reason, sight.Seen) : new(entry, reading, held.GetValueOrDefault(item)?.First, held.GetValueOrDefault(item)?.Reason, sight.Seen);
        }
    }

    private void GoBack(Entry entry, string stepId)
    {
        if (behind.FindLast(b => !b.Planned.IsBranch && b.Planned.Step.Id == stepId) is null)
        {
            Aside(entry, "There is nothing to go back to: that step has not been reached.");
            return;
        }

        ahead.RemoveAll(p => p.IsBranch);
        Requeue(stepId, 0);
    }

    // Puts the sequence from a step on in front again; numbers taken since are kept as repeated.
    private void Requeue(string stepId, int afterBranch)
    {
        var branch = ahead.Take(afterBranch).ToList();
        var whole = plan.Procedure.WholeRun.SelectMany(s => s.Steps.Select(step => (step, s.Id))).ToList();
        var from = whole.FindIndex(x => x.step.Id == stepId);
        if (from < 0) return;
        var again = whole.Skip(from).ToList();
        var repeats = again.Select(x => x.step.Id).ToHashSet();
        findings.RemoveAll(f => f.By.Body is EntryBody.Saw saw && repeats.Contains(Root(saw.Step)));
        foreach (var (step, _) in again)
        {
            if (step.Capture is not { } capture) continue;
            if (readings.Remove(capture.Item, out var old)) repeated.Add((capture.Item, old));
            held.Remove(capture.Item);
        }

        notTestable = null;
        ahead.Clear();
        ahead.AddRange(branch);
        ahead.AddRange(again.Select(x => behind.Any(b => b.Planned.Step.Id == x.step.Id && !b.Planned.IsBranch)
            ? Plan(x.step.Id, x.step, x.Id) : new PlannedStep(Key(x.step.Id, attempts[x.step.Id]), x.step, x.Id, attempts[x.step.Id])));
    }

    // The test is over; what is left is closing up.
    private void Stop(string reason)
    {
        notTestable ??= reason;
        ahead.RemoveAll(p => p.IsBranch || plan.Procedure.WholeRun.First(s => s.Id == p.Stage).Kind != StageKind.Finish);
    }

    private PlannedStep Plan(string path, Step step, string stage)
    {
        var attempt = attempts[path] = attempts.GetValueOrDefault(path) + 1;
        return new(Key(path, attempt), step, stage, attempt);
    }

    private static string Key(string path, int attempt) => attempt == 1 ? path : $"{path}@{attempt}";

    private static string Bare(string key) => key.IndexOf('@', StringComparison.Ordinal) is > 0 and var at && !key[at..].Contains('/', StringComparison.Ordinal) ? key[..at] : key;

    private static string Root(string key) => key.Split('/', '@')[0];

    private void Aside(Entry entry, string why) => setAside.Add(new(entry, why));

    private RunState Finished() => new()
    {
        Ahead = [.. ahead],
        Behind = [.. behind],
        Rig = rig,
        RigHistory = [plan.Rig.InService(), .. passed],
        Readings = readings.ToImmutableDictionary(),
        Held = held.ToImmutableDictionary(),
        Repeated = [.. repeated],
        Findings = [.. findings],
        Notes = [.. notes],
        SetAside = [.. setAside],
        Transcribed = transcribed.ToImmutableDictionary(),
        StoodStill = plan.Procedure.StillWaterProvesShutoffs && plan.Captures.All(c =>
            readings.TryGetValue(c.Item, out var r) && r.From is null && r.Entry.Body is EntryBody.Taken),
        AsFound = found.ToImmutableSortedDictionary(),
        AsLeft = left.ToImmutableSortedDictionary(),
        Serial = serial,
        Line = line,
        NotTestable = notTestable,
        OwnRemarks = remarks,
    };
}
