using System.Linq.Expressions;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Data.Commands.Repairs;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Field;

/// <summary>A run that was begun on a device without a signal, as it comes home.</summary>
/// <param name="Run">Its id.</param>
/// <param name="Setup">What it was begun with, as it was given out.</param>
/// <param name="Pass">The pass that came with it.</param>
/// <param name="BegunAt">When it was begun, by the clock of the device.</param>
/// <param name="Repair">The repair that it follows; null where it follows none.</param>
public sealed record BroughtRun(Guid Run, string Setup, string Pass, DateTimeOffset BegunAt, Guid? Repair);

/// <summary>Where the entries of a brought run go.</summary>
/// <param name="Run">The run here: the same, or one that was begun at the same stop meanwhile.</param>
/// <param name="Says">What the tester is told; null where nothing is odd.</param>
public sealed record BegunRun(Guid Run, string? Says);

/// <summary>
/// Takes in runs that were begun without a signal. What was given out is known by its pass, and the run is made with
/// exactly that; two devices that began the same stop have one run.
/// </summary>
public sealed class BringRun(Store store, RoundPasses passes, BeginRun begin, BeginRetest retest, TimeProvider clock)
{
    private const string NotOurs =
        "This test was not begun with what this installation gave out to you. What was entered stays on the device; "
        + "tell the office.";

    /// <summary>Takes one in; brought once more it is the same.</summary>
    public async Task<Reply<BegunRun>> Take(BroughtRun brought, Guid testerId, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(brought);
        if (
            passes.Read(brought.Pass) is not { } pass
            || pass.Tester != testerId
            || pass.Setup != ContentHash.Compute(brought.Setup)
            || (brought.Repair is null && brought.Run != pass.Run)
            || RunSetupFormat.Read(brought.Setup, null, out _) is not { } given
            || given.Tester.Id != testerId
        )
            return Reply<BegunRun>.Refused(NotOurs);
        if (brought.Repair is not { } repair)
            return await Keep(brought, pass, given, cancel);
        // A test after a repair has a transaction with the repair.
        var begun = await retest.Brought(
            repair,
            given with
            {
                Run = brought.Run,
                BegunAt = BegunAt(brought.BegunAt, pass.MadeAt),
            },
            cancel
        );
        return begun.Why is null ? new BegunRun(begun.Value, null) : begun.NotDoneFor<BegunRun>();
    }

    private async Task<Reply<BegunRun>> Keep(
        BroughtRun brought,
        RoundPass pass,
        RunSetup given,
        CancellationToken cancel
    )
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await TesterOf(r => r.Id == brought.Run, cancel) is { } known)
            return known.Tester == pass.Tester ? new BegunRun(brought.Run, null) : Reply<BegunRun>.Refused(NotOurs);
        var stop = await store.Stops.AsNoTracking().FirstOrDefaultAsync(s => s.Id == pass.Stop, cancel);
        var isMine = stop?.TesterId == pass.Tester;
        if (isMine && await TesterOf(r => r.StopId == pass.Stop && r.TesterId == pass.Tester, cancel) is { } there)
            return new BegunRun(there.Run, "This stop was begun on another device too: both are one log now.");
        if (!await store.Assemblies.AnyAsync(a => a.Id == given.Assembly.Id, cancel))
            return Reply<BegunRun>.Refused(
                $"{given.Assembly.Tag} is not in the register any more. What was entered stays on the device; tell "
                    + "the office."
            );
        var at = BegunAt(brought.BegunAt, pass.MadeAt);
        var kept = await begin.Keep(
            given with
            {
                Run = brought.Run,
                Stop = isMine ? pass.Stop : null,
                BegunAt = at,
                Number = await ReportNumbers.Next(store, given.Assembly.Tag, at, clock.LocalTimeZone, cancel),
            },
            cancel
        );
        if (kept.Why is not null)
            return kept.NotDoneFor<BegunRun>();
        await transaction.CommitAsync(cancel);
        return new BegunRun(
            kept.Value,
            isMine
                ? null
                : "This stop was given to somebody else meanwhile, or taken out of the round. Your test is kept, "
                    + "beside the round."
        );
    }

    private sealed record Known(Guid Run, Guid Tester);

    private async Task<Known?> TesterOf(Expression<Func<RunRow, bool>> which, CancellationToken cancel) =>
        await store
            .Runs.AsNoTracking()
            .Where(which)
            .Select(r => new Known(r.Id, r.TesterId))
            .FirstOrDefaultAsync(cancel);

    // A clock that says what cannot be is set to what can: not before it was given out, not after now.
    private DateTimeOffset BegunAt(DateTimeOffset said, DateTimeOffset given)
    {
        var now = clock.Now();
        return said < given - LogTimes.Slack ? given.ToMillisecond()
            : said > now ? now
            : said.ToMillisecond();
    }
}
