namespace Mordel.Data;

/// <summary>Rings when something new waits, so that nobody has to look all the time.</summary>
public abstract class Bell : IDisposable
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
    public void Dispose()
    {
        GC.SuppressFinalize(this);
        rung.Dispose();
    }
}
