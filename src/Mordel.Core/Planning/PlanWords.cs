using System.Globalization;

namespace Mordel.Core.Planning;

/// <summary>How plans are spoken of.</summary>
public static class PlanWords
{
    /// <summary>A day: <c>Thu 3 Dec</c>.</summary>
    public static string Day(DateOnly day) => day.ToString("ddd d MMM", CultureInfo.InvariantCulture);

    /// <summary>Words with "or" before the last.</summary>
    public static string Or(IReadOnlyList<string> words) => Joined(words, "or");

    /// <summary>Words with "and" before the last.</summary>
    public static string And(IReadOnlyList<string> words) => Joined(words, "and");

    private static string Joined(IReadOnlyList<string> words, string last)
    {
        ArgumentNullException.ThrowIfNull(words);
        return words.Count switch
        {
            0 => "",
            1 => words[0],
            _ => $"{string.Join(", ", words.Take(words.Count - 1))} {last} {words[^1]}",
        };
    }
}
