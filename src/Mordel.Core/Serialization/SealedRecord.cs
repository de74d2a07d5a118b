using System.Text.Json;

namespace Mordel.Core.Serialization;

/// <summary>
/// Pieces of a <c>mordel.sealed-run/2</c>, as they stand in it character by character: what rows repeat of a record is
/// compared with these, so that a later version that would write them otherwise finds nothing broken.
/// </summary>
/// <param name="Setup">The text of the setup.</param>
/// <param name="Entries">The text of each entry, by its id.</param>
/// <param name="Profile">Hash of the profile that the setup names.</param>
/// <param name="Sheet">Hash of the run sheet that the setup names.</param>
public sealed record SealedRecord(string Setup, IReadOnlyDictionary<Guid, string> Entries, string Profile, string Sheet)
{
    /// <summary>The pieces of a record that <see cref="SealedRunFormat"/> can read.</summary>
    public static SealedRecord Read(string record)
    {
        using var document = JsonDocument.Parse(record, new JsonDocumentOptions { MaxDepth = Node.DeepestKept });
        var setup = document.RootElement.GetProperty("setup");
        var entries = new Dictionary<Guid, string>();
        foreach (
            var entry in document
                .RootElement.GetProperty("log")
                .EnumerateArray()
                .Select(line => line.GetProperty("entry"))
        )
            entries[Guid.Parse(entry.GetProperty("id").GetString()!)] = entry.GetRawText();
        return new(setup.GetRawText(), entries, Hash(setup, "profile"), Hash(setup, "sheet"));
    }

    private static string Hash(JsonElement setup, string part) =>
        setup.GetProperty(part).TryGetProperty("sha256", out var hash) && hash.GetString() is { } text ? text : "";
}

/// <summary>
/// Finds profiles and sheets among texts by the hashes of their contents; a text whose hash is another's is not there.
/// </summary>
public sealed class TextParts(IEnumerable<string> texts) : ISetupParts
{
    private readonly Dictionary<string, string> named = texts
        .Distinct(StringComparer.Ordinal)
        .ToDictionary(ContentHash.Compute, StringComparer.Ordinal);

    /// <inheritdoc/>
    public string? Text(string hash) => named.GetValueOrDefault(hash);

    /// <inheritdoc/>
    public Rules.Profile? Profile(string hash) => Text(hash) is { } text ? ProfileFormat.ReadKept(text, out _) : null;

    /// <inheritdoc/>
    public Procedures.RunSheet? Sheet(string hash, Procedures.Setup setup) =>
        Text(hash) is { } text ? RunSheetReader.ReadKept(text, setup) : null;
}
