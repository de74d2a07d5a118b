using System.Globalization;
using System.Text.Json;
using Mordel.Core.Serialization;

namespace Mordel.Data.Backups;

/// <summary>A file in a backup.</summary>
/// <param name="Name">Its path in the data folder, with slashes: <c>files/photos/a.jpg</c>.</param>
/// <param name="Bytes">Its length.</param>
/// <param name="Sha256">The hash of its bytes, 64 hexadecimal digits.</param>
public sealed record BackedUpFile(string Name, long Bytes, string Sha256);

/// <summary>What a backup holds, as its <c>backup.json</c> says (<c>mordel.backup/1</c>).</summary>
/// <param name="MadeAt">When what is in it was so.</param>
/// <param name="Version">The version of Mordel that wrote it.</param>
/// <param name="Schema">The last change of the database's form that is in it.</param>
/// <param name="SignedRuns">How many signed runs there are.</param>
/// <param name="Assemblies">How many assemblies.</param>
/// <param name="Files">Every file, the database first.</param>
public sealed record BackupContents(
    DateTimeOffset MadeAt,
    string Version,
    string Schema,
    int SignedRuns,
    int Assemblies,
    IReadOnlyList<BackedUpFile> Files
)
{
    /// <summary>The name of the format, and of the file in the backup that says what it holds.</summary>
    public const string Format = "mordel.backup/1",
        FileName = "backup.json";

    /// <summary>What it says, as JSON.</summary>
    public string Write() =>
        JsonText.Object(json =>
        {
            json.WriteString("format", Format);
            json.WriteInstant("madeAt", MadeAt);
            json.WriteString("version", Version);
            json.WriteString("schema", Schema);
            json.WriteNumber("signedRuns", SignedRuns);
            json.WriteNumber("assemblies", Assemblies);
            json.WriteStartArray("files");
            foreach (var file in Files)
            {
                json.WriteStartObject();
                json.WriteString("name", file.Name);
                json.WriteNumber("bytes", file.Bytes);
                json.WriteString("sha256", file.Sha256);
                json.WriteEndObject();
            }

            json.WriteEndArray();
        });

    /// <summary>Reads it; null where it is not of this format, or says what cannot be.</summary>
    public static BackupContents? Read(string text)
    {
        try
        {
            using var document = JsonDocument.Parse(text);
            var root = document.RootElement;
            if (root.GetProperty("format").GetString() != Format)
                return null;
            var read = new BackupContents(
                DateTimeOffset.ParseExact(
                    root.GetProperty("madeAt").GetString() ?? "",
                    JsonText.InstantPattern,
                    CultureInfo.InvariantCulture,
                    DateTimeStyles.AssumeUniversal
                ),
                root.GetProperty("version").GetString() ?? "",
                root.GetProperty("schema").GetString() ?? "",
                root.GetProperty("signedRuns").GetInt32(),
                root.GetProperty("assemblies").GetInt32(),
                [
                    .. root.GetProperty("files")
                        .EnumerateArray()
                        .Select(f => new BackedUpFile(
                            f.GetProperty("name").GetString() ?? "",
                            f.GetProperty("bytes").GetInt64(),
                            f.GetProperty("sha256").GetString() ?? ""
                        )),
                ]
            );
            return read.Files.All(f => DataFolder.IsKept(f.Name)) ? read : null;
        }
        catch (Exception e)
            when (e is JsonException or KeyNotFoundException or FormatException or InvalidOperationException)
        {
            return null;
        }
    }
}
