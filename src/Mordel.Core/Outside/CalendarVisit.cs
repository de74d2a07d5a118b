namespace Mordel.Core.Outside;

/// <summary>A visit as a calendar shows it; hours are those of the place.</summary>
/// <param name="Id">The same for as long as it is the same visit.</param>
/// <param name="Sequence">How often it has changed; calendars take what has the higher number.</param>
/// <param name="ChangedAt">When it changed last.</param>
/// <param name="Begin">When it begins.</param>
/// <param name="Minutes">How long it is.</param>
/// <param name="Title">What it is.</param>
/// <param name="Place">Where it is.</param>
/// <param name="Says">What else there is to know.</param>
public sealed record CalendarVisit(
    string Id,
    int Sequence,
    DateTimeOffset ChangedAt,
    DateTime Begin,
    int Minutes,
    string Title,
    string Place,
    string Says
);
