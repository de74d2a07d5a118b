using Mordel.Data.Processes;

namespace Mordel.Web.Hosting;

/// <summary>
/// Works in the background until the application ends, or could not be started: that it is called off then is nothing
/// that anybody must be told.
/// </summary>
/// <param name="leases">Who has which duty; null where every process works for itself.</param>
/// <param name="duty">
/// The duty that only one process has at a time: another waits, and goes on when this one dies.
/// </param>
public abstract class Worker(Leases? leases = null, string duty = "") : BackgroundService
{
    // How long after trouble with the server a duty is asked for again.
    private static readonly TimeSpan Again = TimeSpan.FromSeconds(2);
    private CancellationTokenSource? over;
    private Task? working;

    /// <inheritdoc/>
    public override Task? ExecuteTask => working;

    /// <summary>Works until it is called off.</summary>
    protected abstract Task Work(CancellationToken stopping);

    // A work that is called off before it has begun has ended well, not been broken off.
    /// <inheritdoc/>
    public override Task StartAsync(CancellationToken cancellationToken)
    {
        over = new();
        working = Task.Run(() => ExecuteAsync(over.Token), CancellationToken.None);
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public override async Task StopAsync(CancellationToken cancellationToken)
    {
        if (over is null || working is null)
            return;
        await over.CancelAsync();
        await working.WaitAsync(cancellationToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
    }

    /// <inheritdoc/>
    public override void Dispose()
    {
        GC.SuppressFinalize(this);
        over?.Cancel();
        base.Dispose();
    }

    protected sealed override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            if (leases is null)
                await Work(stoppingToken);
            else
                while (!stoppingToken.IsCancellationRequested)
                    await InTurn(leases, stoppingToken);
        }
        catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
        {
            // Called off.
        }
    }

    private async Task InTurn(Leases held, CancellationToken stopping)
    {
        Lease lease;
        try
        {
            lease = await held.Take(duty, stopping);
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            // The server is away: it is asked again.
            await Task.Delay(Again, stopping);
            return;
        }

        try
        {
            using var mine = CancellationTokenSource.CreateLinkedTokenSource(stopping, lease.Lost);
            await Work(mine.Token);
            // Nothing to do in this installation.
            await Task.Delay(Timeout.Infinite, mine.Token);
        }
        catch (OperationCanceledException) when (!stopping.IsCancellationRequested)
        {
            // The duty was lost with the connection: whoever gets it first goes on.
        }
        finally
        {
            await lease.DisposeAsync();
        }
    }
}
