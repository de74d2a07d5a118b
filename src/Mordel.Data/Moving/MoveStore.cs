using System.Data;
using System.Data.Common;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Lists;
using Mordel.Data.Startup;

namespace Mordel.Data.Moving;

/// <summary>
/// Carries the rows of an installation from one kind of database to the other. What was broken off goes on where it
/// was; at the end every row is read on both sides and compared.
/// </summary>
/// <param name="from">Where the rows are; read as they are at one moment.</param>
/// <param name="to">Where they go: nothing is there, or what an earlier move has brought.</param>
public sealed class MoveStore(Store from, Store to)
{
    /// <summary>The table that stands there until a move is done.</summary>
    public const string Mark = "MoveUnderWay";

    private const int Batch = 5_000;

    /// <summary>Carries them over.</summary>
    /// <param name="say">Told what is done, table by table.</param>
    /// <param name="cancel">Ends it; a later one goes on.</param>
    /// <returns>How many tables and rows are there now, all compared.</returns>
    /// <exception cref="StartRefusedException">Something else is there, or a row is not as it was.</exception>
    public async Task<(int Tables, long Rows)> Run(Action<string> say, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(say);
        await to.Database.MigrateAsync(cancel);
        await Begin(cancel);
        var tables = MovedTable.All(from, to);
        await from.Database.OpenConnectionAsync(cancel);
        await to.Database.OpenConnectionAsync(cancel);
        try
        {
            var (source, target) = (from.Database.GetDbConnection(), to.Database.GetDbConnection());
            await Searching(false, cancel);
            // One moment of it, whoever writes beside.
            await using var moment = await source.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel);
            foreach (var table in tables)
                await Copy(table, source, target, say, cancel);
            var rows = 0L;
            foreach (var table in tables)
                rows += await Compare(table, source, target, cancel);
            await Searching(true, cancel);
            await CountOn(cancel);
            await to.Database.ExecuteSqlRawAsync($"DROP TABLE \"{Mark}\"", cancel);
            return (tables.Count, rows);
        }
        finally
        {
            await from.Database.CloseConnectionAsync();
            await to.Database.CloseConnectionAsync();
        }
    }

    // Whatever is there without the mark is somebody's installation.
    private async Task Begin(CancellationToken cancel)
    {
        if (await IsUnderWay(to, cancel))
            return;
        if (await to.Users.AnyAsync(cancel) || await to.Assemblies.AnyAsync(cancel) || await to.Roles.AnyAsync(cancel))
            throw new StartRefusedException(
                "There is an installation there already; nothing was changed. Name an empty database."
            );
        await to.Database.ExecuteSqlRawAsync($"CREATE TABLE \"{Mark}\" (\"Since\" text)", cancel);
    }

    /// <summary>Whether a move into a store was begun and not finished.</summary>
    public static async Task<bool> IsUnderWay(Store store, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(store);
        var question =
            store is PostgresStore
                ? $"SELECT COUNT(*)::int AS \"Value\" FROM pg_class WHERE relname = '{Mark}' AND relkind = 'r'"
                : $"SELECT COUNT(*) AS \"Value\" FROM sqlite_master WHERE name = '{Mark}'";
        return await store.Database.SqlQueryRaw<int>(question).SingleAsync(cancel) > 0;
    }

    private static async Task Copy(
        MovedTable table,
        DbConnection source,
        DbConnection target,
        Action<string> say,
        CancellationToken cancel
    )
    {
        var (all, there) = (await Count(table, source, cancel), await Count(table, target, cancel));
        if (all > there)
        {
            await using var reading = source.CreateCommand();
            var behind = there == 0 ? "" : await Behind(table, target, reading, cancel);
            reading.CommandText = $"SELECT {table.Names} FROM \"{table.Name}\"{behind} ORDER BY {table.KeyNames}";
            await using var rows = await reading.ExecuteReaderAsync(cancel);
            for (var more = await rows.ReadAsync(cancel); more; )
            {
                await using var writer = await RowWriter.For(target, table, cancel);
                for (var i = 0; more && i < Batch; i++, more = await rows.ReadAsync(cancel))
                    await writer.Add(Values(table, rows, atTarget: false), cancel);
                await writer.Commit(cancel);
            }
        }

        if (all > 0)
            say(string.Create(CultureInfo.InvariantCulture, $"{table.Name}: {all}"));
    }

    // Rows come in the order of their keys: what lacks is behind the last that is there.
    private static async Task<string> Behind(
        MovedTable table,
        DbConnection target,
        DbCommand reading,
        CancellationToken cancel
    )
    {
        await using var asking = target.CreateCommand();
        var descending = string.Join(", ", table.Key.Select(k => $"\"{table.Columns[k].Name}\" DESC"));
        asking.CommandText = $"SELECT {table.Names} FROM \"{table.Name}\" ORDER BY {descending} LIMIT 1";
        await using var row = await asking.ExecuteReaderAsync(cancel);
        await row.ReadAsync(cancel);
        var names = new List<string>();
        foreach (var k in table.Key)
        {
            var parameter = table.Columns[k].From.Parameter(reading, $"@k{k}");
            parameter.Value = table.Columns[k].From.Write(table.Columns[k].To.Read(row, k)) ?? DBNull.Value;
            reading.Parameters.Add(parameter);
            names.Add(parameter.ParameterName);
        }

        return $" WHERE ({table.KeyNames}) > ({string.Join(", ", names)})";
    }

    private static async Task<long> Compare(
        MovedTable table,
        DbConnection source,
        DbConnection target,
        CancellationToken cancel
    )
    {
        await using var here = source.CreateCommand();
        await using var there = target.CreateCommand();
        here.CommandText = there.CommandText = $"SELECT {table.Names} FROM \"{table.Name}\" ORDER BY {table.KeyNames}";
        await using var was = await here.ExecuteReaderAsync(cancel);
        await using var @is = await there.ExecuteReaderAsync(cancel);
        for (var rows = 0L; ; rows++)
        {
            var (more, also) = (await was.ReadAsync(cancel), await @is.ReadAsync(cancel));
            if (more != also)
                throw new StartRefusedException($"{table.Name} does not have as many rows there as here.");
            if (!more)
                return rows;
            var (before, after) = (Values(table, was, atTarget: false), Values(table, @is, atTarget: true));
            for (var i = 0; i < before.Length; i++)
                if (!Same(before[i], after[i], table.Columns[i].From.IsDocument))
                    throw new StartRefusedException(
                        $"{table.Name}, row {rows + 1}: {table.Columns[i].Name} is not there what it is here."
                    );
        }
    }

    private static bool Same(object? before, object? after, bool isDocument) =>
        (before, after) switch
        {
            (byte[] one, byte[] other) => one.AsSpan().SequenceEqual(other),
            (string one, string other) when isDocument => System.Text.Json.Nodes.JsonNode.DeepEquals(
                System.Text.Json.Nodes.JsonNode.Parse(one),
                System.Text.Json.Nodes.JsonNode.Parse(other)
            ),
            _ => Equals(before, after),
        };

    private static object?[] Values(MovedTable table, DbDataReader row, bool atTarget)
    {
        var values = new object?[table.Columns.Count];
        for (var i = 0; i < values.Length; i++)
            values[i] = (atTarget ? table.Columns[i].To : table.Columns[i].From).Read(row, i);
        return values;
    }

    private static async Task<long> Count(MovedTable table, DbConnection where, CancellationToken cancel)
    {
        await using var asking = where.CreateCommand();
        asking.CommandText = $"SELECT COUNT(*) FROM \"{table.Name}\"";
        return Convert.ToInt64(await asking.ExecuteScalarAsync(cancel), CultureInfo.InvariantCulture);
    }

    // A server's index of words is made once, when all is there.
    private async Task Searching(bool on, CancellationToken cancel)
    {
        if (to is not PostgresStore)
            return;
        await to.Database.ExecuteSqlRawAsync(
            on
                ? """ALTER TABLE "Assemblies" ENABLE TRIGGER "SearchAdded" """
                : """ALTER TABLE "Assemblies" DISABLE TRIGGER "SearchAdded" """,
            cancel
        );
        if (on)
            await RegisterIndex.Of(to).Rebuild(cancel);
    }

    // Numbers that a server gives itself go on behind the last.
    private async Task CountOn(CancellationToken cancel)
    {
        if (to is not PostgresStore)
            return;
        await to.Database.ExecuteSqlRawAsync(
            """
            SELECT setval(pg_get_serial_sequence('"AspNetRoleClaims"', 'Id'), GREATEST(MAX("Id"), 1))
              FROM "AspNetRoleClaims";
            SELECT setval(pg_get_serial_sequence('"AspNetUserClaims"', 'Id'), GREATEST(MAX("Id"), 1))
              FROM "AspNetUserClaims";
            SELECT setval(pg_get_serial_sequence('"OutboxEvents"', 'Id'), GREATEST(MAX("Id"), 1)) FROM "OutboxEvents";
            """,
            cancel
        );
    }
}
