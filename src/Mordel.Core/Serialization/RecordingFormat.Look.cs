using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Rigs;
using Mordel.Core.Training;

namespace Mordel.Core.Serialization;

// A recording that is under way, to be looked at.
public static partial class RecordingFormat
{
    private const int MostWords = 500;

    /// <summary>
    /// Reads a look at a bench:
    /// <c>{"tape":{…},"words":[{"at":60,"say":"confirm"}],"guided":true,"flow":"Upward","told":0,"drawn":false}</c>.
    /// </summary>
    /// <param name="json">The text.</param>
    /// <param name="errors">Every error with its place.</param>
    public static BenchLook? ReadLook(string json, out ImmutableArray<InputError> errors) =>
        Node.Read(json, out errors, ReadLook);

    private static BenchLook? ReadLook(Node root, List<InputError> errors)
    {
        root.Only("tape", "words", "guided", "flow", "told", "drawn");
        var recording = root.Required("tape") is { } tape && tape.IsObject() ? Read(tape, errors) : null;
        if (recording?.End > BenchLook.Latest)
            root.Optional("tape")!.Value.Wrong($"longer than {BenchLook.Latest} ticks, which is all that is looked at");
        var words = ImmutableArray.CreateBuilder<SheetWord>();
        var last = 0;
        foreach (var node in root.Optional("words")?.Elements() ?? [])
        {
            if (words.Count == MostWords)
            {
                node.Wrong($"one more than the {MostWords} words that are heard");
                break;
            }

            if (!node.IsObject() || node.Required("at")?.Whole(last, BenchLook.Latest) is not { } at)
                continue;
            last = (int)at;
            if (Word(node, last) is { } word)
                words.Add(word);
        }

        var guided = root.Optional("guided")?.YesNo();
        var flow = root.Optional("flow")
            ?.ValueOf<FlowDirection>(
                t => Enum.TryParse<FlowDirection>(t, out var way) && Enum.IsDefined(way) ? way : null,
                $"a way of the water; {string.Join(", ", Enum.GetNames<FlowDirection>())}"
            );
        var told = root.Optional("told")?.Whole(0, int.MaxValue);
        var drawn = root.Optional("drawn")?.YesNo();
        return recording is null
            ? null
            : new(
                recording,
                [.. words],
                guided ?? false,
                flow ?? FlowDirection.LeftToRight,
                (int)(told ?? 0),
                drawn ?? false
            );
    }

    private static SheetWord? Word(Node node, int at)
    {
        node.Only("at", "say", "value");
        switch (node.Required("say")?.OneOf(t => t is "confirm" or "take" or "see" ? t : null, "confirm, take or see"))
        {
            case "confirm":
                return new SheetWord.Confirmed(at);
            case "take":
                return node.Required("value")?.ValueOf<decimal>(Typed, "a number of a gauge, such as 1.8") is { } amount
                    ? new SheetWord.Taken(at, amount)
                    : null;
            case "see":
                return node.Required("value")?.Text(100) is { } sight ? new SheetWord.Seen(at, sight) : null;
            default:
                return null;
        }
    }

    /// <summary>A number as people type it, with a point or a comma; null when it is no number of a gauge.</summary>
    public static decimal? Typed(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        return
            decimal.TryParse(
                text.Replace(',', '.'),
                NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign,
                CultureInfo.InvariantCulture,
                out var amount
            )
            && Math.Abs(amount) < 1000
            ? amount
            : null;
    }
}
