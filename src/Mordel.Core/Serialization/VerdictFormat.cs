using System.Text;
using System.Text.Json;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Serialization;

/// <summary>Writes verdicts as <c>mordel.verdict/1</c>.</summary>
public static class VerdictFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.verdict/1";

    internal static JsonWriterOptions Options { get; } =
        new() { Indented = false, Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>The verdict as JSON text.</summary>
    public static string Write(Verdict verdict, bool indented = false)
    {
        ArgumentNullException.ThrowIfNull(verdict);
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, Options with { Indented = indented }))
            Write(json, verdict);
        return Encoding.UTF8.GetString(stream.ToArray());
    }

    /// <summary>Writes the verdict as an object.</summary>
    public static void Write(Utf8JsonWriter json, Verdict verdict)
    {
        ArgumentNullException.ThrowIfNull(json);
        ArgumentNullException.ThrowIfNull(verdict);
        json.WriteStartObject();
        json.WriteString("format", Name);
        json.WriteString("overall", verdict.Overall.Id());
        json.WriteString("reason", verdict.Reason);
        json.WriteStartArray("items");
        foreach (var item in verdict.Items)
        {
            json.WriteStartObject();
            json.WriteString("item", item.Item.Id);
            json.WriteString("result", item.Result.Id());
            switch (item.Value)
            {
                case ItemValue.Measured m:
                    json.WriteNumber("value", m.Reading.Value.Amount);
                    break;
                case ItemValue.Line l:
                    json.WriteNumber("value", l.Pressure.Amount);
                    break;
                case ItemValue.Clearance c:
                    json.WriteNumber("value", c.Length.Amount);
                    break;
                case { } other:
                    json.Write("value", other);
                    break;
            }

            if (item.Unit is { } unit)
                json.WriteString("unit", unit);
            if (item.Limit is { } limit)
                json.WriteNumber("limit", limit);
            if (item.Margin is { } margin)
                json.WriteNumber("margin", margin);
            json.WriteString("why", item.Why);
            if (item.WouldChange is { } change)
                json.WriteString("wouldChange", change);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteStartArray("warnings");
        foreach (var warning in verdict.Warnings)
        {
            json.WriteStartObject();
            json.WriteString("code", warning.Code);
            if (warning.Item is { } item)
                json.WriteString("item", item.Id);
            json.WriteString("text", warning.Text);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        if (!verdict.Notes.IsEmpty)
        {
            json.WriteStartArray("notes");
            foreach (var note in verdict.Notes)
                json.WriteStringValue(note);
            json.WriteEndArray();
        }

        json.WriteEndObject();
    }
}
