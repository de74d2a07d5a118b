namespace Mordel.Core.Reports;

/// <summary>Times as a report prints them.</summary>
/// <param name="zone">The zone in which people there read the clock.</param>
internal sealed class PrintedTimes(TimeZoneInfo zone)
{
    /// <summary>An instant there.</summary>
    public DateTimeOffset Local(DateTimeOffset at) => TimeZoneInfo.ConvertTime(at, zone);

    /// <summary>Its day.</summary>
    public string Day(DateTimeOffset at) => $"{Local(at):d MMM yyyy}";

    /// <summary>Its day and minute.</summary>
    public string Moment(DateTimeOffset at) => $"{Local(at):d MMM yyyy, HH:mm}";

    /// <summary>Its minute.</summary>
    public string Clock(DateTimeOffset at) => $"{Local(at):HH:mm}";
}
