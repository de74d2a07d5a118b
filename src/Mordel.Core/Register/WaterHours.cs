using System.Globalization;
using System.Text.RegularExpressions;

namespace Mordel.Core.Register;

/// <summary>The hours of a day in which the water may be off.</summary>
/// <param name="From">The first minute, from midnight.</param>
/// <param name="Until">The end, behind the first.</param>
public readonly partial record struct WaterHours(int From, int Until)
{
    private const int Day = 24 * 60;

    /// <summary>Reads <c>06:00..07:30</c>; null where it is none.</summary>
    public static WaterHours? Parse(string? text) =>
        text is { Length: 12 }
        && text[5..7] == ".."
        && Minute(text[..5]) is { } from
        && Minute(text[7..]) is { } until
        && from < until
            ? new(from, until)
            : null;

    /// <summary>Understands hours as people write them: 6-7:30, 06:00 to 07:30; empty where they are none.</summary>
    public static WaterHours? Understand(string text)
    {
        var found = Written().Match(text);
        if (!found.Success)
            return null;
        int? At(string hour, string minute) =>
            Minute(
                found.Groups[hour].Value.PadLeft(2, '0')
                    + ":"
                    + (found.Groups[minute] is { Success: true, Value: var minutes } ? minutes : "00")
            );
        return At("h", "m") is { } from && At("uh", "um") is { } until && from < until ? new(from, until) : null;
    }

    /// <summary>As it is kept: <c>06:00..07:30</c>.</summary>
    public override string ToString() => $"{Time(From)}..{Time(Until)}";

    /// <summary>As it is said: 06:00 to 07:30.</summary>
    public string Said => $"{Time(From)} to {Time(Until)}";

    private static string Time(int minute) =>
        string.Create(CultureInfo.InvariantCulture, $"{minute / 60:00}:{minute % 60:00}");

    private static int? Minute(string time) =>
        int.TryParse(time.AsSpan(0, 2), NumberStyles.None, CultureInfo.InvariantCulture, out var hour)
        && time[2] == ':'
        && int.TryParse(time.AsSpan(3), NumberStyles.None, CultureInfo.InvariantCulture, out var minute)
        && minute < 60
        && (hour * 60) + minute <= Day
            ? (hour * 60) + minute
            : null;

    [GeneratedRegex(@"^(?<h>\d{1,2})(?:[:.](?<m>\d\d))?\s*(?:-|–|\.\.|to|until)\s*(?<uh>\d{1,2})(?:[:.](?<um>\d\d))?$")]
    private static partial Regex Written();
}
