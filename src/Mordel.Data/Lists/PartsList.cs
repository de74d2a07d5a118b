using Microsoft.EntityFrameworkCore;
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

    /// <summary>All parts, by make, model, size and name.</summary>
    public Task<IReadOnlyList<PartLine>> All(Guid holder, CancellationToken cancel) =>
        Lines(store.PartItems, holder, cancel);

    /// <summary>One part; null when there is none.</summary>
    public Task<PartItemRow?> Named(Guid id, CancellationToken cancel) =>
        store.PartItems.AsNoTracking().FirstOrDefaultAsync(i => i.Id == id, cancel);

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
