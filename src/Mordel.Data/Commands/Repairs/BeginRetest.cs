using Microsoft.EntityFrameworkCore;
using Mordel.Core.Repairs;
using Mordel.Core.Runs;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Commands.Repairs;

/// <summary>
/// Begins the whole test that follows a repair: a stop of today in the tester's round, and a run whose report carries
/// what was read before, what was done, and what is read now.
/// </summary>
public sealed class BeginRetest(Store store, BeginRun begin, SealReader seals, TimeProvider clock)
{
    /// <summary>The run's id; the one that has been begun, where there is one.</summary>
    /// <param name="repairId">The repair.</param>
    /// <param name="testerId">Who tests.</param>
    /// <param name="unsigned">Whether it is begun although it could not be signed as things stand.</param>
    /// <param name="cancel">Ends the wait.</param>
    public Task<Reply<Guid>> After(Guid repairId, Guid testerId, bool unsigned, CancellationToken cancel) =>
        Make(
            repairId,
            testerId,
            clock.Today(),
            (stop, facts) => begin.Retest(stop, testerId, facts, unsigned, cancel),
            cancel
        );

    /// <summary>Takes in the one that was begun on a device without a signal.</summary>
    /// <param name="repairId">The repair.</param>
    /// <param name="setup">What it was begun with there.</param>
    /// <param name="cancel">Ends the wait.</param>
    public Task<Reply<Guid>> Brought(Guid repairId, RunSetup setup, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return Make(
            repairId,
            setup.Tester.Id,
            clock.DayOf(setup.BegunAt),
            async (stop, facts) =>
                await begin.Keep(
                    setup with
                    {
                        Stop = stop.Id,
                        Repair = facts,
                        Number = await ReportNumbers.Next(
                            store,
                            setup.Assembly.Tag,
                            setup.BegunAt,
                            clock.LocalTimeZone,
                            cancel
                        ),
                    },
                    cancel
                ),
            cancel
        );
    }

    private async Task<Reply<Guid>> Make(
        Guid repairId,
        Guid testerId,
        DateOnly day,
        Func<StopRow, RepairFacts, Task<Reply<Guid>>> kept,
        CancellationToken cancel
    )
    {
        await using var transaction = await store.BeginWriting(cancel);
        var row = await store
            .Repairs.Include(r => r.Assembly)
            .Include(r => r.Entries)
            .FirstOrDefaultAsync(r => r.Id == repairId, cancel);
        if (row is null)
            return Reply<Guid>.NotFound("There is no such repair.");
        if (row.RetestId is { } begun)
            return begun;
        var file = RepairList.Play(row, [.. row.Entries.OrderBy(e => e.Number)]);
        if (!file.State.IsClosedUp)
            return Reply<Guid>.Refused("The body is not closed and under pressure yet: finish what stands first.");
        var run = await kept(await Stop(row, testerId, day, cancel), await Facts(file, cancel));
        if (run.Why is not null)
            return run;
        row.RetestId = run.Value;
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return run;
    }

    // One that stands in the round of that day and has no run yet is the stop of this test.
    private async Task<StopRow> Stop(RepairRow row, Guid testerId, DateOnly today, CancellationToken cancel)
    {
        var stops = await store.Stops.Where(s => s.TesterId == testerId && s.Day == today).ToListAsync(cancel);
        var taken = await store
            .Runs.Where(r => r.StopId != null && r.TesterId == testerId)
            .Select(r => r.StopId)
            .ToListAsync(cancel);
        if (stops.Find(s => s.AssemblyId == row.AssemblyId && !taken.Contains(s.Id)) is { } planned)
            return planned;
        var now = TimeOnly.FromDateTime(TimeZoneInfo.ConvertTime(clock.GetUtcNow(), clock.LocalTimeZone).DateTime);
        var stop = new StopRow
        {
            Id = Guid.CreateVersion7(),
            Day = today,
            TesterId = testerId,
            Order = stops.Count + 1,
            AssemblyId = row.AssemblyId,
            WindowFrom = new(now.Hour, now.Minute),
            WindowUntil = new(Math.Min(now.Hour + 1, 23), 59),
            Minutes = 25,
            Special = "Test after the repair",
        };
        store.Stops.Add(stop);
        await store.SaveChangesAsync(cancel);
        return stop;
    }

    /// <summary>What a test after a repair is made with of it.</summary>
    public async Task<RepairFacts> Facts(RepairFile file, CancellationToken cancel)
    {
        var (row, state) = (file.Row, file.State);
        var failed = row.RunId is { } id ? await seals.Of(id, cancel) : null;
        return new()
        {
            Repair = row.Id,
            BegunAt = row.OpenedAt.ToMillisecond(),
            ClosedAt = (row.ClosedAt ?? clock.Now()).ToMillisecond(),
            By = string.Join(", ", file.Log.Select(e => e.By).Distinct()),
            Permission = state.Permission,
            Failed = failed is { Holds: true, Run: { } run }
                ? new(
                    run.Report.Number,
                    run.Signing.At.ToMillisecond(),
                    run.Report.Outcome,
                    [.. run.Report.Items.Select(i => new InitialReading(i.Name, i.Value, i.Limit, i.Result))]
                )
                : null,
            Found = [.. RepairSummary.Found(state)],
            Done = [.. RepairSummary.Done(state)],
            Used = [.. RepairSummary.Used(state)],
            Stopgaps = [.. state.FollowUps.Where(f => f.How is null).Select(RepairSummary.Stopgap)],
            Notes = state.Notes,
            Photos = [.. state.Photos.Select(p => new RepairPhoto(p.Photo, p.Of))],
        };
    }
}
