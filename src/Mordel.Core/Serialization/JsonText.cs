using System.Globalization;
using System.Text;
using System.Text.Json;

namespace Mordel.Core.Serialization;

/// <summary>Writes JSON without reflection, for a core that is trimmed.</summary>
public static class JsonText
{
    /// <summary>An object as text.</summary>
    public static string Object(Action<Utf8JsonWriter> write)
    {
        ArgumentNullException.ThrowIfNull(write);
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, VerdictFormat.Options))
        {
            json.WriteStartObject();
            write(json);
            json.WriteEndObject();
        }

        return Encoding.UTF8.GetString(stream.ToArray());
    }

    /// <summary>How an instant stands in a document: UTC, to the millisecond.</summary>
    public const string InstantPattern = "yyyy-MM-dd'T'HH:mm:ss.fff'Z'";

    /// <summary>A member that is an instant; what is finer than a millisecond is cut off.</summary>
    public static void WriteInstant(this Utf8JsonWriter json, string name, DateTimeOffset at)
    {
        ArgumentNullException.ThrowIfNull(json);
        json.WriteString(name, at.UtcDateTime.ToString(InstantPattern, CultureInfo.InvariantCulture));
    }

    /// <summary>A member that is a day.</summary>
    public static void WriteDay(this Utf8JsonWriter json, string name, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(json);
        json.WriteString(name, day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
    }

    /// <summary>
    /// The same document on one line, with its members in their order and its numbers in their digits: what hashes are
    /// made of.
    /// </summary>
    /// <exception cref="JsonException">The text is no JSON.</exception>
    public static string Compact(string json)
    {
        using var document = JsonDocument.Parse(json, new JsonDocumentOptions { MaxDepth = Node.DeepestKept });
        return Compact(document.RootElement);
    }

    /// <summary>An element on one line.</summary>
    public static string Compact(JsonElement element)
    {
        using var stream = new MemoryStream();
        using (var writer = new Utf8JsonWriter(stream, VerdictFormat.Options))
            element.WriteTo(writer);
        return Encoding.UTF8.GetString(stream.ToArray());
    }

    /// <summary>A member that is a list of words.</summary>
    public static void WriteStrings(this Utf8JsonWriter json, string name, IEnumerable<string> words)
    {
        ArgumentNullException.ThrowIfNull(json);
        ArgumentNullException.ThrowIfNull(words);
        json.WriteStartArray(name);
        foreach (var word in words)
            json.WriteStringValue(word);
        json.WriteEndArray();
    }
}
