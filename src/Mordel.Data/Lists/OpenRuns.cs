using System.Collections.Concurrent;

namespace Mordel.Data.Lists;

/// <summary>
/// Open runs as they were read last, so that an entry more is played on without reading the others again. What is here
/// holds as long as the database has just as many entries of the same length in all, and the same setup: entries are
/// only ever added. Bounded; the ones not asked for longest go first.
/// </summary>
public sealed class OpenRuns(TimeProvider clock)
{
    private const int Most = 1000;

    private readonly ConcurrentDictionary<Guid, (RunFile Run, long Used)> runs = new();

    /// <summary>A run as it was read, when it still has this setup and such entries; null otherwise.</summary>
    public RunFile? Find(Guid id, string setup, LogSize entries)
    {
        if (
            !runs.TryGetValue(id, out var kept)
            || kept.Run.Size != entries
            || !string.Equals(kept.Run.Row.Setup, setup, StringComparison.Ordinal)
        )
            return null;
        runs[id] = (kept.Run, clock.GetTimestamp());
        return kept.Run;
    }

    /// <summary>Keeps a run as it has been read.</summary>
    public void Keep(RunFile run)
    {
        ArgumentNullException.ThrowIfNull(run);
        runs[run.Row.Id] = (run, clock.GetTimestamp());
        if (runs.Count <= Most)
            return;
        foreach (var (id, _) in runs.ToArray().OrderBy(r => r.Value.Used).Take(Most / 4))
            runs.TryRemove(id, out _);
    }
}
