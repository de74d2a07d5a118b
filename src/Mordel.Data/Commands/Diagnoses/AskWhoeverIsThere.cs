using Microsoft.EntityFrameworkCore;
using Mordel.Data.Links;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Diagnoses;

/// <summary>
/// Links with which somebody without an account tells what they see at one assembly. A link is shown once, holds for a
/// few days and can be revoked.
/// </summary>
public sealed class AskWhoeverIsThere(Store store, KeepLinks links, TimeProvider clock)
{
    // Links that hold at once.
    private const int Most = 5;

    /// <summary>A new link; the text is shown this once.</summary>
    public async Task<Reply<string>> Issue(Guid diagnosisId, int days, string by, CancellationToken cancel)
    {
        if (days is < 1 or > KeepLinks.MostDays)
            return Reply<string>.Refused($"A link may hold from 1 to {KeepLinks.MostDays} days.");
        await using var transaction = await store.BeginWriting(cancel);
        if (!await store.Diagnoses.AnyAsync(d => d.Id == diagnosisId, cancel))
            return Reply<string>.NotFound("There is no such diagnosis.");
        var now = clock.Now();
        if ((await links.To(LinkPurposes.Look, diagnosisId, cancel)).Count(l => l.HoldsAt(now)) >= Most)
            return Reply<string>.Refused($"{Most} links hold already. Revoke one first.");
        var (_, secret) = links.Add(LinkPurposes.Look, diagnosisId, TimeSpan.FromDays(days), by);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return secret;
    }

    /// <summary>Revokes a link; whoever opens it from then on is told so.</summary>
    public async Task<Reply<Guid>> Revoke(Guid diagnosisId, Guid linkId, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (!await store.Links.AnyAsync(l => l.Id == linkId && l.OfId == diagnosisId, cancel))
            return Reply<Guid>.NotFound("There is no such link.");
        await links.End(LinkPurposes.Look, diagnosisId, linkId, cancel);
        await transaction.CommitAsync(cancel);
        return linkId;
    }

    /// <summary>The diagnosis that a link leads to; null when it is not known, revoked or past its time.</summary>
    public async Task<Guid?> Find(string? secret, CancellationToken cancel) =>
        (await links.Find(secret, cancel, LinkPurposes.Look))?.OfId;
}
