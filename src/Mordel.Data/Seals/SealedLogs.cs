using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Serialization;

namespace Mordel.Data.Seals;

/// <summary>
/// The entries of sealed runs. Once a run is sealed its record has them, packed, and they have no rows of their own any
/// more; those that an earlier version sealed may have both.
/// </summary>
public static class SealedLogs
{
    /// <summary>
    /// The text of each entry by its id, in the order of the log, for each of some runs that is sealed and can be read.
    /// The seals are not checked here.
    /// </summary>
    public static async Task<IReadOnlyDictionary<Guid, IReadOnlyDictionary<Guid, string>>> SealedEntries(
        this Store store,
        IReadOnlyCollection<Guid> runs,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(store);
        var found = new Dictionary<Guid, IReadOnlyDictionary<Guid, string>>();
        var seals = await store
            .Seals.AsNoTracking()
            .Where(s => runs.Contains(s.RunId) && s.AmendmentId == null)
            .ToListAsync(cancel);
        foreach (var seal in seals)
            if (Read(seal.RecordText) is { } entries)
                found[seal.RunId] = entries;
        return found;
    }

    /// <summary>Takes away the rows of entries that the records of these runs have.</summary>
    public static Task<int> DropEntries(this Store store, IReadOnlyCollection<Guid> runs, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(store);
        return store.Change(s => s.Entries.Where(e => runs.Contains(e.RunId)).ExecuteDeleteAsync(cancel), cancel);
    }

    // A record that was tampered with is found by its seal; here it has no entries.
    private static IReadOnlyDictionary<Guid, string>? Read(string? record)
    {
        try
        {
            return record is null ? null : SealedRecord.Read(record).Entries;
        }
        catch (Exception e)
            when (e is JsonException or KeyNotFoundException or FormatException or InvalidOperationException)
        {
            return null;
        }
    }
}
