using Mordel.Data.Audit;
using Mordel.Data.Backups;
using Mordel.Data.Startup;

namespace Mordel.Web.Application;

/// <summary>Makes the backups of an installation that runs, one at a time, and writes down that it did.</summary>
public sealed class BackupDesk(IServiceScopeFactory scopes, MordelOptions options, TimeProvider clock) : IDisposable
{
    private readonly SemaphoreSlim turn = new(1);

    /// <summary>Where they lie.</summary>
    public BackupShelf Shelf { get; } = new(options.BackupFolder);

    /// <summary>Whether they are locked.</summary>
    public bool Locked => !string.IsNullOrEmpty(options.BackupPassphraseFile);

    /// <summary>
    /// Whether they lie on the disk of what they are copies of, as far as the system tells: a dead disk takes both.
    /// </summary>
    public bool OnTheSameDisk =>
        Mount(options.Data) is { } of && Mount(options.BackupFolder) is { } there && of == there;

    /// <summary>Makes one.</summary>
    /// <param name="how">Why it is made, in a word.</param>
    /// <param name="who">Who asked for it; null where it was the hour.</param>
    /// <param name="cancel">Ends it; none is made then.</param>
    /// <returns>Why none was made; null when one was.</returns>
    public async Task<string?> Make(string how, WhoAsks? who, CancellationToken cancel)
    {
        await turn.WaitAsync(cancel);
        try
        {
            var passphrase = await Passphrases.Read(options.BackupPassphraseFile, cancel);
            var file = Shelf.FileFor(clock.GetUtcNow());
            var made = await new MakeBackup(options.Store, clock).Write(file, passphrase, cancel);
            Shelf.Tidy();
            await Say(
                AuditKinds.BackedUp,
                $"{Path.GetFileName(file)}, {how}: {made.SignedRuns} signed runs, {made.Assemblies} assemblies",
                who,
                cancel
            );
            return null;
        }
        catch (Exception e) when (BackupTrouble.Says(e) is { } why)
        {
            await Say(AuditKinds.NotBackedUp, why, who, cancel);
            return why;
        }
        finally
        {
            turn.Release();
        }
    }

    private async Task Say(string what, string says, WhoAsks? who, CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        if (who is not null)
            scope.ServiceProvider.GetRequiredService<WhoAsks>().Is(who.AccountId, who.Name, who.From);
        await scope.ServiceProvider.GetRequiredService<AuditLog>().Write(what, "", says, cancel);
    }

    private static string? Mount(string folder)
    {
        var path = Path.GetFullPath(folder);
        return DriveInfo
            .GetDrives()
            .Select(d => d.RootDirectory.FullName)
            .Where(root => path.StartsWith(root, StringComparison.Ordinal))
            .MaxBy(root => root.Length);
    }

    /// <inheritdoc/>
    public void Dispose() => turn.Dispose();
}
