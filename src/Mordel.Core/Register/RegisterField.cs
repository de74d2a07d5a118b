using System.Collections.Immutable;

namespace Mordel.Core.Register;

/// <summary>What a field of the register belongs to.</summary>
public enum FieldOf
{
    /// <summary>An assembly.</summary>
    Assembly,

    /// <summary>The place it stands in.</summary>
    Place,

    /// <summary>Who owns it.</summary>
    Owner,

    /// <summary>The authority whose rules hold there.</summary>
    Authority,

    /// <summary>A test that was made elsewhere.</summary>
    Test,
}

/// <summary>How what is written in a field is understood.</summary>
public enum FieldKind
{
    /// <summary>Words, kept as they are.</summary>
    Words,

    /// <summary>One of a few words, in many spellings.</summary>
    Choice,

    /// <summary>Yes or no.</summary>
    YesNo,

    /// <summary>A nominal size.</summary>
    Size,

    /// <summary>A day.</summary>
    Day,

    /// <summary>A whole number.</summary>
    Whole,

    /// <summary>A length in millimetres.</summary>
    Millimetres,

    /// <summary>A season.</summary>
    Season,

    /// <summary>Hours of a day.</summary>
    Hours,

    /// <summary>Things that happened, each with its day.</summary>
    Events,
}

/// <summary>One of the words that a field may hold.</summary>
/// <param name="Value">As it is kept.</param>
/// <param name="Says">As it is shown.</param>
/// <param name="Spellings">How others write it; letters and digits alone, in small letters.</param>
public sealed record FieldChoice(string Value, string Says, ImmutableArray<string> Spellings);

/// <summary>
/// One field of the register: forms, changes of many at once, files that come in and go out, and the history of changes
/// all read this one list.
/// </summary>
/// <param name="Id">Its name in our own files: <c>owner address</c>.</param>
/// <param name="Of">What it belongs to.</param>
/// <param name="Label">Its name on the screen.</param>
public sealed record RegisterField(string Id, FieldOf Of, string Label)
{
    /// <summary>How it is understood.</summary>
    public FieldKind Kind { get; init; }

    /// <summary>The most characters.</summary>
    public int Most { get; init; } = 120;

    /// <summary>Whether the office must fill it in.</summary>
    public bool IsWanted { get; init; }

    /// <summary>The words it may hold, where it is a choice.</summary>
    public ImmutableArray<FieldChoice> Choices { get; init; } = [];

    /// <summary>The heads under which others have it; letters and digits alone, in small letters.</summary>
    public ImmutableArray<string> Heads { get; init; } = [];

    /// <summary>A word about it on a form; empty where its label says it.</summary>
    public string Hint { get; init; } = "";

    /// <summary>Whether it is typed on a form; what is not comes and goes with files.</summary>
    public bool IsTyped { get; init; } = true;

    /// <summary>Whether it may be set for many at once.</summary>
    public bool IsForMany { get; init; }

    /// <summary>The least and the most, where it is a number.</summary>
    public (decimal Least, decimal Most) Range { get; init; }

    /// <summary>A head or a word without what people vary: letters and digits alone, in small letters.</summary>
    public static string Bare(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        return string.Create(text.Count(char.IsLetterOrDigit), text, (into, from) =>
        {
            var at = 0;
            foreach (var c in from)
                if (char.IsLetterOrDigit(c))
                    into[at++] = char.ToLowerInvariant(c);
        });
    }
}
