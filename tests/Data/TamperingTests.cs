using System.Data.Common;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Reports;
using Mordel.Core.Tests;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Xunit.Abstractions;

namespace Mordel.Data.Tests;

/// <summary>
/// Alters a sealed installation's database in thousands of ways, one at a time, as somebody with the file but without
/// the key would: bytes, cells, rows, moves, removals. Each must be found, and named. <c>MORDEL_TAMPERINGS</c> says how
/// many; which they are the seed of the run decides.
/// </summary>
public sealed class TamperingTests(ITestOutputHelper output) : IAsyncLifetime, IAsyncDisposable
{
    // What is sealed, or repeats something that is.
    private static readonly string[] Tables =
    [
        "Seals",
        "Chains",
        "Ledger",
        "Runs",
        "Results",
        "Amendments",
        "KeptTexts",
        "SigningKeys",
        "EarlierSeals",
    ];

    private static int Alterations =>
        int.TryParse(Environment.GetEnvironmentVariable("MORDEL_TAMPERINGS"), out var n) ? n : Cases.Of(1000);

    private readonly SmallInstallation hamlet = new();

    public async Task InitializeAsync()
    {
        await hamlet.Filled(AssemblyTypes.DC, AssemblyTypes.PVB);
        await hamlet.Signed(0);
        await hamlet.Amend(await hamlet.Signed(1), "It stands in the second cellar.");
        await hamlet.Signed(0, new(1.7, 0.6, 0, 0));
        await hamlet.With<string, SigningKeys>(async keys =>
            await hamlet.InStore(s => keys.Rotate(s, DateTimeOffset.UtcNow, CancellationToken.None))
        );
        await hamlet.Signed(0);
    }

    public async Task DisposeAsync() => await hamlet.DisposeAsync();

    ValueTask IAsyncDisposable.DisposeAsync() => hamlet.DisposeAsync();

    [Trait("Store", "File")]
    [Fact]
    public async Task Thousands_of_alterations_are_each_found_and_named()
    {
        Assert.True((await hamlet.CheckAll()).Holds);
        var random = new Random(Cases.Seed);
        var (tried, unseen, unnamed, kinds) = (
            0,
            new List<string>(),
            new List<string>(),
            new Dictionary<string, int>()
        );
        for (var attempt = 0; tried < Alterations && attempt < 20 * Alterations; attempt++)
        {
            await using var scope = hamlet.Services.CreateAsyncScope();
            var store = scope.ServiceProvider.GetRequiredService<Store>();
            await using var transaction = await store.Database.BeginTransactionAsync();
            var connection = store.Database.GetDbConnection();
            await Run(connection, "PRAGMA defer_foreign_keys = ON");
            if (await Alter(connection, random) is not { } what)
                continue;
            tried++;
            kinds[what.Kind] = kinds.GetValueOrDefault(what.Kind) + 1;
            var found = await scope
                .ServiceProvider.GetRequiredService<InstallationCheck>()
                .All(_ => Task.CompletedTask, CancellationToken.None);
            if (found.Holds)
                unseen.Add(what.Says);
            else if (found.Broken.Any(b => b.Says.Length < 12 || b.Subject.Length == 0))
                unnamed.Add(what.Says);
        }

        output.WriteLine(
            $"{tried} alterations: {string.Join(", ", kinds.OrderBy(k => k.Key).Select(k => $"{k.Key} {k.Value}"))}; unseen {unseen.Count}"
        );
        Assert.True(
            unseen.Count == 0,
            $"{unseen.Count} of {tried} went unnoticed:\n{string.Join("\n", unseen.Take(25))}"
        );
        Assert.Empty(unnamed);
        Assert.True(tried >= Alterations, $"only {tried} alterations could be made");
        Assert.True((await hamlet.CheckAll()).Holds);
    }

    [Theory]
    [InlineData("NULL")]
    [InlineData("'0123456789abcde'")]
    [InlineData("substr(Code, 1, 8)")]
    [InlineData("(SELECT Code FROM Seals o WHERE o.RunId <> Seals.RunId AND o.Code IS NOT NULL LIMIT 1)")]
    public async Task A_code_that_is_not_the_reports_own_breaks_its_seal_and_leads_to_no_other_report(string code)
    {
        var run = await hamlet.InStore(s => s.Runs.OrderBy(r => r.SignedAt).Select(r => r.Id).FirstAsync());
        var sql = $"UPDATE Seals SET Code = {code} WHERE RunId = {{0}} AND Code IS NOT NULL";
        await hamlet.Alter(sql, run);
        var report = (await hamlet.Report(run))!;
        Assert.Contains(report.Broken, b => b.Contains("code", StringComparison.Ordinal));
        var now = await hamlet.InStore(s => s.Seals.Where(x => x.RunId == run).Select(x => x.Code).FirstAsync());
        if (now?.Length == ReportCode.Length)
            Assert.NotEqual(
                run,
                (await hamlet.With<PublicReport?, PublicReports>(p => p.Of(new(now), default)))?.Report.RunId
            );
    }

