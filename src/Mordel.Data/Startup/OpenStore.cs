using System.Globalization;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Moving;

namespace Mordel.Data.Startup;

/// <summary>
/// Brings the database of a data folder to this version, whatever happened to the last start: looks whether it is
/// whole, clears what a killed start left behind, and migrates only when something is pending, after a backup. The
/// caller holds the folder. A server's database is opened by <see cref="OpenServer"/>.
/// </summary>
public sealed class OpenStore(Store store, StoreAddress address, TimeProvider clock)
{
    // Bytes: how large a database is looked through at each start; how much room is wanted beside a backup.
    private const long LookedThrough = 200_000_000,
        Room = 20_000_000;

    private readonly string folder = address.Folder;

    private string Database => address.DatabaseFile;

    /// <summary>Opens it.</summary>
    /// <param name="progress">Told what is done, in a few words.</param>
    /// <param name="cancel">Ends it between two steps.</param>
    /// <exception cref="StartRefusedException">It cannot be opened; the message says what to do.</exception>
    public async Task Run(Action<string> progress, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(progress);
        if (address.IsServer)
        {
            await new OpenServer(store, address).Run(progress, cancel);
            return;
        }

        try
        {
            var there = File.Exists(Database) && new FileInfo(Database).Length > 0;
            if (there)
                await LookThrough(cancel);
            await store.Database.OpenConnectionAsync(cancel);
            if (there)
                await ClearLock(cancel);
            await Migrate(there, progress, cancel);
        }
        catch (Exception e) when (StoreTrouble.Says(e) is { } says)
        {
            throw new StartRefusedException($"{Database}: {says}", e);
        }
        finally
        {
            await store.Database.CloseConnectionAsync();
        }
    }

    private async Task LookThrough(CancellationToken cancel)
    {
        if (new FileInfo(Database).Length > LookedThrough)
            return;
        // A connection of its own: what is damaged must not stay in a pool.
        await using var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder { DataSource = Database, Pooling = false }.ToString()
        );
        await connection.OpenAsync(cancel);
        await using var command = connection.CreateCommand();
        command.CommandText = "PRAGMA quick_check(1)";
        var said = await command.ExecuteScalarAsync(cancel) as string;
        if (said != "ok")
            throw new StartRefusedException(
                $"{Database} is damaged ({said?.Split('\n')[0]}). Keep a copy of the data folder, then put the "
                    + $"last backup back in its place."
            );
    }

    // The row by which migrations keep each other out stays behind when one is killed, and the next would wait for it
    // for ever. The folder is ours alone.
    private async Task ClearLock(CancellationToken cancel)
    {
        if (await Has("__EFMigrationsLock", cancel))
            await store.Database.ExecuteSqlRawAsync("""DELETE FROM "__EFMigrationsLock" """, cancel);
    }

    private async Task Migrate(bool there, Action<string> progress, CancellationToken cancel)
    {
        var known = store.Database.GetMigrations().ToList();
        if (there && await Has(MoveStore.Mark, cancel))
            throw new StartRefusedException(
                $"A move into {Database} was begun and not finished. Run ./mordel move again; it goes on where it was."
            );
        if (there && await UpToDate(known, cancel))
            return;
        var applied = (await store.Database.GetAppliedMigrationsAsync(cancel)).ToList();
        if (applied.Except(known).FirstOrDefault() is { } newer)
            throw new StartRefusedException(
                $"{Database} was written by a newer version of Mordel ({newer}). Start that version, or put back "
                    + $"the backup that it made."
            );
        var pending = (await store.Database.GetPendingMigrationsAsync(cancel)).ToList();
        if (pending.Count == 0)
            return;
        if (there && applied.Count > 0)
            await BackUp(pending[0], progress, cancel);
        await store.Database.MigrateAsync(cancel);
    }

    // The usual start: the list of what was applied is the list of what there is, and nothing else is looked at.
    private async Task<bool> UpToDate(List<string> known, CancellationToken cancel)
    {
        if (!await Has("__EFMigrationsHistory", cancel))
            return false;
        await using var command = store.Database.GetDbConnection().CreateCommand();
        command.CommandText = """SELECT "MigrationId" FROM "__EFMigrationsHistory" ORDER BY "MigrationId" """;
        var applied = new List<string>();
        await using var rows = await command.ExecuteReaderAsync(cancel);
        while (await rows.ReadAsync(cancel))
            applied.Add(rows.GetString(0));
        return applied.SequenceEqual(known.Order(StringComparer.Ordinal));
    }

    private async Task<bool> Has(string table, CancellationToken cancel)
    {
        await using var command = store.Database.GetDbConnection().CreateCommand();
        command.CommandText = "SELECT COUNT(*) FROM sqlite_master WHERE name = $table";
        command.Parameters.Add(new SqliteParameter("$table", table));
        return Convert.ToInt64(await command.ExecuteScalarAsync(cancel), CultureInfo.InvariantCulture) > 0;
    }

    private async Task BackUp(string before, Action<string> progress, CancellationToken cancel)
    {
        var size = new FileInfo(Database).Length;
        if (new DriveInfo(folder).AvailableFreeSpace is var free && free < (2 * size) + Room)
            throw new StartRefusedException(
                $"A new version wants to bring the database up to date, and to make a backup before. That needs "
                    + $"{((2 * size) + Room) / 1_000_000} MB in {folder}; there are {free / 1_000_000} MB. Make room "
                    + $"and start again."
            );
        var backups = Directory.CreateDirectory(Path.Combine(folder, "backups")).FullName;
        var name = string.Create(
            CultureInfo.InvariantCulture,
            $"before-{before}-{clock.GetUtcNow():yyyyMMdd-HHmmss}.db"
        );
        var (file, unfinished) = (Path.Combine(backups, name), Path.Combine(backups, $"{name}.part"));
        File.Delete(unfinished);
        await store.Database.ExecuteSqlAsync($"VACUUM INTO {unfinished}", cancel);
        File.Move(unfinished, file, overwrite: true);
        progress($"The database is brought up to date; as it was, it is kept in {file}.");
    }
}
