using System.Collections.Immutable;
using System.Text.Json;
using Mordel.Core.Reports;

namespace Mordel.Core.Serialization;

/// <summary>
/// Reads and writes what leaves the installation with a seal: <c>mordel.paper-seal/1</c> behind the pages of a PDF, and
/// <c>mordel.sealed-report/1</c>, the report as data. What is signed stands in them as text, character by character, so
/// that anybody can hash it.
/// </summary>
public static class SealedFileFormat
{
    /// <summary>Names and versions of the formats.</summary>
    public const string Paper = "mordel.paper-seal/1",
        Report = "mordel.sealed-report/1";

    // Characters of the longest record: a log of entries at their longest.
    private const int LongestRecord = 16_000_000,
        LongestLink = 4_000;

    /// <summary>The seal of a paper.</summary>
    public static string Write(PaperSeal seal)
    {
        ArgumentNullException.ThrowIfNull(seal);
        return JsonText.Object(json =>
        {
            json.WriteString("format", Paper);
            if (seal.Number is { } number)
                json.WriteString("number", number);
            json.WriteString("link", seal.Link);
            json.WriteString("signature", seal.Signature);
            if (seal.Attested is not { } attested)
                return;
            json.WriteStartObject("attested");
            json.WriteString("key", attested.Key);
            json.WriteString("signature", attested.Signature);
            json.WriteEndObject();
        });
    }

    /// <summary>Reads the seal of a paper; null when it is none.</summary>
    public static PaperSeal? ReadPaper(string json)
    {
        var errors = new List<InputError>();
        if (Node.Root(json, errors) is not { } root || !root.IsObject())
            return null;
        root.Format(Paper);
        var (number, link, signature) = (
            root.Optional("number")?.Text(200),
            root.Required("link")?.Text(LongestLink),
            root.Required("signature")?.Text(400)
        );
        PaperAttestation? attested = null;
        if (
            root.Optional("attested") is { } node
            && node.IsObject()
            && (node.Required("key")?.Text(64), node.Required("signature")?.Text(400)) is ({ } key, { } by)
        )
            attested = new(key, by);
        return errors.Count > 0 ? null : new(link!, signature!, attested) { Number = number };
    }

    /// <summary>A sealed report as data.</summary>
    public static string Write(SealedFile file)
    {
        ArgumentNullException.ThrowIfNull(file);
        return JsonText.Object(json =>
        {
            json.WriteString("format", Report);
            json.WriteString("state", file.Broken.Count == 0 ? "sealed" : "SEAL BROKEN");
            if (file.Broken.Count > 0)
                json.WriteStrings("broken", file.Broken);
            json.WriteString("record", file.Record);
            if (file.Seal is { } seal)
                Write(json, seal);
            json.WriteStartArray("amendments");
            foreach (var amendment in file.Amendments)
            {
                json.WriteStartObject();
                json.WriteString("record", amendment.Record);
                Write(json, amendment.Seal);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteString("profile", file.Profile);
            json.WriteString("sheet", file.Sheet);
        });
    }

    /// <summary>Reads a sealed report.</summary>
    public static SealedFile? ReadReport(string json, out ImmutableArray<InputError> errors)
    {
        var found = new List<InputError>();
        var file = Node.Root(json, found, Node.DeepestKept) is { } root && root.IsObject() ? ReadReport(root) : null;
        errors = [.. found];
        return found.Count == 0 ? file : null;
    }

    private static SealedFile? ReadReport(Node root)
    {
        var before = root.ErrorCount;
        root.Format(Report);
        var (record, profile, sheet) = (
            root.Required("record")?.Text(LongestRecord),
            root.Required("profile")?.Text(LongestRecord),
            root.Required("sheet")?.Text(LongestRecord)
        );
        var broken = root.Optional("broken")?.Elements().Select(n => n.Text(1_000)).OfType<string>().ToList() ?? [];
        var seal = root.Optional("seal") is { } s ? Seal(s) : null;
        var amendments = (root.Required("amendments")?.Elements() ?? [])
            .Select(Amendment)
            .OfType<FileAmendment>()
            .ToList();
        return root.ErrorCount > before ? null : new(record!, profile!, sheet!, seal, amendments, broken);
    }

    private static FileAmendment? Amendment(Node node) =>
        node.IsObject()
        && (node.Required("record")?.Text(LongestRecord), node.Required("seal") is { } s ? Seal(s) : null)
            is ({ } record, { } seal)
            ? new(record, seal)
            : null;

    private static FileSeal? Seal(Node node) =>
        node.IsObject()
        && (node.Required("link")?.Text(LongestLink), node.Required("signature")?.Text(400))
            is ({ } link, { } signature)
            ? new(link, signature)
            : null;

    private static void Write(Utf8JsonWriter json, FileSeal seal)
    {
        json.WriteStartObject("seal");
        json.WriteString("link", seal.Link);
        json.WriteString("signature", seal.Signature);
        json.WriteEndObject();
    }
}
