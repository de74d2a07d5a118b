using System.Collections.Concurrent;
using System.Globalization;
using Mordel.Data.Processes;

namespace Mordel.Data.Commands.Imports;

/// <summary>
/// The imports that are worked on at this moment: how far each is, and a way to call it off. What is written in one
/// transaction can be seen and stopped from outside only so.
/// </summary>
public sealed class RunningImports
{
    private const string Stopped = "stop-import",
        IsAt = "import-at",
        Over = "import-end";
    private readonly ConcurrentDictionary<Guid, Work> running = new();
    private readonly ConcurrentDictionary<Guid, int> elsewhere = new();
    private readonly Neighbours neighbours;

    /// <summary>None is worked on yet.</summary>
    /// <param name="neighbours">Where else one may be worked on.</param>
    public RunningImports(Neighbours neighbours)
    {
        ArgumentNullException.ThrowIfNull(neighbours);
        this.neighbours = neighbours;
        neighbours.HearOf(Stopped, StopHere);
        neighbours.HearOf(Over, id => elsewhere.TryRemove(id, out _));
        neighbours.Hear(IsAt, says =>
        {
            if (
                says.Split(' ') is [var id, var lines]
                && Guid.TryParse(id, out var import)
                && int.TryParse(lines, CultureInfo.InvariantCulture, out var done)
            )
                elsewhere[import] = done;
        });
    }

    /// <summary>Begins one; dispose what is given when it has ended.</summary>
    /// <param name="importId">The import.</param>
    /// <param name="cancel">What ends it besides.</param>
    public Work Begin(Guid importId, CancellationToken cancel)
    {
        var work = new Work(
            CancellationTokenSource.CreateLinkedTokenSource(cancel),
            done => neighbours.Tell(IsAt, string.Create(CultureInfo.InvariantCulture, $"{importId:N} {done}")),
            w => Ended(importId, w)
        );
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

    /// <summary>How many lines of one are done; null where no process is known to work on it.</summary>
    public int? Done(Guid importId) =>
        running.TryGetValue(importId, out var work) ? work.Done
        : elsewhere.TryGetValue(importId, out var done) ? done
        : null;

    private void Ended(Guid importId, Work work)
    {
        running.TryRemove(KeyValuePair.Create(importId, work));
        neighbours.TellOf(Over, importId);
    }

    /// <summary>One of them.</summary>
    public sealed class Work(CancellationTokenSource source, Action<int> told, Action<Work> ended) : IDisposable
    {
        /// <summary>Lines that are done; others are told of it.</summary>
        public int Done
        {
            get;
            set => told(field = value);
        }

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
