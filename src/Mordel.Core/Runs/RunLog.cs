using System.Collections.Immutable;

namespace Mordel.Core.Runs;

/// <summary>
/// The entries of a run. A log only grows: adding an entry again changes nothing, and any two logs merge to the same
/// log in either order.
/// </summary>
public sealed class RunLog
{
    private RunLog(ImmutableSortedDictionary<(long Tick, Guid Id), Entry> entries, ImmutableHashSet<EntryId> ids) =>
        (this.entries, this.ids) = (entries, ids);

    private readonly ImmutableSortedDictionary<(long Tick, Guid Id), Entry> entries;
    private readonly ImmutableHashSet<EntryId> ids;

    /// <summary>A log with nothing in it.</summary>
    public static RunLog Empty { get; } = new(ImmutableSortedDictionary<(long, Guid), Entry>.Empty, []);

    /// <summary>The entries in their order.</summary>
    public IEnumerable<Entry> Entries => entries.Values;

    /// <summary>How many there are.</summary>
    public int Count => entries.Count;

    /// <summary>The largest tick; 0 when empty. A device's next entry gets one more.</summary>
    public long LastTick => entries.IsEmpty ? 0 : entries.Keys.Last().Tick;

    /// <summary>The log with these entries too. Entries that are already there, by id, are passed over.</summary>
    public RunLog With(IEnumerable<Entry> more)
    {
        ArgumentNullException.ThrowIfNull(more);
        var all = entries.ToBuilder();
        var known = ids.ToBuilder();
        foreach (var entry in more)
        {
            if (known.Add(entry.Id))
                all[(entry.Tick, entry.Id.Value)] = entry;
        }

        return new(all.ToImmutable(), known.ToImmutable());
    }

    /// <summary>The log with one entry more.</summary>
    public RunLog With(Entry entry) => With([entry]);
}
