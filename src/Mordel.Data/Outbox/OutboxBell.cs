namespace Mordel.Data.Outbox;

/// <summary>Rings when something new lies in the outbox, so that nobody has to look all the time.</summary>
public sealed class OutboxBell : IDisposable
{
    private readonly SemaphoreSlim rung = new(0, 1);

    /// <summary>Something new is there, and saved.</summary>
    public void Ring()
    {
        try
        {
            rung.Release();
        }
        catch (SemaphoreFullException)
        {
            // It rings already.
        }
    }

    /// <summary>Waits for the bell, at most so long.</summary>
    public Task Wait(TimeSpan atMost, CancellationToken cancel) => rung.WaitAsync(atMost, cancel);

    /// <inheritdoc/>
    public void Dispose() => rung.Dispose();
}
