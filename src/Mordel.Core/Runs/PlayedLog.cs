namespace Mordel.Core.Runs;

/// <summary>
/// A log and where it leads, for whoever is shown each entry as it comes: what comes at the end is played on, so that
/// a tap does not play all taps before it again. Where an entry comes in between, takes back or corrects, or is what
/// another has taken back before, the log is played anew. The state is the same either way. Not for two threads at
/// once.
/// </summary>
/// <param name="plan">What the run is made with.</param>
public sealed class PlayedLog(RunPlan plan)
{
    private Replay? replay;
    private RunState? state;

    /// <summary>The log.</summary>
    public RunLog Log { get; private set; } = RunLog.Empty;

    /// <summary>Where it leads.</summary>
    public RunState State => state ??= (replay ??= new(plan, Log)).State;

    /// <summary>Takes entries in; those that are there already, by id, are passed over.</summary>
    public void Take(IEnumerable<Entry> more)
    {
        var grown = Log.With(more);
        if (grown.Count == Log.Count)
            return;
        var fresh = grown.Entries.Skip(Log.Count).ToList();
        state = null;
        if (!ComesAfter(grown) || Log.Entries.Concat(fresh).Any(e => Rewrites(e, fresh)))
            replay = null;
        if (replay is not null)
            foreach (var entry in fresh)
                state = replay.Add(entry);
        Log = grown;
    }

    // Whether what was there stands before all that has come.
    private bool ComesAfter(RunLog grown) =>
        Log.Count == 0 || grown.Entries.ElementAt(Log.Count - 1).Id == Log.Entries.Last().Id;

    private static bool Rewrites(Entry entry, List<Entry> fresh) =>
        Replay.Rewrites(entry.Body)
        && (
            fresh.Contains(entry)
            || fresh.Exists(f =>
                f.Id
                == entry.Body switch
                {
                    EntryBody.TookBack back => back.Of,
                    EntryBody.Corrected corrected => corrected.Of,
                    _ => default,
                }
            )
        );
}
