using Microsoft.EntityFrameworkCore;
using Mordel.Core.Repairs;
using Mordel.Data.Commands.Diagnoses;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Commands.Repairs;

/// <summary>
/// Begins a repair on an assembly, or finds the one that is open there: two screens meet in the same job.
/// </summary>
public sealed class BeginRepair(Store store, ModelBuilds builds, Installation installation, TimeProvider clock)
{
    /// <summary>The repair's id.</summary>
    /// <param name="assemblyId">The assembly.</param>
    /// <param name="diagnosisId">The search that led to it; null where there was none.</param>
    /// <param name="by">Who begins it.</param>
    /// <param name="name">Their name.</param>
    /// <param name="cancel">Ends it.</param>
    /// <param name="made">The id that a device gave it, and when it was begun there; null where it begins here.</param>
    public async Task<Reply<Guid>> On(
        Guid assemblyId,
        Guid? diagnosisId,
        Guid by,
        string name,
        CancellationToken cancel,
        (Guid Id, DateTimeOffset At)? made = null
    )
    {
        await using var transaction = await store.BeginWriting(cancel);
        var assembly = await store.Assemblies.AsNoTracking().FirstOrDefaultAsync(a => a.Id == assemblyId, cancel);
        if (assembly is null)
            return Reply<Guid>.NotFound("There is no such assembly.");
        if (assembly.ReplacedOn is not null)
            return Reply<Guid>.Refused("This assembly was replaced: nothing is left to be repaired.");
        if (made is { Id: var known } && await store.Repairs.AnyAsync(r => r.Id == known, cancel))
            return known;
        var open = await store
            .Repairs.Where(r => r.AssemblyId == assemblyId && r.RetestId == null && r.ClosedAt == null)
            .Select(r => (Guid?)r.Id)
            .FirstOrDefaultAsync(cancel);
        if (open is { } there)
            return there;
        var search = diagnosisId is { } id
            ? await store.Diagnoses.FirstOrDefaultAsync(d => d.Id == id && d.AssemblyId == assemblyId, cancel)
            : null;
        if (diagnosisId is not null && search is null)
            return Reply<Guid>.NotFound("There is no such diagnosis of this assembly.");
        var now = made?.At ?? clock.Now();
        if (search is null)
            store.Diagnoses.Add(search = DiagnosisLog.New(assemblyId, name, now));
        var last = await store
            .Runs.Where(r => r.AssemblyId == assemblyId && r.SignedAt != null)
            .OrderByDescending(r => r.SignedAt)
            .Select(r => new { r.Id, r.Outcome })
            .FirstOrDefaultAsync(cancel);
        var sheets = BenchSheets.For(SetupWriter.Facts(assembly).Parts, await builds.Of(assembly, cancel));
        var row = new RepairRow
        {
            Id = made?.Id ?? Guid.CreateVersion7(),
            AssemblyId = assemblyId,
            // What is mended after a test that did not pass belongs to that test.
            RunId = last is { Outcome: not "pass" } ? last.Id : null,
            DiagnosisId = search.Id,
            Sheets = string.Join(' ', sheets.Select(s => s.Id)),
            TurnedDiscHolds = installation.TurnedDiscHolds,
            OpenedAt = now,
            OpenedBy = name,
            OpenedById = by,
            Stage = nameof(RepairStage.Prepare),
        };
        store.Repairs.Add(row);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }
}