    [Trait("Store", "File")]
    [Fact]
    public async Task Whatever_is_altered_reports_and_lists_are_shown_all_the_same()
    {
        var random = new Random(Cases.Seed + 1);
        var runs = await hamlet.InStore(s => s.Runs.Select(r => r.Id).ToListAsync());
        var shown = 0;
        for (var attempt = 0; attempt < Cases.Of(400); attempt++)
        {
            await using var scope = hamlet.Services.CreateAsyncScope();
            var (store, services) = (scope.ServiceProvider.GetRequiredService<Store>(), scope.ServiceProvider);
            await using var transaction = await store.Database.BeginTransactionAsync();
            await Run(store.Database.GetDbConnection(), "PRAGMA defer_foreign_keys = ON");
            if (await Alter(store.Database.GetDbConnection(), random) is null)
                continue;
            foreach (var run in runs)
            {
                if (await services.GetRequiredService<FindRun>().Report(run, CancellationToken.None) is not { } report)
                    continue;
                var pdf = await services.GetRequiredService<SealedPapers>().Pdf(report, default);
                Assert.Equal(report.Run is null, pdf is null);
                shown++;
            }

            await services
                .GetRequiredService<RunList>()
                .For(new(hamlet.Tester, true), false, null, CancellationToken.None);
            await services.GetRequiredService<RegisterSearch>().Find(null, null, CancellationToken.None);
            foreach (var assembly in hamlet.Assemblies)
                await services.GetRequiredService<Passport>().Of(assembly, CancellationToken.None);
        }

        Assert.True(shown > Cases.Of(320), $"{shown} reports shown");
    }

    private sealed record Alteration(string Kind, string Says);

    private static async Task<Alteration?> Alter(DbConnection connection, Random random)
    {
        var table = Tables[random.Next(Tables.Length)];
        var rows = await Numbers(connection, $"SELECT rowid FROM {table}");
        if (rows.Count == 0)
            return null;
        var row = rows[random.Next(rows.Count)];
        // A run that is not signed, its entries included, is nobody's sealed truth.
        try
        {
            return random.Next(8) switch
            {
                0 => await Removed(connection, table, row),
                1 => await Doubled(connection, table, row, random),
                2 => await Swapped(connection, table, row, rows[random.Next(rows.Count)], random),
                _ => await Cell(connection, table, row, random),
            };
        }
        catch (DbException)
        {
            // The database itself does not let this stand: a key twice, nothing where something must be.
            return null;
        }
    }

    private static async Task<Alteration?> Removed(DbConnection connection, string table, long row)
    {
        await Run(connection, $"DELETE FROM {table} WHERE rowid = {row}");
        return new("removed", $"{table}: row {row} removed");
    }

    // The row again, with something else in its first column that can have it.
    private static async Task<Alteration?> Doubled(DbConnection connection, string table, long row, Random random)
    {
        var columns = await Columns(connection, table);
        var key = columns.Where(c => c.Key).ToList();
        var list = string.Join(", ", columns.Select(c => $"\"{c.Name}\""));
        var changed = key[random.Next(key.Count)];
        var values = string.Join(
            ", ",
            columns.Select(c =>
                c != changed ? $"\"{c.Name}\""
                : c.Type == "INTEGER" ? $"\"{c.Name}\" + 1000"
                : $"'{Guid.NewGuid().ToString().ToUpperInvariant()}'"
            )
        );
        await Run(connection, $"INSERT INTO {table} ({list}) SELECT {values} FROM {table} WHERE rowid = {row}");
        return new("doubled", $"{table}: row {row} doubled with another {changed.Name}");
    }

    private static async Task<Alteration?> Swapped(
        DbConnection connection,
        string table,
        long one,
        long other,
        Random random
    )
    {
        var columns = (await Columns(connection, table)).Where(c => !c.Key).ToList();
        if (one == other || columns.Count == 0)
            return null;
        var column = columns[random.Next(columns.Count)].Name;
        var (a, b) = (await Value(connection, table, column, one), await Value(connection, table, column, other));
        if (Same(a, b))
            return null;
        await Set(connection, table, column, one, b);
        await Set(connection, table, column, other, a);
        return new("swapped", $"{table}.{column}: rows {one} and {other} swapped");
    }

