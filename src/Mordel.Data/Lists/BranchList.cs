using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>A branch with what belongs to it.</summary>
/// <param name="Branch">The branch.</param>
/// <param name="People">Who works for it, by name.</param>
/// <param name="Kits">Its kits, by serial.</param>
/// <param name="Districts">The districts that it looks after.</param>
/// <param name="Assemblies">How many assemblies stand in them.</param>
/// <param name="Overdue">How many of those are overdue.</param>
public sealed record BranchLine(
    BranchRow Branch,
    IReadOnlyList<Account> People,
    IReadOnlyList<KitRow> Kits,
    IReadOnlyList<string> Districts,
    int Assemblies,
    int Overdue
);

/// <summary>What a branch may be made of, and which branch has it now.</summary>
/// <param name="Id">Its id, or its name where that is one.</param>
/// <param name="Says">What it is called.</param>
/// <param name="Branch">The branch that has it; null for none.</param>
public sealed record BranchPart(string Id, string Says, Guid? Branch);

/// <summary>The branch that something belongs to.</summary>
/// <param name="Id">The branch.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Own">The branch that the asker works for; null for who works for all.</param>
public sealed record BranchOf(Guid Id, string Name, Guid? Own);

/// <summary>Lists branches: what each has, and what could be one's.</summary>
public sealed class BranchList(Store store, TimeProvider clock)
{
    /// <summary>The most districts that are offered.</summary>
    public const int MostDistricts = 2_000;

    /// <summary>All of them, by name.</summary>
    public async Task<IReadOnlyList<BranchLine>> All(CancellationToken cancel)
    {
        var branches = await store.Branches.AsNoTracking().OrderBy(b => b.Name).ToListAsync(cancel);
        var people = (
            await (
                from p in store.BranchPeople
                join u in store.Users on p.AccountId equals u.Id
                where u.DismissedAt == null
                orderby u.FullName
                select new { p.BranchId, User = u }
            )
                .AsNoTracking()
                .ToListAsync(cancel)
        ).ToLookup(p => p.BranchId, p => p.User);
        var kits = (
            await (
                from b in store.BranchKits
                join k in store.Kits on b.KitId equals k.Id
                orderby k.Serial
                select new { b.BranchId, Kit = k }
            )
                .AsNoTracking()
                .ToListAsync(cancel)
        ).ToLookup(k => k.BranchId, k => k.Kit);
        var districts = (
            await store.BranchDistricts.AsNoTracking().OrderBy(d => d.District).ToListAsync(cancel)
        ).ToLookup(d => d.BranchId, d => d.District);
        var today = clock.Today();
        var counts = await (
            from a in store.Assemblies
            where a.ReplacedOn == null
            join d in store.BranchDistricts on a.Place!.District equals d.District
            group a by d.BranchId into g
            select new
            {
                g.Key,
                All = g.Count(),
                Overdue = g.Sum(a => a.NextDue < today ? 1 : 0),
            }
        ).ToDictionaryAsync(g => g.Key, cancel);
        return
        [
            .. branches.Select(b => new BranchLine(
                b,
                [.. people[b.Id]],
                [.. kits[b.Id]],
                [.. districts[b.Id]],
                counts.GetValueOrDefault(b.Id)?.All ?? 0,
                counts.GetValueOrDefault(b.Id)?.Overdue ?? 0
            )),
        ];
    }

    /// <summary>The districts, people and kits that there are, each with the branch that has it.</summary>
    public async Task<(
        IReadOnlyList<BranchPart> Districts,
        IReadOnlyList<BranchPart> People,
        IReadOnlyList<BranchPart> Kits
    )> Parts(CancellationToken cancel)
    {
        var districts = await store
            .Places.Where(p => p.District != "")
            .Select(p => p.District)
            .Union(store.BranchDistricts.Select(d => d.District))
            .OrderBy(d => d)
            .Take(MostDistricts)
            .ToListAsync(cancel);
        var owned = await store.BranchDistricts.ToDictionaryAsync(d => d.District, d => d.BranchId, cancel);
        var people = await (
            from u in store.Users
            where u.DismissedAt == null
            orderby u.FullName
            select new
            {
                u.Id,
                u.FullName,
                Branch = store
                    .BranchPeople.Where(p => p.AccountId == u.Id)
                    .Select(p => (Guid?)p.BranchId)
                    .FirstOrDefault(),
            }
        ).ToListAsync(cancel);
        var kits = await (
            from k in store.Kits
            orderby k.Serial
            select new
            {
                k.Id,
                k.Serial,
                k.Kind,
                Keeper = store.Users.Where(u => u.Id == k.KeeperId).Select(u => u.FullName).FirstOrDefault(),
                Branch = store.BranchKits.Where(b => b.KitId == k.Id).Select(b => (Guid?)b.BranchId).FirstOrDefault(),
            }
        ).ToListAsync(cancel);
        return (
            [.. districts.Select(d => new BranchPart(d, d, owned.TryGetValue(d, out var of) ? of : null))],
            [.. people.Select(p => new BranchPart($"{p.Id}", p.FullName, p.Branch))],
            [.. kits.Select(k => new BranchPart($"{k.Id}", $"{k.Serial}, {k.Keeper ?? k.Kind}", k.Branch))]
        );
    }

    /// <summary>The branches, and the asker's own among them.</summary>
    public async Task<BranchFilter> For(Guid who, CancellationToken cancel)
    {
        var all = await store
            .Branches.OrderBy(b => b.Name)
            .Select(b => new
            {
                b.Id,
                b.Name,
                IsOwn = store.BranchPeople.Any(p => p.AccountId == who && p.BranchId == b.Id),
            })
            .ToListAsync(cancel);
        return BranchFilter.Of([.. all.Select(b => (b.Id, b.Name, b.IsOwn))]);
    }

    /// <summary>The branch that has an assembly; null where none looks after its district.</summary>
    /// <param name="id">The assembly.</param>
    /// <param name="who">Who asks.</param>
    /// <param name="cancel">Ends it.</param>
    public Task<BranchOf?> OfAssembly(Guid id, Guid who, CancellationToken cancel) =>
        Beside(
            from a in store.Assemblies
            where a.Id == id
            join d in store.BranchDistricts on a.Place!.District equals d.District
            select d.Branch,
            who,
            cancel
        );

    /// <summary>The branch that somebody works for; null where there is none.</summary>
    public Task<BranchOf?> OfPerson(Guid id, Guid who, CancellationToken cancel) =>
        Beside(store.BranchPeople.Where(p => p.AccountId == id).Select(p => p.Branch!), who, cancel);

    /// <summary>The branch that has a kit; null where there is none.</summary>
    public Task<BranchOf?> OfKit(Guid id, Guid who, CancellationToken cancel) =>
        Beside(store.BranchKits.Where(k => k.KitId == id).Select(k => k.Branch!), who, cancel);

    private Task<BranchOf?> Beside(IQueryable<BranchRow?> branch, Guid who, CancellationToken cancel) =>
        branch
            .Select(b => new BranchOf(
                b!.Id,
                b.Name,
                store.BranchPeople.Where(p => p.AccountId == who).Select(p => (Guid?)p.BranchId).FirstOrDefault()
            ))
            .FirstOrDefaultAsync(cancel);
}
