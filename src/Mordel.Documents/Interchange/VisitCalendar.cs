using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Mordel.Core.Outside;

namespace Mordel.Documents.Interchange;

/// <summary>Writes visits as iCalendar (RFC 5545), in the hours of the place.</summary>
public static class VisitCalendar
{
    /// <summary>The calendar.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="visits">The visits.</param>
    public static string Write(string name, IEnumerable<CalendarVisit> visits)
    {
        ArgumentNullException.ThrowIfNull(visits);
        var calendar = new Calendar { ProductId = "-//Mordel//Rounds//EN" };
        calendar.AddProperty("X-WR-CALNAME", name);
        foreach (var visit in visits)
            calendar.Events.Add(
                new CalendarEvent
                {
                    Uid = $"{visit.Id}@mordel.invalid",
                    Sequence = visit.Sequence,
                    DtStamp = new CalDateTime(visit.ChangedAt.UtcDateTime, "UTC"),
                    LastModified = new CalDateTime(visit.ChangedAt.UtcDateTime, "UTC"),
                    Start = new CalDateTime(visit.Begin),
                    End = new CalDateTime(visit.Begin.AddMinutes(visit.Minutes)),
                    Summary = visit.Title,
                    Location = visit.Place,
                    Description = visit.Says,
                }
            );
        return new CalendarSerializer().SerializeToString(calendar)!;
    }
}
