using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>Two entries that may be one assembly.</summary>
/// <param name="One">The entry with more behind it.</param>
/// <param name="Other">The other.</param>
/// <param name="Why">Why they may be one.</param>
/// <param name="Tests">Sealed tests of each.</param>
public sealed record Pair(AssemblyRow One, AssemblyRow Other, string Why, (int One, int Other) Tests);

/// <summary>Finds entries that may be the same assembly: serials that are alike, or one place, type and size.</summary>
public sealed class Duplicates(Store store)
{
    private const int Most = 60;

    /// <summary>Pairs that may be one, the surest first.</summary>
    public async Task<IReadOnlyList<Pair>> All(CancellationToken cancel)
    {
        // Along the index of keys, those that stand twice.
        var keys = await store
            .Assemblies.Where(a => a.SerialKey != "" && a.ReplacedOn == null)
            .GroupBy(a => a.SerialKey)
            .Where(g => g.Count() > 1)
            .Select(g => g.Key)
            .Take(Most)
            .ToListAsync(cancel);
        var alike = await Rows(store.Assemblies.Where(a => keys.Contains(a.SerialKey) && a.ReplacedOn == null), cancel);
        var pairs = alike
            .GroupBy(a => a.SerialKey)
            .SelectMany(g => Pairs([.. g]))
            .Where(p => p.One.Type == p.Other.Type)
            .Select(p =>
                (
                    p.One,
                    p.Other,
                    Why: p.One.Serial == p.Other.Serial
                        ? $"The same serial, {p.One.Serial}"
                        : $"Serials that are alike: {p.One.Serial} and {p.Other.Serial}"
                )
            )
            .ToList();
        var places = await store
            .Assemblies.Where(a => a.ReplacedOn == null && a.Serves != "")
            .GroupBy(a => new
            {
                a.PlaceId,
                a.Type,
                a.Serves,
                a.Location,
            })
            .Where(g => g.Count() > 1)
            .Select(g => new
            {
                g.Key.PlaceId,
                g.Key.Type,
                g.Key.Serves,
                g.Key.Location,
            })
            .Take(Most)
            .ToListAsync(cancel);
        var ids = places.Select(p => p.PlaceId).ToList();
        var together = await Rows(store.Assemblies.Where(a => ids.Contains(a.PlaceId) && a.ReplacedOn == null), cancel);
        pairs.AddRange(
            together
                .Where(a =>
                    places.Exists(p =>
                        (p.PlaceId, p.Type, p.Serves, p.Location) == (a.PlaceId, a.Type, a.Serves, a.Location)
                    )
                )
                .GroupBy(a => (a.PlaceId, a.Type, a.Serves, a.Location))
                .SelectMany(g => Pairs([.. g]))
                .Where(p => p.One.SerialKey != p.Other.SerialKey)
                .Select(p => (p.One, p.Other, Why: $"The same place and type, and both feed {p.One.Serves}"))
        );
        List<Guid> all = [.. pairs.SelectMany(p => new[] { p.One.Id, p.Other.Id }).Distinct()];
        var tests = await store
            .Runs.Where(r => all.Contains(r.AssemblyId) && r.SignedAt != null)
            .GroupBy(r => r.AssemblyId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        int Count(AssemblyRow a) => tests.GetValueOrDefault(a.Id);
        return
        [
            .. pairs
                .Select(p => Count(p.Other) > Count(p.One) ? (One: p.Other, Other: p.One, p.Why) : p)
                .Select(p => new Pair(p.One, p.Other, p.Why, (Count(p.One), Count(p.Other))))
                .Take(Most),
        ];
    }

    private static Task<List<AssemblyRow>> Rows(IQueryable<AssemblyRow> rows, CancellationToken cancel) =>
        rows.AsNoTrackingWithIdentityResolution()
            .Include(a => a.Place!)
                .ThenInclude(p => p.Owner)
            .OrderBy(a => a.Tag)
            .ToListAsync(cancel);

    private static IEnumerable<(AssemblyRow One, AssemblyRow Other)> Pairs(AssemblyRow[] rows) =>
        rows.Skip(1).Select(other => (rows[0], other));
}
