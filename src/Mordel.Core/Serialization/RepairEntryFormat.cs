using System.Collections.Immutable;
using System.Text.Json;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;

namespace Mordel.Core.Serialization;

/// <summary>
/// Reads and writes entries of a repair's log: <c>{"kind":"done","step":"1/out/3","says":"Lift the spring out"}</c>.
/// </summary>
public static class RepairEntryFormat
{
    private const int LongestText = 2_000;

    /// <summary>What an entry says, on one line: what is kept.</summary>
    public static string Write(RepairBody body) => JsonText.Object(json => Write(json, body));

    /// <summary>The entry with who made it and when, on one line: what the log shows.</summary>
    public static string Write(RepairEntry entry)
    {
        ArgumentNullException.ThrowIfNull(entry);
        return JsonText.Object(json =>
        {
            json.WriteString("id", entry.Id.ToString());
            json.WriteInstant("at", entry.At);
            json.WriteString("by", entry.By);
            Write(json, entry.Body);
        });
    }

    /// <summary>Reads what an entry says; null when it says nothing that is known.</summary>
    public static RepairBody? Read(string json)
    {
        var errors = new List<InputError>();
        var body = Node.Root(json, errors) is { LooksLikeObject: true } node ? Read(node) : null;
        return errors.Count == 0 ? body : null;
    }

    /// <summary>The most entries in one batch.</summary>
    public const int LargestBatch = 200;

    /// <summary>Reads a batch as devices send it: <c>{"entries":[{"id":…,"at":…,"kind":…}]}</c>.</summary>
    /// <param name="json">The text.</param>
    /// <param name="by">Who made the entries.</param>
    /// <param name="errors">Every error with its place; nothing is read then.</param>
    /// <param name="most">The most entries.</param>
    public static ImmutableArray<RepairEntry> ReadBatch(
        string json,
        string by,
        out ImmutableArray<InputError> errors,
        int most = LargestBatch
    )
    {
        var found = new List<InputError>();
        var read = new List<RepairEntry>();
        if (Node.Root(json, found) is { } root && root.IsObject() && root.Required("entries") is { } entries)
        {
            var all = entries.Elements().ToList();
            if (all.Count == 0 || all.Count > most)
                entries.Wrong($"1 to {most} entries at a time");
            else
                foreach (var node in all)
                    if (Entry(node, by) is { } entry)
                        read.Add(entry);
        }

        errors = [.. found];
        return found.Count == 0 ? [.. read] : [];
    }

    private static RepairEntry? Entry(Node node, string by)
    {
        if (!node.IsObject())
            return null;
        var (id, at) = (node.Required("id")?.Id(), node.Required("at")?.Instant());
        var before = node.ErrorCount;
        var body = Read(node);
        if (body is null && node.ErrorCount == before)
            node.Wrong("no entry of a repair is of this kind");
        return (id, at, body) is ({ } known, { } when, { } says) ? new(new(known), when, by, says) : null;
    }

    private static void Write(Utf8JsonWriter json, RepairBody body)
    {
        void Kind(string kind) => json.WriteString("kind", kind);
        void Where(int opening, string part)
        {
            json.WriteNumber("opening", opening);
            json.WriteString("part", part);
        }

        switch (body)
        {
            case RepairBody.Agreed b:
                Kind("agreed");
                json.WriteString("who", b.Who);
                break;
            case RepairBody.Done b:
                Kind("done");
                json.WriteString("step", b.Step);
                json.WriteString("says", b.Says);
                break;
            case RepairBody.CoverOpened b:
                Kind("opened");
                json.WriteString("sheet", b.Sheet);
                if (b.Part is { } part)
                    json.WriteString("part", part.Value);
                break;
            case RepairBody.Inspected b:
                Kind("inspected");
                Where(b.Opening, b.Part);
                json.WriteStrings("found", b.Found);
                break;
            case RepairBody.Acted b:
                Kind("acted");
                Where(b.Opening, b.Part);
                json.WriteString("act", b.Act.Id());
                break;
            case RepairBody.PartUsed b:
                Kind("used");
                json.WriteString("name", b.Name);
                json.WriteNumber("count", b.Count);
                if (b.Item is { } item)
                    json.WriteString("item", item.ToString("D"));
                break;
            case RepairBody.Pictured b:
                Kind("photo");
                json.WriteString("photo", b.Photo);
                json.WriteString("of", b.Of);
                break;
            case RepairBody.Noted b:
                Kind("note");
                json.WriteString("text", b.Text);
                break;
            case RepairBody.Stopgap b:
                Kind("stopgap");
                Where(b.Opening, b.Part);
                json.WriteDay("due", b.Due);
                json.WriteString("order", b.Order);
                json.WriteString("told", b.Told);
                break;
            case RepairBody.Settled b:
                Kind("settled");
                json.WriteString("of", b.Of.ToString());
                json.WriteString("how", b.How);
                break;
            case RepairBody.LeftOff b:
                Kind("left-off");
                json.WriteString("reason", b.Reason);
                break;
            case RepairBody.TookBack b:
                Kind("taken-back");
                json.WriteString("of", b.Of.ToString());
                break;
            default:
                throw new InvalidOperationException($"{body?.GetType().Name} has no written form.");
        }
    }

    private static RepairBody? Read(Node node)
    {
        string? Words(string name, int most = LongestText) => node.Required(name)?.Text(most);
        int? Opening() => node.Required("opening")?.Whole(1, 1_000) is { } n ? (int)n : null;
        EntryId? Of() => node.Required("of")?.Id() is { } id ? new EntryId(id) : null;
        switch (Words("kind", 40))
        {
            case "agreed":
                return Words("who") is { } who ? new RepairBody.Agreed(who) : null;
            case "done":
                return (Words("step", 60), Words("says")) is ({ } step, { } says)
                    ? new RepairBody.Done(step, says)
                    : null;
            case "opened":
                return Words("sheet", 60) is { } sheet
                    ? new RepairBody.CoverOpened(sheet, node.Optional("part")?.Text(20) is { } p ? new PartId(p) : null)
                    : null;
            case "inspected":
                return (Opening(), Words("part", 60)) is ({ } o1, { } p1)
                    ? new RepairBody.Inspected(o1, p1, node.Texts("found", 60))
                    : null;
            case "acted":
                return (Opening(), Words("part", 60), Inspections.Act(Words("act", 40))) is ({ } o2, { } p2, { } act)
                    ? new RepairBody.Acted(o2, p2, act)
                    : null;
            case "used":
                return (Words("name"), node.Required("count")?.Whole(1, 1_000)) is ({ } name, { } count)
                    ? new RepairBody.PartUsed(name, (int)count, node.Optional("item")?.Id())
                    : null;
            case "photo":
                return (Words("photo", 64), Words("of")) is ({ } photo, { } shows)
                    ? new RepairBody.Pictured(photo, shows)
                    : null;
            case "note":
                return Words("text") is { } text ? new RepairBody.Noted(text) : null;
            case "stopgap":
                return
                    (Opening(), Words("part", 60), node.Required("due")?.Day(), Words("order"), Words("told"))
                        is ({ } o3, { } p3, { } due, { } order, { } told)
                    ? new RepairBody.Stopgap(o3, p3, due, order, told)
                    : null;
            case "settled":
                return (Of(), Words("how")) is ({ } of, { } how) ? new RepairBody.Settled(of, how) : null;
            case "left-off":
                return Words("reason") is { } reason ? new RepairBody.LeftOff(reason) : null;
            case "taken-back":
                return Of() is { } back ? new RepairBody.TookBack(back) : null;
            default:
                return null;
        }
    }
}
