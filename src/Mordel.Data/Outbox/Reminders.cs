using Microsoft.EntityFrameworkCore;

namespace Mordel.Data.Outbox;

/// <summary>Reminds, the day before, whoever was told of a visit.</summary>
public sealed class Reminders(Store store, NoticeWriter notices, TimeProvider clock)
{
    // Nobody is written to in the night.
    private const int FirstHour = 8,
        LastHour = 20;

    /// <summary>Writes what is to be written now; answers how many letters that were.</summary>
    public async Task<int> Write(CancellationToken cancel)
    {
        var here = TimeZoneInfo.ConvertTime(clock.GetUtcNow(), clock.LocalTimeZone);
        if (here.Hour is < FirstHour or >= LastHour || !notices.CanSend)
            return 0;
        var tomorrow = clock.Today().AddDays(1);
        var which = store.Stops.Where(s =>
            s.Day == tomorrow && s.ToldDay == tomorrow && (s.RemindedOf == null || s.RemindedOf != tomorrow)
        );
        if (!await which.AnyAsync(cancel))
            return 0;
        await using var transaction = await store.BeginWriting(cancel);
        var stops = await which.OrderBy(s => s.TesterId).ThenBy(s => s.Order).ToListAsync(cancel);
        var told = await notices.Reminders(stops, cancel);
        var written = await notices.Write(told.Letters, "by itself", cancel);
        foreach (var stop in stops)
            stop.RemindedOf = tomorrow;
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return written;
    }
}
