using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;

namespace Mordel.Data.Outbox;

/// <summary>The keys by which authorities' services know who calls.</summary>
internal static class ServiceKeys
{
    /// <summary>The key of an authority's service as it stands now.</summary>
    /// <returns>Whether one is kept, and what it is; null where it cannot be read any more.</returns>
    public static async Task<(bool Kept, string? Secret)> Of(
        Store store,
        ISecretBox? secrets,
        Guid? authority,
        CancellationToken cancel
    )
    {
        var hidden = await store
            .Authorities.Where(a => a.Id == authority)
            .Select(a => a.ReportsKey)
            .FirstOrDefaultAsync(cancel);
        return (hidden is not null, hidden is null ? null : secrets?.Show(hidden));
    }
}
