using Mordel.Data.Links;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Rounds;

/// <summary>Private addresses at which testers read their rounds as calendars: one each, shown once.</summary>
public sealed class KeepCalendars(Store store, KeepLinks links)
{
    /// <summary>A new address; the one before ends.</summary>
    public async Task<string> Issue(Guid account, string by, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        await links.End(LinkPurposes.Calendar, account, null, cancel);
        var (_, secret) = links.Add(LinkPurposes.Calendar, account, null, by);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return secret;
    }

    /// <summary>Ends the address that holds.</summary>
    public async Task Revoke(Guid account, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        await links.End(LinkPurposes.Calendar, account, null, cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Whose rounds an address shows; null where it is not known, or has ended.</summary>
    public async Task<Guid?> Find(string? secret, CancellationToken cancel) =>
        (await links.Find(secret, cancel, LinkPurposes.Calendar))?.OfId;
}
