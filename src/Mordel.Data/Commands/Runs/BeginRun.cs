using Microsoft.EntityFrameworkCore;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Commands.Runs;

/// <summary>
/// Begins the run of a stop, or finds the one that has been begun: two tabs meet in the same run. What it is made with
/// is written down and kept with it.
/// </summary>
public sealed class BeginRun(Store store, MakeSetup make, SetupReader setups, TimeProvider clock)
{
    /// <summary>The run's id.</summary>
    /// <param name="stopId">The stop.</param>
    /// <param name="testerId">Who begins.</param>
    /// <param name="unsigned">Whether it is begun although it could not be signed as things stand: the office may add
    /// what lacks before the end.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> For(Guid stopId, Guid testerId, bool unsigned, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        var stop = await store
            .Stops.AsNoTracking()
            .FirstOrDefaultAsync(s => s.Id == stopId && s.TesterId == testerId, cancel);
        if (stop is null)
            return Reply<Guid>.NotFound("There is no such stop in your round.");
        if (
            await store.Runs.Where(r => r.StopId == stopId).Select(r => (Guid?)r.Id).FirstOrDefaultAsync(cancel) is
            { } open
        )
            return open;
        var begun = await Begin(stop, testerId, null, unsigned, cancel);
        if (begun.Why is null)
            await transaction.CommitAsync(cancel);
        return begun;
    }

    /// <summary>Begins the test that follows a repair, inside the caller's transaction.</summary>
    /// <param name="stop">The stop it is made at; it has no run yet.</param>
    /// <param name="testerId">Who makes it.</param>
    /// <param name="repair">What was done before it.</param>
    /// <param name="unsigned">Whether it is begun although it could not be signed as things stand.</param>
    /// <param name="cancel">Ends it.</param>
    public Task<Reply<Guid>> Retest(
        StopRow stop,
        Guid testerId,
        RepairFacts repair,
        bool unsigned,
        CancellationToken cancel
    ) => Begin(stop, testerId, repair, unsigned, cancel);

    private async Task<Reply<Guid>> Begin(
        StopRow stop,
        Guid testerId,
        RepairFacts? repair,
        bool unsigned,
        CancellationToken cancel
    )
    {
        var inHand = await KitsInHand.On(store, [testerId], clock.Today(), cancel);
        if (inHand.Best(testerId, clock.Today())?.Id is not { } kit)
            return Reply<Guid>.Refused("No kit is assigned to you. Ask the office to assign one; the test needs it.");
        var register = (await SetupWriter.Of(store, stop.AssemblyId, kit, testerId, cancel))!;
        if (!unsigned && SetupWriter.Right(register, clock.Today()).Why is { } why)
            return Reply<Guid>.Refused($"{why} It could not be signed.");
        var now = clock.Now();
        var number = await ReportNumbers.Next(store, register.Assembly.Tag, now, clock.LocalTimeZone, cancel);
        var made = await make.For(Guid.CreateVersion7(), stop, register, number, now, clock.Today(), cancel);
        return made.Why is null ? await Keep(made.Value! with { Repair = repair }, cancel) : made.NotDoneFor<Guid>();
    }

    /// <summary>Keeps a run that begins with a setup, inside the caller's transaction.</summary>
    public async Task<Reply<Guid>> Keep(RunSetup setup, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(setup);
        if (SetupWriter.WhyNot(setup) is { } why)
            return Reply<Guid>.Refused(why);
        await setups.Keep(setup, cancel);
        store.Runs.Add(Row(setup));
        await store.SaveChangesAsync(cancel);
        return setup.Run;
    }

    /// <summary>The row of a run that is begun with a setup.</summary>
    public static RunRow Row(RunSetup setup)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return new()
        {
            Id = setup.Run,
            AssemblyId = setup.Assembly.Id,
            StopId = setup.Stop,
            TesterId = setup.Tester.Id,
            KitId = setup.Kit.Id,
            ProcedureId = setup.Sheet.Procedure.Id,
            ProfileId = setup.Profile.Id,
            ProfileVersion = setup.Profile.Version,
            StartedAt = setup.BegunAt,
            Number = setup.Number,
            Setup = RunSetupFormat.Write(setup),
        };
    }
}

/// <summary>
/// Numbers of reports: the tag and the minute in which the run began, as people there read the clock.
/// </summary>
public static class ReportNumbers
{
    /// <summary>
    /// A number that no report has yet: <c>F-1010/20310402-0912</c>, with a count behind it where that is taken.
    /// </summary>
    public static async Task<string> Next(
        Store store,
        string tag,
        DateTimeOffset at,
        TimeZoneInfo zone,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(store);
        var number = $"{tag}/{TimeZoneInfo.ConvertTime(at, zone):yyyyMMdd-HHmm}";
        for (var count = 1; ; count++)
        {
            var fields = count == 1 ? number : $"{number}-{count}";
            if (
                !store.Runs.Local.Any(r => r.Number == fields)
                && !await store.Runs.AnyAsync(r => r.Number == fields, cancel)
            )
                return fields;
        }
    }
}
