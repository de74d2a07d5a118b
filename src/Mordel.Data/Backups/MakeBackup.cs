using System.Globalization;
using System.IO.Compression;
using System.Reflection;
using System.Text;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Moving;
using Mordel.Data.Startup;

namespace Mordel.Data.Backups;

/// <summary>
/// Writes everything of an installation into one file, while it runs: the database as it is at one moment, by SQLite's
/// own backup, then the keys and the files that it speaks of. A ZIP with a list of what is in it, locked where a
/// passphrase is given.
/// </summary>
/// <param name="address">Where its rows lie; from a server they are carried into a file first, as they are at one
/// moment.</param>
/// <param name="clock">The clock.</param>
public sealed class MakeBackup(StoreAddress address, TimeProvider clock)
{
    private readonly string folder = address.Folder;

    // Bytes: room that is wanted beside the copy of the database and the file.
    private const long Room = 20_000_000;

    /// <summary>The version of Mordel that runs.</summary>
    public static string Version { get; } =
        typeof(MakeBackup).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()?.InformationalVersion
        ?? "";

    /// <summary>Writes it. The file is there whole or not at all, and only its owner reads it.</summary>
    /// <param name="file">Where it goes; what is there already is replaced.</param>
    /// <param name="passphrase">What opens it; null for a file that anybody opens.</param>
    /// <param name="cancel">Ends it between two files.</param>
    /// <returns>What is in it.</returns>
    /// <exception cref="StartRefusedException">There is no installation, no room, or the database is
    /// damaged.</exception>
    /// <exception cref="IOException">The file cannot be written.</exception>
    public async Task<BackupContents> Write(string file, string? passphrase, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(file);
        var source = address.DatabaseFile;
        if (!address.IsServer && !File.Exists(source))
            throw new StartRefusedException($"There is no installation in {Path.GetFullPath(folder)}.");
        var target = Path.GetFullPath(file);
        EnsureRoom(Path.GetDirectoryName(target)!, await Size(cancel));
        var (beside, copy) = ($"{target}.{Guid.NewGuid():n}.part", $"{target}.{Guid.NewGuid():n}.db.part");
        try
        {
            var madeAt = clock.Now();
            if (address.IsServer)
                await CarryOver(copy, cancel);
            else
                CopyDatabase(source, copy);
            var (schema, runs, assemblies) = await Look(copy, cancel);
            BackupContents contents;
            await using (var into = OwnersFile.Create(beside))
            {
                await using (var body = passphrase is null ? null : PassphraseStream.Lock(into, passphrase))
                await using (
                    var zip = await ZipArchive.CreateAsync(body ?? into, ZipArchiveMode.Create, true, null, cancel)
                )
                {
                    var files = new List<BackedUpFile> { await Add(zip, StoreOptions.FileName, copy, cancel) };
                    foreach (var name in DataFolder.Beside(folder))
                        files.Add(await Add(zip, name, Path.Combine(folder, name), cancel));
                    contents = new(madeAt, Version, schema, runs, assemblies, files);
                    await using var list = await zip.CreateEntry(BackupContents.FileName).OpenAsync(cancel);
                    await list.WriteAsync(Encoding.UTF8.GetBytes(contents.Write()), cancel);
                }

                into.Flush(flushToDisk: true);
            }

            File.Move(beside, target, overwrite: true);
            return contents;
        }
        finally
        {
            File.Delete(beside);
            File.Delete(copy);
        }
    }

    private static void EnsureRoom(string into, long database)
    {
        Directory.CreateDirectory(into);
        if (new DriveInfo(into).AvailableFreeSpace is var free && free < (2 * database) + Room)
            throw new StartRefusedException(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"A backup needs up to {((2 * database) + Room) / 1_000_000} MB in {into}; there are "
                        + $"{free / 1_000_000} MB. Make room or name another place."
                )
            );
    }

    // One moment of it: writers go on beside, and what they write from now on is not in it.
    private static void CopyDatabase(string source, string copy)
    {
        OwnersFile.Create(copy).Dispose();
        using var from = Open(source);
        using var to = Open(copy);
        from.BackupDatabase(to);
        using var command = to.CreateCommand();
        command.CommandText = "PRAGMA journal_mode=DELETE";
        command.ExecuteScalar();
    }

    private async Task CarryOver(string copy, CancellationToken cancel)
    {
        var carried = Directory.CreateDirectory($"{copy}.d", OwnersFile.FolderMode).FullName;
        try
        {
            var into = new StoreAddress(carried);
            await using (var from = address.Open())
            await using (var to = into.Open())
            {
                await new MoveStore(from, to).Run(_ => { }, cancel);
                // Its file goes at once.
                SqliteConnection.ClearPool((SqliteConnection)to.Database.GetDbConnection());
            }

            CopyDatabase(into.DatabaseFile, copy);
        }
        finally
        {
            Directory.Delete(carried, recursive: true);
        }
    }

    private async Task<long> Size(CancellationToken cancel)
    {
        if (!address.IsServer)
            return new FileInfo(address.DatabaseFile).Length;
        await using var store = address.Open();
        return await address.Bytes(store, cancel);
    }

    // What was copied is looked through: a backup that cannot be put back is none.
    private static async Task<(string Schema, int Runs, int Assemblies)> Look(string copy, CancellationToken cancel)
    {
        await using var connection = Open(copy);
        if (await Ask(connection, "PRAGMA quick_check(1)", cancel) is var said and not "ok")
            throw new StartRefusedException(
                $"The database is damaged ({said.Split('\n')[0]}); no backup was made of it. The one before is the one "
                    + $"to keep."
            );
        var schema = await Ask(connection, """SELECT MAX("MigrationId") FROM "__EFMigrationsHistory" """, cancel);
        return (schema, await Count("\"Runs\" WHERE \"SignedAt\" IS NOT NULL"), await Count("\"Assemblies\""));

        async Task<int> Count(string of) =>
            int.Parse(await Ask(connection, $"SELECT COUNT(*) FROM {of}", cancel), CultureInfo.InvariantCulture);
    }

    private static SqliteConnection Open(string file)
    {
        var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder { DataSource = file, Pooling = false }.ToString()
        );
        connection.Open();
        // Whoever closes the database last holds it for a moment: that is waited for.
        using var patient = connection.CreateCommand();
        patient.CommandText = "PRAGMA busy_timeout=15000";
        patient.ExecuteNonQuery();
        return connection;
    }

    private static async Task<string> Ask(SqliteConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = connection.CreateCommand();
        command.CommandText = sql;
        return Convert.ToString(await command.ExecuteScalarAsync(cancel), CultureInfo.InvariantCulture) ?? "";
    }

    private static async Task<BackedUpFile> Add(ZipArchive zip, string name, string path, CancellationToken cancel)
    {
        await using var from = File.OpenRead(path);
        await using var into = await zip.CreateEntry(name, CompressionLevel.Fastest).OpenAsync(cancel);
        return (await HashedCopy.Of(name, from, into, long.MaxValue, cancel))!;
    }
}
