using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Lists;

/// <summary>Reads stops with how far they are; what was signed is checked.</summary>
public sealed class StopLines(Store store, SealReader seals, ConsentList consents)
{
    /// <summary>The stops, in the order of their rounds.</summary>
    public async Task<IReadOnlyList<StopLine>> Of(IQueryable<StopRow> which, CancellationToken cancel)
    {
        var stops = await which
            .AsNoTracking()
            .Include(s => s.Assembly!)
                .ThenInclude(a => a.Place!)
                    .ThenInclude(p => p.Owner)
            .Include(s => s.Assembly!)
                .ThenInclude(a => a.Authority)
            .OrderBy(s => s.Order)
            .ToListAsync(cancel);
        var ids = stops.Select(s => s.Id).ToList();
        var runs = await store
            .Runs.AsNoTracking()
            .Where(r => r.StopId != null && ids.Contains(r.StopId.Value))
            .Select(r => new
            {
                r.Id,
                r.StopId,
                r.Outcome,
                r.NotEntered,
                Sealed = r.SignedAt != null || r.Seals.Count > 0,
            })
            .ToListAsync(cancel);
        var broken = await seals.BrokenAmong([.. runs.Where(r => r.Sealed).Select(r => r.Id)], cancel);
        var said = await consents.Latest([.. stops.Select(s => s.AssemblyId)], cancel);
        return
        [
            .. stops.Select(s =>
                runs.Find(r => r.StopId == s.Id) is not { } run
                    ? new StopLine(s, StopState.Open, null, null, 0) { Consent = said.GetValueOrDefault(s.AssemblyId) }
                : !run.Sealed ? new(s, StopState.Running, run.Id, null, 0)
                : new(
                    s,
                    StopState.Signed,
                    run.Id,
                    broken.ContainsKey(run.Id) || run.Outcome is null ? SealedReport.BrokenOutcome : run.Outcome,
                    run.NotEntered
                )
            ),
        ];
    }
}

/// <summary>Finds one stop for somebody who may see it.</summary>
public sealed class FindStop(Store store, StopLines lines)
{
    /// <summary>The stop, or null when there is none or it is another's.</summary>
    public async Task<StopLine?> For(Guid stopId, Asker asker, CancellationToken cancel) =>
        await lines.Of(store.Stops.Where(s => s.Id == stopId && (asker.SeesAll || s.TesterId == asker.Id)), cancel)
            is [var line]
            ? line
            : null;
}
