using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Dues;

namespace Mordel.Core.Register;

/// <summary>In which order a column writes day and month.</summary>
public enum DayOrder
{
    /// <summary>Nothing in the column tells.</summary>
    Unknown,

    /// <summary>The day first: 31/12/2026.</summary>
    DayFirst,

    /// <summary>The month first: 12/31/2026.</summary>
    MonthFirst,
}

/// <summary>What a written value was understood as.</summary>
/// <param name="Value">As it is kept; empty where nothing was written.</param>
/// <param name="Wrong">Why it cannot be kept, in a sentence; null when it can.</param>
public readonly record struct Cleaned(string Value, string? Wrong = null)
{
    /// <summary>It cannot be kept.</summary>
    public static Cleaned Not(string why) => new("", why);
}

/// <summary>
/// Understands values as people write them: dates, sizes, types, yes and no in their many spellings. What is kept is
/// one spelling, and reads back as itself.
/// </summary>
public static class Cleaner
{
    private const int LeastYear = 1950,
        MostYear = 2100;

    // Day 1 of a spreadsheet's calendar is the 31st of December 1899, by a leap year that never was.
    private static readonly DateOnly SheetsZero = new(1899, 12, 30);

    private static readonly ImmutableHashSet<string> Nothing =
    [
        "na",
        "none",
        "null",
        "unknown",
        "tbd",
        "nil",
        "unk",
        "notknown",
        "notapplicable",
    ];

    /// <summary>Understands one value.</summary>
    /// <param name="field">Its field.</param>
    /// <param name="text">As it was written.</param>
    /// <param name="order">How its column writes days.</param>
    public static Cleaned Clean(RegisterField field, string? text, DayOrder order = DayOrder.Unknown)
    {
        ArgumentNullException.ThrowIfNull(field);
        var plain = Plain(text);
        if (plain.Length == 0 || (field.Kind != FieldKind.Words && Nothing.Contains(RegisterField.Bare(plain))))
            return new("");
        if (plain.Any(c => char.IsControl(c)))
            return Cleaned.Not("It holds a character that cannot be kept.");
        if (plain.Length > field.Most)
            return Cleaned.Not($"It is {plain.Length} characters long; {field.Most} can be kept.");
        return field.Kind switch
        {
            FieldKind.Choice => Choice(field, plain),
            FieldKind.YesNo => YesNo(plain),
            FieldKind.Size => Sizes.Clean(plain),
            FieldKind.Day => Day(plain, order),
            FieldKind.Whole => Number(field, plain, whole: true),
            FieldKind.Millimetres => Millimetres(field, plain),
            FieldKind.Season => InSeason(plain),
            FieldKind.Hours => WaterHours.Understand(plain) is { } hours
                ? new(hours.ToString())
                : Cleaned.Not($"\"{Short(plain)}\" are no hours of a day: 06:00 to 07:30."),
            FieldKind.Events => RecordedEvents.Clean(plain),
            _ => new(plain),
        };
    }

    /// <summary>The order in which a column writes day and month, from its values.</summary>
    public static DayOrder OrderOf(IEnumerable<string> values)
    {
        ArgumentNullException.ThrowIfNull(values);
        var (dayFirst, monthFirst) = (0, 0);
        foreach (var parts in values.Select(Numbers).OfType<int[]>().Where(p => p[0] <= 31 && p[1] <= 31))
        {
            if (parts[0] > 12)
                dayFirst++;
            else if (parts[1] > 12)
                monthFirst++;
        }

        return dayFirst > monthFirst ? DayOrder.DayFirst
            : monthFirst > dayFirst ? DayOrder.MonthFirst
            : DayOrder.Unknown;
    }

    /// <summary>Whether a value can be read as two days, by which number is the month.</summary>
    public static bool IsTwoDays(string text) =>
        Numbers(Plain(text)) is [<= 12, <= 12, _] and var parts && parts[0] != parts[1];

    /// <summary>
    /// A value without what files leave around it: white space of every kind, and the apostrophe that keeps a
    /// spreadsheet from running it.
    /// </summary>
    public static string Plain(string? text)
    {
        if (string.IsNullOrEmpty(text))
            return "";
        var plain = text.Trim().Trim('\u00a0', '\ufeff', '\u200b').Trim();
        // A cell of several lines is one of one.
        if (plain.AsSpan().IndexOfAny('\n', '\r', '\t') >= 0)
            plain = string.Join(' ', plain.Split(['\n', '\r', '\t'], StringSplitOptions.RemoveEmptyEntries));
        return plain is ['\'', '=' or '+' or '-' or '@' or '\t' or '\r', ..] ? plain[1..].Trim() : plain;
    }

    private static Cleaned Choice(RegisterField field, string text)
    {
        if (field.Choices.FirstOrDefault(c => c.Value == text) is { } exact)
            return new(exact.Value);
        var bare = RegisterField.Bare(text);
        foreach (var choice in field.Choices)
            if (RegisterField.Bare(choice.Value) == bare || choice.Spellings.Contains(bare))
                return new(choice.Value);
        // Reduced pressure zone assembly, high (health): the words that begin it tell.
        var begins = field
            .Choices.Where(c => c.Spellings.Any(s => s.Length > 3 && bare.StartsWith(s, StringComparison.Ordinal)))
            .ToList();
        return begins is [var only]
            ? new(only.Value)
            : Cleaned.Not(
                $"\"{Short(text)}\" is not known here: {string.Join(", ", field.Choices.Select(c => c.Value))}."
            );
    }

    private static Cleaned YesNo(string text) =>
        RegisterField.Bare(text) switch
        {
            "yes" or "y" or "true" or "t" or "1" or "x" or "ja" or "on" or "fitted" => new("yes"),
            "no" or "n" or "false" or "f" or "0" or "nein" or "off" or "" => new("no"),
            _ => Cleaned.Not($"\"{Short(text)}\" is neither yes nor no."),
        };

