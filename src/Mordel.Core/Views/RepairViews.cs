using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json.Nodes;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Drawing;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;
using static Mordel.Core.Views.EntryTemplate;

namespace Mordel.Core.Views;

/// <summary>Makes the view of a repair from its log.</summary>
public static class RepairViews
{
    private const int LongestWho = 120,
        LongestText = 500;

    /// <summary>The view.</summary>
    /// <param name="plan">What it is made with.</param>
    /// <param name="log">Its entries, in order.</param>
    /// <param name="place">Who is there, and which parts fit.</param>
    public static RepairView Build(RepairPlan plan, IReadOnlyCollection<RepairEntry> log, RepairPlace place)
    {
        ArgumentNullException.ThrowIfNull(log);
        ArgumentNullException.ThrowIfNull(place);
        var state = RepairReplay.Run(plan, log);
        var part = PartAtHand(state);
        var step = Step(state, part, place);
        return new()
        {
            Entries = log.Count,
            Stages =
            [
                .. RepairStages.All.Select(s => new RepairStageView(
                    s.Name,
                    state.Stage > s.To ? "past"
                        : state.Stage >= s.From ? "now"
                        : "ahead"
                )),
            ],
            LeftOff = state.LeftOff,
            Eyebrow = step.Eyebrow,
            Title = step.Title,
            Caution = step.Caution,
            Why = step.Why,
            Minded = step.Minded,
            Fields = step.Fields,
            Acts = step.Acts,
            Tools = [.. Tools(state)],
            Drawing = Drawing(state, part),
            Shows = Shows(state, part),
            Openings = [.. state.Openings.Select(o => Opening(state, o))],
            Used = RepairSummary.Used(state),
            Later = [.. state.FollowUps.Where(f => f.How is null).Select(RepairSummary.Stopgap)],
            Notes = [.. state.Notes],
            IsClosedUp = state.IsClosedUp,
        };
    }

    /// <summary>The part that is looked at, or put right, now; null in other stages.</summary>
    public static OpenedPart? PartAtHand(RepairState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        return state.Stage switch
        {
            RepairStage.Inspect => state.Now!.Parts.First(p => p.Found is null),
            RepairStage.Do => state.Now!.Parts.First(p => p.WantsAct),
            _ => null,
        };
    }

    /// <summary>What is open, drawn apart, with the step at hand; null where nothing is.</summary>
    public static string? Drawing(RepairState state, OpenedPart? part)
    {
        ArgumentNullException.ThrowIfNull(state);
        return state.Now is { Sheet: { } sheet } open
            ? ExplodedRenderer.Draw(
                sheet,
                state.Stage == RepairStage.Assemble,
                state.Stage switch
                {
                    RepairStage.Open => sheet.Out.Count - open.Out.Length,
                    RepairStage.Assemble => sheet.In.Count - open.In.Length,
                    _ => sheet.Out.Count,
                },
                atHand: part?.Part.Id
            )
            : null;
    }

    /// <summary>What is said above the step.</summary>
    public static string Eyebrow(RepairState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        string Of(ImmutableArray<RepairStep> all) => $"{all.Length - state.Steps.Length + 1} of {all.Length}";
        string Way(bool isIn) => Of(RepairPlan.Steps(state.Now!.Number, state.Now.Sheet, isIn));
        var title = state.Now is { } open ? RepairSummary.Title(state, open) : "";
        return state.Stage switch
        {
            RepairStage.Prepare => $"Before it is opened, {Of(state.Plan.Prepare)}",
            RepairStage.Choose => state.Openings.IsEmpty ? "No pressure, no water" : "Everything is closed",
            RepairStage.Open => $"{title} comes apart, {Way(isIn: false)}",
            RepairStage.Inspect => $"{title}: what is found",
            RepairStage.Do => $"{title}: what is done",
            RepairStage.Assemble => $"{title} goes together, {Way(isIn: true)}",
            RepairStage.Pressurise => $"Closing up, {Of(state.Plan.Closing)}",
            _ => "Closed and under pressure",
        };
    }

    /// <summary>Whether CV1 is still suspect, so that the relief valve waits.</summary>
    public static bool MindsCheckOne(RepairState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        return state.Plan.Body.Parts.Any(p => p.Id == Parts.Relief)
            && !state.Openings.Any(o => o.Parts.Any(p => p.Of == Parts.Cv1 && p.Found is not null));
    }

    private sealed record Shown(string Eyebrow, string Title)
    {
        public string? Caution { get; init; }
        public ImmutableArray<string> Why { get; init; } = [];
        public ImmutableArray<string> Minded { get; init; } = [];
        public ImmutableArray<FieldView> Fields { get; init; } = [];
        public ImmutableArray<ActionView> Acts { get; init; } = [];
    }