    private static async Task<Alteration?> Cell(DbConnection connection, string table, long row, Random random)
    {
        var columns = await Columns(connection, table);
        var column = columns[random.Next(columns.Count)];
        var was = await Value(connection, table, column.Name, row);
        var now = Altered(was, random);
        if (Same(was, now) || (column.Type == "TEXT" && SameNumber(was, now)))
            return null;
        await Set(connection, table, column.Name, row, now);
        return new(
            was is byte[] ? "bytes"
                : was is string ? "text"
                : "number",
            $"{table}.{column.Name}, row {row}: {Shown(was)} became {Shown(now)}"
        );
    }

    private static object Altered(object was, Random random)
    {
        switch (was)
        {
            case byte[] { Length: > 0 } bytes:
                var copy = (byte[])bytes.Clone();
                if (random.Next(6) == 0)
                    return copy[..random.Next(copy.Length)];
                copy[random.Next(copy.Length)] ^= (byte)(1 << random.Next(8));
                return copy;
            case string { Length: > 0 } text:
                var at = random.Next(text.Length);
                return random.Next(8) switch
                {
                    0 => text[..at],
                    1 => text + "x",
                    2 => DBNull.Value,
                    3 => text[..at] + text[(at + 1)..],
                    _ => $"{text[..at]}{(char)(text[at] == 'z' ? 'y' : text[at] == '9' ? '8' : text[at] + 1)}"
                        + $"{text[(at + 1)..]}",
                };
            case long number:
                return number + (random.Next(2) == 0 ? 1 : -1);
            case DBNull:
                return "x";
            default:
                return DBNull.Value;
        }
    }

    private static bool Same(object a, object b) =>
        a is byte[] x && b is byte[] y ? x.AsSpan().SequenceEqual(y) : Equals(a, b);

    // 2.0 and 2.00 are one number.
    private static bool SameNumber(object a, object b) =>
        a is string x
        && b is string y
        && decimal.TryParse(x, CultureInfo.InvariantCulture, out var p)
        && decimal.TryParse(y, NumberStyles.Number, CultureInfo.InvariantCulture, out var q)
        && p == q;

    private static string Shown(object value) =>
        value switch
        {
            byte[] b => $"{b.Length} bytes",
            DBNull => "nothing",
            string { Length: > 60 } s => s[..60] + "…",
            _ => value.ToString()!,
        };

    private sealed record Column(string Name, string Type, bool Key);

    private static async Task<List<Column>> Columns(DbConnection connection, string table)
    {
        await using var command = connection.CreateCommand();
        command.CommandText = $"SELECT name, type, pk FROM pragma_table_info('{table}')";
        await using var reader = await command.ExecuteReaderAsync();
        var columns = new List<Column>();
        while (await reader.ReadAsync())
            columns.Add(new(reader.GetString(0), reader.GetString(1), reader.GetInt64(2) > 0));
        return columns;
    }

    private static async Task<List<long>> Numbers(DbConnection connection, string sql)
    {
        await using var command = connection.CreateCommand();
        command.CommandText = sql;
        await using var reader = await command.ExecuteReaderAsync();
        var numbers = new List<long>();
        while (await reader.ReadAsync())
            numbers.Add(reader.GetInt64(0));
        return numbers;
    }

    private static async Task<object> Value(DbConnection connection, string table, string column, long row)
    {
        await using var command = connection.CreateCommand();
        command.CommandText = $"SELECT \"{column}\" FROM {table} WHERE rowid = {row}";
        return await command.ExecuteScalarAsync() ?? DBNull.Value;
    }

    private static async Task Set(DbConnection connection, string table, string column, long row, object value)
    {
        await using var command = connection.CreateCommand();
        command.CommandText = $"UPDATE {table} SET \"{column}\" = @value WHERE rowid = {row}";
        var parameter = command.CreateParameter();
        (parameter.ParameterName, parameter.Value) = ("@value", value);
        command.Parameters.Add(parameter);
        await command.ExecuteNonQueryAsync();
    }

    private static async Task Run(DbConnection connection, string sql)
    {
        await using var command = connection.CreateCommand();
        command.CommandText = sql;
        await command.ExecuteNonQueryAsync();
    }

    [Fact]
    public void No_bit_of_a_packed_text_can_be_turned_unseen()
    {
        var packed = Packed.Pack("A text, kept; a text kept again, a text kept once more.");
        Assert.Equal("A text, kept; a text kept again, a text kept once more.", Packed.Unpack(packed));
        Assert.All(Enumerable.Range(0, packed.Length * 8), bit =>
        {
            var bent = packed.ToArray();
            bent[bit / 8] ^= (byte)(1 << (bit % 8));
            Assert.Null(Packed.Unpack(bent));
        });
        Assert.All(Enumerable.Range(0, packed.Length), length => Assert.Null(Packed.Unpack(packed[..length])));
    }
}
