using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Serialization;
using Mordel.Data.Accounts;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>
/// Issues, finds and revokes the keys with which programs act for a person. The key itself is shown once and never
/// kept.
/// </summary>
public sealed class ApiKeys(Store store, OpenDoors doors, TimeProvider clock)
{
    /// <summary>What a key may do.</summary>
    public const string Read = "read",
        Write = "write";

    /// <summary>The longest time a key may hold.</summary>
    public const int MostDays = 366;

    private const string Prefix = "mordel_";

    /// <summary>A new key for a person; the text is the only copy.</summary>
    public async Task<Reply<string>> Issue(
        Guid accountId,
        string? name,
        string? scope,
        int days,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        var row = new TokenRow
        {
            Id = Guid.CreateVersion7(),
            AccountId = accountId,
            Name = fields.Text("name", name, "What it is for", 80),
            Scope = fields.OneOf("scope", scope, "Scope", Read, Write),
            Hash = "",
            CreatedAt = clock.GetUtcNow(),
            ExpiresAt = clock.GetUtcNow().AddDays(Math.Clamp(days, 1, MostDays)),
        };
        fields.That("days", days is >= 1 and <= MostDays, $"It may hold from 1 to {MostDays} days.");
        fields.That(
            "name",
            await store.Tokens.CountAsync(t => t.AccountId == accountId && t.RevokedAt == null, cancel) < 20,
            "Twenty keys are enough; revoke one first."
        );
        await using var transaction = await store.BeginWriting(cancel);
        var now = clock.GetUtcNow();
        fields.That(
            "name",
            !await store.Tokens.AnyAsync(
                t => t.AccountId == accountId && t.Name == row.Name && t.RevokedAt == null && t.ExpiresAt > now,
                cancel
            ),
            $"A key for {row.Name} is already there. Revoke it first, or say what this one is for."
        );
        if (fields.Any)
            return fields;
        var token =
            Prefix
            + Convert
                .ToBase64String(RandomNumberGenerator.GetBytes(32))
                .Replace('+', '-')
                .Replace('/', '_')
                .TrimEnd('=');
        row.Hash = ContentHash.Compute(token);
        store.Tokens.Add(row);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return token;
    }

    /// <summary>
    /// The key that a program shows, with its person; null when it is not known, revoked or past its time.
    /// </summary>
    public async Task<TokenRow?> Find(string token, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(token);
        if (!token.StartsWith(Prefix, StringComparison.Ordinal) || token.Length > 100)
            return null;
        var hash = ContentHash.Compute(token);
        var row = await store.Tokens.Include(t => t.Account).FirstOrDefaultAsync(t => t.Hash == hash, cancel);
        var now = clock.GetUtcNow();
        if (row is null || !row.HoldsAt(now) || row.Account!.DismissedAt is not null)
            return null;
        if (row.LastUsedAt is not { } last || now - last > TimeSpan.FromMinutes(5))
        {
            row.LastUsedAt = now;
            await store.SaveChangesAsync(cancel);
        }

        return row;
    }

    /// <summary>A person's keys, the newest first.</summary>
    public async Task<IReadOnlyList<TokenRow>> Of(Guid accountId, CancellationToken cancel) =>
        [
            .. (
                await store.Tokens.AsNoTracking().Where(t => t.AccountId == accountId).ToListAsync(cancel)
            ).OrderByDescending(t => t.CreatedAt),
        ];

    /// <summary>Everybody's that hold, the last used first.</summary>
    public async Task<IReadOnlyList<TokenRow>> Open(CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        return
        [
            .. (
                await store
                    .Tokens.AsNoTracking()
                    .Include(t => t.Account)
                    .Where(t => t.RevokedAt == null && t.ExpiresAt > now)
                    .ToListAsync(cancel)
            ).OrderByDescending(t => t.LastUsedAt ?? DateTimeOffset.MinValue),
        ];
    }

    /// <summary>Ends a key at once.</summary>
    /// <param name="accountId">Whose it must be; null where anybody's may be ended.</param>
    /// <param name="tokenId">Which.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<bool> Revoke(Guid? accountId, Guid tokenId, CancellationToken cancel) =>
        await Revoke(
            await store
                .Tokens.Where(t => t.Id == tokenId && (accountId == null || t.AccountId == accountId))
                .ToListAsync(cancel),
            cancel
        );

    /// <summary>Ends all keys of a person.</summary>
    public async Task RevokeAll(Guid accountId, CancellationToken cancel) =>
        await Revoke(
            await store.Tokens.Where(t => t.AccountId == accountId && t.RevokedAt == null).ToListAsync(cancel),
            cancel
        );

    private async Task<bool> Revoke(List<TokenRow> rows, CancellationToken cancel)
    {
        foreach (var row in rows)
            row.RevokedAt ??= clock.GetUtcNow();
        await store.SaveChangesAsync(cancel);
        foreach (var row in rows)
            doors.Close(row.Id);
        return rows.Count > 0;
    }
}
