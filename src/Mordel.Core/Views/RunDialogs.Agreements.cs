using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using static Mordel.Core.Views.EntryTemplate;

namespace Mordel.Core.Views;

// What is agreed with people, and how valves stand.
internal static partial class RunDialogs
{
    private static ActionView Serial { get; } =
        new(
            "Not so…",
            [Entry("serial", ("serial", Words("serial")), ("replaced", Words("replaced")))],
            null,
            new(
                "The serial differs",
                "Read it off the plate. A replacement is a new assembly, linked to the old one; otherwise the register "
                    + "is corrected.",
                "Save",
                [
                    new("serial", "line", "Serial on the plate")
                    {
                        Missing = "Type the serial that is on the plate.",
                        Most = 60,
                    },
                    new("replaced", "tick", "It is another assembly: the old one was replaced") { Value = "false" },
                ]
            )
        );

    private static ActionView Zero(string unit, bool again) =>
        new(
            again ? "Change…" : "Not at zero…",
            [Entry("kit-zero", ("reading", Quantity("value", unit)))],
            null,
            new(
                "The needle is not at zero",
                "Both ports open to air, the kit held as it will be read. Set it to zero if it can be set; a gauge "
                    + "that is off by more than its accuracy tests nothing. The readings stay as they are; the report "
                    + "says what it would mean.",
                "Save",
                [Number($"The needle stands at, {unit}", "Type where it stands as a number, such as 0.2 or -0.2.")]
            )
        );

    private static ActionView Agreed(AskView ask) =>
        new(
            ask.Answer is null ? "Otherwise…" : "Change…",
            [Entry("agreed", ("about", ask.Kind), ("who", Words("text")))],
            null,
            new(
                ask.Kind == "permission"
                    ? "Who allowed the water to be shut off"
                    : "Who was asked before the water comes back",
                "The name, or the office they hold. It stands on the report with the time.",
                "Save",
                [
                    InWords(
                        "Name",
                        "Say who it was.",
                        [
                            .. new[] { ask.Who, "Nobody is on site", "The owner, by telephone" }
                                .OfType<string>()
                                .Where(w => w.Length > 0),
                        ]
                    ) with
                    {
                        Most = 120,
                    },
                ]
            )
        );

    private static ActionView Leave(AskView ask) =>
        new(
            ask.Answer is null ? "Otherwise…" : "Change…",
            [Entry("leave", ("how", Words("how")))],
            null,
            new(
                "How the line is left",
                "As agreed with whoever it feeds. What is to be done follows; what stands in the end is written down "
                    + "valve by valve.",
                "Save",
                [
                    new("how", "choice", "It is left")
                    {
                        Value = ask.Chosen ?? Leavings.All[0].Name,
                        Options = [.. Leavings.All.Select(l => new OptionView(l.Name, l.Says))],
                    },
                ]
            )
        );

    // A cock that is shut as it should be needs no entry.
    private static ActionView Stands(AskView ask) =>
        new(
            ask.Answer is null ? "Otherwise…" : "Change…",
            [
                .. ask.Valves.Select(v =>
                {
                    var entry = Entry(ask.Kind, ("part", v.Part), ("standing", Words(v.Part)));
                    if (!v.Matters && v.Stands == Closed)
                        entry["unless"] = new JsonObject { ["slot"] = v.Part, ["is"] = Closed };
                    return entry;
                }),
            ],
            null,
            new(
                ask.Kind == "as-found" ? "How each valve stood" : "How each valve is left",
                ask.Kind == "as-found"
                    ? "SO1 is the inlet, SO2 the outlet. The end leaves each as it was found; a line found shut is "
                        + "charged first."
                    : "SO1 is the inlet, SO2 the outlet. Write each down as you see it.",
                "Save",
                [
                    .. ask.Valves.Select(v => new FieldView(v.Part, "valve", v.Label)
                    {
                        Value = v.Stands,
                        WhenDrained = v.WhenDrained,
                    }),
                ]
            )
            {
                Drained = "Drained for the season",
            }
        );

    private static ImmutableArray<string> OftenFound(PartKind kind) =>
        kind switch
        {
            PartKind.Shutoff => ["Leaks", "Will not close", "Handle broken"],
            PartKind.Cock => ["Blocked", "Drips", "Handle missing"],
            PartKind.Check => ["Noisy"],
            _ => ["Damaged", "Leaks"],
        };

    private static FieldView InWords(string label, string missing, params ImmutableArray<string> chips) =>
        new("text", "words", label) { Missing = missing, Chips = chips };
}
