using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using Mordel.Data.Files;
using Mordel.Data.Startup;

namespace Mordel.Data.Backups;

/// <summary>
/// Puts a backup into a data folder. It is unpacked and checked beside, whole, before anything is touched; what was
/// there is kept in a folder of its own. One that was killed while it put things in place is completed by the next, or
/// by the next start.
/// </summary>
/// <param name="folder">The data folder; the caller holds it (<see cref="FolderLock"/>).</param>
/// <param name="known">The changes of the database's form that this version knows, in their order.</param>
/// <param name="clock">The clock.</param>
public sealed class RestoreBackup(string folder, IReadOnlyCollection<string> known, TimeProvider clock)
{
    private const string Staged = "restoring",
        Ready = "restoring.ready",
        Before = "before-restore-";

    // Bytes: a list of a million files.
    private const long LongestList = 200_000_000;

    private static readonly string[] Journals = [$"{StoreOptions.FileName}-wal", $"{StoreOptions.FileName}-shm"];

    private string Staging => Path.Combine(folder, Staged);

    private string ReadyFile => Path.Combine(folder, Ready);

    /// <summary>Puts it in place.</summary>
    /// <param name="file">The backup.</param>
    /// <param name="passphrase">What opens it; null where it is not locked.</param>
    /// <param name="replace">Whether an installation that is there may be put aside.</param>
    /// <param name="cancel">Ends it while nothing is touched yet.</param>
    /// <returns>What was in it, and where what was there is kept, null where there was nothing.</returns>
    /// <exception cref="StartRefusedException">It cannot be put back; the message says why. Nothing is
    /// changed.</exception>
    public async Task<(BackupContents Contents, string? Kept)> Run(
        string file,
        string? passphrase,
        bool replace,
        CancellationToken cancel
    )
    {
        Finish(folder);
        if (!replace && File.Exists(Path.Combine(folder, StoreOptions.FileName)))
            throw new StartRefusedException(
                $"There is an installation in {Path.GetFullPath(folder)} already. Name an empty folder with --data, or "
                    + $"put it aside with --replace."
            );
        try
        {
            Directory.CreateDirectory(Staging);
            var opened = await Opened(file, passphrase, cancel);
            BackupContents contents;
            await using (var zip = await Zip(opened, file, cancel))
                contents = await Unpack(zip, file, cancel);
            if (opened != file)
                File.Delete(opened);
            var kept = $"{Before}{clock.GetUtcNow():yyyyMMdd-HHmmss}";
            string[] said = [kept, .. DataFolder.Tops.Where(t => Path.Exists(Path.Combine(Staging, t)))];
            await new FolderFiles(folder).Keep(Ready, Encoding.UTF8.GetBytes(string.Join('\n', said)), cancel);
            Finish(folder);
            return (contents, Directory.Exists(Path.Combine(folder, kept)) ? Path.Combine(folder, kept) : null);
        }
        catch
        {
            if (!File.Exists(ReadyFile) && Directory.Exists(Staging))
                Directory.Delete(Staging, recursive: true);
            throw;
        }
    }

    /// <summary>
    /// Completes a restore that was killed while it put things in place, and clears away one that had not come so far.
    /// The caller holds the folder.
    /// </summary>
    /// <returns>Whether one was completed.</returns>
    public static bool Finish(string folder)
    {
        var (staging, ready) = (Path.Combine(folder, Staged), Path.Combine(folder, Ready));
        if (!File.Exists(ready))
        {
            if (Directory.Exists(staging))
                Directory.Delete(staging, recursive: true);
            return false;
        }

        var said = File.ReadAllText(ready).Split('\n');
        var (kept, brought) = (Path.Combine(folder, Path.GetFileName(said[0])), said[1..]);
        // What lies beside a database belongs to it and goes with it.
        foreach (var top in Journals.Concat(DataFolder.Tops))
        {
            var (from, to, aside) = (Path.Combine(staging, top), Path.Combine(folder, top), Path.Combine(kept, top));
            // Put in place before the kill.
            if (brought.Contains(top) && !Path.Exists(from))
                continue;
            if (Path.Exists(to) && !Path.Exists(aside))
            {
                Directory.CreateDirectory(kept);
                Directory.Move(to, aside);
            }

            if (Path.Exists(from))
                Directory.Move(from, to);
        }

        if (Directory.Exists(staging))
            Directory.Delete(staging, recursive: true);
        File.Delete(ready);
        return true;
    }

