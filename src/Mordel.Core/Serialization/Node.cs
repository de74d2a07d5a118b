using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;

namespace Mordel.Core.Serialization;

/// <summary>
/// A place in a JSON input that collects what is wrong with it, so that one reading reports every error with its place.
/// </summary>
public readonly partial struct Node
{
    private readonly JsonElement element;
    private readonly List<InputError> errors;

    private Node(JsonElement element, string place, List<InputError> errors) =>
        (this.element, Place, this.errors) = (element, place, errors);

    internal const int DeepestTaken = 24;

    /// <summary>
    /// How deeply documents are nested that Mordel itself wrote: a sheet's branches stand within each other.
    /// </summary>
    public const int DeepestKept = 64;

    /// <summary>
    /// The longest text that is taken from outside, in bytes and in characters: a recording or a batch of entries at
    /// their longest.
    /// </summary>
    public const int LargestText = 2 * 1024 * 1024;

    /// <summary>Path from the root.</summary>
    public string Place { get; }

    /// <summary>Reads a text by a format's reader.</summary>
    /// <typeparam name="T">What it is read as.</typeparam>
    /// <param name="json">The text.</param>
    /// <param name="errors">Every error with its place; empty when it was read.</param>
    /// <param name="read">Reads the root, which is an object, and adds its errors to the list.</param>
    /// <param name="deepest">How deeply it may be nested; <see cref="DeepestKept"/> for documents that Mordel wrote.
    /// </param>
    /// <returns>What was read, or null when there are errors.</returns>
    internal static T? Read<T>(
        string json,
        out ImmutableArray<InputError> errors,
        Func<Node, List<InputError>, T?> read,
        int deepest = DeepestTaken
    )
        where T : class
    {
        var found = new List<InputError>();
        var what = Root(json, found, deepest) is { } root && root.IsObject() ? read(root, found) : null;
        errors = [.. found];
        return found.Count == 0 ? what : null;
    }

    /// <summary>Parses a text; errors of syntax are reported like any other.</summary>
    /// <param name="json">The text.</param>
    /// <param name="errors">Where errors go.</param>
    /// <param name="deepest">How deeply it may be nested; <see cref="DeepestKept"/> for documents that Mordel
    /// wrote.</param>
    /// <returns>The root, or null when the text is no JSON object.</returns>
    public static Node? Root(string json, List<InputError> errors, int deepest = DeepestTaken)
    {
        ArgumentNullException.ThrowIfNull(json);
        ArgumentNullException.ThrowIfNull(errors);
        if (deepest < DeepestKept && json.Length > LargestText)
        {
            errors.Add(new("", $"longer than {LargestText / 1024 / 1024} MiB"));
            return null;
        }

        try
        {
            using var document = JsonDocument.Parse(
                json,
                new JsonDocumentOptions { MaxDepth = deepest, AllowDuplicateProperties = false }
            );
            return new Node(document.RootElement.Clone(), "", errors);
        }
        catch (JsonException e)
        {
            errors.Add(
                new(
                    "",
                    $"not readable as JSON, line {(e.LineNumber ?? 0) + 1}, character "
                        + $"{(e.BytePositionInLine ?? 0) + 1}: {Plain(e.Message)}"
                )
            );
            return null;
        }
    }

    private static string Plain(string message) => message.Split(" LineNumber:")[0].Split(" Path:")[0].TrimEnd('.');

    /// <summary>Whether it is an object; an error when not.</summary>
    public bool IsObject() => element.ValueKind == JsonValueKind.Object || Wrong("an object is wanted here");

    /// <summary>The text as it stood in the input.</summary>
    public string Raw => element.GetRawText();

    /// <summary>
    /// How many errors there are so far, here or elsewhere in the input: a reader that asks before and after knows
    /// whether its own part is sound.
    /// </summary>
    public int ErrorCount => errors.Count;

    /// <summary>Whether it is JSON's null.</summary>
    public bool IsNull => element.ValueKind == JsonValueKind.Null;

    /// <summary>Whether it is an object, without complaint.</summary>
    public bool LooksLikeObject => element.ValueKind == JsonValueKind.Object;

    /// <summary>Whether it is a string, without complaint.</summary>
    public bool LooksLikeString => element.ValueKind == JsonValueKind.String;

    /// <summary>A member that must be there.</summary>
    public Node? Required(string name)
    {
        if (Optional(name) is { } found)
            return found;
        if (element.ValueKind == JsonValueKind.Object)
            errors.Add(new(Join(name), "is missing"));
        return null;
    }

    /// <summary>A member, or null when it is not there.</summary>
    public Node? Optional(string name) =>
        element.ValueKind == JsonValueKind.Object && element.TryGetProperty(name, out var found)
            ? new Node(found, Join(name), errors)
            : null;

    /// <summary>All members.</summary>
    public IEnumerable<(string Name, Node Value)> Members()
    {
        if (element.ValueKind != JsonValueKind.Object)
            yield break;
        foreach (var member in element.EnumerateObject())
            yield return (member.Name, new Node(member.Value, Join(member.Name), errors));
    }

    /// <summary>All elements of an array; an error when it is none.</summary>
    public IEnumerable<Node> Elements()
    {
        if (element.ValueKind != JsonValueKind.Array)
        {
            Wrong("a list is wanted here");
            yield break;
        }

        var i = 0;
        foreach (var one in element.EnumerateArray())
            yield return new Node(one, $"{Place}[{i++}]", errors);
    }

    /// <summary>Reports members that are not known, so that a misspelt one is not silently lost.</summary>
    public void Only(params string[] known)
    {
        foreach (var (name, value) in Members())
            if (!known.Contains(name))
                value.Wrong($"is not known here; known are {string.Join(", ", known)}");
    }

    /// <summary>Reports an error at this place.</summary>
    /// <returns>False.</returns>
    public bool Wrong(string says)
    {
        errors.Add(new(Place, says));
        return false;
    }

    /// <summary>Reports an error that was found in a part of this place by itself.</summary>
    public void Wrong(InputError inner)
    {
        ArgumentNullException.ThrowIfNull(inner);
        errors.Add(
            inner with
            {
                Place =
                    inner.Place.Length == 0 ? Place
                    : Place.Length == 0 ? inner.Place
                    : $"{Place}.{inner.Place}",
            }
        );
    }

    private static string Short(string text) => text.Length > 60 ? text[..60] + "…" : text;

    private decimal? Fail(string says)
    {
        Wrong(says);
        return null;
    }

    private T? Fail<T>(string says)
        where T : class
    {
        Wrong(says);
        return null;
    }

    private string Join(string name) => Place.Length == 0 ? Short(name) : $"{Place}.{Short(name)}";
}
