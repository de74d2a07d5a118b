using System.Globalization;
using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Serialization;

// What a node holds, as a value of a kind.
public readonly partial struct Node
{
    /// <summary>A text.</summary>
    public string? Text(int most = 2_000)
    {
        if (element.ValueKind != JsonValueKind.String)
            return Fail<string>("a text is wanted here");
        string text;
        try
        {
            text = element.GetString()!;
        }
        catch (InvalidOperationException)
        {
            return Fail<string>("this text is not valid Unicode");
        }

        return text.Length > most ? Fail<string>($"the text is longer than {most} characters")
            : text.Contains('\0', StringComparison.Ordinal)
                ? Fail<string>("the text holds a character that cannot be kept")
            : text;
    }

    /// <summary>
    /// A number with its digits: written out, it must be as short as it may be when it is read again.
    /// </summary>
    /// <param name="longest">The most characters it may be written with.</param>
    public decimal? Number(int longest = 24)
    {
        if (element.ValueKind != JsonValueKind.Number)
            return Fail("a number is wanted here");
        var raw = element.GetRawText();
        return
            raw.Length <= longest
            && decimal.TryParse(raw, NumberStyles.Float, CultureInfo.InvariantCulture, out var number)
            && number.ToString(CultureInfo.InvariantCulture).Length <= longest
            ? number
            : Fail("this number is too large or has too many digits");
    }

    /// <summary>A whole number in a range.</summary>
    public long? Whole(long least, long most)
    {
        if (Number() is not { } number)
            return null;
        if (number != decimal.Truncate(number) || number < least || number > most)
        {
            Wrong($"a whole number from {least} to {most} is wanted here");
            return null;
        }

        return (long)number;
    }

    /// <summary>The texts of a list that must be there; what is no text is an error.</summary>
    /// <param name="name">The member.</param>
    /// <param name="most">The longest of them, in characters.</param>
    public Collections.EquatableArray<string> Texts(string name, int most) =>
        [.. (Required(name)?.Elements() ?? []).Select(n => n.Text(most)).OfType<string>()];

    /// <summary>True or false.</summary>
    public bool? YesNo()
    {
        if (element.ValueKind is JsonValueKind.True or JsonValueKind.False)
            return element.GetBoolean();
        Wrong("true or false is wanted here");
        return null;
    }

    /// <summary>A day: <c>yyyy-mm-dd</c>.</summary>
    public DateOnly? Day() =>
        ValueOf<DateOnly>(
            t =>
                DateOnly.TryParseExact(t, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
                    ? day
                    : null,
            "a day; yyyy-mm-dd"
        );

    /// <summary>An instant as Mordel writes it: UTC, to the millisecond.</summary>
    public DateTimeOffset? Instant() =>
        ValueOf<DateTimeOffset>(
            t =>
                DateTimeOffset.TryParseExact(
                    t,
                    JsonText.InstantPattern,
                    CultureInfo.InvariantCulture,
                    DateTimeStyles.AssumeUniversal,
                    out var at
                )
                    ? at
                    : null,
            "a time; yyyy-mm-ddThh:mm:ss.fffZ"
        );

    /// <summary>One of a set of words.</summary>
    public T? OneOf<T>(Func<string, T?> find, string what)
        where T : class
    {
        if (Text() is not { } text)
            return null;
        return find(text) ?? Fail<T>($"\"{Short(text)}\" is not {what}");
    }

    /// <summary>One of a set of values.</summary>
    public T? ValueOf<T>(Func<string, T?> find, string what)
        where T : struct
    {
        if (Text() is not { } text)
            return null;
        if (find(text) is { } found)
            return found;
        Wrong($"\"{Short(text)}\" is not {what}");
        return null;
    }

    /// <summary>Says that its <c>format</c> is missing or another's, when it is.</summary>
    /// <param name="name">Name and version of the format that is read.</param>
    public void Format(string name) =>
        Required("format")?.ValueOf<bool>(t => t == name ? true : null, $"a format that is read here; {name}");

    /// <summary>A type of assembly.</summary>
    public AssemblyType? AssemblyType() =>
        ValueOf<AssemblyType>(
            t => AssemblyTypes.Named(t),
            $"a type; {string.Join(", ", AssemblyTypes.Names[..^1])} or {AssemblyTypes.Names[^1]}"
        );

    /// <summary>An id, as Mordel writes it.</summary>
    public Guid? Id() => ValueOf<Guid>(t => Guid.TryParseExact(t, "D", out var id) ? id : null, "an id; a UUID");
}
