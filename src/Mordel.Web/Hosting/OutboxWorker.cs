using Mordel.Data.Outbox;
using Mordel.Data.Processes;
using Mordel.Web.Application;

namespace Mordel.Web.Hosting;

/// <summary>
/// Delivers the outbox in the background, when the bell rings and when the next try is due; writes reminders, and takes
/// in what has come back.
/// </summary>
public sealed partial class OutboxWorker(
    Leases leases,
    IServiceScopeFactory scopes,
    OutboxBell bell,
    TimeProvider clock,
    MordelOptions options,
    ILogger<OutboxWorker> log
) : Worker(leases, "outbox")
{
    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(5),
        InTheDemo = TimeSpan.FromSeconds(5),
        Shortest = TimeSpan.FromMilliseconds(200),
        AfterTrouble = TimeSpan.FromSeconds(30);

    protected override async Task Work(CancellationToken stopping)
    {
        if (!options.DeliverOutbox)
            return;
        for (var wait = Shortest; !stopping.IsCancellationRequested; )
        {
            await bell.Wait(wait, stopping);
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                await scope.ServiceProvider.GetRequiredService<Reminders>().Write(stopping);
                var next = await scope.ServiceProvider.GetRequiredService<OutboxDelivery>().Due(stopping);
                await scope.ServiceProvider.GetRequiredService<IncomingLetters>().Take(stopping);
                await scope.ServiceProvider.GetRequiredService<LaterRulings>().Take(stopping);
                // Who tries the demo does not wait for minutes to see an authority change its mind.
                var longest = options.Authorities ? InTheDemo : Longest;
                var until = next - clock.GetUtcNow() ?? longest;
                wait =
                    until < Shortest ? Shortest
                    : until > longest ? longest
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
