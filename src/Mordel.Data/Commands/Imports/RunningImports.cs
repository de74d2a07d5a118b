using System.Collections.Concurrent;
using Mordel.Data.Processes;

namespace Mordel.Data.Commands.Imports;

/// <summary>
/// The imports that are worked on at this moment: how far each is, and a way to call it off. What is written in one
/// transaction can be seen and stopped from outside only so.
/// </summary>
public sealed class RunningImports
{
    private const string Stopped = "stop-import";
    private readonly ConcurrentDictionary<Guid, Work> running = new();
    private readonly Neighbours neighbours;

    /// <summary>None is worked on yet.</summary>
    /// <param name="neighbours">Where else one may be worked on.</param>
    public RunningImports(Neighbours neighbours)
    {
        ArgumentNullException.ThrowIfNull(neighbours);
        this.neighbours = neighbours;
        neighbours.HearOf(Stopped, StopHere);
    }

    /// <summary>Begins one; dispose what is given when it has ended.</summary>
    /// <param name="importId">The import.</param>
    /// <param name="cancel">What ends it besides.</param>
    public Work Begin(Guid importId, CancellationToken cancel)
    {
        var work = new Work(CancellationTokenSource.CreateLinkedTokenSource(cancel), w => Ended(importId, w));
        running[importId] = work;
        return work;
    }

    /// <summary>Calls one off, whichever process works on it; nothing where none does.</summary>
    public void Stop(Guid importId)
    {
        StopHere(importId);
        neighbours.TellOf(Stopped, importId);
    }

    private void StopHere(Guid importId)
    {
        if (running.TryGetValue(importId, out var work))
            work.Stop();
    }

    /// <summary>How many lines of one are done; null where it is not worked on by
    /// this process.</summary>
    public int? Done(Guid importId) => running.TryGetValue(importId, out var work) ? work.Done : null;

    private void Ended(Guid importId, Work work) => running.TryRemove(KeyValuePair.Create(importId, work));

    /// <summary>One of them.</summary>
    public sealed class Work(CancellationTokenSource source, Action<Work> ended) : IDisposable
    {
        /// <summary>Lines that are done.</summary>
        public int Done { get; set; }

        /// <summary>Asked for when it is called off.</summary>
        public CancellationToken Cancel { get; } = source.Token;

        /// <summary>Calls it off.</summary>
        internal void Stop()
        {
            try
            {
                source.Cancel();
            }
            catch (ObjectDisposedException)
            {
                // It has just ended.
            }
        }

        /// <inheritdoc/>
        public void Dispose()
        {
            ended(this);
            source.Dispose();
        }
    }
}
