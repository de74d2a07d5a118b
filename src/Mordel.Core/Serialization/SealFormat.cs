using Mordel.Core.Reports;

namespace Mordel.Core.Serialization;

/// <summary>
/// Reads and writes what the installation signs: the links of chains (<c>mordel.seal/1</c>), the ends of chains
/// (<c>mordel.chain/1</c>), the ledger of all seals (<c>mordel.ledger/1</c>) and amendments
/// (<c>mordel.amendment/2</c>), each one line of JSON in canonical form.
/// </summary>
public static class SealFormat
{
    /// <summary>Names and versions of the formats.</summary>
    public const string Link = "mordel.seal/1",
        Chain = "mordel.chain/1",
        LedgerName = "mordel.ledger/1",
        AmendmentName = "mordel.amendment/2";

    /// <summary>A link.</summary>
    public static string Write(SealLink link)
    {
        ArgumentNullException.ThrowIfNull(link);
        return JsonText.Object(json =>
        {
            json.WriteString("format", Link);
            json.WriteString("assembly", link.Assembly.ToString("D"));
            json.WriteNumber("sequence", link.Sequence);
            json.WriteNumber("number", link.Number);
            json.WriteString("run", link.Run.ToString("D"));
            if (link.Amendment is { } amendment)
                json.WriteString("amendment", amendment.ToString("D"));
            json.WriteString("record", link.Record);
            if (link.Paper is { } paper)
                json.WriteString("paper", paper);
            json.WriteString("previous", link.Previous);
            json.WriteInstant("at", link.At);
            json.WriteString("key", link.Key);
        });
    }

    /// <summary>Reads a link; null when it is none.</summary>
    public static SealLink? ReadLink(string json)
    {
        var errors = new List<InputError>();
        return Node.Root(json, errors) is { } root && root.IsObject() && ReadLink(root) is { } link && errors.Count == 0
            ? link
            : null;
    }

    /// <summary>Reads a link where it stands; errors go to the node's list.</summary>
    public static SealLink? ReadLink(Node node)
    {
        var before = node.ErrorCount;
        if (!node.IsObject())
            return null;
        node.Format(Link);
        var (assembly, run) = (node.Required("assembly")?.Id(), node.Required("run")?.Id());
        Guid? amendment = node.Optional("amendment")?.Id();
        var (sequence, number) = (
            node.Required("sequence")?.Whole(1, int.MaxValue),
            node.Required("number")?.Whole(1, long.MaxValue)
        );
        var (record, previous) = (Hash(node, "record"), Hash(node, "previous"));
        var paper = node.Optional("paper") is null ? null : Hash(node, "paper");
        var (at, key) = (node.Required("at")?.Instant(), node.Required("key")?.Text(64));
        return node.ErrorCount > before
            ? null
            : new()
            {
                Assembly = assembly!.Value,
                Sequence = (int)sequence!.Value,
                Number = number!.Value,
                Run = run!.Value,
                Amendment = amendment,
                Record = record!,
                Paper = paper,
                Previous = previous!,
                At = at!.Value,
                Key = key!,
            };
    }

    /// <summary>The end of a chain.</summary>
    public static string Write(ChainHead head)
    {
        ArgumentNullException.ThrowIfNull(head);
        return JsonText.Object(json =>
        {
            json.WriteString("format", Chain);
            json.WriteString("assembly", head.Assembly.ToString("D"));
            json.WriteNumber("length", head.Length);
            json.WriteString("last", head.Last);
            json.WriteString("key", head.Key);
        });
    }

    /// <summary>The ledger.</summary>
    public static string Write(Ledger ledger)
    {
        ArgumentNullException.ThrowIfNull(ledger);
        return JsonText.Object(json =>
        {
            json.WriteString("format", LedgerName);
            json.WriteNumber("count", ledger.Count);
            json.WriteString("running", ledger.Running);
            json.WriteString("key", ledger.Key);
        });
    }

    /// <summary>Reads the end of a chain; null when it is none.</summary>
    public static ChainHead? ReadHead(string json)
    {
        var errors = new List<InputError>();
        if (Node.Root(json, errors) is not { } node || !node.IsObject())
            return null;
        node.Format(Chain);
        var (assembly, length, last, key) = (
            node.Required("assembly")?.Id(),
            node.Required("length")?.Whole(1, int.MaxValue),
            Hash(node, "last"),
            node.Required("key")?.Text(64)
        );
        return errors.Count > 0 ? null : new(assembly!.Value, (int)length!.Value, last!, key!);
    }

    /// <summary>Reads a ledger; null when it is none.</summary>
    public static Ledger? ReadLedger(string json)
    {
        var errors = new List<InputError>();
        if (Node.Root(json, errors) is not { } node || !node.IsObject())
            return null;
        node.Format(LedgerName);
        var (count, running, key) = (
            node.Required("count")?.Whole(1, long.MaxValue),
            Hash(node, "running"),
            node.Required("key")?.Text(64)
        );
        return errors.Count > 0 ? null : new(count!.Value, running!, key!);
    }

    /// <summary>The running hash of the ledger with one link more.</summary>
    public static string Running(string before, string linkHash) => ContentHash.Compute($"{before}\n{linkHash}\n");

    /// <summary>An amendment.</summary>
    public static string Write(Amendment amendment)
    {
        ArgumentNullException.ThrowIfNull(amendment);
        return JsonText.Object(json =>
        {
            json.WriteString("format", AmendmentName);
            json.WriteString("amendment", amendment.Id.ToString("D"));
            json.WriteString("run", amendment.Run.ToString("D"));
            json.WriteString("by", amendment.By);
            json.WriteInstant("at", amendment.At);
            json.WriteString("printed", amendment.Printed);
            json.WriteString("text", amendment.Text);
            if (amendment.Earlier is { } earlier)
                SealedRunFormat.Write(json, earlier);
        });
    }

    /// <summary>Reads an amendment; null when it is none.</summary>
    public static Amendment? ReadAmendment(string json)
    {
        var errors = new List<InputError>();
        return
            Node.Root(json, errors) is { } root
            && root.IsObject()
            && ReadAmendment(root) is { } amendment
            && errors.Count == 0
            ? amendment
            : null;
    }

    /// <summary>Reads an amendment where it stands; errors go to the node's list.</summary>
    public static Amendment? ReadAmendment(Node node)
    {
        var before = node.ErrorCount;
        if (!node.IsObject())
            return null;
        node.Format(AmendmentName);
        var (id, run, by, at) = (
            node.Required("amendment")?.Id(),
            node.Required("run")?.Id(),
            node.Required("by")?.Text(200),
            node.Required("at")?.Instant()
        );
        var (printed, text) = (node.Required("printed")?.Text(400), node.Required("text")?.Text(10_000));
        var earlier = node.Optional("earlier") is { } e ? SealedRunFormat.Earlier(e) : null;
        return node.ErrorCount > before ? null : new(id!.Value, run!.Value, by!, at!.Value, printed!, text!, earlier);
    }

    private static string? Hash(Node node, string name) =>
        node.Required(name)?.OneOf(t => ContentHash.IsHash(t) ? t : null, "a hash; 64 hexadecimal digits");
}
