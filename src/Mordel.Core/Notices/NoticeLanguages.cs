using System.Collections.Immutable;
using System.Globalization;

namespace Mordel.Core.Notices;

/// <summary>A language in which Mordel brings notices along, with its days.</summary>
/// <param name="Tag">As it is kept: <c>en</c>.</param>
/// <param name="Name">Its name in itself.</param>
/// <param name="Pattern">How a day is written: weekday, day of the month, month, year.</param>
/// <param name="MorePlaces">How more places than one are named: the first, and how many more.</param>
/// <param name="Weekdays">From Sunday on.</param>
/// <param name="Months">From January on.</param>
public sealed record NoticeLanguage(
    string Tag,
    string Name,
    string Pattern,
    string MorePlaces,
    ImmutableArray<string> Weekdays,
    ImmutableArray<string> Months
)
{
    /// <summary>Places in a few words: the one, or the first and how many more.</summary>
    public string Places(string first, int count) =>
        count == 1 ? first : string.Format(CultureInfo.InvariantCulture, MorePlaces, first, count - 1);

    /// <summary>A day with its weekday.</summary>
    public string Day(DateOnly day) =>
        string.Format(
            CultureInfo.InvariantCulture,
            Pattern,
            Weekdays[(int)day.DayOfWeek],
            day.Day,
            Months[day.Month - 1],
            day.Year
        );
}

/// <summary>The languages of notices.</summary>
public static class NoticeLanguages
{
    /// <summary>English, which also stands in where a language has no notice.</summary>
    public static NoticeLanguage English { get; } =
        new(
            "en",
            "English",
            "{0} {1} {2} {3}",
            "{0} and {1} more",
            [.. CultureInfo.InvariantCulture.DateTimeFormat.DayNames],
            [.. CultureInfo.InvariantCulture.DateTimeFormat.MonthNames[..12]]
        );

    /// <summary>German.</summary>
    public static NoticeLanguage German { get; } =
        new(
            "de",
            "Deutsch",
            "{0}, {1}. {2} {3}",
            "{0} und {1} weitere",
            ["Sonntag", "Montag", "Dienstag", "Mittwoch", "Donnerstag", "Freitag", "Samstag"],
            [
                "Januar",
                "Februar",
                "März",
                "April",
                "Mai",
                "Juni",
                "Juli",
                "August",
                "September",
                "Oktober",
                "November",
                "Dezember",
            ]
        );

    /// <summary>All of them.</summary>
    public static ImmutableArray<NoticeLanguage> All { get; } = [English, German];

    /// <summary>The language of a tag; English where nobody has said, or it is not known.</summary>
    public static NoticeLanguage Of(string? tag) => All.FirstOrDefault(l => l.Tag == tag) ?? English;
}
