using Microsoft.EntityFrameworkCore;
using Mordel.Data;
using Mordel.Data.Commands.Imports;
using Mordel.Data.Lists;
using Mordel.Data.Processes;
using Mordel.Data.Rows;

namespace Mordel.Web.Hosting;

/// <summary>
/// Works on the register in the background: checks files and takes them in, one after the other, and works out anew
/// what is owed where rules have changed or come into force, and counts how all tests came out, once a day.
/// </summary>
public sealed partial class RegisterWorker(
    Leases leases,
    IServiceScopeFactory scopes,
    RegisterBell bell,
    ILogger<RegisterWorker> log
) : Worker(leases, "register")
{
    private static readonly TimeSpan Look = TimeSpan.FromMinutes(5);

    protected override async Task Work(CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                while (await Next(stopping))
                    continue;
                await using var scope = scopes.CreateAsyncScope();
                await scope.ServiceProvider.GetRequiredService<DueProjection>().Refresh(stopping);
                await scope.ServiceProvider.GetRequiredService<StandingProjection>().Refresh(false, stopping);
            }
            catch (Exception e) when (e is not OperationCanceledException || !stopping.IsCancellationRequested)
            {
                Failed(e);
            }

            await bell.Wait(Look, stopping);
        }
    }

    // What was under way when the server ended goes on: a check from its beginning, an import as a whole.
    private async Task<bool> Next(CancellationToken stopping)
    {
        await using var scope = scopes.CreateAsyncScope();
        var store = scope.ServiceProvider.GetRequiredService<Store>();
        var waiting = await store
            .Imports.AsNoTracking()
            .Where(i => i.State == ImportStates.Checking || i.State == ImportStates.Applying)
            .OrderBy(i => i.At)
            .FirstOrDefaultAsync(stopping);
        if (waiting is null)
            return false;
        try
        {
            if (waiting.State == ImportStates.Checking)
                await scope.ServiceProvider.GetRequiredService<CheckImport>().Run(waiting.Id, stopping);
            else
                await scope.ServiceProvider.GetRequiredService<ApplyImport>().Run(waiting.Id, stopping);
        }
        catch (OperationCanceledException) when (!stopping.IsCancellationRequested)
        {
            // Somebody stopped it; it says so itself.
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            Failed(e);
            await using var other = scopes.CreateAsyncScope();
            await other
                .ServiceProvider.GetRequiredService<Store>()
                .Imports.Where(i => i.Id == waiting.Id)
                .ExecuteUpdateAsync(
                    i =>
                        i.SetProperty(x => x.State, ImportStates.Stopped)
                            .SetProperty(
                                x => x.Says,
                                "Something went wrong that nobody has foreseen. Nothing was changed; the log says what."
                            ),
                    stopping
                );
        }

        return true;
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "Work on the register failed; nothing was changed by it.")]
    private partial void Failed(Exception e);
}
