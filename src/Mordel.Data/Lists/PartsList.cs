using Microsoft.EntityFrameworkCore;
using Mordel.Core.Repairs;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>A spare part with what is there of it.</summary>
/// <param name="Item">The part.</param>
/// <param name="Van">How many lie in the asker's van.</param>
/// <param name="Store">How many lie in the store.</param>
/// <param name="Elsewhere">How many lie in other vans.</param>
public sealed record PartLine(PartItemRow Item, int Van, int Store, int Elsewhere)
{
    /// <summary>Whether the store has fewer than it should.</summary>
    public bool IsLow => Store < Item.Least;

    /// <summary>As lists give it.</summary>
    public SparePart Part =>
        new(
            Item.Make,
            Item.Model,
            Item.Size,
            Item.Name,
            Item.Part ?? "",
            Item.Price,
            Item.SupplierNumber,
            Item.LeadDays,
            Item.Least,
            Store
        );

    /// <summary>How many are to be ordered: up to twice what should lie there.</summary>
    public int ToOrder => IsLow ? (2 * Item.Least) - Store : 0;
}

/// <summary>Reads spare parts and what is there of them.</summary>
public sealed class PartsList(Store store)
{
    private const int Most = 500;

    /// <summary>The parts that fit an assembly, those in the van first.</summary>
    public async Task<IReadOnlyList<PartLine>> Fitting(AssemblyRow assembly, Guid holder, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(assembly);
        var (make, model, size) = (assembly.Make, assembly.Model, assembly.Size);
        var lines = await Lines(
            store.PartItems.Where(i => i.Make == make && i.Model == model && (i.Size == size || i.Size == "")),
            holder,
            cancel
        );
        return [.. lines.OrderByDescending(l => l.Van > 0).ThenByDescending(l => l.Store > 0).ThenBy(l => l.Item.Name)];
    }

    /// <summary>All parts, what is low first, then by make, model, size and name.</summary>
    public async Task<IReadOnlyList<PartLine>> All(Guid holder, CancellationToken cancel) =>
        [.. (await Lines(store.PartItems, holder, cancel)).OrderByDescending(l => l.IsLow)];

    /// <summary>One part; null when there is none.</summary>
    public Task<PartItemRow?> Named(Guid id, CancellationToken cancel) =>
        store.PartItems.AsNoTracking().FirstOrDefaultAsync(i => i.Id == id, cancel);

    /// <summary>What to carry for the stops of a tester's day.</summary>
    /// <param name="testerId">The tester.</param>
    /// <param name="day">The day.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<IReadOnlyList<Carried>> ToCarry(Guid testerId, DateOnly day, CancellationToken cancel)
    {
        var there = await store
            .Stops.AsNoTracking()
            .Where(s => s.TesterId == testerId && s.Day == day && !store.Runs.Any(r => r.StopId == s.Id))
            .OrderBy(s => s.Order)
            .Select(s => s.Assembly!)
            .ToListAsync(cancel);
        return await ToCarry(testerId, there, day, cancel);
    }

    /// <summary>What to carry to these assemblies.</summary>
    /// <param name="testerId">The tester.</param>
    /// <param name="there">The assemblies, in the order of the round.</param>
    /// <param name="day">The day.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<IReadOnlyList<Carried>> ToCarry(
        Guid testerId,
        IReadOnlyCollection<AssemblyRow> there,
        DateOnly day,
        CancellationToken cancel
    )
    {
        if (there.Count == 0)
            return [];
        var wanted = there.Select(a => a.Id).ToList();
        var orders = (
            await store
                .FollowUps.Where(f => wanted.Contains(f.AssemblyId) && f.How == null)
                .Select(f => new { f.AssemblyId, f.Order })
                .ToListAsync(cancel)
        ).ToLookup(f => f.AssemblyId, f => f.Order);
        var makes = there.Select(a => a.Make).Distinct().ToList();
        var lines = await Lines(store.PartItems.Where(i => makes.Contains(i.Make)), testerId, cancel);
        var since = day.AddYears(-3).ToDateTime(default, DateTimeKind.Utc);
        var ids = lines.Select(l => l.Item.Id).ToList();
        var used = await store
            .PartMoves.Where(m => ids.Contains(m.ItemId) && m.Count < 0 && m.At >= since)
            .Where(m => store.RepairEntries.Any(e => e.Id == m.Id))
            .GroupBy(m => m.ItemId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        return CarryProposal.For(
            [
                .. there.Select(a => new CarryStop(
                    a.Tag,
                    a.Make,
                    a.Model,
                    a.Size,
                    a.LastOutcome == "fail",
                    a.ChanceToFail,
                    a.LikelyPart,
                    [.. orders[a.Id]]
                )),
            ],
            [.. lines.Select(l => new CarryPart(l.Item.Id, l.Part, l.Van, used.GetValueOrDefault(l.Item.Id)))]
        );
    }

    private static async Task<IReadOnlyList<PartLine>> Lines(
        IQueryable<PartItemRow> which,
        Guid holder,
        CancellationToken cancel
    )
    {
        var rows = await which
            .AsNoTracking()
            .OrderBy(i => i.Make)
            .ThenBy(i => i.Model)
            .ThenBy(i => i.Size)
            .ThenBy(i => i.Name)
            .Select(i => new
            {
                Item = i,
                Van = i.Moves.Where(m => m.HolderId == holder).Sum(m => m.Count),
                Store = i.Moves.Where(m => m.HolderId == null).Sum(m => m.Count),
                All = i.Moves.Sum(m => m.Count),
            })
            .Take(Most)
            .ToListAsync(cancel);
        return [.. rows.Select(r => new PartLine(r.Item, r.Van, r.Store, r.All - r.Van - r.Store))];
    }
}
