using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>Everything that is kept about somebody with an account, for themselves: as one document.</summary>
public sealed class AboutPerson(Store store, TimeProvider clock)
{
    private const int MostLines = 100_000;

    /// <summary>All of it, by its parts; null where there is no such person. No password, no key.</summary>
    public async Task<IReadOnlyDictionary<string, object>?> All(Guid id, CancellationToken cancel)
    {
        if (await store.Users.AsNoTracking().FirstOrDefaultAsync(u => u.Id == id, cancel) is not { } account)
            return null;
        var roles =
            from link in store.UserRoles
            join role in store.Roles on link.RoleId equals role.Id
            where link.UserId == id
            select role.Name;
        return new Dictionary<string, object>
        {
            ["format"] = "mordel.person/1",
            ["writtenAt"] = clock.Now(),
            ["person"] = new
            {
                account.Id,
                account.FullName,
                SignsInAs = account.UserName,
                Mail = account.Email,
                Phone = account.PhoneNumber,
                HasPassword = account.PasswordHash is not null,
                AsksForCodes = account.TwoFactorEnabled,
                account.DismissedAt,
                account.ForgottenAt,
                Roles = await roles.ToListAsync(cancel),
                Branch = await store
                    .BranchPeople.Where(p => p.AccountId == id)
                    .Select(p => p.Branch!.Name)
                    .FirstOrDefaultAsync(cancel),
            },
            ["certificates"] = await store
                .Certificates.Where(c => c.AccountId == id)
                .Select(c => new
                {
                    c.Number,
                    c.Types,
                    c.Class,
                    c.IssuedBy,
                    c.ValidFrom,
                    c.ValidUntil,
                    Paper = c.Paper!.Name,
                })
                .ToListAsync(cancel),
            ["kits"] = await store
                .Kits.Where(k => k.KeeperId == id)
                .Select(k => new
                {
                    k.Serial,
                    k.Make,
                    k.Model,
                    k.HoseColours,
                })
                .ToListAsync(cancel),
            ["workingHours"] = await store
                .WorkingHours.AsNoTracking()
                .Where(h => h.AccountId == id)
                .ToListAsync(cancel),
            ["sessions"] = await store
                .Sessions.Where(s => s.AccountId == id)
                .OrderBy(s => s.At)
                .Select(s => new
                {
                    s.At,
                    s.LastSeenAt,
                    s.EndedAt,
                    s.From,
                    s.Device,
                    s.How,
                })
                .ToListAsync(cancel),
            ["keysForPrograms"] = await store
                .Tokens.Where(t => t.AccountId == id)
                .Select(t => new
                {
                    t.Name,
                    t.Scope,
                    t.CreatedAt,
                    t.ExpiresAt,
                    t.RevokedAt,
                    t.LastUsedAt,
                })
                .ToListAsync(cancel),
            ["attempts"] = await store
                .Attempts.Where(a => a.AccountId == id)
                .OrderBy(a => a.HandedInAt)
                .Select(a => new
                {
                    a.ProcedureId,
                    a.HandedInAt,
                    a.Seconds,
                    a.Percent,
                    a.Passed,
                })
                .ToListAsync(cancel),
            ["runs"] = await store
                .Runs.Where(r => r.TesterId == id)
                .OrderBy(r => r.StartedAt)
                .Select(r => new
                {
                    r.Number,
                    r.StartedAt,
                    r.SignedAt,
                })
                .Take(MostLines)
                .ToListAsync(cancel),
            ["changes"] = await store
                .Changes.AsNoTracking()
                .Where(c => c.Thing == Things.Person && c.ThingId == id)
                .OrderBy(c => c.At)
                .Select(c => new
                {
                    c.At,
                    c.By,
                    c.Field,
                    c.From,
                    c.To,
                })
                .ToListAsync(cancel),
            ["log"] = await store
                .Audit.AsNoTracking()
                .Where(a => a.AccountId == id || a.On == id.ToString())
                .OrderBy(a => a.Number)
                .Select(a => new
                {
                    a.Number,
                    a.At,
                    a.What,
                    a.Says,
                    a.From,
                })
                .Take(MostLines)
                .ToListAsync(cancel),
        };
    }
}
