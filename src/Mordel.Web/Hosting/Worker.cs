namespace Mordel.Web.Hosting;

/// <summary>
/// Works in the background until the application ends, or could not be started: that it is called off then is nothing
/// that anybody must be told.
/// </summary>
public abstract class Worker : BackgroundService
{
    /// <summary>Works until it is called off.</summary>
    protected abstract Task Work(CancellationToken stopping);

    protected sealed override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            await Work(stoppingToken);
        }
        catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
        {
            // Called off.
        }
    }
}
