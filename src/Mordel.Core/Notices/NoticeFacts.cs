using System.Collections.Immutable;
using Mordel.Core.Catalogue;

namespace Mordel.Core.Notices;

/// <summary>A word that a notice can say.</summary>
/// <param name="Name">As it stands in a template: <c>place</c>.</param>
/// <param name="Says">What it stands for.</param>
/// <param name="Example">An example.</param>
public sealed record NoticeWord(string Name, string Says, string Example);

/// <summary>The words that templates may use; any other is a mistake.</summary>
public static class NoticeWords
{
    /// <summary>The list over which a template goes: <c>{% for a in assemblies %}</c>.</summary>
    public const string Assemblies = "assemblies";

    private static string Type => AssemblyTypes.Names[0];

    /// <summary>Words of the letter.</summary>
    public static ImmutableArray<NoticeWord> OfLetter { get; } =
    [
        new("to", "who gets the letter", "Isk Mills Ltd"),
        new("firm", "the firm that tests", "Fennmark Backflow Testing"),
        new("phone", "its telephone", "0199 100 777"),
        new("place", "the place, or how many there are", "Weaving shed"),
        new("address", "its address; empty for more than one", "2 Weir Street, Millrace"),
        new("authority", "the authority that asks for the test", "Ravelsund Water Board"),
        new("day", "the day of the visit", "Monday 3 June"),
        new("from", "from when the water may be off", "10:00"),
        new("until", "until when", "11:30"),
        new("tester", "who comes", "Ines Varga"),
        new("was_day", "the day that was told before", "Friday 31 May"),
        new("was_from", "the hours that were told before, from", "08:00"),
        new("was_until", "and until", "09:00"),
        new("fire_line", "yes where one of them feeds a fire system; empty otherwise", "yes"),
        new("high_hazard", "yes where one of them guards against a high hazard; empty otherwise", "yes"),
        new("page", "the address of the owner’s page", "https://…"),
    ];

    /// <summary>Words of each assembly.</summary>
    public static ImmutableArray<NoticeWord> OfAssembly { get; } =
    [
        new("what", "its type and size, and where it stands", $"{Type} 2 in, plant room, back wall"),
        new("tag", "the number on its tag", "F-1010"),
        new("type", "its type", Type),
        new("size", "its size", "2 in"),
        new("serial", "the number stamped on it", "A19-22007"),
        new("stands", "where it stands", "plant room, back wall"),
        new("serves", "what it feeds", "dye works"),
        new("place", "its place", "Weaving shed"),
        new("hazard", "high or low", "high"),
        new("from", "from when its water may be off", "10:00"),
        new("until", "until when", "11:30"),
        new("minutes", "how long the test takes", "35"),
        new("due", "when its test is, or was, due", "Friday 31 May"),
        new("why", "why it is due, or what the test found", "CV1 held 0.8 psid, below 1.0 psid."),
        new("then", "what follows when nothing happens", "The board sends a shut-off warning."),
        new("report", "the number of its report", "F-1010/20240603-1012"),
        new("next_due", "when it is due next", "Tuesday 3 June"),
    ];
}

/// <summary>What a notice tells: values by word, for the letter and for each assembly in it.</summary>
/// <param name="Words">Words of the letter with their values.</param>
/// <param name="Assemblies">For each assembly its words.</param>
public sealed record NoticeFacts(
    ImmutableSortedDictionary<string, string> Words,
    ImmutableArray<ImmutableSortedDictionary<string, string>> Assemblies
)
{
    /// <summary>The examples: what a template is tried with before it is kept.</summary>
    public static NoticeFacts Example { get; } = new(Values(NoticeWords.OfLetter), [Values(NoticeWords.OfAssembly)]);

    private static ImmutableSortedDictionary<string, string> Values(ImmutableArray<NoticeWord> words) =>
        words.ToImmutableSortedDictionary(w => w.Name, w => w.Example);
}

/// <summary>The words of a notice, before anything stands in them.</summary>
/// <param name="Subject">One line.</param>
/// <param name="Text">The letter.</param>
public sealed record NoticeTemplate(string Subject, string Text)
{
    /// <summary>The longest subject and letter, in characters.</summary>
    public const int LongestSubject = 160,
        LongestText = 6000;
}

/// <summary>A notice as it is sent.</summary>
/// <param name="Subject">One line.</param>
/// <param name="Text">As plain text.</param>
/// <param name="Html">The same as HTML; whatever came from the register stands in it as text.</param>
public sealed record SetNotice(string Subject, string Text, string Html);

/// <summary>Sets notices: what a template says with the facts in it.</summary>
public interface INoticeSetter
{
    /// <summary>What is wrong with a template, each in a sentence; empty where it can be used.</summary>
    ImmutableArray<string> Faults(NoticeTemplate template);

    /// <summary>Sets a notice.</summary>
    /// <exception cref="FormatException">The template cannot be used; <see cref="Faults"/> says why.</exception>
    SetNotice Set(NoticeTemplate template, NoticeFacts facts);
}