    // The backup as a ZIP: itself, or what it is with its lock opened, beside what will be put in place.
    private async Task<string> Opened(string file, string? passphrase, CancellationToken cancel)
    {
        try
        {
            await using var from = File.OpenRead(file);
            var begin = new byte[PassphraseStream.Telling];
            _ = await from.ReadAtLeastAsync(begin, begin.Length, false, cancel);
            if (!PassphraseStream.IsLocked(begin))
                return file;
            if (passphrase is null)
                throw new StartRefusedException(
                    $"{file} is locked. Say where its passphrase is: --passphrase-file FILE."
                );
            from.Position = 0;
            var opened = Path.Combine(folder, Staged, "opened.zip");
            await using var into = OwnersFile.Create(opened);
            await PassphraseStream.Unlock(from, passphrase, into, cancel);
            return opened;
        }
        catch (CryptographicException e)
        {
            throw new StartRefusedException(
                $"{file} does not open: the passphrase is another, or the file was changed or is not whole.",
                e
            );
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new StartRefusedException($"{file} cannot be read: {e.Message}", e);
        }
    }

    private static async Task<ZipArchive> Zip(string opened, string file, CancellationToken cancel)
    {
        try
        {
            return await ZipFile.OpenAsync(opened, ZipArchiveMode.Read, cancel);
        }
        catch (InvalidDataException e)
        {
            throw new StartRefusedException($"{file} is no backup of Mordel, or it is not whole.", e);
        }
    }

    // Each file as the list says, or nothing at all.
    private async Task<BackupContents> Unpack(ZipArchive zip, string file, CancellationToken cancel)
    {
        try
        {
            var list = zip.GetEntry(BackupContents.FileName);
            if (
                list is null
                || list.Length > LongestList
                || BackupContents.Read(await Text(list, cancel)) is not { } contents
            )
                throw new StartRefusedException($"{file} is no backup of Mordel.");
            if (contents.Files.All(f => f.Name != StoreOptions.FileName))
                throw new StartRefusedException($"{file} holds no database.");
            if (!known.Contains(contents.Schema))
                throw new StartRefusedException(
                    $"{file} was made by a newer version of Mordel ({contents.Version}, {contents.Schema}). Use that "
                        + $"version."
                );
            foreach (var listed in contents.Files)
            {
                cancel.ThrowIfCancellationRequested();
                if (zip.GetEntry(listed.Name) is not { } entry || !await Put(entry, listed, cancel))
                    throw new StartRefusedException(
                        $"{file}: {listed.Name} is not as it was when the backup was made. Take another backup."
                    );
            }

            return contents;
        }
        catch (InvalidDataException e)
        {
            throw new StartRefusedException($"{file} is damaged. Take another backup.", e);
        }
    }

    private static async Task<string> Text(ZipArchiveEntry entry, CancellationToken cancel)
    {
        using var reader = new StreamReader(await entry.OpenAsync(cancel), Encoding.UTF8);
        return await reader.ReadToEndAsync(cancel);
    }

    private async Task<bool> Put(ZipArchiveEntry entry, BackedUpFile listed, CancellationToken cancel)
    {
        var path = Path.Combine(Staging, listed.Name);
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        await using var from = await entry.OpenAsync(cancel);
        await using var into = OwnersFile.Create(path);
        // What unpacks to more than it says is not read to its end.
        var came = await HashedCopy.Of(listed.Name, from, into, listed.Bytes, cancel);
        into.Flush(flushToDisk: true);
        return came == listed;
    }
}
