using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands;

/// <summary>What came of a command: a value, or why not in a sentence for the person.</summary>
public readonly record struct Reply<T>(T? Value, string? Refusal)
{
    public static implicit operator Reply<T>(T value) => new(value, null);

    public static Reply<T> Refused(string why) => new(default, why);
}

/// <summary>Begins the run of a stop, or finds the one that has been begun: two tabs meet in the same run.</summary>
public sealed class BeginRun(Store store, ProfileBook profiles, TimeProvider clock)
{
    /// <summary>The run's id.</summary>
    public async Task<Reply<Guid>> For(Guid stopId, Guid testerId, CancellationToken cancel)
    {
        var stop = await store.Stops.Include(s => s.Assembly!).ThenInclude(a => a.Authority).FirstOrDefaultAsync(s => s.Id == stopId && s.TesterId == testerId, cancel);
        if (stop is null) return Reply<Guid>.Refused("There is no such stop in your round.");
        if (await Existing(stopId, cancel) is { } open) return open;
        var kit = await store.Kits.FirstOrDefaultAsync(k => k.KeeperId == testerId, cancel);
        if (kit is null) return Reply<Guid>.Refused("No kit is assigned to you. Ask the office to assign one; the test needs it.");
        var profile = (await profiles.On(stop.Assembly!.Authority!.ProfileId, clock.Today(), cancel))!;
        var procedure = SchoolCatalogue.Named(profile.For(Enum.Parse<AssemblyType>(stop.Assembly.Type))?.ProcedureId);
        if (procedure is null) return Reply<Guid>.Refused($"This version has no procedure yet for a {stop.Assembly.Type} under {profile.Name}.");
        if (Kit.Named(kit.Kind) is not { } plumbing) return Reply<Guid>.Refused($"Kit {kit.Serial} is of a kind that is not known here: {kit.Kind}.");
        if (procedure.Unfit(plumbing) is { } unfit) return Reply<Guid>.Refused(unfit);
        var run = new RunRow
        {
            Id = Guid.CreateVersion7(),
            AssemblyId = stop.AssemblyId,
            StopId = stop.Id,
            TesterId = testerId,
            KitId = kit.Id,
            ProcedureId = procedure.Id,
            ProfileId = profile.Id,
            ProfileVersion = profile.Version,
            StartedAt = clock.GetUtcNow(),
        };
        store.Runs.Add(run);
        try
        {
            await store.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException) when (cancel.IsCancellationRequested is false)
        {
            store.ChangeTracker.Clear();
            return await Existing(stopId, cancel) is { } meanwhile ? meanwhile : Reply<Guid>.Refused("The run could not be begun. Nothing was changed; try again.");
        }

        return run.Id;
    }

    private async Task<Guid?> Existing(Guid stopId, CancellationToken cancel) =>
        await store.Runs.Where(r => r.StopId == stopId).Select(r => (Guid?)r.Id).FirstOrDefaultAsync(cancel);
}