    private static Cleaned Number(RegisterField field, string text, bool whole)
    {
        if (
            !decimal.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number)
            || number < field.Range.Least
            || number > field.Range.Most
        )
            return Cleaned.Not(
                $"\"{Short(text)}\" is not a number from {field.Range.Least:0.#} to {field.Range.Most:0.#}."
            );
        return new((whole ? Math.Round(number) : number).ToString("0.######", CultureInfo.InvariantCulture));
    }

    private static Cleaned Millimetres(RegisterField field, string text)
    {
        var inches = text.EndsWith("in", StringComparison.OrdinalIgnoreCase) || text.EndsWith('"');
        var digits = text.TrimEnd('i', 'n', 'I', 'N', 'm', 'M', '"', ' ', '.');
        if (!inches)
            return Number(field, digits, whole: false);
        return
            decimal.TryParse(digits, NumberStyles.Float, CultureInfo.InvariantCulture, out var number)
            && number < field.Range.Most
            ? Number(field, (number * 25.4m).ToString("0.#", CultureInfo.InvariantCulture), whole: false)
            : Cleaned.Not($"\"{Short(text)}\" is not a length in millimetres or inches.");
    }

    private static Cleaned Day(string text, DayOrder order)
    {
        // A time behind the day is left out, where there is one.
        var day = text.Length > 10 && (text[10] is ' ' or 'T') ? text[..10] : text;
        if (Numbers(day) is { } parts)
            return Real(
                parts[2],
                parts[order == DayOrder.MonthFirst ? 0 : 1],
                parts[order == DayOrder.MonthFirst ? 1 : 0]
            ) ?? (order == DayOrder.Unknown && Real(parts[2], parts[0], parts[1]) is { } other ? other : NoDay(text));
        if (
            day.Length is >= 8 and <= 10
            && DateOnly.TryParseExact(
                day,
                ["yyyy-MM-dd", "yyyy-M-d", "yyyy/MM/dd", "yyyy/M/d", "yyyy.MM.dd", "yyyyMMdd"],
                CultureInfo.InvariantCulture,
                DateTimeStyles.None,
                out var iso
            )
        )
            return Real(iso.Year, iso.Month, iso.Day) ?? NoDay(text);
        if (
            int.TryParse(day, NumberStyles.None, CultureInfo.InvariantCulture, out var sheets)
            && sheets is > 18_000 and < 74_000
        )
            return SheetsZero.AddDays(sheets) is var on && Real(on.Year, on.Month, on.Day) is { } real
                ? real
                : NoDay(text);
        return DateOnly.TryParseExact(
            text.Replace(",", " ", StringComparison.Ordinal).Replace("  ", " ", StringComparison.Ordinal),
            ["d MMM yyyy", "d MMMM yyyy", "MMM d yyyy", "MMMM d yyyy", "d-MMM-yyyy", "d-MMM-yy", "d MMM yy"],
            CultureInfo.InvariantCulture,
            DateTimeStyles.AllowWhiteSpaces,
            out var named
        )
            ? Real(named.Year, named.Month, named.Day) ?? NoDay(text)
            : NoDay(text);
    }

    private static Cleaned NoDay(string text) =>
        Cleaned.Not($"\"{Short(text)}\" is not a day that there was or will be.");

    // 31/12/2026, 31.12.26, 12-31-2026: three numbers, the year last.
    private static int[]? Numbers(string text)
    {
        var parts = text.Split('/', '.', '-');
        if (parts.Length != 3 || parts[0].Length is 0 or > 2 || parts[1].Length is 0 or > 2)
            return null;
        if (parts[2].Length is not (2 or 4))
            return null;
        var numbers = new int[3];
        for (var i = 0; i < 3; i++)
            if (!int.TryParse(parts[i].Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out numbers[i]))
                return null;
        if (parts[2].Length == 2)
            numbers[2] += numbers[2] < 60 ? 2000 : 1900;
        return numbers;
    }

    private static Cleaned? Real(int year, int month, int day) =>
        year is >= LeastYear and < MostYear
        && month is >= 1 and <= 12
        && day >= 1
        && day <= DateTime.DaysInMonth(year, month)
            ? Kept(new(year, month, day))
            : null;

    private static Cleaned Kept(DateOnly day) => new(Days.Write(day));

    private static Cleaned InSeason(string text)
    {
        if (Season.Parse(text) is { } kept)
            return new(kept.ToString());
        var parts = text.Split(" to ", " until ", " - ", "–", "..") is [var a, var b] ? new[] { a, b } : [];
        if (parts.Length == 2 && DayOfYear(parts[0]) is { } from && DayOfYear(parts[1]) is { } until)
            return new(Season.Between(from.Month, from.Day, until.Month, until.Day).ToString());
        return YesNo(text) is { Value: "no" }
            ? new("")
            : Cleaned.Not($"\"{Short(text)}\" is not a season. Write it as 15 April to 15 October.");
    }

    private static DateOnly? DayOfYear(string text) =>
        DateOnly.TryParseExact(
            $"{text.Trim()} 2000",
            ["d MMM yyyy", "d MMMM yyyy", "MMM d yyyy", "MMMM d yyyy", "MM-dd yyyy"],
            CultureInfo.InvariantCulture,
            DateTimeStyles.AllowWhiteSpaces,
            out var day
        )
            ? day
            : null;

    private static string Short(string text) => text.Length <= 40 ? text : $"{text[..40]}…";

    private static string[] Split(this string text, params string[] by) =>
        text.Split(by, StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
}