    private static Shown Step(RepairState state, OpenedPart? part, RepairPlace place) =>
        state.Stage switch
        {
            RepairStage.Choose => Choose(state),
            RepairStage.Inspect => Inspect(state, part!),
            RepairStage.Do when part!.WantsFollowUp => Stopgap(state, part, place),
            RepairStage.Do => Do(state, part!, place),
            RepairStage.Retest => new(Eyebrow(state), "Test it from the beginning.")
            {
                Why =
                [
                    "A repair without a passed test leaves the assembly failed. The report carries what was read "
                        + "before, what was found and done, and what is read now.",
                ],
            },
            _ => Make(state, place),
        };

    private static Shown Make(RepairState state, RepairPlace place)
    {
        var (key, step) = state.Steps[0];
        var asks = key == RepairPlan.Permission;
        return new(Eyebrow(state), $"{step.Does}.")
        {
            Caution = step.Caution,
            Why = step.Why is { } why ? [why] : [],
            Minded =
            [
                .. from id in step.Parts
                where state.Now?.Sheet is not null
                let part = state.Now!.Sheet!.Part(id)
                from minded in part.Minded
                select $"{part.Name}: {minded}",
            ],
            Fields = asks
                ?
                [
                    new("who", "line", "Allowed by")
                    {
                        Value = place.Contact,
                        Most = LongestWho,
                        Missing = "Say who allowed it.",
                    },
                ]
                : [],
            Acts =
            [
                new(
                    "Done, next",
                    [
                        asks
                            ? Entry("agreed", ("who", Words("who")))
                            : Entry("done", ("step", key), ("says", step.Does)),
                    ]
                ),
            ],
        };
    }

    private static Shown Choose(RepairState state)
    {
        var close = state.Plan.Closing[0];
        var any = !state.Openings.IsEmpty;
        return new(Eyebrow(state), any ? "Close up, or open another?" : "What is opened?")
        {
            Why =
            [
                "One at a time, so that parts do not mix.",
                .. MindsCheckOne(state)
                    ? new[]
                    {
                        "Clear CV1 of suspicion before the relief valve: debris in CV1 is by far the commonest cause.",
                    }
                    : [],
            ],
            Acts =
            [
                .. any
                    ? new[]
                    {
                        new ActionView(
                            close.Step.Does,
                            [Entry("done", ("step", close.Key), ("says", close.Step.Does))]
                        ),
                    }
                    : [],
                .. state.Plan.Choices.Select(c => new ActionView(
                    c.Title,
                    [
                        c.Part is { } part
                            ? Entry("opened", ("sheet", c.Sheet), ("part", part.Value))
                            : Entry("opened", ("sheet", c.Sheet)),
                    ]
                )),
            ],
        };
    }

    private static Shown Inspect(RepairState state, OpenedPart part)
    {
        var open = state.Now!;
        var left = open.Parts.Where(p => p.Found is null).ToList();
        JsonObject In(OpenedPart one, JsonNode found) =>
            Entry("inspected", ("opening", open.Number), ("part", one.Part.Id), ("found", found));
        return new(
            $"{Eyebrow(state)}, {open.Parts.Length - left.Count + 1} of {open.Parts.Length}",
            $"Look at {part.Part.InWords}."
        )
        {
            Fields =
            [
                new("found", "many", "What is found at it")
                {
                    Options = [.. part.LookFor.Select(f => new OptionView(f.Id, f.Words))],
                },
            ],
            Acts =
            [
                new("In order, next", [In(part, new JsonArray())]),
                new("What is ticked is found, next", [In(part, ListOf("found"))]),
                .. left.Count > 1
                    ? new[] { new ActionView("The rest is in order", [.. left.Select(p => In(p, new JsonArray()))]) }
                    : [],
            ],
        };
    }

