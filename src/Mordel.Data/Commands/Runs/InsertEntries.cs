using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Runs;

/// <summary>
/// Writes entries without following each of their rows: of many runs at once there are tens of thousands.
/// </summary>
public static class InsertEntries
{
    /// <summary>Inserts entries of runs that are there, inside the transaction that was begun.</summary>
    /// <exception cref="InvalidOperationException">No transaction was begun.</exception>
    public static async Task Insert(this Store store, IEnumerable<EntryRow> entries, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(store);
        ArgumentNullException.ThrowIfNull(entries);
        if (store.Database.CurrentTransaction is null)
            throw new InvalidOperationException("Entries are written inside a transaction.");
        using var into = new BulkInsert<EntryRow>(store);
        foreach (var entry in entries)
            await into.AddAsync(entry, cancel);
    }
}
