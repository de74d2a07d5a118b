using Microsoft.EntityFrameworkCore.Storage;

namespace Mordel.Data;

/// <summary>
/// Who writes next. The database takes one writer at a time; whoever waits here holds no thread, and is not left to
/// sleep and try again.
/// </summary>
public sealed class WriterQueue : IDisposable
{
    private readonly SemaphoreSlim turn = new(1, 1);

    /// <summary>Waits for the turn to write; dispose what is given to let the next one in.</summary>
    public async Task<IDisposable> Take(CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        return new Turn(turn);
    }

    public void Dispose() => turn.Dispose();

    private sealed class Turn(SemaphoreSlim turn) : IDisposable
    {
        private int ended;

        public void Dispose()
        {
            if (Interlocked.Exchange(ref ended, 1) == 0)
                turn.Release();
        }
    }
}

/// <summary>
/// A transaction that writes, with its turn in the queue; undone when it is disposed before its commit.
/// </summary>
public sealed class Writing(IDbContextTransaction transaction, IDisposable turn) : IAsyncDisposable
{
    /// <summary>Makes it last.</summary>
    public Task CommitAsync(CancellationToken cancel) => transaction.CommitAsync(cancel);

    public async ValueTask DisposeAsync()
    {
        try
        {
            await transaction.DisposeAsync();
        }
        finally
        {
            turn.Dispose();
        }
    }
}
