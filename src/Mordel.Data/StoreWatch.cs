using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Mordel.Data;

/// <summary>
/// A store goes from one request to the next; those who look at what is saved are of one request each. This one stays
/// with the stores and asks whoever looks at the present request.
/// </summary>
internal sealed class StoreWatch : SaveChangesInterceptor
{
    /// <inheritdoc/>
    public override async ValueTask<InterceptionResult<int>> SavingChangesAsync(
        DbContextEventData eventData,
        InterceptionResult<int> result,
        CancellationToken cancellationToken = default
    )
    {
        ArgumentNullException.ThrowIfNull(eventData);
        foreach (var watcher in Watchers(eventData))
            result = await watcher.SavingChangesAsync(eventData, result, cancellationToken);
        return result;
    }

    /// <inheritdoc/>
    public override async Task SaveChangesFailedAsync(
        DbContextErrorEventData eventData,
        CancellationToken cancellationToken = default
    )
    {
        ArgumentNullException.ThrowIfNull(eventData);
        foreach (var watcher in Watchers(eventData))
            await watcher.SaveChangesFailedAsync(eventData, cancellationToken);
    }

    private static IReadOnlyList<ISaveChangesInterceptor> Watchers(DbContextEventData of) =>
        (of.Context as Store)?.Watchers ?? [];
}
