using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using static Mordel.Core.Views.EntryTemplate;

namespace Mordel.Core.Views;

/// <summary>The dialogs of the run screen: what each asks and which entries it makes.</summary>
internal static partial class RunDialogs
{
    private const string SayWhy = "Say why.";

    /// <summary>A note in one's own words.</summary>
    public static ActionView Note(string step, string text = "Note") =>
        new(
            text,
            [Entry("note", ("step", step), ("text", Words("text")))],
            "n",
            new(
                "Note",
                "It is kept with the time and goes into the report.",
                "Save",
                [InWords("In your words", "Write a few words first.")]
            )
        );

    /// <summary>The test cannot be made today.</summary>
    public static ActionView Stop { get; } =
        new(
            "Cannot be tested",
            [Entry("stopped", ("reason", Words("text")))],
            null,
            new(
                "Cannot be tested today",
                "This ends the test without a result. It is neither pass nor fail; a return visit follows.",
                "End the test",
                [
                    InWords(
                        "Why",
                        "Say why; the authority will ask.",
                        "No access",
                        "SO1 does not shut off",
                        "SO2 does not shut off",
                        "Water cannot be shut off now"
                    ),
                ]
            )
        );

    /// <summary>The test is broken off for today.</summary>
    public static ActionView Pause { get; } =
        new(
            "Stop for today",
            [Entry("paused", ("reason", Words("text")))],
            null,
            new(
                "Stop for today",
                "Close up now and continue another time. What was read stays on the record; the test is then begun "
                    + "again.",
                "Stop for today",
                [InWords("Why", SayWhy, "Window is over", "Occupant needs the water", "Parts are missing")]
            )
        );

    /// <summary>Something was repaired.</summary>
    public static ActionView Mended { get; } =
        new(
            "Something was repaired",
            [Entry("mended", ("text", Words("text")))],
            null,
            new(
                "Something was repaired",
                "The whole test begins again. What was read so far stays on the report as the set before the repair.",
                "Begin again",
                [
                    InWords(
                        "What was done, and by whom",
                        "Say what was done.",
                        "CV1 cleaned",
                        "CV1 spring and disc replaced",
                        "CV2 cleaned",
                        "Relief valve cleaned",
                        "Air inlet cleaned",
                        "SO2 replaced"
                    ),
                ]
            )
        );

    /// <summary>The static pressure of the main.</summary>
    /// <param name="text">What the button says.</param>
    /// <param name="unit">The unit it is typed in.</param>
    public static ActionView Line(string text, string unit) =>
        new(
            text,
            [Entry("line-pressure", ("pressure", Quantity("value", unit)))],
            null,
            new(
                "Line pressure",
                $"The static pressure of the main, in {unit}, where the kit or a gauge at TC1 shows it. It "
                    + $"is optional.",
                "Save",
                [Number($"Pressure, {unit}", "Type the pressure as a number, such as 62.")]
            )
        );

    /// <summary>How far the gauge was from its level.</summary>
    /// <param name="unit">The unit it is typed in.</param>
    public static ActionView Height(string unit) =>
        new(
            "Gauge height",
            [Entry("gauge-height", ("offset", Quantity("value", unit, optional: true)))],
            null,
            new(
                "Gauge height",
                "How far was the gauge from the level it should be held at? Minus is low: low reads high. The readings "
                    + "stay as they are; the screen says what it would mean. Leave it empty if you do not know.",
                "Save",
                [
                    Number($"Distance, {unit}", "Type the distance as a number, such as -3, or leave it empty.") with
                    {
                        Pattern = $"^$|{NumberPattern}",
                    },
                ]
            )
        );

    /// <summary>A number was written wrongly.</summary>
    public static ActionView Correct(ReadingView reading) =>
        new(
            "correct",
            [
                Entry(
                    "correction",
                    ("of", reading.EntryId),
                    ("reading", Quantity("value", reading.Unit)),
                    ("reason", Words("text"))
                ),
            ],
            null,
            new(
                $"Correct {reading.Name}",
                $"Written: {reading.Value} {reading.Unit}. The first value stays beside the new one.",
                "Save",
                [
                    Number("Right value", "Type the right value as a number, such as 1.8."),
                    InWords(
                        "Why it is corrected",
                        "Say why; both values go into the report.",
                        "Typed wrongly",
                        "Misread the dial"
                    ),
                ]
            )
        );

    /// <summary>The watch is ended early.</summary>
    public static ActionView CutShort(string step, JsonObject needle) =>
        new(
            "End it early…",
            [Entry("hold-ended", ("step", step), ("reason", Words("text")), ("reading", needle))],
            null,
            new(
                "Cut the watch short",
                "The profile wants the needle watched longer. You can end it now, with a reason.",
                "End it now",
                [InWords("Why", SayWhy, "The needle moves: it is not still", "The window is over", "Training")]
            )
        );

    /// <summary>Something found at a part, or at a line of the sheet.</summary>
    /// <param name="text">What the button says.</param>
    /// <param name="title">Heading.</param>
    /// <param name="part">The part; null for the place or the papers.</param>
    public static ActionView Finding(string text, string title, Part? part)
    {
        var entry = Entry("finding", ("text", Words("text")));
        if (part is not null)
            entry["part"] = part.Id.Value;
        return new(
            text,
            [entry],
            null,
            new(
                title,
                "What did you find? It goes into the findings and, if you leave it so, the remarks.",
                "Save",
                [InWords("In your words", "Write a few words first.", part is null ? [] : OftenFound(part.Kind))]
            )
        );
    }

    /// <summary>What is asked at a line of the sheet, otherwise than the likely answer has it.</summary>
    public static ActionView? About(AskView? ask) =>
        ask?.Kind switch
        {
            "permission" or "restoring" => Agreed(ask),
            "identity" => Serial,
            "kit-zero" => Zero(ask.Chosen!, ask.Answer is not null),
            "leave" => Leave(ask),
            "as-found" or "as-left" => Stands(ask),
            _ => null,
        };

    /// <summary>The likely answer to what is asked at a line of the sheet; null where there is none to offer.</summary>
    public static ActionView? Likely(AskView? ask)
    {
        if (ask is not { Answer: null, Offer: { } offer })
            return null;
        return new(
            offer,
            ask.Chosen is { } chosen ? [Entry(ask.Kind, ("how", chosen))]
                : ask.Valves.IsEmpty ? [Entry("agreed", ("about", ask.Kind), ("who", ask.Who))]
                :
                [
                    .. ask
                        .Valves.Where(v => v.Matters || v.Likely != Closed)
                        .Select(v => Entry(ask.Kind, ("part", v.Part), ("standing", v.Likely))),
                ]
        );
    }

    private static string Closed => EntryFormat.Name(ValvePosition.Closed);

    private static FieldView Number(string label, string missing) =>
        new("value", "number", label) { Missing = missing, Pattern = NumberPattern };
}
