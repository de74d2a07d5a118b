using Mordel.Data.Outbox;
using Mordel.Web.Application;

namespace Mordel.Web.Hosting;

/// <summary>Delivers the outbox in the background: when the bell rings, and when the next try is due.</summary>
public sealed partial class OutboxWorker(
    IServiceScopeFactory scopes,
    OutboxBell bell,
    TimeProvider clock,
    MordelOptions options,
    ILogger<OutboxWorker> log
) : BackgroundService
{
    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(5),
        Shortest = TimeSpan.FromMilliseconds(200),
        AfterTrouble = TimeSpan.FromSeconds(30);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            await Deliver(stoppingToken);
        }
        catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
        {
            // The application ends, or could not be started; what waits is delivered after the next start.
        }
    }

    private async Task Deliver(CancellationToken stoppingToken)
    {
        if (!options.DeliverOutbox)
            return;
        for (var wait = Shortest; !stoppingToken.IsCancellationRequested; )
        {
            await bell.Wait(wait, stoppingToken);
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                var next = await scope.ServiceProvider.GetRequiredService<OutboxDelivery>().Due(stoppingToken);
                var until = next - clock.GetUtcNow() ?? Longest;
                wait =
                    until < Shortest ? Shortest
                    : until > Longest ? Longest
                    : until;
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                Failed(e);
                wait = AfterTrouble;
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "The outbox could not be delivered; it is tried again.")]
    private partial void Failed(Exception e);
}
