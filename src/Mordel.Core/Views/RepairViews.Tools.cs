using Mordel.Core.Repairs;
using static Mordel.Core.Views.EntryTemplate;

namespace Mordel.Core.Views;

// What can be done at any time.
public static partial class RepairViews
{
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
                    new("name", "line", "What it is") { Most = LongestWho, Missing = "Say which part was used." },
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
}
