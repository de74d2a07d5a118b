using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Lists;

/// <summary>A person with roles, certificates and kit.</summary>
/// <param name="Account">The person.</param>
/// <param name="Roles">What he or she may do.</param>
/// <param name="Certificates">The last to end first.</param>
/// <param name="Kit">What is tested with today; null for nothing.</param>
/// <param name="Hours">The working day; null where nobody has said.</param>
public sealed record PersonLine(
    Account Account,
    IReadOnlyList<string> Roles,
    IReadOnlyList<CertificateRow> Certificates,
    KitRow? Kit,
    WorkingHoursRow? Hours
)
{
    /// <summary>The loans by which others' kits are here, that kit's or another's.</summary>
    public IReadOnlyList<LoanRow> Lent { get; init; } = [];

    /// <summary>The branch that the person works for; null where there is none.</summary>
    public Guid? BranchId { get; init; }

    /// <summary>The loans by which own kits are away.</summary>
    public IReadOnlyList<LoanRow> Away { get; init; } = [];
}

/// <summary>Lists the kits and the people of the installation.</summary>
public sealed class KitsAndPeopleList(Store store, TimeProvider clock)
{
    /// <summary>Everybody, by name.</summary>
    public async Task<IReadOnlyList<PersonLine>> People(CancellationToken cancel)
    {
        var people = await store.Users.AsNoTracking().OrderBy(u => u.FullName).ToListAsync(cancel);
        var roles = (
            await (
                from link in store.UserRoles
                join role in store.Roles on link.RoleId equals role.Id
                select new { link.UserId, role.Name }
            ).ToListAsync(cancel)
        ).ToLookup(r => r.UserId, r => r.Name!);
        var certificates = (
            await store.Certificates.AsNoTracking().Include(c => c.Authority).Include(c => c.Paper).ToListAsync(cancel)
        ).ToLookup(c => c.AccountId);
        var today = clock.Today();
        var kits = await KitsInHand.On(store, null, today, cancel);
        var hours = await store.WorkingHours.AsNoTracking().ToDictionaryAsync(h => h.AccountId, cancel);
        var branches = await store.BranchPeople.ToDictionaryAsync(b => b.AccountId, b => (Guid?)b.BranchId, cancel);
        return
        [
            .. from p in people
            let kit = kits.Best(p.Id, today)
            select new PersonLine(
                p,
                [.. roles[p.Id]],
                [.. certificates[p.Id].OrderByDescending(c => c.ValidUntil)],
                kit,
                hours.GetValueOrDefault(p.Id)
            )
            {
                BranchId = branches.GetValueOrDefault(p.Id),
                Lent = [.. kits.Lent(p.Id, today)],
                Away = [.. kits.Away(p.Id, today)],
            },
        ];
    }

    /// <summary>How many days ahead the office is told.</summary>
    public const int SoonDays = 60;

    /// <summary>
    /// What runs out within <see cref="SoonDays"/>, or did so and has no successor: certificates and calibrations of
    /// who tests, the first to end first.
    /// </summary>
    public static IReadOnlyList<(DateOnly Day, string What, Guid? Person)> Ending(
        IEnumerable<PersonLine> people,
        DateOnly today
    )
    {
        ArgumentNullException.ThrowIfNull(people);
        var ending = new List<(DateOnly Day, string What, Guid? Person)>();
        foreach (var p in people)
        {
            ending.AddRange(
                p.Certificates.Where(c =>
                        !p.Certificates.Any(o =>
                            o.ValidUntil > c.ValidUntil && o.AuthorityId == c.AuthorityId && o.Types == c.Types
                        )
                    )
                    .Select(c =>
                        (
                            c.ValidUntil,
                            $"Certificate {c.Number} of {p.Account.FullName}"
                                + (c.Authority is { } only ? $" for {only.Name}" : ""),
                            (Guid?)p.Account.Id
                        )
                    )
            );
            if (p.Kit is { } kit && p.Lent.All(l => l.KitId != kit.Id))
                ending.Add((kit.CalibrationDue, $"Calibration of {kit.Serial}, {p.Account.FullName}", p.Account.Id));
            ending.AddRange(
                p.Away.Select(l =>
                    (
                        l.Kit!.CalibrationDue,
                        $"Calibration of {l.Kit.Serial}, {p.Account.FullName}, lent to {l.To!.FullName}",
                        (Guid?)p.Account.Id
                    )
                )
            );
        }

        return [.. ending.Where(e => e.Day <= today.AddDays(SoonDays)).OrderBy(e => e.Day)];
    }

    /// <summary>The kits that nobody has, by their serial.</summary>
    /// <param name="branch">Only of this branch, by its id; anything else for all.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<IReadOnlyList<KitRow>> PutBy(string? branch, CancellationToken cancel)
    {
        var only = BranchFilter.Id(branch);
        return await store
            .Kits.AsNoTracking()
            .Where(k => k.KeeperId == null)
            .Where(k => only == null || store.BranchKits.Any(b => b.KitId == k.Id && b.BranchId == only))
            .OrderBy(k => k.Serial)
            .ToListAsync(cancel);
    }

    /// <summary>The colours of somebody's own hoses: high, low, bypass; empty while nobody has said.</summary>
    public async Task<string[]> HoseColours(Guid keeperId, CancellationToken cancel)
    {
        var said = await store
            .Kits.AsNoTracking()
            .Where(k => k.KeeperId == keeperId)
            .Select(k => k.HoseColours)
            .FirstOrDefaultAsync(cancel);
        return Hoses(said);
    }

    /// <summary>The colours of a kit's hoses: high, low, bypass; empty while nobody has said.</summary>
    public async Task<string[]> HoseColoursOf(Guid kitId, CancellationToken cancel) =>
        Hoses(
            await store
                .Kits.AsNoTracking()
                .Where(k => k.Id == kitId)
                .Select(k => k.HoseColours)
                .FirstOrDefaultAsync(cancel)
        );

    /// <summary>The colours of high, low and bypass hose; empty words where nobody has said any.</summary>
    public static string[] Hoses(string? said) => said?.Split(' ') is { Length: 3 } colours ? colours : ["", "", ""];

    /// <summary>Everybody who holds a role and comes in.</summary>
    /// <param name="roleName">The role.</param>
    /// <param name="cancel">Ends it.</param>
    /// <param name="branch">Only of this branch, by its id; anything else for all.</param>
    public async Task<IReadOnlyList<Account>> In(string roleName, CancellationToken cancel, string? branch = null)
    {
        var only = BranchFilter.Id(branch);
        return await (
            from user in store.Users.AsNoTracking()
            join link in store.UserRoles on user.Id equals link.UserId
            join role in store.Roles on link.RoleId equals role.Id
            where
                role.Name == roleName
                && user.DismissedAt == null
                && (only == null || store.BranchPeople.Any(p => p.AccountId == user.Id && p.BranchId == only))
            orderby user.FullName
            select user
        ).ToListAsync(cancel);
    }
}
