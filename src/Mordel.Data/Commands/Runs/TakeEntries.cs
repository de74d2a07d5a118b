using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Commands.Runs;

/// <summary>
/// Takes entries into a run's log: any batch, any number of times, in any order. What it acknowledges is on disk.
/// </summary>
public sealed class TakeEntries(Store store, SetupReader setups, OpenRuns open, TimeProvider clock)
{
    /// <summary>How many entries a run may have; the longest that is done as listed has some fifty.</summary>
    public const int MostEntries = 4_000;

    /// <summary>What is said when there is no such run, or it is another's.</summary>
    public const string NoSuchRun = "There is no such run of yours.";

    /// <summary>What is said to somebody who may see a run and not write in it.</summary>
    public const string Anothers = "This run is another tester's: only who made it signs and amends it.";

    /// <summary>
    /// Adds entries; those already there, by id, are passed over. Nothing of a refused batch is kept. The run as it
    /// stands then is at hand for whoever shows it.
    /// </summary>
    public async Task<Reply<int>> Into(
        Guid runId,
        Guid testerId,
        ImmutableArray<Entry> entries,
        CancellationToken cancel
    )
    {
        await using var transaction = await store.BeginWriting(cancel);
        var run = await store
            .Runs.AsNoTracking()
            .Where(r => r.Id == runId && r.TesterId == testerId)
            .Select(r => new
            {
                r.Setup,
                Sealed = r.SignedAt != null || r.Seals.Any(),
                Size = new LogSize(r.Entries.Count, r.Entries.Sum(e => e.Json.Length)),
            })
            .FirstOrDefaultAsync(cancel);
        if (run is null)
            return Reply<int>.NotFound(NoSuchRun);
        var ids = entries.Select(e => e.Id.Value).ToList();
        var known = await store
            .Entries.Where(e => e.RunId == runId && ids.Contains(e.EntryId))
            .ToDictionaryAsync(e => e.EntryId, e => e.Json, cancel);
        // What was acknowledged before is acknowledged again, even after the seal: the sender may have missed the first
        // answer.
        var fresh = entries.DistinctBy(e => e.Id).Where(e => !known.ContainsKey(e.Id.Value)).ToList();
        if (
            entries.FirstOrDefault(e => known.TryGetValue(e.Id.Value, out var kept) && kept != EntryFormat.Write(e)) is
            { } other
        )
            return Reply<int>.Refused(
                $"Entry {other.Id} is already in the log with another content. An entry is never changed; add "
                    + $"a correction."
            );
        if (fresh.Count == 0)
            return 0;
        if (run.Sealed)
            return Reply<int>.Refused("This run is signed and sealed. A mistake found later is an amendment.");
        if (run.Size.Entries + fresh.Count > MostEntries)
            return Reply<int>.Refused(
                $"A run holds {MostEntries} entries, and this one would have more. Finish it, and begin another."
            );
        var before = open.Find(runId, run.Setup ?? "", run.Size);
        var readings = fresh.Select(Reading).OfType<Reading>().ToList();
        if (readings.Count > 0)
        {
            var unit = (before?.Setup ?? await setups.Read(run.Setup ?? "", cancel)).Kit.Unit;
            foreach (var reading in readings.Where(r => r.Value.Unit != unit))
                return Reply<int>.Refused(
                    $"{reading.Value} was entered, but this kit reads {unit.Symbol()}. Enter what the gauge shows."
                );
        }

        var now = clock.Now();
        store.Entries.AddRange(fresh.Select(e => Row(runId, e, now)));
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        Measures.Entries.Add(fresh.Count);
        if (before is not null)
            open.Keep(before.With([.. fresh.Select(e => new ReceivedEntry(e, now))]));
        return fresh.Count;
    }

    /// <summary>The row of an entry.</summary>
    public static EntryRow Row(Guid runId, Entry entry, DateTimeOffset received)
    {
        ArgumentNullException.ThrowIfNull(entry);
        return new()
        {
            RunId = runId,
            EntryId = entry.Id.Value,
            Tick = entry.Tick,
            Json = EntryFormat.Write(entry),
            ReceivedAt = received,
        };
    }

    private static Reading? Reading(Entry entry) =>
        entry.Body switch
        {
            EntryBody.Taken t => t.Reading,
            EntryBody.Corrected c => c.Reading,
            EntryBody.Glimpsed g => g.Reading,
            EntryBody.HoldWatched w => w.Reading,
            EntryBody.HoldStarted { Reading: { } start } => start,
            EntryBody.HoldEnded { Reading: { } end } => end,
            _ => null,
        };
}
