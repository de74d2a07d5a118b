using Microsoft.EntityFrameworkCore;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;

namespace Mordel.Data.Links;

/// <summary>
/// Links with which somebody without an account opens one thing. Each ends; it is found by the hash of its secret
/// alone.
/// </summary>
public sealed class KeepLinks(Store store, LinkSecrets secrets, TimeProvider clock)
{
    /// <summary>The longest time that a link to a diagnosis may hold, in days.</summary>
    public const int MostDays = 14;

    /// <summary>How long a link to an owner's page holds, and how much of that is left when another is made.</summary>
    public const int OwnerDays = 90,
        OwnerDaysLeft = 45;

    /// <summary>A new link with its secret; saved with the caller's transaction.</summary>
    /// <param name="purpose">One of <see cref="LinkPurposes"/>.</param>
    /// <param name="ofId">What it opens.</param>
    /// <param name="holds">For how long it holds; null for until it is revoked.</param>
    /// <param name="by">Who makes it.</param>
    public (LinkRow Row, string Secret) Add(string purpose, Guid ofId, TimeSpan? holds, string by)
    {
        var (id, now) = (Guid.CreateVersion7(), clock.Now());
        var secret = secrets.Of(id);
        var row = new LinkRow
        {
            Id = id,
            Purpose = purpose,
            OfId = ofId,
            Hash = ContentHash.Compute(secret),
            MadeBy = by,
            MadeAt = now,
            ExpiresAt = now + holds,
        };
        store.Links.Add(row);
        return (row, secret);
    }

    /// <summary>
    /// The link to somebody's page that goes into a letter: the one that holds, where it holds for long enough; else a
    /// new one, saved with the caller's transaction.
    /// </summary>
    public async Task<LinkRow> Reach(string purpose, Guid ofId, string by, CancellationToken cancel)
    {
        var enough = clock.Now().AddDays(OwnerDaysLeft);
        var holds = store.Links.Local.FirstOrDefault(l =>
            l.Purpose == purpose && l.OfId == ofId && l.ExpiresAt > enough
        )
            ?? await store
                .Links.Where(l => l.Purpose == purpose && l.OfId == ofId && l.RevokedAt == null && l.ExpiresAt > enough)
                .OrderByDescending(l => l.MadeAt)
                .FirstOrDefaultAsync(cancel);
        return holds is not null && SecretOf(holds) is not null
            ? holds
            : Add(purpose, ofId, TimeSpan.FromDays(OwnerDays), by).Row;
    }

    /// <summary>The secrets of the links on tags, by assembly; those that are new are saved with the caller's
    /// transaction.</summary>
    public async Task<IReadOnlyDictionary<Guid, string>> OfTags(
        IReadOnlyCollection<Guid> assemblies,
        string by,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(assemblies);
        var known = await store
            .Links.AsNoTracking()
            .Where(l => l.Purpose == LinkPurposes.Tag && assemblies.Contains(l.OfId) && l.RevokedAt == null)
            .OrderBy(l => l.MadeAt)
            .ToListAsync(cancel);
        var secrets = new Dictionary<Guid, string>();
        foreach (var link in known)
            if (SecretOf(link) is { } secret)
                secrets.TryAdd(link.OfId, secret);
        foreach (var assembly in assemblies)
            if (!secrets.ContainsKey(assembly))
                secrets[assembly] = Add(LinkPurposes.Tag, assembly, null, by).Secret;
        return secrets;
    }

    /// <summary>The secret of a link; null where the key it was made with is lost.</summary>
    public string? SecretOf(LinkRow link)
    {
        ArgumentNullException.ThrowIfNull(link);
        var secret = secrets.Of(link.Id);
        return ContentHash.Compute(secret) == link.Hash ? secret : null;
    }

    /// <summary>The link of a secret; null when it is not known, revoked, over or for something else.</summary>
    public async Task<LinkRow?> Find(string? secret, CancellationToken cancel, params string[] purposes)
    {
        if (secret is not { Length: LinkSecrets.Length })
            return null;
        var hash = ContentHash.Compute(secret);
        var link = await store.Links.AsNoTracking().FirstOrDefaultAsync(l => l.Hash == hash, cancel);
        return link?.HoldsAt(clock.Now()) == true && purposes.Contains(link.Purpose) ? link : null;
    }

    /// <summary>The links to one thing, the newest first.</summary>
    public async Task<IReadOnlyList<LinkRow>> To(string purpose, Guid ofId, CancellationToken cancel) =>
        await store
            .Links.AsNoTracking()
            .Where(l => l.Purpose == purpose && l.OfId == ofId)
            .OrderByDescending(l => l.MadeAt)
            .ToListAsync(cancel);

    /// <summary>Ends all links to one thing, or one of them; answers how many held.</summary>
    public Task<int> End(string purpose, Guid ofId, Guid? only, CancellationToken cancel)
    {
        var now = (DateTimeOffset?)clock.Now();
        return store
            .Links.Where(l =>
                l.Purpose == purpose && l.OfId == ofId && l.RevokedAt == null && (only == null || l.Id == only)
            )
            .ExecuteUpdateAsync(l => l.SetProperty(x => x.RevokedAt, now), cancel);
    }
}
