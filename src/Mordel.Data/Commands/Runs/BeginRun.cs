using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Commands.Runs;

/// <summary>
/// Begins the run of a stop, or finds the one that has been begun: two tabs meet in the same run. What it is made with
/// is written down and kept with it.
/// </summary>
public sealed class BeginRun(
    Store store,
    ProfileList profiles,
    ConsentList consents,
    SetupReader setups,
    TimeProvider clock
)
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
        var row = await Prepare(Guid.CreateVersion7(), stop, register, repair, cancel);
        if (row.Why is not null)
            return row.NotDoneFor<Guid>();
        store.Runs.Add(row.Value!);
        await store.SaveChangesAsync(cancel);
        return row.Value!.Id;
    }

    private async Task<Reply<RunRow>> Prepare(
        Guid id,
        StopRow stop,
        Register register,
        RepairFacts? repair,
        CancellationToken cancel
    )
    {
        var (assembly, kit) = (register.Assembly, register.Kit);
        if (await profiles.On(assembly.Authority!.ProfileId, clock.Today(), cancel) is not { } profile)
            return Reply<RunRow>.Refused(
                $"The rules {assembly.Authority.ProfileId} of {assembly.Authority.Name} cannot be read. The office "
                    + $"must put a version that can be read into force."
            );
        if (SchoolCatalogue.Named(profile.For(AssemblyTypes.Parse(assembly.Type))?.ProcedureId) is not { } procedure)
            return Reply<RunRow>.Refused(
                $"This version has no procedure yet for a {assembly.Type} under {profile.Name}."
            );
        if (Kit.Named(kit.Kind) is not { } plumbing)
            return Reply<RunRow>.Refused($"Kit {kit.Serial} is of a kind that is not known here: {kit.Kind}.");
        if (procedure.Unfit(plumbing) is { } unfit)
            return Reply<RunRow>.Refused(unfit);
        var now = clock.Now();
        var setup = SetupWriter.Write(
            id,
            stop.Id,
            await ReportNumbers.Next(store, assembly.Tag, now, clock.LocalTimeZone, cancel),
            now,
            register,
            profile,
            SetupWriter.Sheet(assembly, kit, procedure, profile, stop.IsSeasonal),
            clock.Today()
        ) with
        {
            Repair = repair,
            Consent = await Consent(stop, cancel),
        };
        if (SetupWriter.WhyNot(setup) is { } why)
            return Reply<RunRow>.Refused(why);
        await setups.Keep(setup, cancel);
        return Row(setup);
    }

    // What was agreed for this visit, as it stands.
    private async Task<GivenConsent?> Consent(StopRow stop, CancellationToken cancel) =>
        (await consents.Latest([stop.AssemblyId], cancel)).GetValueOrDefault(stop.AssemblyId)
            is { Yes: true, Day: { } day } yes
        && ConsentList.Holds(yes, stop)
            ? new(yes.Name, yes.At, day, yes.From, yes.Until)
            : null;

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
