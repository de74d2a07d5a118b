using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json.Nodes;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using static Mordel.Core.Views.EntryTemplate;

namespace Mordel.Core.Views;

/// <summary>
/// A run in somebody's hands: from its view it says what can be done, by which key, and which entries that makes; it
/// drafts entries from what was typed and rounds to the gauge. The screen's script only shows and sends.
/// </summary>
public static class RunSession
{
    // The keys of sights; later letters have meanings of their own.
    private const string SightKeys = "abcdefghijklm";

    /// <summary>All that can be done at a run now.</summary>
    /// <param name="plan">What the run is made with.</param>
    /// <param name="state">Where its log leads.</param>
    /// <param name="view">What is shown of it.</param>
    public static RunActionsView Actions(RunPlan plan, RunState state, RunView view)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(state);
        ArgumentNullException.ThrowIfNull(view);
        if (view.Sealed)
            return new();
        var (now, lines) = (view.Now, view.Together?.Lines ?? []);
        return new()
        {
            Confirm = Confirm(view),
            Slate = now?.Capture is { } capture ? Slate(capture, now.Key) : null,
            Watch = now?.Hold is not null ? Watch(now.Key, view) : null,
            Question = now is null ? "" : Question(now),
            Sights = now is null ? [] : Sights(now.Key, now.Sights.Where(s => !s.Good)),
            Offers = now is null
                ? []
                :
                [
                    .. now.Offers.Select(o => new ActionView(
                        $"First: {o.Title.ToLowerInvariant()}",
                        [Entry("offer", ("step", now.Key), ("offer", o.Id))]
                    )),
                ],
            Likely = lines
                .Where(l => RunDialogs.Likely(l.Ask) is not null)
                .Keyed(l => l.Key, l => RunDialogs.Likely(l.Ask)!),
            Otherwise = lines.Keyed(
                l => l.Key,
                l => RunDialogs.About(l.Ask) ?? RunDialogs.Finding("Not so…", l.Title, null)
            ),
            Rows = view
                .Expert.Where(r => r is { State: "now", Capture: not null })
                .Keyed(r => r.Key, r => Take(r.Capture!)),
            RowSights = view
                .Expert.Where(r => r.State == "now")
                .Keyed(r => r.Key, r => Sights(r.Key, r.Sights.OrderByDescending(s => s.Good))),
            Again = view
                .Stages.Where(s => s.IsTest)
                .SelectMany(s => s.Steps)
                .Where(l => l is { StepId: not null, State: "done" or "passed-over" or "seen" })
                .DistinctBy(l => l.StepId)
                .Keyed(l => l.StepId!, l => new ActionView("again", [Entry("back", ("step", l.StepId))])),
            Correct = view
                .Readings.Where(r => r.Counts)
                .DistinctBy(r => r.EntryId)
                .Keyed(r => r.EntryId, RunDialogs.Correct),
            Parts = plan
                .Rig.Parts.Where(p => p.Kind is not (PartKind.Supply or PartKind.Site))
                .Keyed(p => p.Id.Value, p => RunDialogs.Finding(p.Label, p.Label, p)),
            Note = RunDialogs.Note(now?.Key ?? "end"),
            Tools = Tools(view, now),
            Resume = view.Paused is null || now is not null ? null : new("Take the test up again", [Entry("resumed")]),
        };
    }

    /// <summary>What a gauge that streams shows, rounded to its smallest step, as it would be written down.</summary>
    /// <param name="plan">What the run is made with.</param>
    /// <param name="shown">The number in the gauge's unit, not rounded.</param>
    public static string Rounded(RunPlan plan, decimal shown)
    {
        ArgumentNullException.ThrowIfNull(plan);
        // A step of 1.0 is a step of 1: its digits say how many are written.
        var step = plan.Resolution.Amount / 1.0000000000000000000000000000m;
        return (decimal.Round(shown / step, MidpointRounding.AwayFromZero) * step).ToString(
            CultureInfo.InvariantCulture
        );
    }

    /// <summary>
    /// The entries that an action makes with what was typed; empty where something is missing or wrong.
    /// </summary>
    /// <param name="action">The action.</param>
    /// <param name="typed">What was typed or chosen, by field.</param>
    public static ImmutableArray<JsonObject> Draft(ActionView action, IReadOnlyDictionary<string, string> typed)
    {
        ArgumentNullException.ThrowIfNull(action);
        return [.. action.Entries.Select(e => Fill(e, typed)).OfType<JsonObject>()];
    }

    // In the order of their keys' signs, whatever the language: it stands so in the view's JSON.
    private static ImmutableSortedDictionary<string, T> Keyed<TFrom, T>(
        this IEnumerable<TFrom> all,
        Func<TFrom, string> key,
        Func<TFrom, T> value
    ) => all.ToImmutableSortedDictionary(key, value, StringComparer.Ordinal);

    private static ActionView? Confirm(RunView view)
    {
        if (view.Together is { } together)
            return new(together.Confirm, [.. together.Lines.Select(l => Done(l.Key))], "Enter");
        if (view.Now is not { } now || now.Hold is { Ended: false })
            return null;
        if (now.MustAnswer)
            return now.Sights.FirstOrDefault(s => s.Good) is { } good
                ? See(now.Key, good) with
                {
                    Key = "Enter",
                }
                : null;
        var here = now.Capture?.Key == now.Key;
        if (here && !now.Capture!.MayBePassed)
            return null;
        var text =
            here ? "Go on without it"
            : now.Sights.IsEmpty ? "Done"
            : "As it should be: go on";
        return new(text, [Done(now.Key)], "Enter");
    }

    private static JsonObject Done(string step) => Entry("done", ("step", step));

    private static ActionView See(string step, SightView sight) =>
        new(sight.Seen, [Entry("sight", ("step", step), ("sight", sight.Id))]);

    private static ImmutableArray<ActionView> Sights(string step, IEnumerable<SightView> sights) =>
        [.. sights.Select((s, i) => See(step, s) with { Key = i < SightKeys.Length ? SightKeys[i].ToString() : null })];

    private static string Question(StepView now) =>
        now.MustAnswer
            ? now.Sights.Any(s => s.Good)
                ? "Not so? What do you see?"
                : "What do you see?"
            : now.Capture?.Key == now.Key
                ? "Something else? What do you see?"
                : "Not as it should be? What do you see?";

    private static SlateView Slate(CaptureView capture, string here) =>
        new(
            Take(capture) with
            {
                Key = "Enter",
            },
            capture.Kind == "differential" && capture.Key == here
                ? new(
                    "It is only passing this number",
                    [Entry("glimpse", ("step", capture.Key), ("reading", Quantity("value", capture.Unit)))]
                )
                : null,
            NumberPattern
        );

    private static ActionView Take(CaptureView capture) =>
        new(
            capture.Provisional ? "Note it" : "Record",
            [
                capture.Kind == "differential"
                    ? Entry(
                        "reading",
                        ("step", capture.Key),
                        ("reading", Quantity("value", capture.Unit, capture.Resolution))
                    )
                    : Entry(
                        "answer",
                        ("step", capture.Key),
                        ("item", capture.Item),
                        ("value", Quantity("value", capture.Unit))
                    ),
            ]
        );

    private static WatchView Watch(string step, RunView view)
    {
        JsonObject Needle(bool optional) => Quantity("needle", view.ReadingUnit, optional: optional);
        ActionView Make(string text, string kind, bool optional) =>
            new(text, [Entry(kind, ("step", step), ("reading", Needle(optional)))], "w");
        return new(
            Make("Start the watch", "hold-started", optional: true),
            Make("Note where it stands", "hold-watched", optional: false) with
            {
                Key = null,
            },
            Make("End the watch", "hold-ended", optional: true),
            RunDialogs.CutShort(step, Needle(optional: true)) with
            {
                Key = "w",
            },
            NumberPattern
        );
    }

    private static ImmutableArray<ActionView> Tools(RunView view, StepView? now)
    {
        var tools = ImmutableArray.CreateBuilder<ActionView>();
        if (view.Undo is { } undo)
            tools.Add(new($"Take back {undo.Text}", [Entry("taken-back", ("of", undo.EntryId))], "u"));
        tools.Add(RunDialogs.Note(now?.Key ?? "end"));
        tools.Add(
            RunDialogs.Line(view.LinePressure is { } line ? $"Line pressure {line}" : "Line pressure", view.LineUnit)
        );
        if (view.HeightCounts)
            tools.Add(
                RunDialogs.Height(
                    Length.Symbol(
                        view.ReadingUnit == DifferentialUnit.Psid.Symbol() ? LengthUnit.Inch : LengthUnit.Millimetre
                    )
                )
            );
        if (view.CanMend)
            tools.Add(RunDialogs.Mended);
        if (now is not null)
            tools.Add(RunDialogs.Pause);
        if (view.NotTestable is null)
            tools.Add(RunDialogs.Stop);
        return tools.ToImmutable();
    }
}
