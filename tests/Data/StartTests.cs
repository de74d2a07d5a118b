using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Seals;
using Mordel.Data.Startup;

namespace Mordel.Data.Tests;

/// <summary>
/// Starting is safe: whatever the last start left behind, and whatever is wrong, it is said in a sentence with what to
/// do.
/// </summary>
[Trait("Store", "File")]
public sealed class StartTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("mordel-start-").FullName;

    private string Database => Path.Combine(folder, StoreOptions.FileName);

    private string KeyFile => Path.Combine(folder, SigningKeys.FileName);

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private Store NewStore() =>
        new((DbContextOptions<Store>)new DbContextOptionsBuilder<Store>().UseMordelFile(folder).Options);

    private async Task<List<string>> Open()
    {
        var said = new List<string>();
        await using var store = NewStore();
        await new OpenStore(store, new(folder), TimeProvider.System).Run(said.Add, CancellationToken.None);
        return said;
    }

    private async Task<string> Refused() => (await Assert.ThrowsAsync<StartRefusedException>(Open)).Message;

    private async Task<SigningKeys> Keys()
    {
        var keys = new SigningKeys(folder);
        await using var store = NewStore();
        await keys.Open(store, CancellationToken.None);
        return keys;
    }

    private async Task Run(string sql)
    {
        await using var store = NewStore();
        await store.Database.ExecuteSqlRawAsync(sql);
    }

    [Fact]
    public void A_folder_that_is_made_for_it_is_its_owners_alone_and_one_that_is_there_stays_as_it_is()
    {
        var (made, there) = (Path.Combine(folder, "made"), Path.Combine(folder, "there"));
        const UnixFileMode Shared =
            UnixFileMode.UserRead
            | UnixFileMode.UserWrite
            | UnixFileMode.UserExecute
            | UnixFileMode.GroupRead
            | UnixFileMode.GroupExecute;
        Directory.CreateDirectory(there, Shared);
        FolderLock.Take(made).Dispose();
        FolderLock.Take(there).Dispose();
        Assert.Equal(
            UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute,
            File.GetUnixFileMode(made)
        );
        Assert.Equal(Shared, File.GetUnixFileMode(there));
    }

    [Fact]
    public async Task A_second_process_on_the_same_folder_is_refused_and_told_which_one_holds_it()
    {
        using (FolderLock.Take(folder))
        {
            var refused = Assert.Throws<StartRefusedException>(() => FolderLock.Take(folder));
            Assert.Contains("Another Mordel is running", refused.Message, StringComparison.Ordinal);
            Assert.Contains($"process {Environment.ProcessId}", refused.Message, StringComparison.Ordinal);
        }

        using var again = FolderLock.Take(folder);
        await Open();
    }

    [Fact]
    public void A_folder_that_cannot_be_written_is_named()
    {
        var file = Path.Combine(folder, "a-file");
        File.WriteAllText(file, "");
        Assert.Contains(
            file,
            Assert.Throws<StartRefusedException>(() => FolderLock.Take(file)).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_start_that_was_killed_while_it_migrated_does_not_keep_the_next_one_waiting()
    {
        await Open();
        await Run("""INSERT INTO "__EFMigrationsLock" (Id, Timestamp) VALUES (1, '2031-04-02 08:00:00')""");
        await Open().WaitAsync(TimeSpan.FromSeconds(20));
    }

    [Fact]
    public async Task A_backup_that_is_put_back_is_opened()
    {
        await Open();
        await Run($"VACUUM INTO '{Path.Combine(folder, "copy.db")}'");
        SqliteConnection.ClearAllPools();
        foreach (var file in Directory.EnumerateFiles(folder, "mordel.db*"))
            File.Delete(file);
        File.Move(Path.Combine(folder, "copy.db"), Database);
        Assert.Empty(await Open());
    }

    [Fact]
    public async Task Nothing_is_backed_up_or_migrated_when_nothing_is_pending()
    {
        await Open();
        Assert.Empty(await Open());
        Assert.False(Directory.Exists(Path.Combine(folder, "backups")));
    }

    [Fact]
    public async Task A_database_of_a_newer_version_is_left_alone()
    {
        await Open();
        await Run("INSERT INTO __EFMigrationsHistory VALUES ('29990101000000_FromTheFuture', '99.0')");
        Assert.Contains(
            "newer version of Mordel (29990101000000_FromTheFuture)",
            await Refused(),
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData(0, "damaged")]
    [InlineData(5000, "damaged")]
    public async Task A_damaged_database_is_not_opened(int at, string says)
    {
        await Open();
        SqliteConnection.ClearAllPools();
        var bytes = await File.ReadAllBytesAsync(Database);
        for (var i = at; i < Math.Min(bytes.Length, at + 30_000); i++)
            bytes[i] = 0x5A;
        await File.WriteAllBytesAsync(Database, bytes);
        Assert.Contains(says, await Refused(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_fresh_installation_makes_a_key_that_only_its_owner_can_read()
    {
        await Open();
        using var keys = await Keys();
        Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, File.GetUnixFileMode(KeyFile));
        Assert.Equal(keys.Id, Assert.Single(keys.Published).Id);
        Assert.False(File.Exists(KeyFile + ".part"));
    }

    [Theory]
    [InlineData("missing", "The signing key is missing")]
    [InlineData("empty", "empty or cannot be read")]
    [InlineData("public", "empty or cannot be read")]
    [InlineData("foreign", "is not this installation's")]
    public async Task A_key_that_is_missing_empty_public_or_foreign_refuses_the_start_in_a_sentence(
        string what,
        string says
    )
    {
        await Open();
        string pem;
        using (var keys = await Keys())
            pem = keys.Published[0].Pem;
        if (what == "missing")
            File.Delete(KeyFile);
        else
            await File.WriteAllTextAsync(
                KeyFile,
                what switch
                {
                    "empty" => "",
                    "public" => pem,
                    _ => Foreign(),
                }
            );
        var refused = await Assert.ThrowsAsync<StartRefusedException>(Keys);
        Assert.Contains(says, refused.Message, StringComparison.Ordinal);
        Assert.Contains("backup", refused.Message, StringComparison.Ordinal);
    }

    private static string Foreign()
    {
        using var key = System.Security.Cryptography.ECDsa.Create(
            System.Security.Cryptography.ECCurve.NamedCurves.nistP256
        );
        return key.ExportPkcs8PrivateKeyPem();
    }

    [Fact]
    public async Task After_a_rotation_what_the_old_key_signed_still_holds_and_only_the_new_one_signs()
    {
        await Open();
        using var keys = await Keys();
        var (old, before) = (keys.Id, keys.Sign("abc"));
        await using (var store = NewStore())
            await keys.Rotate(store, DateTimeOffset.UtcNow, CancellationToken.None);
        Assert.NotEqual(old, keys.Id);
        Assert.True(keys.Verifies(old, "abc", before));
        Assert.False(keys.Verifies(keys.Id, "abc", before));
        Assert.True(keys.Verifies(keys.Id, "abc", keys.Sign("abc")));
        using var again = await Keys();
        Assert.Equal((keys.Id, 2), (again.Id, again.Published.Count));
        Assert.True(again.Verifies(old, "abc", before));
        // The old key says which one follows it.
        var next = again.Published[1];
        using var first = SigningKeys.Import(again.Published[0].Pem)!;
        Assert.True(SigningKeys.Verifies(first, SigningKeys.SuccessionStatement(old, next.Id), next.Succession!));
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task A_rotation_that_was_killed_is_completed_when_the_database_knows_of_it_and_forgotten_when_not(
        bool known
    )
    {
        await Open();
        using var keys = await Keys();
        var (old, oldFile) = (keys.Id, await File.ReadAllTextAsync(KeyFile));
        string expected;
        if (known)
        {
            await using (var store = NewStore())
                expected = await keys.Rotate(store, DateTimeOffset.UtcNow, CancellationToken.None);
            File.Move(KeyFile, Path.Combine(folder, SigningKeys.NextFileName));
            await File.WriteAllTextAsync(KeyFile, oldFile);
        }
        else
        {
            expected = old;
            await File.WriteAllTextAsync(Path.Combine(folder, SigningKeys.NextFileName), Foreign());
        }

        using var again = await Keys();
        Assert.Equal(expected, again.Id);
        Assert.False(File.Exists(Path.Combine(folder, SigningKeys.NextFileName)));
    }

    [Fact]
    public async Task A_key_that_somebody_adds_to_the_list_is_not_believed()
    {
        await Open();
        using var keys = await Keys();
        using var stranger = SigningKeys.Import(Foreign())!;
        var id = SigningKeys.IdOf(stranger);
        await Run(
            $"INSERT INTO SigningKeys (Id, PublicKey, Since, Endorsement) VALUES ('{id}', "
                + $"'{stranger.ExportSubjectPublicKeyInfoPem()}', '2026-01-01T00:00:00.000Z', 'AAAA')"
        );
        await using (var store = NewStore())
            await keys.Reread(store, CancellationToken.None);
        Assert.Contains(id, Assert.Single(keys.Problems), StringComparison.Ordinal);
        Assert.DoesNotContain(keys.Published, k => k.Id == id);
    }
}
