using System.IO.Compression;
using System.Security.Cryptography;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Runs;
using Mordel.Data.Backups;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;
using Mordel.Data.Startup;

namespace Mordel.Data.Tests;

/// <summary>A dead disk, a slip of the hand, a curious finder: what was acknowledged comes back, and only to who
/// may.</summary>
[Trait("Store", "File")]
public sealed class BackupTests : IDisposable
{
    private static readonly CancellationToken None = CancellationToken.None;

    private readonly string place = Directory.CreateTempSubdirectory("mordel-backup-").FullName;

    private string File => Path.Combine(place, "all.backup");

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(place, recursive: true);
    }

    private static Task<BackupContents> BackUp(Hamlet of, string file, string? passphrase = null) =>
        new MakeBackup(of.Address, TimeProvider.System).Write(file, passphrase, None);

    private static async Task<(BackupContents Contents, string? Kept)> Restore(
        string file,
        string into,
        string? passphrase = null,
        bool replace = false
    )
    {
        using var hold = FolderLock.Take(into);
        return await new RestoreBackup(into, Forms(), TimeProvider.System).Run(file, passphrase, replace, None);
    }

    private static async Task<string> Refused(string file, string into, string? passphrase = null) =>
        (await Assert.ThrowsAsync<StartRefusedException>(() => Restore(file, into, passphrase))).Message;

    private static List<string> Forms()
    {
        using var store = StoreIn(Path.GetTempPath());
        return [.. store.Database.GetMigrations()];
    }

    private static Store StoreIn(string folder) =>
        new((DbContextOptions<Store>)new DbContextOptionsBuilder<Store>().UseMordelFile(folder).Options);

    private string Empty(string name) => Directory.CreateDirectory(Path.Combine(place, name)).FullName;

    private static string[] FilesOf(string folder) =>
        [
            .. Directory
                .EnumerateFiles(folder, "*", SearchOption.AllDirectories)
                .Select(f => Path.GetRelativePath(folder, f)),
        ];

    [Trait("Turn", "1")]
    [Fact]
    public async Task Fifty_testers_write_while_it_is_made_and_what_was_acknowledged_before_is_there_elsewhere()
    {
        await using var town = await new SmallInstallation().Filled(AssemblyTypes.DC, AssemblyTypes.RP);
        await town.Signed();
        await town.Signed(1);
        var run = await town.Begun();
        var acknowledged = new System.Collections.Concurrent.ConcurrentQueue<Guid>();
        using var ending = new CancellationTokenSource();
        var writers = Enumerable
            .Range(0, 50)
            .Select(_ =>
                Task.Run(async () =>
                {
                    for (var i = 0; i < 30 && !ending.IsCancellationRequested; i++)
                    {
                        var note = new Entry(
                            new(Guid.NewGuid()),
                            1,
                            DateTimeOffset.UtcNow,
                            new EntryBody.Noted("", "seen")
                        );
                        var reply = await town.With<Reply<TakenEntries>, TakeEntries>(t =>
                            t.Into(run, town.Tester, [note], None)
                        );
                        Assert.Null(reply.Refusal);
                        acknowledged.Enqueue(note.Id.Value);
                        await Task.Delay(50);
                    }
                })
            )
            .ToList();
        var drills = new List<(string File, List<Guid> Before)>();
        for (var i = 0; i < 3; i++)
        {
            while (acknowledged.Count < 60 * (i + 1))
                await Task.Delay(5);
            var before = acknowledged.ToList();
            await BackUp(town, $"{File}{i}", i == 1 ? "a long passphrase" : null);
            drills.Add(($"{File}{i}", before));
        }

        await ending.CancelAsync();
        await Task.WhenAll(writers);
        foreach (var ((file, before), i) in drills.Select((d, i) => (d, i)))
        {
            await using var elsewhere = new StoreHost();
            var (contents, kept) = await Restore(file, elsewhere.Folder, i == 1 ? "a long passphrase" : null);
            Assert.Equal((2, 2), (contents.SignedRuns, contents.Assemblies));
            Assert.Null(kept);
            var there = await elsewhere.InStore(s =>
                s.Entries.Where(e => e.RunId == run).Select(e => e.EntryId).ToListAsync()
            );
            Assert.Empty(before.Except(there));
            Assert.True((await elsewhere.CheckAll()).Holds);
            // It goes on where it was: the next report is sealed with the key that came along.
            Assert.NotEmpty(elsewhere.Services.GetRequiredService<Mordel.Data.Seals.SigningKeys>().Id);
        }

        Assert.DoesNotContain(FilesOf(place), f => f.EndsWith(".part", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Only_its_owner_reads_the_file_and_it_holds_keys_and_files_and_nothing_of_the_moment()
    {
        await using var town = await new SmallInstallation().Filled(AssemblyTypes.DC);
        await town.Signed();
        Directory.CreateDirectory(Path.Combine(town.Folder, "files", "photos"));
        await System.IO.File.WriteAllTextAsync(Path.Combine(town.Folder, "files", "photos", "a.jpg"), "picture");
        await System.IO.File.WriteAllTextAsync(Path.Combine(town.Folder, "files", "photos", "b.jpg.1.part"), "half");
        Directory.CreateDirectory(Path.Combine(town.Folder, "backups"));
        await System.IO.File.WriteAllTextAsync(Path.Combine(town.Folder, "backups", "old.db"), "old");
        var made = await BackUp(town, File);
        Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, System.IO.File.GetUnixFileMode(File));
        var names = made.Files.Select(f => f.Name).ToList();
        Assert.Contains("mordel.db", names);
        Assert.Contains("installation-key.pem", names);
        Assert.Contains("files/photos/a.jpg", names);
        Assert.DoesNotContain(names, n => n.Contains("part") || n.Contains("old") || n.Contains("lock"));
        await using var zip = await ZipFile.OpenReadAsync(File);
        Assert.Equal([.. names.Append(BackupContents.FileName).Order()], zip.Entries.Select(e => e.FullName).Order());
    }

    [Trait("Turn", "2")]
    [Fact]
    public async Task A_locked_one_opens_by_its_passphrase_alone_and_shows_nothing_of_what_is_in_it()
    {
        await using var town = await new SmallInstallation().Filled(AssemblyTypes.DC);
        await BackUp(town, File, "seven brass cocks");
        var bytes = await System.IO.File.ReadAllBytesAsync(File);
        Assert.Equal(-1, bytes.AsSpan().IndexOf("installation-key"u8));
        Assert.Equal(-1, bytes.AsSpan().IndexOf("SQLite format"u8));
        var into = Empty("into");
        Assert.Contains("--passphrase-file", await Refused(File, into), StringComparison.Ordinal);
        Assert.Contains(
            "passphrase is another",
            await Refused(File, into, "seven brass cock"),
            StringComparison.Ordinal
        );
        Assert.Equal(["mordel.lock", "mordel.pid"], FilesOf(into).Order());
        await Restore(File, into, "seven brass cocks");
        Assert.Contains("mordel.db", FilesOf(into));
    }

    [Fact]
    public async Task Whatever_is_changed_or_cut_off_in_it_is_found_and_nothing_is_touched()
    {
        await using var town = await new SmallInstallation().Filled(AssemblyTypes.DC);
        await BackUp(town, File);
        await using (var locked = System.IO.File.Create($"{File}.locked"))
        await using (var body = PassphraseStream.Lock(locked, "seven brass cocks", 10))
            await body.WriteAsync(await System.IO.File.ReadAllBytesAsync(File));
        var (into, lot) = (Empty("into"), new Random(4711));
        foreach (var (file, passphrase) in new[] { (File, (string?)null), ($"{File}.locked", "seven brass cocks") })
        {
            var whole = await System.IO.File.ReadAllBytesAsync(file);
            for (var i = 0; i < 24; i++)
            {
                var spoilt = whole.ToArray();
                if (i % 4 == 0)
                    spoilt = spoilt[..lot.Next(spoilt.Length)];
                else
                    spoilt[lot.Next(spoilt.Length)] ^= (byte)(1 << lot.Next(8));
                await System.IO.File.WriteAllBytesAsync($"{file}.spoilt", spoilt);
                // Bytes of a ZIP that say nothing (a time, an attribute) may differ; what comes out is as it was then.
                var said = await Record.ExceptionAsync(() => Restore($"{file}.spoilt", into, passphrase));
                if (said is null)
                {
                    Assert.Null(passphrase);
                    Assert.Equal(Hash(Path.Combine(into, "mordel.db")), Listed(file, "mordel.db"));
                    Directory.Delete(into, recursive: true);
                    Directory.CreateDirectory(into);
                }
                else
                {
                    Assert.IsType<StartRefusedException>(said);
                    Assert.DoesNotContain("mordel.db", FilesOf(into));
                    Assert.DoesNotContain(FilesOf(into), f => f.StartsWith("restoring", StringComparison.Ordinal));
                }
            }
        }
    }

    private static string Hash(string file) =>
        Convert.ToHexStringLower(SHA256.HashData(System.IO.File.ReadAllBytes(file)));

    private static string Listed(string file, string name)
    {
        using var zip = ZipFile.OpenRead(file);
        using var list = new StreamReader(zip.GetEntry(BackupContents.FileName)!.Open());
        return BackupContents.Read(list.ReadToEnd())!.Files.Single(f => f.Name == name).Sha256;
    }

    [Fact]
    public async Task A_list_that_wants_to_write_outside_of_the_folder_is_no_backup()
    {
        foreach (
            var name in (string[])
                ["../x", "files/../../x", "keys/.ssh", "/etc/x", "mordel.lock", "files\\x", "files//x"]
        )
        {
            Assert.False(DataFolder.IsKept(name), name);
            var text = new BackupContents(DateTimeOffset.UnixEpoch, "1", "x", 0, 0, [new(name, 1, "00")]).Write();
            Assert.Null(BackupContents.Read(text));
        }

        await System.IO.File.WriteAllTextAsync(File, "no ZIP at all");
        Assert.Contains("is no backup", await Refused(File, Empty("into")), StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_installation_that_is_there_is_put_aside_whole_and_only_when_asked()
    {
        await using var town = await new SmallInstallation().Filled(AssemblyTypes.DC);
        await BackUp(town, File);
        await using var other = await new SmallInstallation().Filled(AssemblyTypes.RP, AssemblyTypes.DC);
        await other.Signed();
        var folder = Empty("other");
        foreach (var file in FilesOf(other.Folder))
        {
            Directory.CreateDirectory(Path.GetDirectoryName(Path.Combine(folder, file))!);
            System.IO.File.Copy(Path.Combine(other.Folder, file), Path.Combine(folder, file));
        }

        var before = FilesOf(folder).Where(f => !f.StartsWith("mordel.lock") && !f.StartsWith("mordel.pid")).Order();
        var hash = Hash(Path.Combine(folder, "mordel.db"));
        Assert.Contains("--replace", await Refused(File, folder), StringComparison.Ordinal);
        var (_, kept) = await Restore(File, folder, replace: true);
        Assert.NotNull(kept);
        Assert.Equal(before, FilesOf(kept).Order());
        Assert.Equal(hash, Hash(Path.Combine(kept, "mordel.db")));
        Assert.Equal(Listed(File, "mordel.db"), Hash(Path.Combine(folder, "mordel.db")));
    }

    [Fact]
    public async Task One_that_is_killed_at_any_step_is_completed_by_the_next_start_and_the_old_is_kept_whole()
    {
        await using var town = await new SmallInstallation().Filled(AssemblyTypes.DC);
        await BackUp(town, File);
        var tops = DataFolder.Tops.Where(t => Path.Exists(Path.Combine(town.Folder, t))).ToList();
        // As it lies when it was killed before, between and after each of its moves.
        for (var moves = 0; moves <= 2 * tops.Count; moves++)
        {
            var folder = Empty($"killed-{moves}");
            var (staging, kept) = (Path.Combine(folder, "restoring"), Path.Combine(folder, "before-restore-1"));
            Directory.CreateDirectory(staging);
            foreach (var (root, says) in new[] { (staging, "new"), (folder, "old") })
            foreach (var top in tops)
                if (top is "keys" or "files")
                {
                    Directory.CreateDirectory(Path.Combine(root, top));
                    await System.IO.File.WriteAllTextAsync(Path.Combine(root, top, "one"), $"{says} {top}");
                }
                else
                {
                    await System.IO.File.WriteAllTextAsync(Path.Combine(root, top), $"{says} {top}");
                }

            await System.IO.File.WriteAllTextAsync(Path.Combine(folder, "mordel.db-wal"), "old wal");
            await System.IO.File.WriteAllTextAsync(
                Path.Combine(folder, "restoring.ready"),
                string.Join('\n', ["before-restore-1", .. tops])
            );
            var left = moves;
            foreach (var top in DataFolder.Tops.Where(tops.Contains))
            {
                Directory.CreateDirectory(kept);
                if (left-- > 0)
                    Directory.Move(Path.Combine(folder, top), Path.Combine(kept, top));
                if (left-- > 0)
                    Directory.Move(Path.Combine(staging, top), Path.Combine(folder, top));
            }

            Assert.True(RestoreBackup.Finish(folder));
            Assert.False(RestoreBackup.Finish(folder));
            foreach (var (root, says) in new[] { (folder, "new"), (kept, "old") })
            foreach (var top in tops)
                Assert.Equal(
                    $"{says} {top}",
                    await System.IO.File.ReadAllTextAsync(
                        top is "keys" or "files" ? Path.Combine(root, top, "one") : Path.Combine(root, top)
                    )
                );
            Assert.Equal("old wal", await System.IO.File.ReadAllTextAsync(Path.Combine(kept, "mordel.db-wal")));
            Assert.False(System.IO.File.Exists(Path.Combine(folder, "mordel.db-wal")));
            Assert.False(Directory.Exists(staging));
        }
    }

    [Fact]
    public async Task A_newer_database_and_a_damaged_one_are_refused_in_words()
    {
        await using var town = await new SmallInstallation().Filled(AssemblyTypes.DC);
        await town.InStore(s =>
            s.Database.ExecuteSqlRawAsync("INSERT INTO __EFMigrationsHistory VALUES ('29990101000000_Ahead', '99.0')")
        );
        await BackUp(town, File);
        Assert.Contains("newer version", await Refused(File, Empty("into")), StringComparison.Ordinal);
        Assert.Contains(
            "There is no installation",
            (
                await Assert.ThrowsAsync<StartRefusedException>(() =>
                    new MakeBackup(new(Empty("nothing")), TimeProvider.System).Write(File, null, None)
                )
            ).Message,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(65_536)]
    [InlineData(65_537)]
    [InlineData(200_000)]
    public async Task What_is_locked_comes_out_as_it_went_in_and_no_piece_can_be_taken_away_or_moved(int length)
    {
        var plain = new byte[length];
        new Random(length).NextBytes(plain);
        using var locked = new MemoryStream();
        await using (var into = PassphraseStream.Lock(locked, "twelve letters", 10))
            await into.WriteAsync(plain);
        var bytes = locked.ToArray();
        Assert.Equal(plain, await Unlocked(bytes));
        const int Head = 23 + 4 + 16,
            Piece = 65_536 + 16;
        if (length > 2 * 65_536)
        {
            // Two pieces change places; the last is missing; the first is missing.
            byte[] swapped =
            [
                .. bytes[..Head],
                .. bytes[(Head + Piece)..(Head + (2 * Piece))],
                .. bytes[Head..(Head + Piece)],
                .. bytes[(Head + (2 * Piece))..],
            ];
            await Assert.ThrowsAnyAsync<CryptographicException>(() => Unlocked(swapped));
            await Assert.ThrowsAnyAsync<CryptographicException>(() => Unlocked(bytes[..(Head + (2 * Piece))]));
            await Assert.ThrowsAnyAsync<CryptographicException>(() =>
                Unlocked([.. bytes[..Head], .. bytes[(Head + Piece)..]])
            );
        }

        await Assert.ThrowsAnyAsync<CryptographicException>(() => Unlocked(bytes[..^1]));
        await Assert.ThrowsAnyAsync<CryptographicException>(() => Unlocked([.. bytes, 0]));

        async Task<byte[]> Unlocked(byte[] from)
        {
            using var out_ = new MemoryStream();
            await PassphraseStream.Unlock(new MemoryStream(from), "twelve letters", out_, None);
            return out_.ToArray();
        }
    }

    [Fact]
    public async Task Lists_that_say_something_else_are_made_anew_from_what_was_sealed()
    {
        await using var town = await new SmallInstallation().Filled(AssemblyTypes.DC, AssemblyTypes.RP);
        await town.Signed();
        await town.Signed(1);
        await town.With<int, RegisterIndex>(async index =>
        {
            await index.Refresh(None);
            return 0;
        });
        var before = await Shown(town);
        Assert.Equal((2, 0, 0, 0), await Rebuilt(town));
        Assert.Equal(before, await Shown(town));
        await town.InStore(s =>
            s.Database.ExecuteSqlRawAsync(
                """
                UPDATE Runs SET Outcome = 'fail', Summary = 'x';
                UPDATE Results SET Value = '9.9';
                UPDATE Assemblies SET LastOutcome = 'fail', LastTestOn = '2001-01-01';
                UPDATE Assemblies SET NextDue = '2001-01-01', ChanceToFail = 99;
                DELETE FROM SearchParts; DELETE FROM SearchStarts; DELETE FROM SearchOrder;
                """
            )
        );
        Assert.False((await town.CheckAll()).Holds);
        Assert.Equal((2, 2, 2, 2), await Rebuilt(town));
        Assert.Equal(before, await Shown(town));
        Assert.True((await town.CheckAll()).Holds);
    }

    private static async Task<(int, int, int, int)> Rebuilt(Hamlet town)
    {
        var made = await town.With<RebuiltLists, RebuildLists>(r => r.All(_ => { }, None));
        Assert.Empty(made.Left);
        return (made.Runs, made.RunsMended, made.LastTestsMended, made.DuesMended);
    }

    private static Task<string> Shown(Hamlet town) =>
        town.InStore(async s =>
        {
            var runs = await s.Runs.AsNoTracking().Include(r => r.Results).OrderBy(r => r.Id).ToListAsync();
            var assemblies = await s.Assemblies.AsNoTracking().OrderBy(a => a.Tag).ToListAsync();
            var words = await s.Database.SqlQueryRaw<string>("SELECT Words AS Value FROM SearchParts").ToListAsync();
            return string.Join(
                '\n',
                [
                    .. runs.Select(r =>
                        $"{r.Outcome} {r.Summary} {string.Join(' ', r.Results.OrderBy(i => i.Item).Select(i => i.Item + i.Value))}"
                    ),
                    .. assemblies.Select(a =>
                        $"{a.LastOutcome} {a.LastTestOn} {a.NextDue} {a.DueCause} {a.ChanceToFail}"
                    ),
                    .. words.Order(),
                ]
            );
        });
}
