using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Serialization;

namespace Mordel.Data.Commands.Diagnoses;

/// <summary>
/// Links with which somebody without an account tells what they see at one assembly. A link is shown once, holds for a
/// few days and can be revoked.
/// </summary>
public sealed class KeepOwnerLinks(Store store, TimeProvider clock)
{
    /// <summary>The longest time a link may hold.</summary>
    public const int MostDays = 14;

    // Links that hold at once.
    private const int Most = 5;

    /// <summary>A new link; the text is the only copy of its secret.</summary>
    public async Task<Reply<string>> Issue(Guid diagnosisId, int days, string by, CancellationToken cancel)
    {
        if (days is < 1 or > MostDays)
            return Reply<string>.Refused($"A link may hold from 1 to {MostDays} days.");
        await using var transaction = await store.BeginWriting(cancel);
        if (!await store.Diagnoses.AnyAsync(d => d.Id == diagnosisId, cancel))
            return Reply<string>.NotFound("There is no such diagnosis.");
        var now = clock.Now();
        if (
            await store.OwnerLinks.CountAsync(
                l => l.DiagnosisId == diagnosisId && l.RevokedAt == null && l.ExpiresAt > now,
                cancel
            ) >= Most
        )
            return Reply<string>.Refused($"{Most} links hold already. Revoke one first.");
        var token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(24));
        store.OwnerLinks.Add(
            new()
            {
                Id = Guid.CreateVersion7(),
                DiagnosisId = diagnosisId,
                Hash = ContentHash.Compute(token),
                MadeBy = by,
                MadeAt = now,
                ExpiresAt = now.AddDays(days),
            }
        );
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return token;
    }

    /// <summary>Revokes a link; whoever opens it from then on is told so.</summary>
    public async Task<Reply<Guid>> Revoke(Guid diagnosisId, Guid linkId, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        var link = await store.OwnerLinks.FirstOrDefaultAsync(
            l => l.Id == linkId && l.DiagnosisId == diagnosisId,
            cancel
        );
        if (link is null)
            return Reply<Guid>.NotFound("There is no such link.");
        link.RevokedAt ??= clock.Now();
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return link.Id;
    }

    /// <summary>The diagnosis that a link leads to; null when it is not known, revoked or past its time.</summary>
    public async Task<Guid?> Find(string? token, CancellationToken cancel)
    {
        if (token is not { Length: 48 })
            return null;
        var hash = ContentHash.Compute(token);
        var link = await store.OwnerLinks.AsNoTracking().FirstOrDefaultAsync(l => l.Hash == hash, cancel);
        return link?.HoldsAt(clock.Now()) == true ? link.DiagnosisId : null;
    }
}
