using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Repairs;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Lists;

/// <summary>A repair with its log, played.</summary>
/// <param name="Row">The row, with assembly and place.</param>
/// <param name="Log">Its entries, in order; what cannot be read any more is left out.</param>
/// <param name="State">Where it stands.</param>
public sealed record RepairFile(RepairRow Row, IReadOnlyList<RepairEntry> Log, RepairState State);

/// <summary>Reads repairs.</summary>
public sealed class RepairList(Store store)
{
    private const int Shown = 30;

    /// <summary>A repair; null when there is none.</summary>
    public async Task<RepairFile?> Of(Guid id, CancellationToken cancel)
    {
        var row = await store
            .Repairs.AsNoTracking()
            .Include(r => r.Assembly!)
                .ThenInclude(a => a.Place!)
                    .ThenInclude(p => p.Owner)
            .FirstOrDefaultAsync(r => r.Id == id, cancel);
        if (row is null)
            return null;
        var entries = await store
            .RepairEntries.AsNoTracking()
            .Where(e => e.RepairId == id)
            .OrderBy(e => e.Number)
            .ToListAsync(cancel);
        return Play(row, entries);
    }

    /// <summary>The repairs of an assembly, the last first.</summary>
    public async Task<IReadOnlyList<RepairFile>> OfAssembly(Guid assemblyId, CancellationToken cancel)
    {
        var rows = await store
            .Repairs.AsNoTracking()
            .Include(r => r.Assembly)
            .Include(r => r.Entries)
            .Where(r => r.AssemblyId == assemblyId)
            .OrderByDescending(r => r.OpenedAt)
            .Take(Shown)
            .ToListAsync(cancel);
        return [.. rows.Select(r => Play(r, [.. r.Entries.OrderBy(e => e.Number)]))];
    }

    /// <summary>The repairs that are under way, and those that wait for their test, the oldest first.</summary>
    /// <param name="by">Whose; null for everybody's.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<IReadOnlyList<RepairRow>> Open(Guid? by, CancellationToken cancel) =>
        await store
            .Repairs.AsNoTracking()
            .Include(r => r.Assembly!)
                .ThenInclude(a => a.Place)
            .Where(r => r.RetestId == null && (by == null || r.OpenedById == by))
            .OrderBy(r => r.OpenedAt)
            .Take(Shown)
            .ToListAsync(cancel);

    /// <summary>The follow-ups that are open, the most urgent first.</summary>
    /// <param name="by">Of whose repairs; null for everybody's.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<IReadOnlyList<FollowUpRow>> FollowUps(Guid? by, CancellationToken cancel) =>
        await store
            .FollowUps.AsNoTracking()
            .Include(f => f.Assembly!)
                .ThenInclude(a => a.Place)
            .Where(f =>
                f.How == null && (by == null || store.Repairs.Any(r => r.Id == f.RepairId && r.OpenedById == by))
            )
            .OrderBy(f => f.Due)
            .Take(Shown)
            .ToListAsync(cancel);

    /// <summary>The assemblies that will likely fail at their next test, the likeliest first.</summary>
    public async Task<IReadOnlyList<AssemblyRow>> MostLikelyToFail(CancellationToken cancel) =>
        await store
            .Assemblies.AsNoTracking()
            .Include(a => a.Place)
            .Where(a => a.ChanceToFail >= LikelyToFail.Percent && a.ReplacedOn == null)
            .OrderByDescending(a => a.ChanceToFail)
            .Take(Shown)
            .ToListAsync(cancel);

    /// <summary>A repair played from its rows.</summary>
    public static RepairFile Play(RepairRow row, IReadOnlyList<RepairEntryRow> entries)
    {
        ArgumentNullException.ThrowIfNull(row);
        ArgumentNullException.ThrowIfNull(entries);
        var log = new List<RepairEntry>();
        foreach (var entry in entries)
            if (RepairEntryFormat.Read(entry.Json) is { } body)
                log.Add(new(new(entry.Id), entry.At, entry.By, body));
        return new(row, log, RepairReplay.Run(PlanOf(row), log));
    }

    /// <summary>What a repair is made with; its assembly is loaded.</summary>
    public static RepairPlan PlanOf(RepairRow row)
    {
        ArgumentNullException.ThrowIfNull(row);
        return new(
            SetupWriter.Facts(row.Assembly!).Parts,
            [.. row.Sheets.Split(' ').Select(BenchSheets.Named).OfType<BenchSheet>()]
        )
        {
            TurnedDiscHolds = row.TurnedDiscHolds,
        };
    }
}
