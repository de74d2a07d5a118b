using Mordel.Core.Catalogue;
using Mordel.Core.Collections;

namespace Mordel.Core.Rules;

/// <summary>A word on an authority's form.</summary>
/// <param name="What">Of what: an outcome (<c>pass</c>) or an item (<c>check-1</c>).</param>
/// <param name="Name">What it is called there.</param>
public sealed record FormName(string What, string Name);

/// <summary>
/// What an authority calls things on its reports, and what the tester declares there. What is left out is called as it
/// is everywhere else. Valid by construction.
/// </summary>
public sealed record FormWords
{
    /// <summary>The most characters of a title, a name and a declaration.</summary>
    public const int LongestTitle = 80,
        LongestName = 40,
        LongestDeclaration = 600;

    /// <summary>Nothing is called otherwise.</summary>
    public static FormWords None { get; } = new();

    /// <summary>The outcomes that can have a word of their own.</summary>
    public static EquatableArray<string> Outcomes { get; } = ["pass", "fail", "incomplete", "not-testable"];

    /// <summary>What stands above the report; null for the usual.</summary>
    /// <exception cref="ArgumentException">It is empty or too long.</exception>
    public string? Title
    {
        get;
        init => field = Valid(value, LongestTitle);
    }

    /// <summary>What is declared with the signature; null where nothing is.</summary>
    /// <exception cref="ArgumentException">It is empty or too long.</exception>
    public string? Declaration
    {
        get;
        init => field = Valid(value, LongestDeclaration);
    }

    /// <summary>What outcomes and items are called, each once.</summary>
    /// <exception cref="ArgumentException">One cannot stand; <see cref="WhyNot(string, string)"/> says why.</exception>
    public EquatableArray<FormName> Names
    {
        get;
        init
        {
            foreach (var name in value)
                if (WhyNot(name.What, name.Name) is { } why)
                    throw new ArgumentException($"{name.What}: {why}.", nameof(value));
            field =
                value.Select(n => n.What).Distinct().Count() == value.Length
                    ? value
                    : throw new ArgumentException("Something has two names.", nameof(value));
        }
    } = [];

    /// <summary>What something is called; null where it is called as usual.</summary>
    public string? For(string what) => Names.FirstOrDefault(n => n.What == what)?.Name;

    /// <summary>Those that a report carries: its title, what is declared, what outcomes are called; null for none.
    /// Items carry their names themselves.</summary>
    public FormWords? OfReport() =>
        this with { Names = [.. Names.Where(n => Outcomes.Contains(n.What))] } is { } words && words != None
            ? words
            : null;

    /// <summary>Why something cannot be called so; null when it can.</summary>
    public static string? WhyNot(string what, string name) =>
        !Outcomes.Contains(what) && TestItem.Named(what) is null
            ? "it is no outcome and no item"
            : WhyNot(name, LongestName);

    /// <summary>Why words cannot stand on a form; null when they can.</summary>
    /// <param name="words">The words.</param>
    /// <param name="most">The most characters.</param>
    public static string? WhyNot(string words, int most)
    {
        ArgumentNullException.ThrowIfNull(words);
        return words.Trim().Length == 0 || words.Trim() != words ? "some words are wanted, with no space around them"
            : words.Length > most ? $"at most {most} characters"
            : words.Any(char.IsControl) ? "one line"
            : null;
    }

    private static string? Valid(string? words, int most) =>
        words is null || WhyNot(words, most) is not { } why ? words : throw new ArgumentException(why, nameof(words));
}
