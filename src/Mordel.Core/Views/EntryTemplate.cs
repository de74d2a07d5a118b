using System.Globalization;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace Mordel.Core.Views;

/// <summary>
/// An entry that waits for what is typed: an entry's members as <c>docs/formats/entries.schema.json</c> has them,
/// without id, tick and time, and with slots where something typed goes. A screen fills slots and sends; it knows
/// nothing else.
/// </summary>
/// <remarks>
/// A slot is an object <c>{"slot":"text"}</c>. With <c>"unit"</c> it takes a number and becomes a quantity with its
/// digits kept; with <c>"whole"</c> it becomes a whole number, with <c>"list"</c> a list of the names that were ticked;
/// with <c>"optional"</c> the member is left out when nothing was typed. An entry with
/// <c>"unless":{"slot":"tc2","is":"closed"}</c> is left out when that was chosen.
/// </remarks>
public static partial class EntryTemplate
{
    private const StringSplitOptions SplitSpaces = StringSplitOptions.RemoveEmptyEntries;

    /// <summary>How a number is written: up to four digits before the point and three behind it.</summary>
    public const string NumberPattern = @"^-?\d{1,4}(\.\d{1,3})?$";

    [GeneratedRegex(NumberPattern, RegexOptions.CultureInvariant)]
    private static partial Regex Number();

    /// <summary>An entry of a kind.</summary>
    internal static JsonObject Entry(string kind, params (string Name, JsonNode? Value)[] members)
    {
        var entry = new JsonObject { ["kind"] = kind };
        foreach (var (name, value) in members)
            entry[name] = value;
        return entry;
    }

    /// <summary>A slot for words.</summary>
    internal static JsonObject Words(string field, bool optional = false) =>
        optional ? new() { ["slot"] = field, ["optional"] = true } : new() { ["slot"] = field };

    /// <summary>A slot for a whole number.</summary>
    internal static JsonObject Whole(string field) => new() { ["slot"] = field, ["whole"] = true };

    /// <summary>A slot for what was ticked: names with a space between them.</summary>
    internal static JsonObject ListOf(string field) => new() { ["slot"] = field, ["list"] = true };

    /// <summary>A slot for a number in a unit.</summary>
    /// <param name="field">The field that it is typed in.</param>
    /// <param name="unit">The unit.</param>
    /// <param name="resolution">The gauge's smallest step, kept with a reading; null where it is no reading.</param>
    /// <param name="optional">Whether nothing may be typed.</param>
    internal static JsonObject Quantity(string field, string unit, string? resolution = null, bool optional = false)
    {
        var slot = new JsonObject { ["slot"] = field, ["unit"] = unit };
        if (resolution is not null)
            slot["resolution"] = resolution;
        if (optional)
            slot["optional"] = true;
        return slot;
    }

    /// <summary>The entry with what was typed; null where it is left out or something is missing.</summary>
    /// <param name="template">The entry with slots.</param>
    /// <param name="typed">What was typed or chosen, by field.</param>
    public static JsonObject? Fill(JsonObject template, IReadOnlyDictionary<string, string> typed)
    {
        ArgumentNullException.ThrowIfNull(template);
        ArgumentNullException.ThrowIfNull(typed);
        var entry = new JsonObject();
        foreach (var (name, value) in template)
        {
            if (name == "unless")
            {
                if (typed.GetValueOrDefault((string)value!["slot"]!) == (string?)value["is"])
                    return null;
            }
            else if (value is JsonObject slot && slot["slot"] is { } field)
            {
                var text = typed.GetValueOrDefault((string)field!)?.Trim() ?? "";
                if (text.Length == 0 && slot["optional"] is not null)
                    continue;
                if (text.Length == 0 || Filled(slot, text, typed) is not { } filled)
                    return null;
                entry[name] = filled;
            }
            else
                entry[name] = value?.DeepClone();
        }

        return entry;
    }

    private static JsonNode? Filled(JsonObject slot, string text, IReadOnlyDictionary<string, string> typed)
    {
        if (slot["list"] is not null)
            return new JsonArray([.. text.Split(' ', SplitSpaces).Select(t => (JsonNode?)t)]);
        if (slot["whole"] is not null)
            return int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var whole) ? whole : null;
        if (slot["unit"] is not { } unit)
            return text is "true" or "false" ? JsonValue.Create(text == "true") : JsonValue.Create(text);
        if (!Number().IsMatch(text))
            return null;
        // Digits as typed: 2.0 stays 2.0.
        var quantity = new JsonObject { ["value"] = JsonNode.Parse(Digits(text)), ["unit"] = (string?)unit };
        if (slot["resolution"] is { } resolution)
            quantity["resolution"] = JsonNode.Parse((string)resolution!);
        if (typed.GetValueOrDefault("speed") is { Length: > 0 } speed)
            quantity["speed"] = JsonNode.Parse(speed);
        return quantity;
    }

    // JSON knows no leading zeros.
    private static string Digits(string text) => LeadingZeros().Replace(text, "$1");

    [GeneratedRegex(@"^(-?)0+(?=\d)")]
    private static partial Regex LeadingZeros();
}
