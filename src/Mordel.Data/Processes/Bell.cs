namespace Mordel.Data.Processes;

/// <summary>Rings when something new waits, so that nobody has to look all the time; in every process.</summary>
public abstract class Bell : IDisposable
{
    /// <summary>How what is told of bells begins.</summary>
    internal const string Rings = "rings-";

    private readonly SemaphoreSlim rung = new(0, 1);
    private readonly Neighbours neighbours;

    /// <summary>Hangs it up.</summary>
    /// <param name="neighbours">In which processes else it hangs.</param>
    protected Bell(Neighbours neighbours)
    {
        ArgumentNullException.ThrowIfNull(neighbours);
        this.neighbours = neighbours;
        neighbours.Hear(Name, _ => Here());
    }

    /// <summary>Something new is there, and saved.</summary>
    public void Ring()
    {
        Here();
        neighbours.Tell(Name);
    }

    /// <summary>Waits for the bell, at most so long.</summary>
    public Task Wait(TimeSpan atMost, CancellationToken cancel) => rung.WaitAsync(atMost, cancel);

    private string Name => Rings + GetType().Name;

    private void Here()
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

    /// <inheritdoc/>
    public void Dispose()
    {
        GC.SuppressFinalize(this);
        rung.Dispose();
    }
}
