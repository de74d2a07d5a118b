using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;

namespace Mordel.Core.Serialization;

// How entries are read.
public static partial class EntryFormat
{
    /// <summary>Reads a batch: <c>{"entries":[…]}</c>.</summary>
    public static ImmutableArray<Entry> ReadBatch(string json, out ImmutableArray<InputError> errors)
    {
        var found = new List<InputError>();
        var entries = new List<Entry>();
        if (Node.Root(json, found) is { } root && root.IsObject() && root.Required("entries") is { } list)
        {
            var nodes = list.Elements().Take(LargestBatch + 1).ToList();
            if (nodes.Count > LargestBatch)
                list.Wrong($"more than {LargestBatch} entries in one batch; send them in parts");
            else
                foreach (var node in nodes)
                    if (Read(node) is { } entry && ComesBack(entry, node))
                        entries.Add(entry);
        }

        errors = [.. found];
        return found.Count == 0 ? [.. entries] : [];
    }

    /// <summary>Reads one entry; errors go to the node's list.</summary>
    public static Entry? Read(Node node)
    {
        if (!node.IsObject())
            return null;
        var id = node.Required("id")
            ?.ValueOf<Guid>(
                t => Guid.TryParseExact(t, "D", out var g) && g != Guid.Empty ? g : null,
                "an entry's id; a UUID"
            );
        var tick = node.Required("tick")?.Whole(1, 1_000_000_000);
        var at = node.Required("at")?.ValueOf(Instant, "a time between 1991 and 2199; ISO 8601 with an offset");
        var body = Body(node);
        return id is null || tick is null || at is null || body is null
            ? null
            : new(new(id.Value), tick.Value, at.Value, body);
    }

    // To the millisecond, which is what is kept.
    private static DateTimeOffset? Instant(string text) =>
        DateTimeOffset.TryParse(text, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var at)
        && at.UtcDateTime.Year is > 1990 and < 2200
            ? new(at.UtcTicks - (at.UtcTicks % TimeSpan.TicksPerMillisecond), TimeSpan.Zero)
            : null;

