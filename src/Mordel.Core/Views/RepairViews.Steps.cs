using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json.Nodes;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Repairs;
using static Mordel.Core.Views.EntryTemplate;

namespace Mordel.Core.Views;

// What is done or said at each stage, and the entries that makes.
public static partial class RepairViews
{
    private const int LongestWho = 120,
        LongestText = 500;

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
                    [asks ? Entry("agreed", ("who", Words("who"))) : Entry("done", ("step", key), ("says", step.Does))]
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
}
