using System.Collections.Immutable;
using System.Text.Json;
using Mordel.Core.Reports;
using Mordel.Core.Runs;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Serialization;

/// <summary>
/// Reads and writes <c>mordel.sealed-run/2</c>: one line of JSON with its members in a fixed order, numbers in their
/// digits, times in UTC. Its SHA-256 is what a seal signs and what is printed on the paper.
/// </summary>
public static class SealedRunFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.sealed-run/2";

    /// <summary>The canonical text.</summary>
    public static string Write(SealedRun run)
    {
        ArgumentNullException.ThrowIfNull(run);
        return JsonText.Object(json =>
        {
            json.WriteString("format", Name);
            json.WritePropertyName("setup");
            json.WriteRawValue(RunSetupFormat.Write(run.Setup));
            json.WriteStartArray("log");
            foreach (var (entry, received) in run.Log)
            {
                json.WriteStartObject();
                json.WriteInstant("received", received);
                json.WritePropertyName("entry");
                EntryFormat.Write(json, entry);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteStartObject("signature");
            json.WriteString("name", run.Signing.Name);
            RunSetupFormat.Write(json, run.Signing.Certificate);
            json.WriteString("ink", run.Signing.Ink);
            json.WriteInstant("at", run.Signing.At);
            json.WriteEndObject();
            if (run.Previous is { } previous)
                TestRecordFormat.Write(json, "previous", previous);
            json.WriteNumber("judge", run.JudgeVersion);
            json.WritePropertyName("verdict");
            VerdictFormat.Write(json, run.Verdict);
            json.WritePropertyName("report");
            ReportFormat.Write(json, run.Report);
            if (run.Earlier is { } earlier)
                Write(json, earlier);
        });
    }

    /// <summary>
    /// What this version would say of a run where an earlier one judged otherwise; null where a fresh replay judges the
    /// same to the letter.
    /// </summary>
    public static Verdict? JudgedOtherwise(SealedRun run)
    {
        ArgumentNullException.ThrowIfNull(run);
        var again = run.JudgeAgain();
        return VerdictFormat.Write(again) == VerdictFormat.Write(run.Verdict) ? null : again;
    }

    /// <summary>Reads a record.</summary>
    /// <param name="json">The text.</param>
    /// <param name="parts">Where profile and sheet are fetched that its setup names by hash.</param>
    /// <param name="errors">Every error with its place; empty when it was read.</param>
    public static SealedRun? Read(string json, ISetupParts? parts, out ImmutableArray<InputError> errors)
    {
        var found = new List<InputError>();
        var run = Node.Root(json, found, Node.DeepestKept) is { } root && root.IsObject() ? Read(root, parts) : null;
        errors = [.. found];
        return found.Count == 0 ? run : null;
    }

    private static SealedRun? Read(Node root, ISetupParts? parts)
    {
        var before = root.ErrorCount;
        root.Format(Name);
        var setup = root.Required("setup") is { } s && s.IsObject() ? RunSetupFormat.Read(s, parts) : null;
        var log = (root.Required("log")?.Elements() ?? []).Select(Received).ToList();
        var signing = root.Required("signature") is { } n && n.IsObject() ? Signature(n) : null;
        var previous =
            root.Optional("previous") is { } p && setup is not null
                ? TestRecordFormat.Results(p, setup.Assembly.Type)
                : null;
        var judge = root.Required("judge")?.Whole(1, 100_000);
        var verdict = root.Required("verdict") is { } v ? VerdictReader.Read(v) : null;
        var report = root.Required("report") is { } r ? ReportFormat.Read(r) : null;
        var earlier = root.Optional("earlier") is { } e ? Earlier(e) : null;
        return root.ErrorCount > before || log.Exists(x => x is null)
            ? null
            : new()
            {
                Setup = setup!,
                Log = [.. log.OfType<ReceivedEntry>()],
                Signing = signing!,
                Previous = previous,
                JudgeVersion = (int)judge!.Value,
                Verdict = verdict!,
                Report = report!,
                Earlier = earlier,
            };
    }

    private static ReceivedEntry? Received(Node node)
    {
        if (!node.IsObject())
            return null;
        var at = node.Required("received")?.Instant();
        var entry = node.Required("entry") is { } e ? EntryFormat.Read(e) : null;
        return at is { } received && entry is not null ? new(entry, received) : null;
    }

    private static Signing? Signature(Node node)
    {
        var (name, ink) = (node.Required("name")?.Text(200), node.Required("ink")?.Text(100_000));
        var at = node.Required("at")?.Instant();
        var certificate = node.Required("certificate") is { } c && c.IsObject() ? RunSetupFormat.Certificate(c) : null;
        return name is null || ink is null || at is not { } signed || certificate is null
            ? null
            : new(name, certificate, ink, signed);
    }

    /// <summary>Writes a seal of the earlier form as the member <c>earlier</c>.</summary>
    internal static void Write(Utf8JsonWriter json, EarlierSeal earlier)
    {
        json.WriteStartObject("earlier");
        json.WriteString("previous", earlier.Previous);
        json.WriteString("hash", earlier.Hash);
        json.WriteString("signature", earlier.Signature);
        json.WriteBoolean("held", earlier.Held);
        json.WriteEndObject();
    }

    /// <summary>Reads a seal of the earlier form.</summary>
    internal static EarlierSeal? Earlier(Node node)
    {
        if (!node.IsObject())
            return null;
        var (previous, hash, signature, held) = (
            node.Required("previous")?.Text(64),
            node.Required("hash")?.Text(64),
            node.Required("signature")?.Text(400),
            node.Required("held")?.YesNo()
        );
        return previous is null || hash is null || signature is null || held is not { } was
            ? null
            : new(previous, hash, signature, was);
    }
}
