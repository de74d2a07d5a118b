using System.Collections.Concurrent;
using System.Collections.Immutable;
using Mordel.Core.Runs;
using Mordel.Data.Lists;

namespace Mordel.Data.Commands.Runs;

/// <summary>What came of entries that were sent.</summary>
/// <param name="Fresh">How many of them were not there before.</param>
/// <param name="Run">How far the run is with them.</param>
public readonly record struct TakenEntries(int Fresh, Standing Run);

/// <summary>Entries of one request that wait to be written.</summary>
/// <param name="runId">The run.</param>
/// <param name="testerId">Whose it must be.</param>
/// <param name="entries">What comes.</param>
public sealed class WaitingEntries(Guid runId, Guid testerId, ImmutableArray<Entry> entries)
{
    // Whoever waits goes on elsewhere: the writer has others to answer.
    private readonly TaskCompletionSource<Reply<TakenEntries>> answer = new(
        TaskCreationOptions.RunContinuationsAsynchronously
    );

    public Guid RunId => runId;
    public Guid TesterId => testerId;
    public ImmutableArray<Entry> Entries => entries;

    /// <summary>What came of it.</summary>
    public Task<Reply<TakenEntries>> Answer => answer.Task;

    /// <summary>Whether it is written by itself, since a batch with it did not succeed.</summary>
    public bool IsAlone { get; set; }

    /// <summary>Says what came of it.</summary>
    public void Say(Reply<TakenEntries> what) => answer.TrySetResult(what);
}

/// <summary>
/// Entries that wait for the turn to write. The database is synced once for all that are taken together, and not once
/// for each: beside many testers an entry waits for one other's writing, not for everybody's.
/// </summary>
public sealed class EntryQueue
{
    // Enough for a second of five hundred testers.
    private const int MostTogether = 200;

    private readonly ConcurrentQueue<WaitingEntries> waiting = new();

    /// <summary>It waits from now on.</summary>
    public void Add(WaitingEntries one) => waiting.Enqueue(one);

    /// <summary>What is written in the turn of one of them: this one, and others that wait.</summary>
    public IReadOnlyList<WaitingEntries> TakeWith(WaitingEntries mine)
    {
        ArgumentNullException.ThrowIfNull(mine);
        var together = new List<WaitingEntries> { mine };
        while (!mine.IsAlone && together.Count < MostTogether && waiting.TryDequeue(out var other))
            if (other != mine && !other.IsAlone && !other.Answer.IsCompleted)
                together.Add(other);
        return together;
    }
}
