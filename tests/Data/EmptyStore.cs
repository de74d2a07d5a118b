using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Mordel.Data.Tests;

/// <summary>
/// Where tests keep their rows: each in a file of its own, or, where <c>MORDEL_TEST_POSTGRES</c> says how a server is
/// reached, each in a database of its own there. A database of today's form without a row is brought up once and
/// copied; the tests of starting and of upgrading bring up their own.
/// </summary>
public static class EmptyStore
{
    private static readonly string? Server = Environment.GetEnvironmentVariable("MORDEL_TEST_POSTGRES");
    private static readonly Lazy<byte[]> File = new(MakeFile);
    private static readonly Lazy<string> Template = new(MakeTemplate);

    /// <summary>An address at which there is no database yet.</summary>
    public static StoreAddress Nothing(string folder) =>
        new(folder, Server is null ? null : On($"mordel_{Guid.NewGuid():n}"));

    /// <summary>An address with an empty database.</summary>
    public static StoreAddress At(string folder)
    {
        var address = Nothing(folder);
        if (address.Connection is { } connection)
            Ask($"CREATE DATABASE \"{Name(connection)}\" TEMPLATE \"{Template.Value}\"");
        else if (!System.IO.File.Exists(address.DatabaseFile))
            System.IO.File.WriteAllBytes(address.DatabaseFile, File.Value);
        return address;
    }

    /// <summary>Lets go of it: a database goes, a file goes with its folder.</summary>
    public static void End(StoreAddress address)
    {
        ArgumentNullException.ThrowIfNull(address);
        SqliteConnection.ClearAllPools();
        if (address.Connection is not { } connection)
            return;
        using (var pooled = new NpgsqlConnection(connection))
            NpgsqlConnection.ClearPool(pooled);
        Ask($"DROP DATABASE IF EXISTS \"{Name(connection)}\" WITH (FORCE)");
    }

    private static byte[] MakeFile()
    {
        var folder = Directory.CreateTempSubdirectory("mordel-empty-").FullName;
        var copy = Path.Combine(folder, "copy.db");
        using (var store = new StoreAddress(folder).Open())
        {
            store.Database.Migrate();
            store.Database.ExecuteSql($"VACUUM INTO {copy}");
        }

        var made = System.IO.File.ReadAllBytes(copy);
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
        return made;
    }

    private static string MakeTemplate()
    {
        var name = $"mordel_empty_{Guid.NewGuid():n}";
        var connection = $"{On(name)};Pooling=false";
        using (var store = new StoreAddress(Path.GetTempPath(), connection).Open())
            store.Database.Migrate();
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Ask($"DROP DATABASE IF EXISTS \"{name}\"");
        return name;
    }

    private static string On(string database) =>
        new NpgsqlConnectionStringBuilder(Server) { Database = database, MaxPoolSize = 20 }.ConnectionString;

    private static string Name(string connection) => new NpgsqlConnectionStringBuilder(connection).Database!;

    private static void Ask(string sql)
    {
        using var connection = new NpgsqlConnection(Server + ";Pooling=false");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }
}
