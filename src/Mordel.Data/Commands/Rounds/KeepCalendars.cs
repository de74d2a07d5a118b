using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Serialization;

namespace Mordel.Data.Commands.Rounds;

/// <summary>Private addresses at which testers read their rounds as calendars: one each, shown once.</summary>
public sealed class KeepCalendars(Store store, TimeProvider clock)
{
    private const int Bytes = 24;

    /// <summary>A new address; the one before ends. The text is the only copy of its secret.</summary>
    public async Task<string> Issue(Guid account, CancellationToken cancel)
    {
        var secret = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(Bytes));
        await using var transaction = await store.BeginWriting(cancel);
        await End(account, cancel);
        store.CalendarLinks.Add(
            new()
            {
                Id = Guid.CreateVersion7(),
                AccountId = account,
                Hash = ContentHash.Compute(secret),
                MadeAt = clock.Now(),
            }
        );
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return secret;
    }

    /// <summary>Ends the address that holds.</summary>
    public async Task Revoke(Guid account, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        await End(account, cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Whose rounds an address shows; null where it is not known, or has ended.</summary>
    public async Task<Guid?> Find(string? secret, CancellationToken cancel)
    {
        if (secret is not { Length: 2 * Bytes })
            return null;
        var hash = ContentHash.Compute(secret);
        return await store
            .CalendarLinks.Where(l => l.Hash == hash && l.RevokedAt == null)
            .Select(l => (Guid?)l.AccountId)
            .FirstOrDefaultAsync(cancel);
    }

    private Task<int> End(Guid account, CancellationToken cancel)
    {
        var now = (DateTimeOffset?)clock.Now();
        return store
            .CalendarLinks.Where(l => l.AccountId == account && l.RevokedAt == null)
            .ExecuteUpdateAsync(l => l.SetProperty(x => x.RevokedAt, now), cancel);
    }
}
