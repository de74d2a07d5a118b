using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Rules;

/// <summary>
/// Intervals as an office writes them, a line each, the first that fits standing: <c>6 RP high medical</c> is every six
/// months for an RP on a high hazard in medical use. What is left out fits all.
/// </summary>
public static class IntervalText
{
    /// <summary>Reads lines; null with the line that cannot be read.</summary>
    /// <param name="text">The lines.</param>
    /// <param name="uses">The classes of use that there are.</param>
    /// <param name="wrong">What cannot be read, in a sentence; null when all can.</param>
    public static ImmutableArray<TestInterval>? Read(string text, IReadOnlyCollection<string> uses, out string? wrong)
    {
        ArgumentNullException.ThrowIfNull(text);
        ArgumentNullException.ThrowIfNull(uses);
        wrong = null;
        var intervals = ImmutableArray.CreateBuilder<TestInterval>();
        foreach (var line in text.Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var words = line.Split(' ', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
            if (
                !int.TryParse(words[0], NumberStyles.None, CultureInfo.InvariantCulture, out var months)
                || months is < 1 or > Profile.LongestInterval
            )
            {
                wrong = $"\"{line}\" does not begin with months from 1 to {Profile.LongestInterval}.";
                return null;
            }

            var (use, hazard, type) = ((string?)null, (string?)null, (AssemblyType?)null);
            foreach (var word in words.Skip(1))
                if (word is "high" or "low" && hazard is null)
                    hazard = word;
                else if (AssemblyTypes.Named(word.ToUpperInvariant()) is { } named && type is null)
                    type = named;
                else if (uses.Contains(word) && use is null)
                    use = word;
                else
                {
                    wrong =
                        $"\"{word}\" in \"{line}\" is no type, no hazard and no class of use "
                        + $"({string.Join(", ", uses)}), or stands twice.";
                    return null;
                }

            intervals.Add(new(months, use, hazard, type));
        }

        return intervals.ToImmutable();
    }

    /// <summary>Writes them as they are read.</summary>
    public static string Write(IEnumerable<TestInterval> intervals)
    {
        ArgumentNullException.ThrowIfNull(intervals);
        return string.Join('\n', intervals.Select(i => string.Join(' ', Words(i))));
    }

    /// <summary>One in words: 6 months for an RP, high hazard, medical.</summary>
    public static string Says(TestInterval interval)
    {
        ArgumentNullException.ThrowIfNull(interval);
        var of = new[]
        {
            interval.Type?.Name,
            interval.Hazard is { } hazard ? $"{hazard} hazard" : null,
            interval.Use,
        }.OfType<string>();
        return $"{interval.Months} months for {string.Join(", ", of.DefaultIfEmpty("all"))}";
    }

    private static IEnumerable<string> Words(TestInterval interval) =>
        new[]
        {
            interval.Months.ToString(CultureInfo.InvariantCulture),
            interval.Type?.Name,
            interval.Hazard,
            interval.Use,
        }.OfType<string>();
}
