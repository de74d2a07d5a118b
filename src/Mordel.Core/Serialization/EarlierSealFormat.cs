using System.Globalization;
using System.Text;
using System.Text.Json;
using Mordel.Core.Runs;

namespace Mordel.Core.Serialization;

/// <summary>
/// What a seal of the earlier form covers beside the entries: who, what, by which rules, and the seal before it on the
/// same assembly.
/// </summary>
public sealed record SealedHead(
    Guid Run,
    string Assembly,
    string Procedure,
    string Profile,
    int ProfileVersion,
    string KitSerial,
    string Tester,
    string Certificate,
    string Outcome,
    DateTimeOffset SignedAt,
    string SignatureHash,
    string Previous
);

/// <summary>
/// The canonical form <c>mordel.sealed-run/1</c>, in which runs were sealed before they carried their setup. Nothing is
/// sealed in it any more; what was is still checked by it.
/// </summary>
public static class EarlierSealFormat
{
    /// <summary>The canonical text.</summary>
    public static string Canonical(SealedHead head, RunLog log)
    {
        ArgumentNullException.ThrowIfNull(head);
        ArgumentNullException.ThrowIfNull(log);
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, VerdictFormat.Options))
        {
            json.WriteStartObject();
            json.WriteString("format", "mordel.sealed-run/1");
            json.WriteString("run", head.Run.ToString("D"));
            json.WriteString("assembly", head.Assembly);
            json.WriteString("procedure", head.Procedure);
            json.WriteString("profile", head.Profile);
            json.WriteNumber("profileVersion", head.ProfileVersion);
            json.WriteString("kit", head.KitSerial);
            json.WriteString("tester", head.Tester);
            json.WriteString("certificate", head.Certificate);
            json.WriteString("outcome", head.Outcome);
            json.WriteString(
                "signedAt",
                head.SignedAt.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", CultureInfo.InvariantCulture)
            );
            json.WriteString("signature", head.SignatureHash);
            json.WriteString("previous", head.Previous);
            json.WriteEndObject();
        }

        var text = new StringBuilder(Encoding.UTF8.GetString(stream.ToArray())).Append('\n');
        foreach (var entry in log.Entries)
            text.Append(EntryFormat.Write(entry)).Append('\n');
        return text.ToString();
    }
}