    private static EntryBody? Body(Node node)
    {
        var kind = node.Required("kind")?.Text(40);
        string? Step() => node.Required("step")?.Text(300);
        string? Words(string name) =>
            node.Required(name)?.Text() is { } t
            && (t.Trim().Length > 0 || node.Optional(name)!.Value.Wrong("some words are wanted here"))
                ? t
                : null;
        PartId? Part(string name) => node.Required(name)?.Text(40) is { } p ? new PartId(p) : null;
        ValvePosition? ValvePosition() =>
            node.Required("standing")?.ValueOf<ValvePosition>(PositionNamed, "a position; open, closed or partly");
        EntryId? Of() =>
            node.Required("of")
                ?.ValueOf<Guid>(t => Guid.TryParseExact(t, "D", out var g) ? g : null, "an entry's id; a UUID")
                is { } g
                ? new EntryId(g)
                : null;
        switch (kind)
        {
            case null:
                return null;
            case "done":
                return Step() is { } s ? new EntryBody.Done(s) : null;
            case "reading":
                return (Step(), node.Required("reading")?.Reading()) is ({ } s1, { } r1)
                    ? new EntryBody.Taken(s1, r1)
                    : null;
            case "sight":
                return (Step(), node.Required("sight")?.Text(100)) is ({ } s2, { } sight)
                    ? new EntryBody.Saw(s2, sight)
                    : null;
            case "correction":
                return (Of(), node.Required("reading")?.Reading(), Words("reason")) is ({ } o1, { } r2, { } why)
                    ? new EntryBody.Corrected(o1, r2, why)
                    : null;
            case "taken-back":
                return Of() is { } o2 ? new EntryBody.TookBack(o2) : null;
            case "back":
                return Step() is { } s3 ? new EntryBody.WentBack(s3) : null;
            case "note":
                return (Step(), Words("text")) is ({ } s4, { } t1) ? new EntryBody.Noted(s4, t1) : null;
            case "finding":
                return Words("text") is { } t2
                    ? new EntryBody.Found(node.Optional("part") is { IsNull: false } ? Part("part") : null, t2)
                    : null;
            case "as-found":
                return (Part("part"), ValvePosition()) is ({ } p1, { } st1)
                    ? Shutoff(node, p1)
                        ? new EntryBody.AsFound(p1, st1)
                        : null
                    : null;
            case "as-left":
                return (Part("part"), ValvePosition()) is ({ } p2, { } st2)
                    ? Shutoff(node, p2)
                        ? new EntryBody.AsLeft(p2, st2)
                        : null
                    : null;
            case "leave":
                return
                    node.Required("how")
                        ?.ValueOf<Leaving>(t => Leavings.Named(t), "how it is left; in-service, drained or as-found")
                        is { } how
                    ? new EntryBody.ToBeLeft(how)
                    : null;
            case "serial":
                return (Words("serial"), node.Required("replaced")?.YesNo()) is ({ } sn, { } replaced)
                    ? new EntryBody.SerialDiffers(sn, replaced)
                    : null;
            case "line-pressure":
                return node.Required("pressure")?.LinePressure() is { } line ? new EntryBody.LineRead(line) : null;
            case "answer":
                return (Step(), Answer(node)) is ({ } s5, ({ } asked, { } given))
                    ? new EntryBody.Answered(s5, asked, given)
                    : null;
            case "glimpse":
                return (Step(), node.Required("reading")?.Reading()) is ({ } s6, { } r6)
                    ? new EntryBody.Glimpsed(s6, r6)
                    : null;
            case "hold-started":
                return Step() is { } s7 && Maybe(node, "reading", n => n.Reading(), out var r7)
                    ? new EntryBody.HoldStarted(s7, r7)
                    : null;
            case "hold-watched":
                return (Step(), node.Required("reading")?.Reading()) is ({ } s8, { } r8)
                    ? new EntryBody.HoldWatched(s8, r8)
                    : null;
            case "hold-ended":
                return Step() is { } s9 && Maybe(node, "reading", n => n.Reading(), out var r9)
                    ? new EntryBody.HoldEnded(
                        s9,
                        r9,
                        node.Optional("reason") is { IsNull: false } ? Words("reason") : null
                    )
                    : null;
            case "gauge-height":
                return Maybe(node, "offset", n => n.Offset(), out var offset)
                    ? new EntryBody.GaugeOffset(offset)
                    : null;
            case "kit-zero":
                return node.Required("reading")?.Reading() is { } zero ? new EntryBody.KitZero(zero) : null;
            case "mended":
                return Words("text") is { } t3
                    ? new EntryBody.Mended(node.Optional("part") is { IsNull: false } ? Part("part") : null, t3)
                    : null;
            case "paused":
                return Words("reason") is { } r10 ? new EntryBody.Paused(r10) : null;
            case "resumed":
                return new EntryBody.Resumed();
            case "offer":
                return (Step(), node.Required("offer")?.Text(100)) is ({ } s10, { } offer)
                    ? new EntryBody.TookOffer(s10, offer)
                    : null;
            case "agreed":
                return
                    (
                        node.Required("about")?.ValueOf<Matter>(ParseMatter, "a matter; permission or restoring"),
                        Words("who")
                    )
                        is ({ } about, { } who)
                    ? new EntryBody.Agreed(about, who)
                    : null;
            case "explained":
                return
                    (
                        node.Required("about")
                            ?.ValueOf<Oddity>(t => t == "pace" ? Oddity.Pace : null, "what is explained; pace"),
                        Words("text")
                    )
                        is ({ } odd, { } t4)
                    ? new EntryBody.Explained(odd, t4)
                    : null;
            case "stopped":
                return Words("reason") is { } reason ? new EntryBody.Stopped(reason) : null;
            case "remarks":
                return node.Required("text")?.Text() is { } remarks ? new EntryBody.Remarks(remarks) : null;
            case "result":
                return Answer(node) is ({ } item, { } value) ? new EntryBody.Transcribed(item, value) : null;
            default:
                node.Optional("kind")!.Value.Wrong($"\"{kind}\" is not a kind of entry");
                return null;
        }
    }

    private static (TestItem? Item, Verdicts.ItemValue? Value) Answer(Node node)
    {
        var item = node.Required("item")?.OneOf(TestItem.Named, "an item");
        return (item, item is null ? null : node.Required("value")?.Value(item));
    }

    private static bool Maybe<T>(Node node, string name, Func<Node, T?> read, out T? value)
        where T : struct
    {
        value = node.Optional(name) is { IsNull: false } given ? read(given) : null;
        return value is not null || node.Optional(name) is not { IsNull: false };
    }

    // Whether this assembly has such a valve is seen when the run is played.
    private static readonly PartId[] Valves = [.. Bodies.All.SelectMany(ValvePositions.WrittenDownFor).Distinct()];

    private static bool Shutoff(Node node, PartId part) =>
        Valves.Contains(part)
        || node.Optional("part")!
            .Value.Wrong($"a valve of an assembly is wanted here; {string.Join(", ", Valves.Select(v => v.Value))}");

    private static Matter? ParseMatter(string text) =>
        text switch
        {
            "permission" => Matter.Permission,
            "restoring" => Matter.Restoring,
            _ => null,
        };

    /// <summary>The position with this name; null when it is none.</summary>
    public static ValvePosition? PositionNamed(string? text) =>
        text switch
        {
            "open" => ValvePosition.Open,
            "closed" => ValvePosition.Closed,
            "partly" => ValvePosition.Partly,
            _ => null,
        };
}
