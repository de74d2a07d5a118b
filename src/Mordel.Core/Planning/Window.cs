using System.Globalization;

namespace Mordel.Core.Planning;

/// <summary>A part of a day.</summary>
/// <param name="From">Its first minute, counted from midnight, 0 to 1440.</param>
/// <param name="Until">Its end in the same minutes, not before its first.</param>
public readonly record struct Window(int From, int Until)
{
    /// <summary>The minutes of a day.</summary>
    public const int Day = 24 * 60;

    /// <summary>How many minutes it has.</summary>
    public int Minutes => Until - From;

    /// <summary>Whether another lies within it.</summary>
    public bool Holds(Window other) => From <= other.From && other.Until <= Until;

    /// <summary>A minute of the day as a time: <c>07:30</c>.</summary>
    public static string Says(int minute) =>
        string.Create(CultureInfo.InvariantCulture, $"{minute / 60:00}:{minute % 60:00}");

    /// <summary>The minute of the day that a time is; null where it is none.</summary>
    /// <param name="time">Hours and minutes: <c>07:30</c>; <c>24:00</c> is the end of the day.</param>
    /// <param name="overnight">Whether it may lie behind that: a round that cannot be gone may end on another day.
    /// </param>
    public static int? Minute(string? time, bool overnight = false) =>
        time is { Length: >= 5 and <= 7 }
        && time[^3] == ':'
        && int.TryParse(time.AsSpan(0, time.Length - 3), NumberStyles.None, CultureInfo.InvariantCulture, out var hour)
        && int.TryParse(time.AsSpan(time.Length - 2), NumberStyles.None, CultureInfo.InvariantCulture, out var minute)
        && minute < 60
        && (overnight || (time.Length == 5 && (hour * 60) + minute <= Day))
            ? (hour * 60) + minute
            : null;

    /// <inheritdoc/>
    public override string ToString() => $"{Says(From)} to {Says(Until)}";
}
