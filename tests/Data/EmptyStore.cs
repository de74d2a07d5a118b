using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Mordel.Data.Tests;

/// <summary>
/// A database of today's form without a row, brought up once and copied. The tests of starting and of upgrading bring
/// up their own.
/// </summary>
public static class EmptyStore
{
    private static readonly Lazy<byte[]> Made = new(Make);

    /// <summary>Puts it into a data folder that has no database yet.</summary>
    public static void Into(string folder)
    {
        var file = Path.Combine(folder, StoreOptions.FileName);
        if (!File.Exists(file))
            File.WriteAllBytes(file, Made.Value);
    }

    private static byte[] Make()
    {
        var folder = Directory.CreateTempSubdirectory("mordel-empty-").FullName;
        var copy = Path.Combine(folder, "copy.db");
        using (
            var store = new Store(
                (DbContextOptions<Store>)new DbContextOptionsBuilder<Store>().UseMordelFile(folder).Options
            )
        )
        {
            store.Database.Migrate();
            store.Database.ExecuteSql($"VACUUM INTO {copy}");
        }

        var made = File.ReadAllBytes(copy);
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
        return made;
    }
}
