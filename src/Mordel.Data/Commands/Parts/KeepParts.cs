using Microsoft.EntityFrameworkCore;
using Mordel.Core.Repairs;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Parts;

/// <summary>What an import of parts changed.</summary>
/// <param name="New">Parts that were not there.</param>
/// <param name="Changed">Parts that were there and read otherwise.</param>
/// <param name="Same">Parts that were as the file has them.</param>
public sealed record ImportedParts(int New, int Changed, int Same);

/// <summary>Keeps the list of parts, and what lies where. Stock only ever moves: every count has its reason.</summary>
public sealed class KeepParts(Store store, TimeProvider clock)
{
    private const int MostAtOnce = 999;

    /// <summary>
    /// Takes a list in, all of it or nothing: a part is known by make, model, size and name. Where the store's count
    /// differs it is set by a move that says so.
    /// </summary>
    public async Task<Reply<ImportedParts>> Import(IReadOnlyList<SparePart> parts, string by, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(parts);
        var twice = parts.GroupBy(Key).FirstOrDefault(g => g.Count() > 1);
        if (twice is not null)
            return Reply<ImportedParts>.Refused($"{twice.First().Name} of {twice.First().Make} stands there twice.");
        await using var transaction = await store.BeginWriting(cancel);
        var known = (await store.PartItems.Include(i => i.Moves).ToListAsync(cancel)).ToDictionary(i =>
            (i.Make, i.Model, i.Size, i.Name)
        );
        var (added, changed, same) = (0, 0, 0);
        foreach (var part in parts)
        {
            if (!known.TryGetValue(Key(part), out var item))
            {
                item = New(part);
                store.PartItems.Add(item);
                added++;
            }
            else if (Write(item, part))
            {
                changed++;
            }
            else
            {
                same++;
            }

            var held = item.Moves.Where(m => m.HolderId is null).Sum(m => m.Count);
            if (held != part.InStore)
                store.PartMoves.Add(Move(item.Id, null, part.InStore - held, by, "Counted, from a file"));
        }

        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return new ImportedParts(added, changed, same);
    }

    /// <summary>Takes parts out of the store into a van; a negative count brings them back.</summary>
    public async Task<Reply<int>> ToVan(Guid itemId, Guid holder, int count, string by, CancellationToken cancel)
    {
        if (count == 0 || Math.Abs(count) > MostAtOnce)
            return Reply<int>.Refused($"Say how many, from 1 to {MostAtOnce}.");
        await using var transaction = await store.BeginWriting(cancel);
        if (!await store.PartItems.AnyAsync(i => i.Id == itemId, cancel))
            return Reply<int>.NotFound("There is no such part.");
        var from = count > 0 ? (Guid?)null : holder;
        var there = await store
            .PartMoves.Where(m => m.ItemId == itemId && m.HolderId == from)
            .SumAsync(m => m.Count, cancel);
        if (there < Math.Abs(count))
            return Reply<int>.Refused($"Only {there} lie {(count > 0 ? "in the store" : "in your van")}.");
        store.PartMoves.Add(Move(itemId, null, -count, by, count > 0 ? "Into a van" : "Back from a van"));
        store.PartMoves.Add(Move(itemId, holder, count, by, count > 0 ? "From the store" : "Back to the store"));
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return count;
    }

    /// <summary>Parts came in.</summary>
    public async Task<Reply<int>> Receive(Guid itemId, int count, string by, CancellationToken cancel)
    {
        if (count is < 1 or > MostAtOnce)
            return Reply<int>.Refused($"Say how many came, from 1 to {MostAtOnce}.");
        await using var transaction = await store.BeginWriting(cancel);
        if (!await store.PartItems.AnyAsync(i => i.Id == itemId, cancel))
            return Reply<int>.NotFound("There is no such part.");
        store.PartMoves.Add(Move(itemId, null, count, by, "Came in"));
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return count;
    }

    /// <summary>The row of a part.</summary>
    public static PartItemRow New(SparePart part)
    {
        ArgumentNullException.ThrowIfNull(part);
        var item = new PartItemRow
        {
            Id = Guid.CreateVersion7(),
            Make = part.Make,
            Model = part.Model,
            Size = part.Size,
            Name = part.Name,
            SupplierNumber = part.SupplierNumber,
        };
        Write(item, part);
        return item;
    }

    private static bool Write(PartItemRow item, SparePart part)
    {
        var of = part.Part.Length == 0 ? null : part.Part;
        if (
            (item.Part, item.Price, item.SupplierNumber, item.LeadDays, item.Least)
            == (of, part.Price, part.SupplierNumber, part.LeadDays, part.Least)
        )
            return false;
        (item.Part, item.Price, item.SupplierNumber, item.LeadDays, item.Least) = (
            of,
            part.Price,
            part.SupplierNumber,
            part.LeadDays,
            part.Least
        );
        return true;
    }

    private static (string Make, string Model, string Size, string Name) Key(SparePart part) =>
        (part.Make, part.Model, part.Size, part.Name);

    private PartMoveRow Move(Guid item, Guid? holder, int count, string by, string why) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            ItemId = item,
            HolderId = holder,
            Count = count,
            At = clock.Now(),
            By = by,
            Why = why,
        };
}
