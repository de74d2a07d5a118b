using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;

namespace Mordel.Data.Lists;

/// <summary>A tester's rounds as a calendar shows them.</summary>
public sealed class TesterCalendar(Store store, TimeProvider clock)
{
    private const int Back = 7,
        Ahead = 70;

    /// <summary>The stops of the last week and the next ten.</summary>
    public async Task<IReadOnlyList<CalendarVisit>> Of(Guid testerId, CancellationToken cancel)
    {
        var (from, until) = (clock.Today().AddDays(-Back), clock.Today().AddDays(Ahead));
        var stops = await store
            .Stops.AsNoTracking()
            .Include(s => s.Assembly!)
                .ThenInclude(a => a.Place)
            .Where(s => s.TesterId == testerId && s.Day >= from && s.Day < until)
            .OrderBy(s => s.Day)
            .ThenBy(s => s.Order)
            .ToListAsync(cancel);
        return
        [
            .. stops.Select(s => new CalendarVisit(
                s.Id.ToString(),
                s.Sequence,
                s.ChangedAt ?? new DateTimeOffset(s.Day.AddDays(-1).ToDateTime(default), TimeSpan.Zero),
                s.Day.ToDateTime(s.From),
                s.Minutes,
                $"{s.Assembly!.Type} {s.Assembly.Tag}, {s.Assembly.Place!.Name}",
                $"{s.Assembly.Place.Address}, {s.Assembly.Place.District}",
                $"Water may be off {s.WindowFrom:HH:mm} to {s.WindowUntil:HH:mm}. Ask for {s.Assembly.Place.Contact}. "
                    + $"{s.Assembly.Place.Access} {s.Special}".Trim()
            )),
        ];
    }
}
