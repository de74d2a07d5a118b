using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Formats;
using Mordel.Core.Runs;
using Mordel.Core.Units;

namespace Mordel.Data.Commands;

/// <summary>Takes entries into a run's log: any batch, any number of times, in any order. What it acknowledges is on disk.</summary>
public sealed class TakeEntries(Store store, TimeProvider clock)
{
    /// <summary>Adds entries; those already there, by id, are passed over. Nothing of a refused batch is kept.</summary>
    public async Task<Reply<int>> Into(Guid runId, Guid testerId, ImmutableArray<Entry> entries, CancellationToken cancel)
    {
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        var run = await store.Runs.AsNoTracking().Include(r => r.Kit).FirstOrDefaultAsync(r => r.Id == runId && r.TesterId == testerId, cancel);
        if (run is null) return Reply<int>.Refused("There is no such run of yours.");
        var ids = entries.Select(e => e.Id.Value).ToList();
        var known = await store.Entries.Where(e => e.RunId == runId && ids.Contains(e.EntryId)).ToDictionaryAsync(e => e.EntryId, e => e.Json, cancel);
        // What was acknowledged before is acknowledged again, even after the seal: the sender may have missed the first answer.
        var fresh = entries.DistinctBy(e => e.Id).Where(e => !known.ContainsKey(e.Id.Value)).ToList();
        if (entries.FirstOrDefault(e => known.TryGetValue(e.Id.Value, out var kept) && kept != EntryFormat.Write(e)) is { } other)
            return Reply<int>.Refused($"Entry {other.Id} is already in the log with another content. An entry is never changed; add a correction.");
        if (fresh.Count > 0 && run.IsSealed) return Reply<int>.Refused("This run is signed and sealed. A mistake found later is an amendment.");
        if (fresh.Select(Reading).OfType<Reading>().FirstOrDefault(r => r.Value.Unit.Symbol() != run.Kit!.Unit) is { Value: var wrong } && wrong != default)
            return Reply<int>.Refused($"{wrong} was entered, but this kit reads {run.Kit!.Unit}. Enter what the gauge shows.");
        var now = clock.GetUtcNow();
        store.Entries.AddRange(fresh.Select(e => new Rows.EntryRow { RunId = runId, EntryId = e.Id.Value, Tick = e.Tick, Json = EntryFormat.Write(e), ReceivedAt = now }));
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return fresh.Count;
    }

    private static Reading? Reading(Entry entry) => entry.Body switch
    {
        EntryBody.Taken t => t.Reading,
        EntryBody.Corrected c => c.Reading,
        _ => null,
    };
}
