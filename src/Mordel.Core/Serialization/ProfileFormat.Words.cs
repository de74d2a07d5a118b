using System.Text.Json;
using Mordel.Core.Rules;

namespace Mordel.Core.Serialization;

// The words of an authority's form, in a profile and in a report.
public static partial class ProfileFormat
{
    /// <summary>The words of a form; errors go to the node's list.</summary>
    internal static FormWords FormWordsOf(Node node)
    {
        if (!node.IsObject())
            return FormWords.None;
        var names = new List<FormName>();
        foreach (var one in node.Optional("names")?.Elements() ?? [])
        {
            if (!one.IsObject() || one.Required("of")?.Text(60) is not { } of || one.Required("name") is not { } place)
                continue;
            if (place.Text(FormWords.LongestName) is not { } name)
                continue;
            if (FormWords.WhyNot(of, name) is { } why)
                place.Wrong(why);
            else if (names.Exists(n => n.What == of))
                one.Wrong($"{of} has a name already");
            else
                names.Add(new(of, name));
        }

        return new()
        {
            Title = FormText(node, "title", FormWords.LongestTitle),
            Declaration = FormText(node, "declaration", FormWords.LongestDeclaration),
            Names = [.. names],
        };
    }

    private static string? FormText(Node node, string name, int most)
    {
        if (node.Optional(name) is not { } place || place.Text(most) is not { } text)
            return null;
        if (FormWords.WhyNot(text, most) is not { } why)
            return text;
        place.Wrong(why);
        return null;
    }

    /// <summary>The words of a form, under a name.</summary>
    internal static void Write(Utf8JsonWriter json, string name, FormWords words)
    {
        json.WriteStartObject(name);
        if (words.Title is { } title)
            json.WriteString("title", title);
        if (words.Declaration is { } declaration)
            json.WriteString("declaration", declaration);
        if (!words.Names.IsEmpty)
        {
            json.WriteStartArray("names");
            foreach (var named in words.Names)
            {
                json.WriteStartObject();
                json.WriteString("of", named.What);
                json.WriteString("name", named.Name);
                json.WriteEndObject();
            }

            json.WriteEndArray();
        }

        json.WriteEndObject();
    }
}
