using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Mordel.Data.Rows;

namespace Mordel.Data.Audit;

/// <summary>Somebody who works for one branch would have changed what belongs to another.</summary>
public sealed class OtherBranchException(string message) : Exception(message);

/// <summary>
/// Looks at every save whether what it changes is of the asker's branch: whatever a desk changes stands in its history,
/// and the history is what is looked at. Who works for no branch, and the installation's owner, change everything;
/// what belongs to no branch anybody changes; what is done at a test is the tester's.
/// </summary>
public sealed class BranchRight(WhoAsks who) : SaveChangesInterceptor
{
    // Ids in one question.
    private const int AtOnce = 500;

    private (Guid Account, BranchRow? Branch)? known;

    /// <inheritdoc/>
    public override async ValueTask<InterceptionResult<int>> SavingChangesAsync(
        DbContextEventData eventData,
        InterceptionResult<int> result,
        CancellationToken cancellationToken = default
    )
    {
        ArgumentNullException.ThrowIfNull(eventData);
        if (
            eventData.Context is Store store
            && who.AccountId is { } account
            && Touched.By(store, account) is { } touched
            && await BoundTo(store, cancellationToken) is { } own
        )
            await Check(store, own, touched, cancellationToken);

        return result;
    }

    /// <summary>The branch that the asker is bound to; null for who may change everything.</summary>
    public async Task<BranchRow?> BoundTo(Store store, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(store);
        if (who.AccountId is not { } account)
            return null;
        if (known?.Account != account)
            known = (
                account,
                await store
                    .BranchPeople.AsNoTracking()
                    .Where(p =>
                        p.AccountId == account
                        && HasRole(store, account, Roles.Office).Any()
                        && !HasRole(store, account, Roles.Owner).Any()
                    )
                    .Select(p => p.Branch)
                    .FirstOrDefaultAsync(cancel)
            );
        return known.Value.Branch;
    }

    private static IQueryable<Guid> HasRole(Store store, Guid account, string role) =>
        from link in store.UserRoles
        join r in store.Roles on link.RoleId equals r.Id
        where link.UserId == account && r.Name == role
        select r.Id;

    private static async Task Check(Store store, BranchRow own, Touched touched, CancellationToken cancel)
    {
        if (touched.Shared)
            throw new OtherBranchException(
                "Rules, authorities and branches are everybody’s: who works for all branches changes them. "
                    + Nothing(own)
            );
        foreach (var ids in touched.Assemblies.Chunk(AtOnce))
            await Refuse(
                from a in store.Assemblies
                where ids.Contains(a.Id)
                join d in store.BranchDistricts on a.Place!.District equals d.District
                where d.BranchId != own.Id
                orderby a.Tag
                select new Other(a.Tag, d.Branch!.Name)
            );
        foreach (var ids in touched.Places.Chunk(AtOnce))
            await Refuse(
                from p in store.Places
                where ids.Contains(p.Id)
                join d in store.BranchDistricts on p.District equals d.District
                where d.BranchId != own.Id
                orderby p.Name
                select new Other(p.Name, d.Branch!.Name)
            );
        foreach (var districts in (await touched.Districts(store, cancel)).Chunk(AtOnce))
            await Refuse(
                from d in store.BranchDistricts
                where districts.Contains(d.District) && d.BranchId != own.Id
                orderby d.District
                select new Other(d.District, d.Branch!.Name)
            );
        foreach (var ids in touched.People.Chunk(AtOnce))
            await Refuse(
                from p in store.BranchPeople
                where ids.Contains(p.AccountId) && p.BranchId != own.Id
                join u in store.Users on p.AccountId equals u.Id
                orderby u.FullName
                select new Other(u.FullName, p.Branch!.Name)
            );
        foreach (var ids in touched.Kits.Chunk(AtOnce))
            await Refuse(
                from b in store.BranchKits
                where ids.Contains(b.KitId) && b.BranchId != own.Id
                join k in store.Kits on b.KitId equals k.Id
                orderby k.Serial
                select new Other(k.Serial, b.Branch!.Name)
            );

        async Task Refuse(IQueryable<Other> others)
        {
            if (await others.FirstOrDefaultAsync(cancel) is { } other)
                throw new OtherBranchException($"{other.What} belongs to the branch {other.Branch}. {Nothing(own)}");
        }
    }

    private static string Nothing(BranchRow own) => $"You work for {own.Name}. Nothing was changed.";

    private sealed record Other(string What, string Branch);

    // What a save is about.
    private sealed record Touched(
        List<Guid> Assemblies,
        List<Guid> Places,
        List<Guid> People,
        List<Guid> Kits,
        List<AssemblyRow> Fresh,
        bool Shared
    )
    {
        /// <summary>What a save is about; null where it is about nothing that a branch can have.</summary>
        public static Touched? By(Store store, Guid account)
        {
            var changes = store
                .ChangeTracker.Entries<ChangeRow>()
                .Where(e => e.State == EntityState.Added)
                .Select(e => e.Entity)
                .ToLookup(c => c.Thing, c => c.ThingId);
            // A round is its tester's.
            var rounds = store
                .ChangeTracker.Entries<StopRow>()
                .Where(e =>
                    e.State is EntityState.Added or EntityState.Deleted
                    || e.Property(s => s.TesterId).IsModified
                    || e.Property(s => s.Day).IsModified
                    || e.Property(s => s.PlannedAt).IsModified
                )
                .SelectMany(e => new[] { e.Entity.TesterId, e.Property(s => s.TesterId).OriginalValue })
                .Where(t => t != account)
                .ToList();
            if (changes.Count == 0 && rounds.Count == 0)
                return null;
            // So is a kit its keeper's, who gets it and who had it.
            var keepers = store
                .ChangeTracker.Entries<KitRow>()
                .Where(e => e.State == EntityState.Added || e.Property(k => k.KeeperId).IsModified)
                .SelectMany(e => new[] { e.Entity.KeeperId, e.Property(k => k.KeeperId).OriginalValue })
                .OfType<Guid>();
            var assemblies = changes[Things.Assembly].ToHashSet();
            return new(
                [.. assemblies],
                [.. changes[Things.Place].Distinct()],
                [.. changes[Things.Person].Where(p => p != account).Concat(rounds).Concat(keepers).Distinct()],
                [.. changes[Things.Kit].Distinct()],
                [
                    .. store
                        .ChangeTracker.Entries<AssemblyRow>()
                        .Where(e => e.State == EntityState.Added && assemblies.Contains(e.Entity.Id))
                        .Select(e => e.Entity),
                ],
                changes[Things.Authority].Any() || changes[Things.Profile].Any() || changes[Things.Branch].Any()
            );
        }

        /// <summary>Where what it makes will stand.</summary>
        public async Task<IReadOnlyList<string>> Districts(Store store, CancellationToken cancel)
        {
            var known = Fresh.Select(a => a.Place?.District).OfType<string>();
            var unread = Fresh.Where(a => a.Place is null).Select(a => a.PlaceId).Distinct().ToList();
            var read =
                unread.Count == 0
                    ? []
                    : await store.Places.Where(p => unread.Contains(p.Id)).Select(p => p.District).ToListAsync(cancel);
            return [.. known.Concat(read).Distinct()];
        }
    }
}