    private static Shown Do(RepairState state, OpenedPart part, RepairPlace place)
    {
        var (open, found) = (state.Now!, part.Found!.Value);
        var can = Inspections.Acts(part.Part);
        var best = can.Contains(found[0].Best) ? found[0].Best : RepairAct.Cleaned;
        var spare = SpareFor(part, place);
        JsonObject Acted(RepairAct act) =>
            Entry("acted", ("opening", open.Number), ("part", part.Part.Id), ("act", act.Id()));
        ActionView Act(RepairAct act) =>
            new(
                Wording.Capital(act.Words())
                    + (
                        act == RepairAct.Left ? " as it is"
                        : act == RepairAct.Turned && !part.TurnedHolds ? ", a stopgap"
                        : ""
                    ),
                act == RepairAct.Replaced && spare is not null ? [Acted(act), Used(spare)] : [Acted(act)]
            );
        return new(
            Eyebrow(state),
            $"{Wording.Capital(part.Part.Name)}: {string.Join(", ", found.Select(f => f.Words))}. What is done?"
        )
        {
            Why = [.. found.Select(f => $"{Wording.Capital(f.Words)}. {f.Means}")],
            Minded =
            [
                .. part.Part.Grease == Grease.Never ? new[] { "No grease on this part." } : [],
                .. part.Part.WayRound is { } way ? new[] { $"Which way round: {way}." } : [],
            ],
            Fields = spare is null
                ? []
                :
                [
                    new(
                        "spare",
                        "tick",
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"When replaced, take one {spare.Name} ({spare.Van} in the van, {spare.Store} in the store)"
                        )
                    )
                    {
                        Value = spare.Van > 0 ? "true" : "false",
                    },
                ],
            Acts = [Act(best), .. can.Where(a => a != best).Select(Act)],
        };
    }

    private static Shown Stopgap(RepairState state, OpenedPart part, RepairPlace place) =>
        new(Eyebrow(state), $"{Wording.Capital(part.Part.InWords)} is {part.Acts[^1].Words()}: until when?")
        {
            Caution = "A stopgap is no repair. It stays on Today and on the passport until it is put right.",
            Fields =
            [
                new("due", "date", "Put right by")
                {
                    Value = place
                        .Today.AddDays(RepairPlace.StopgapDays)
                        .ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                    Pattern = @"^\d{4}-\d{2}-\d{2}$",
                    Missing = "Say until when it may stay so.",
                },
                new("order", "line", "To be ordered")
                {
                    Value = SpareFor(part, place)?.Name ?? $"{part.Part.Name} for {place.Wants}",
                    Most = 200,
                    Missing = "Say which part is ordered.",
                },
                new("told", "line", "Who was told")
                {
                    Value = place.Owner,
                    Most = LongestWho,
                    Missing = "Say who was told.",
                },
            ],
            Acts =
            [
                new(
                    "Keep it, next",
                    [
                        Entry(
                            "stopgap",
                            ("opening", state.Now!.Number),
                            ("part", part.Part.Id),
                            ("due", Words("due")),
                            ("order", Words("order")),
                            ("told", Words("told"))
                        ),
                    ]
                ),
            ],
        };

    private static SpareView? SpareFor(OpenedPart part, RepairPlace place) =>
        part.Of is { } of ? place.Spares.FirstOrDefault(s => s.Part == of.Value) : null;

    private static JsonObject Used(SpareView spare) =>
        Entry(
            "used",
            ("name", spare.Name),
            ("count", 1),
            ("item", spare.Id.ToString("D")),
            ("unless", new JsonObject { ["slot"] = "spare", ["is"] = "false" })
        );

    private static IEnumerable<ActionView> Tools(RepairState state)
    {
        if (state.Last is { } last)
            yield return new("Take the last back", [Entry("taken-back", ("of", last.Id.ToString()))]);
        yield return Said("A note…", "note", "text", "Keep a note", "It stands in the repair, and on the report.");
        yield return new(
            "A part was used…",
            [Entry("used", ("name", Words("name")), ("count", Whole("count")))],
            null,
            new(
                "A part was used",
                "What is not in the van’s list is written down by its name.",
                "Used",
                [
                    new("name", "line", "What it is")
                    {
                        Most = LongestWho,
                        Missing = "Say which part was used.",
                    },
                    new("count", "number", "How many")
                    {
                        Value = "1",
                        Pattern = @"^[1-9]\d?$",
                        Missing = "Say how many.",
                    },
                ]
            )
        );
        yield return Said(
            "Break off…",
            "left-off",
            "reason",
            "Break off for today",
            "The next entry takes it up again."
        );
    }

    private static ActionView Said(string text, string kind, string field, string title, string lead) =>
        new(
            text,
            [Entry(kind, (field, Words("text")))],
            null,
            new(
                title,
                lead,
                "Save",
                [new("text", "words", "In your words") { Most = LongestText, Missing = "Write it first." }]
            )
        );

    private static string Shows(RepairState state, OpenedPart? part) =>
        state.Now is not { } open ? "Overview"
        : part is null ? RepairSummary.Title(state, open)
        : $"{RepairSummary.Title(state, open)}, {part.Part.Name}";

    private static RepairOpeningView Opening(RepairState state, RepairOpening opening) =>
        new(
            RepairSummary.Title(state, opening),
            [
                .. opening.Parts.Select(p =>
                    $"{p.Part.Name}: "
                    + (
                        p.Found is not { } found ? "not looked at"
                        : found.IsEmpty ? "in order"
                        : string.Join(", ", found.Select(f => f.Words))
                    )
                    + string.Concat(p.Acts.Select(a => $"; {a.Words()}"))
                ),
            ]
        );
}
