using System.Globalization;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Microsoft.EntityFrameworkCore.Migrations.Operations;
using Mordel.Core.Tests;
using Mordel.Data.Startup;

namespace Mordel.Data.Tests;

/// <summary>
/// From every form that the database ever had, with rows in every table, to today's: nothing is lost, everything fits,
/// and the database as it was lies beside it. What was sealed under the earlier form has tests of its own.
/// </summary>
[Trait("Store", "File")]
public sealed class EarlierFormsTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("mordel-forms-").FullName;

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private Store Open() =>
        new((DbContextOptions<Store>)new DbContextOptionsBuilder<Store>().UseMordelFile(folder).Options);

    private static readonly List<string> Forms = Known();

    // The first and the last but one are always among them.
    public static TheoryData<string> Earlier =>
        [.. Cases.Rows(Forms.SkipLast(1), nameof(Earlier)).Union([Forms[0], Forms[^2]]).Order(StringComparer.Ordinal)];

    private static List<string> Known()
    {
        using var store = new Store(
            (DbContextOptions<Store>)new DbContextOptionsBuilder<Store>().UseMordelFile(Path.GetTempPath()).Options
        );
        return [.. store.Database.GetMigrations().Order(StringComparer.Ordinal)];
    }

    [Theory]
    [MemberData(nameof(Earlier))]
    public async Task A_database_of_an_earlier_form_is_brought_up_with_all_its_rows(string form)
    {
        Dictionary<string, long> before;
        await using (var store = Open())
        {
            await store.GetService<IMigrator>().MigrateAsync(form);
            before = Fill((SqliteConnection)store.Database.GetDbConnection());
        }

        Assert.True(before.Count > 15, $"only {before.Count} tables were filled");
        var says = new List<string>();
        await using (var store = Open())
            await new OpenStore(store, new(folder), TimeProvider.System).Run(says.Add, CancellationToken.None);
        Assert.Contains("as it was, it is kept in", Assert.Single(says), StringComparison.Ordinal);
        await using (var store = Open())
        {
            var connection = (SqliteConnection)store.Database.GetDbConnection();
            await connection.OpenAsync();
            Assert.Empty(await store.Database.GetPendingMigrationsAsync());
            Assert.Equal("ok", Ask(connection, "PRAGMA integrity_check"));
            Assert.Null(Ask(connection, "PRAGMA foreign_key_check"));
            var now = Tables(connection).ToHashSet();
            foreach (var (table, rows) in before)
                if (now.Contains(table))
                    Assert.True(Count(connection, table) >= rows, $"{table} had {rows} rows");
            // What it has today can be read with what it had then.
            Assert.NotEmpty(await store.Users.ToListAsync());
            Assert.NotEmpty(await store.Assemblies.ToListAsync());
            Assert.NotEmpty(await store.Runs.ToListAsync());
            Assert.All(await store.Users.ToListAsync(), u => Assert.Null(u.DismissedAt));
        }

        var kept = Assert.Single(Directory.GetFiles(Path.Combine(folder, "backups"), "before-*.db"));
        await using var old = new SqliteConnection($"Data Source={kept};Mode=ReadOnly;Pooling=False");
        await old.OpenAsync();
        Assert.Equal(form, Ask(old, """SELECT MAX("MigrationId") FROM "__EFMigrationsHistory" """));
        Assert.Equal(before, Tables(old).ToDictionary(t => t, t => Count(old, t)));
    }

    // Half of what there was to compile were pictures of the model, one for each form, that nothing asked for.
    [Fact]
    public void What_rebuilds_a_table_or_fills_it_knows_the_model_as_it_was_then()
    {
        using var store = Open();
        var all = store.GetService<IMigrationsAssembly>();
        foreach (var (id, type) in all.Migrations)
        {
            var migration = all.CreateMigration(type, store.Database.ProviderName!);
            if (migration.UpOperations.Any(NeedsTheModel))
                Assert.True(
                    migration.TargetModel.GetEntityTypes().Any(),
                    $"{id} has no model: keep what its tool made"
                );
        }
    }

    private static bool NeedsTheModel(MigrationOperation operation) =>
        operation
            is not (
                CreateTableOperation
                or DropTableOperation
                or CreateIndexOperation
                or AddColumnOperation
                or SqlOperation
            );

    private static string? Ask(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        return command.ExecuteScalar() is { } said and not DBNull
            ? Convert.ToString(said, CultureInfo.InvariantCulture)
            : null;
    }

    private static long Count(SqliteConnection connection, string table) =>
        long.Parse(Ask(connection, $"SELECT COUNT(*) FROM \"{table}\"")!, CultureInfo.InvariantCulture);

    private static List<string> Rows(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        using var reader = command.ExecuteReader();
        var rows = new List<string>();
        while (reader.Read())
            rows.Add(string.Join('|', Enumerable.Range(0, reader.FieldCount).Select(i => reader.GetValue(i))));
        return rows;
    }

    // The tables of ours: neither the system's nor what the search makes for itself.
    private static List<string> Tables(SqliteConnection connection) =>
        Rows(
            connection,
            """
            SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%' AND name NOT LIKE '\_\_%'
            ESCAPE '\' AND sql NOT LIKE '%VIRTUAL%' AND name NOT LIKE '%Search%' AND name NOT LIKE '%Words%'
            ORDER BY name
            """
        );

    // One row in each table, each pointing to the one row of what it points to.
    private static Dictionary<string, long> Fill(SqliteConnection connection)
    {
        connection.Open();
        Ask(connection, "PRAGMA foreign_keys = OFF");
        var tables = Tables(connection);
        var points = tables
            .SelectMany(t =>
                Rows(connection, $"SELECT \"from\", \"table\", \"to\" FROM pragma_foreign_key_list('{t}')")
                    .Select(r => r.Split('|'))
                    .Select(r => (From: (t, r[0]), To: (r[1], r[2])))
            )
            .ToDictionary(p => p.From, p => p.To);
        foreach (var table in tables)
        {
            var columns = Rows(
                    connection,
                    $"SELECT name, type, CASE WHEN pk > 0 THEN 1 ELSE \"notnull\" END FROM pragma_table_info('{table}')"
                )
                .Select(r => r.Split('|'))
                .Where(c => c[2] == "1" || points.ContainsKey((table, c[0])))
                .ToList();
            var names = string.Join(", ", columns.Select(c => $"\"{c[0]}\""));
            var values = string.Join(", ", columns.Select(c => Value(Source((table, c[0])), c[1])));
            Ask(connection, $"INSERT INTO \"{table}\" ({names}) VALUES ({values})");
        }

        Assert.Null(Ask(connection, "PRAGMA foreign_key_check"));
        return tables.ToDictionary(t => t, t => Count(connection, t));

        // Whoever points to something says what that says of itself.
        (string Table, string Column) Source((string Table, string Column) at) =>
            points.TryGetValue(at, out var to) && to != at ? Source(to) : at;
    }

    private static string Value((string Table, string Column) of, string type)
    {
        var (table, name) = of;
        // Different for each, and a number for whoever wants one.
        var number = (table + name).Aggregate(7L, (sum, c) => ((sum * 31) + c) % 99_991);
        return type switch
        {
            "INTEGER" => "1",
            "REAL" => "1.5",
            "BLOB" => "x'01'",
            _ when name.EndsWith("Id", StringComparison.Ordinal) && name != "ProfileId" =>
                $"'{number:00000000}-0000-0000-0000-000000000000'",
            _ when name.EndsWith("At", StringComparison.Ordinal) => "'2026-11-01T08:00:00.000Z'",
            _ when Days.Contains(name) || name.EndsWith("On", StringComparison.Ordinal) => "'2026-11-01'",
            _ => $"'{number}'",
        };
    }

    private static readonly string[] Days =
    [
        "Day",
        "NextDue",
        "CalibrationDue",
        "Due",
        "ValidFrom",
        "ValidUntil",
        "InForceFrom",
        "From",
        "Until",
    ];
}
