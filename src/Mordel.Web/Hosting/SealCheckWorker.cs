using Mordel.Data;
using Mordel.Data.Accounts;
using Mordel.Data.Audit;
using Mordel.Data.Processes;
using Mordel.Data.Seals;
using Mordel.Web.Application;

namespace Mordel.Web.Hosting;

/// <summary>
/// Checks every seal of the installation in the background: soon after the start, then every night. What it finds
/// becomes alarms.
/// </summary>
public sealed partial class SealCheckWorker(
    Leases leases,
    IServiceScopeFactory scopes,
    TimeProvider clock,
    MordelOptions options,
    ILogger<SealCheckWorker> log
) : Worker(leases, "seals")
{
    private static readonly TimeSpan AfterStart = TimeSpan.FromSeconds(5),
        Rest = TimeSpan.FromMilliseconds(50);
    private static readonly TimeOnly Night = new(3, 0);

    protected override async Task Work(CancellationToken stopping)
    {
        if (!options.WatchSeals)
            return;
        for (var wait = AfterStart; !stopping.IsCancellationRequested; wait = clock.Until(Night))
        {
            await Task.Delay(wait, clock, stopping);
            try
            {
                await Check(stopping);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                Failed(e);
            }
        }
    }

    private async Task Check(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        await scope.ServiceProvider.GetRequiredService<Sessions>().Sweep(cancel);
        var found = await scope
            .ServiceProvider.GetRequiredService<InstallationCheck>()
            .All(_ => Task.Delay(Rest, clock, cancel), cancel);
        await scope
            .ServiceProvider.GetRequiredService<AuditLog>()
            .Write(
                found.Holds ? AuditKinds.SealsChecked : AuditKinds.SealsBroken,
                "",
                found.Holds
                    ? $"all {found.Seals} seals over {found.Runs} runs hold"
                    : $"{found.Broken.Count} things among {found.Seals} seals",
                cancel
            );
        if (found.Holds)
            Whole(found.Seals, found.Runs);
        else
            Broken(found.Broken.Count, found.Seals);
    }

    [LoggerMessage(Level = LogLevel.Information, Message = "All {Seals} seals over {Runs} runs hold.")]
    private partial void Whole(long seals, int runs);

    [LoggerMessage(
        Level = LogLevel.Error,
        Message = "{Count} things are broken among {Seals} seals: see the alarms at the desk, or ./mordel verify."
    )]
    private partial void Broken(int count, long seals);

    [LoggerMessage(Level = LogLevel.Error, Message = "The seals could not be checked.")]
    private partial void Failed(Exception e);
}
