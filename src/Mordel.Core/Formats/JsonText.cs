using System.Text;
using System.Text.Json;

namespace Mordel.Core.Formats;

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

    /// <summary>A member that is a list of words.</summary>
    public static void WriteStrings(this Utf8JsonWriter json, string name, IEnumerable<string> words)
    {
        ArgumentNullException.ThrowIfNull(json);
        ArgumentNullException.ThrowIfNull(words);
        json.WriteStartArray(name);
        foreach (var word in words) json.WriteStringValue(word);
        json.WriteEndArray();
    }
}
