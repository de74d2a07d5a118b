using Mordel.Data.Commands.Rounds;
using Mordel.Data.Lists;
using Mordel.Data.Processes;
using Mordel.Planning;

namespace Mordel.Web.Hosting;

/// <summary>Looks for rounds in the background, one proposal after the other.</summary>
public sealed partial class PlanWorker(
    Leases leases,
    IServiceScopeFactory scopes,
    PlanBell bell,
    RunningPlans running,
    ILogger<PlanWorker> log
) : Worker(leases, "rounds")
{
    private static readonly TimeSpan Look = TimeSpan.FromMinutes(5);

    // Seconds: under five for a day of four testers, a minute for a week of a larger firm.
    private const double Least = 1,
        PerStop = 0.08,
        PerPair = 0.0006,
        PerShift = 0.2,
        Most = 60;

    protected override async Task Work(CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
        {
            try
            {
                while (await Next(stopping))
                    continue;
            }
            catch (Exception e) when (e is not OperationCanceledException || !stopping.IsCancellationRequested)
            {
                Failed(e);
            }

            await bell.Wait(Look, stopping);
        }
    }

    // What was being looked for when the server ended is looked for from its beginning.
    private async Task<bool> Next(CancellationToken stopping)
    {
        await using var scope = scopes.CreateAsyncScope();
        var list = scope.ServiceProvider.GetRequiredService<ProposalList>();
        if (await list.Waiting(stopping) is not { } id || await list.Of(id, stopping) is not { } view)
            return false;
        var change = scope.ServiceProvider.GetRequiredService<ChangeProposal>();
        var stop = running.Begin(id, stopping);
        try
        {
            var problem = view.Number > 0 ? view.Problem with { Before = view.Plan } : view.Problem;
            var (stops, shifts) = (problem.Stops.Length, problem.Shifts.Length);
            var seconds = Math.Min(Most, Least + (PerStop * stops) + (PerPair * stops * stops) + (PerShift * shifts));
            var plan = await Task.Run(
                () =>
                    RoundSolver.Solve(
                        problem,
                        PlanEffort.Within(TimeSpan.FromSeconds(seconds)),
                        p => running.Tell(id, p),
                        stop
                    ),
                stopping
            );
            stopping.ThrowIfCancellationRequested();
            await change.Found(id, plan, view.Number > 0 ? "the rest looked for anew" : "found", stopping);
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            Failed(e);
            await change.Failed(
                id,
                "Something went wrong that nobody has foreseen. No round was changed; the log says what.",
                stopping
            );
        }
        finally
        {
            running.End(id);
        }

        return true;
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "Rounds could not be looked for; none was changed.")]
    private partial void Failed(Exception e);
}
