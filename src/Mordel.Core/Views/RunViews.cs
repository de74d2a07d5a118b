using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Catalogue;
using Mordel.Core.Drawing;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Views;

/// <summary>Makes the view of a run from its plan and log.</summary>
public static partial class RunViews
{
    /// <summary>The view.</summary>
    /// <param name="plan">What the run is made with.</param>
    /// <param name="log">Its log.</param>
    /// <param name="flow">How the assembly lies.</param>
    /// <param name="isSealed">Whether it has been signed.</param>
    /// <param name="contact">Whom the tester asks for on site; null when nobody is named.</param>
    /// <param name="played">The log played already; null where it is not.</param>
    public static RunView Build(
        RunPlan plan,
        RunLog log,
        FlowDirection flow,
        bool isSealed,
        string? contact = null,
        RunState? played = null
    )
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(log);
        var state = played ?? Replay.Run(plan, log);
        var now = state.Current;
        var stage = now is null ? null : plan.Sheet.WholeRun.First(s => s.Id == now.Stage);
        var together = stage?.Kind is StageKind.Before or StageKind.Finish;
        var instructions = now is null || together ? [] : Instructions(plan, now.Step);
        var verdict = plan.VerdictOn(state);
        var total = state.Behind.Length + state.Ahead.Length;
        var view = new RunView
        {
            Entries = log.Count,
            NextTick = log.LastTick + 1,
            Sealed = isSealed,
            Stages = [.. plan.Sheet.WholeRun.Select(s => Sheet(s, state, now))],
            Now = now is null ? null : View(plan, state, now, instructions, together),
            Next = NextStep(state, stage, together)?.Title,
            NextWhy = NextStep(state, stage, together)?.Why,
            Together = together ? Together(plan, state, stage!, contact) : null,
            Drawing = RigDrawing.Draw(
                new(state.Rig, state.Water, flow, instructions, ShowKit: true, Touchable: true, "The rig as it stands")
            ),
            DrawingInWords = InWords(state),
            Expert = ExpertRows.Build(plan, state, verdict),
            Earlier = [.. state.Earlier.Select(e => Earlier(plan, e))],
            Paused = state.Paused,
            CanMend = !isSealed && state.Readings.Count + state.Given.Count > 0,
            HeightCounts = plan.Sheet.Steps.Any(s => s.Step.Capture is { OneHose: true }),
            HeightNotes = [.. GaugeNotes.Of(plan, state, verdict)],
            WhereAmI = WhereAmI(plan, state, stage),
            Readings = Readings(state, verdict),
            Findings =
            [
                .. state
                    .Findings.Where(f => f.Remark is not null)
                    .Select(f => new FindingView(f.By.Id.ToString(), f.Remark!, f.Kind?.Id)),
                .. state.Notes.Select(n => new FindingView(n.Id.ToString(), ((EntryBody.Noted)n.Body).Text, null)),
            ],
            SetAside = [.. state.SetAside.Select(s => s.Why)],
            Undo = Undo(state),
            NotTestable = state.NotTestable,
            ReadingUnit = plan.Resolution.Unit.Symbol(),
            LinePressure = (
                state.Given.GetValueOrDefault(TestItem.StaticLine)?.Value
                ?? (state.Line is { } line ? new ItemValue.Line(line) : null)
            )?.ToString(),
            LineUnit = plan.Resolution.Unit == DifferentialUnit.Psid ? "psi" : "kPa",
            Progress = total == 0 ? 0 : 100 * state.Behind.Length / total,
        };
        return view with { Actions = RunSession.Actions(plan, state, view) };
    }

    private static ImmutableArray<Instruction> Instructions(RunPlan plan, Step step) =>
        [.. step.Acts.Select(a => a.For(plan.Rig))];

    private static StageView Sheet(Stage stage, RunState state, PlannedStep? now)
    {
        var lines = state
            .Behind.Where(b => b.Planned.Stage == stage.Id)
            .Select(b => new SheetLine(
                b.Planned.Key,
                b.Planned.IsBranch ? null : b.Planned.Step.Id,
                b.Planned.Step.Title,
                b.How switch
                {
                    Passing.Done => "done",
                    Passing.PassedOver => "passed-over",
                    _ => "seen",
                },
                Detail(b)
            ))
            .Concat(
                state
                    .Ahead.Where(a => a.Stage == stage.Id)
                    .Select(a => new SheetLine(
                        a.Key,
                        a.IsBranch ? null : a.Step.Id,
                        a.Step.Title,
                        a == now ? "now" : "ahead",
                        null
                    ))
            )
            .ToImmutableArray();
        var standing =
            now?.Stage == stage.Id ? "now"
            : lines.Any(l => l.State == "ahead") ? "ahead"
            : "behind";
        return new(stage.Id, stage.Title, standing, stage.Kind == StageKind.Test, lines);
    }

    private static string? Detail(PassedStep passed) =>
        passed switch
        {
            { Sight: { } sight } => sight.Seen,
            { By.Body: EntryBody.Taken taken, How: Passing.Done } => taken.Reading.ToString(),
            { By.Body: EntryBody.HoldEnded { Reading: { } held }, How: Passing.Done } => held.ToString(),
            { By.Body: EntryBody.Answered answered, How: Passing.Done } => answered.Value.ToString(),
            _ => null,
        };

    private static StepView View(
        RunPlan plan,
        RunState state,
        PlannedStep now,
        ImmutableArray<Instruction> instructions,
        bool together
    )
    {
        var stage = plan.Sheet.StageNamed(now.Stage);
        var step = now.Step;
        return new(
            now.Key,
            stage.Title,
            step.Title,
            together ? [] : [.. instructions.Select(i => i.Say)],
            step.Watch,
            step.Why,
            step.Caution,
            NextCapture(plan, state),
            Sights(step),
            step.MustAnswer,
            now.Attempt,
            Hold(plan, state, now)
        )
        {
            Offers =
            [
                .. step
                    .Offers.Where(o => !state.Behind.Any(b => b.Planned.Step.Id == o.Id))
                    .Select(o => new OfferView(o.Id, o.Title, o.Why)),
            ],
        };
    }

    internal static ImmutableArray<SightView> Sights(Step step) =>
        [.. step.Sights.Select(s => new SightView(s.Id, s.Seen, s.Means, s.Good))];

    // For a tester who was called away: which stage, what was done last, what is next.
    private static string WhereAmI(RunPlan plan, RunState state, Stage? stage)
    {
        if (state.Paused is { } paused)
            return $"Broken off for today: {paused}.";
        if (state.Current is not { } now)
            return "Every step is behind; the verdict is next.";
        var last = state.Behind.IsEmpty ? "nothing done yet" : $"last: {state.Behind[^1].Planned.Step.Title}";
        var tests = plan.Sheet.WholeRun.Where(s => s.Kind == StageKind.Test).ToList();
        var at = tests.FindIndex(s => s.Id == stage?.Id);
        return $"{(at >= 0 ? $"Test {at + 1} of {tests.Count}, " : "")}{stage?.Title}; {last}; now: {now.Step.Title}.";
    }

    private static Step? NextStep(RunState state, Stage? stage, bool together) =>
        (together ? state.Ahead.FirstOrDefault(p => p.Stage != stage!.Id) : state.Ahead.Skip(1).FirstOrDefault())?.Step;

    private static TogetherView Together(RunPlan plan, RunState state, Stage stage, string? contact) =>
        new(
            stage.Title,
            stage.Kind == StageKind.Before ? "All as listed: begin the test" : "All as listed: to the verdict",
            [
                .. state
                    .Ahead.Where(p => p.Stage == stage.Id)
                    .Select(p => new TogetherLine(
                        p.Key,
                        p.Step.Title,
                        [.. Instructions(plan, p.Step).Select(i => i.Say)],
                        p.Step.Why,
                        p.Step.Caution
                    )
                    {
                        Ask = Ask(p.Step.Asks, plan, state, contact),
                    }),
            ]
        );

    private static ImmutableArray<ReadingView> Readings(RunState state, Verdict verdict)
    {
        ReadingView View(TestItem item, TakenReading taken, bool counts, bool held = false)
        {
            var judged = counts ? verdict.Items.FirstOrDefault(i => i.Item == item) : null;
            return new(
                taken.Entry.Id.ToString(),
                item.Id,
                held ? $"{item.Name}, noted" : item.Name,
                ItemValue.Digits(taken.Reading.Value.Amount),
                taken.Reading.Value.Unit.Symbol(),
                judged?.Result.Id(),
                judged?.MarginText,
                taken.First?.ToString(),
                taken.Reason,
                taken.From,
                counts
            );
        }

        return
        [
            .. TestItem.All.Where(state.Readings.ContainsKey).Select(i => View(i, state.Readings[i], counts: true)),
            .. TestItem
                .All.Where(state.Held.ContainsKey)
                .Select(i => View(i, state.Held[i], counts: false, held: true)),
            .. state.Repeated.Select(r => View(r.Item, r.Reading, counts: false)),
        ];
    }

    private static UndoView? Undo(RunState state)
    {
        if (state.Behind.IsEmpty)
            return null;
        var last = state.Behind[^1];
        var what = last.By.Body switch
        {
            EntryBody.Taken t => $"reading {t.Reading}",
            EntryBody.Answered a => $"answer {a.Value}",
            EntryBody.HoldEnded { Reading: { } held } => $"reading {held}",
            EntryBody.Saw => last.Sight is { } s ? $"\"{s.Seen}\"" : $"\"{last.Planned.Step.Title}\"",
            _ => $"\"{last.Planned.Step.Title}\"",
        };
        return new(last.By.Id.ToString(), what);
    }

    private static string InWords(RunState state)
    {
        var rig = state.Rig.Rig;
        var open = rig
            .Parts.Where(p => p.Kind is PartKind.Shutoff or PartKind.Cock or PartKind.Screw && state.Rig[p.Id].IsOpen)
            .Select(p => p.Label)
            .ToList();
        var on = state
            .Rig.Connections.OrderBy(c => c.Key.Value, StringComparer.Ordinal)
            .Select(c => $"{rig[c.Key].Label} on {rig[c.Value].Label}")
            .ToList();
        var runs = rig
            .Parts.Where(p => p.Kind is PartKind.SightTube or PartKind.Relief && state.Water.Running.Contains(p.Id))
            .Select(p => $"water runs from the {(p.Kind == PartKind.Relief ? "relief port" : "sight tube")}");
        return string.Join(
                "; ",
                new[]
                {
                    open.Count == 0 ? "All valves of the assembly closed" : $"Open: {string.Join(", ", open)}",
                    on.Count == 0 ? "nothing connected" : string.Join(", ", on),
                }.Concat(runs)
            ) + ".";
    }
}
