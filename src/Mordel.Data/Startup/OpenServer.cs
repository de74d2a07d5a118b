using Microsoft.EntityFrameworkCore;
using Mordel.Data.Moving;

namespace Mordel.Data.Startup;

/// <summary>
/// Brings the database of a server to this version. Processes that start at once wait for each other: the framework's
/// own migrations hold a lock on the list of what was applied.
/// </summary>
public sealed class OpenServer(Store store, StoreAddress address)
{
    /// <summary>Opens it; makes the database where the server has none of that name and the user may.</summary>
    /// <param name="progress">Told what is done, in a few words.</param>
    /// <param name="cancel">Ends it between two steps.</param>
    /// <exception cref="StartRefusedException">It cannot be opened; the message says what to do.</exception>
    public async Task Run(Action<string> progress, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(progress);
        try
        {
            var known = store.Database.GetMigrations().ToList();
            var applied = (await store.Database.GetAppliedMigrationsAsync(cancel)).ToList();
            if (applied.Except(known).FirstOrDefault() is { } newer)
                throw new StartRefusedException(
                    $"{Said} was written by a newer version of Mordel ({newer}). Start that "
                        + "version, or put back the server's backup from before."
                );
            if (applied.Count > 0 && await MoveStore.IsUnderWay(store, cancel))
                throw new StartRefusedException(
                    $"A move into {address.Says} was begun and not finished. Run ./mordel move again; it goes on where "
                        + "it was."
                );
            if (applied.Count == known.Count)
                return;
            if (applied.Count > 0)
                progress($"{Said} is brought up to date.");
            await store.Database.MigrateAsync(cancel);
        }
        catch (Exception e) when (StoreTrouble.Says(e) is { } says)
        {
            throw new StartRefusedException($"{Said}: {says}", e);
        }
    }

    private string Said => char.ToUpperInvariant(address.Says[0]) + address.Says[1..];
}
