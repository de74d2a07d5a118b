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
public sealed partial class Replay
{
    private readonly RunPlan plan;
    private readonly StepQueue agenda;
    private readonly RunAnswers book;
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
    private AgreedLeaving? leave;
    private EntryBody.SerialDiffers? serial;
    private EntryBody.GaugeOffset? height;
    private LinePressure? line;
    private ReadZero? kitZero;
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
            case EntryBody.ToBeLeft l:
                leave = new(l.How, entry);
                agenda.Entered(Line);
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
            case EntryBody.KitZero z:
                kitZero = new(entry, z.Reading);
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
            Leaving = leave,
            Stands = Line,
            Serial = serial,
            Line = line,
            GaugeOffset = height?.Offset,
            KitZero = kitZero,
            NotTestable = notTestable,
            Paused = paused,
            OwnRemarks = remarks,
        };
}
