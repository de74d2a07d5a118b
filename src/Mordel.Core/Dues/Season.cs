using System.Globalization;

namespace Mordel.Core.Dues;

/// <summary>
/// The months in which a seasonal line is in use, from its start-up day to the day on which it is drained, the same
/// every year. It may reach over the turn of the year.
/// </summary>
public readonly record struct Season
{
    // A leap year, so that every day of a year can be named.
    private const int AnyYear = 2000;

    private readonly DateOnly first,
        last;

    private Season(DateOnly first, DateOnly last) => (this.first, this.last) = (first, last);

    /// <summary>A season.</summary>
    /// <param name="fromMonth">Month of the first day, 1 to 12.</param>
    /// <param name="fromDay">The first day.</param>
    /// <param name="untilMonth">Month of the last day, 1 to 12.</param>
    /// <param name="untilDay">The last day.</param>
    /// <exception cref="ArgumentOutOfRangeException">There is no such day.</exception>
    public static Season Between(int fromMonth, int fromDay, int untilMonth, int untilDay) =>
        new(new(AnyYear, fromMonth, fromDay), new(AnyYear, untilMonth, untilDay));

    /// <summary>Reads <c>04-15..10-15</c>; null where it is none.</summary>
    public static Season? Parse(string? text)
    {
        if (text is not { Length: 12 } || text[5..7] != "..")
            return null;
        return Day(text[..5]) is { } from && Day(text[7..]) is { } until ? new(from, until) : null;
    }

    /// <summary>Whether the line is in use on a day.</summary>
    public bool Includes(DateOnly day)
    {
        var at = Of(day, AnyYear);
        return first <= last ? at >= first && at <= last : at >= first || at <= last;
    }

    /// <summary>The first start-up on a day or after it.</summary>
    public DateOnly StartFrom(DateOnly day)
    {
        var start = Of(first, day.Year);
        return start >= day ? start : Of(first, day.Year + 1);
    }

    /// <summary>As it is kept: <c>04-15..10-15</c>.</summary>
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{first:MM-dd}..{last:MM-dd}");

    /// <summary>As it is said: 15 April to 15 October.</summary>
    public string Said => string.Create(CultureInfo.InvariantCulture, $"{first:d MMMM} to {last:d MMMM}");

    private static DateOnly? Day(string text) =>
        DateOnly.TryParseExact(
            $"{AnyYear}-{text}",
            "yyyy-MM-dd",
            CultureInfo.InvariantCulture,
            DateTimeStyles.None,
            out var day
        )
            ? day
            : null;

    // The 29th of February is the 28th in other years.
    private static DateOnly Of(DateOnly day, int year) =>
        new(year, day.Month, Math.Min(day.Day, DateTime.DaysInMonth(year, day.Month)));
}
