using Npgsql;

namespace Mordel.Data.Processes;

/// <summary>Those of all processes that share a server; the server forgets them when it crashes.</summary>
public sealed class PostgresCounts(string connection, TimeProvider clock) : WindowCounts
{
    /// <summary>Makes the table; part of the first migration.</summary>
    internal const string Sql = """
        CREATE UNLOGGED TABLE "Counts" (
          "Key" text COLLATE "C" PRIMARY KEY, "Count" int NOT NULL, "Until" timestamptz NOT NULL);
        """;

    private static readonly TimeSpan Sweeping = TimeSpan.FromMinutes(1);
    private long swept;

    /// <inheritdoc/>
    public override async ValueTask<int> Of(string key, CancellationToken cancel) =>
        await Ask("""SELECT "Count" FROM "Counts" WHERE "Key" = $1 AND "Until" > $2""", cancel, key, Now) is int count
            ? count
            : 0;

    /// <inheritdoc/>
    public override async ValueTask<int> Add(string key, TimeSpan window, CancellationToken cancel)
    {
        await Sweep(cancel);
        var counted = await Ask(
            """
            INSERT INTO "Counts" VALUES ($1, 1, $3) ON CONFLICT ("Key") DO UPDATE SET
              "Count" = CASE WHEN "Counts"."Until" <= $2 THEN 1 ELSE "Counts"."Count" + 1 END,
              "Until" = CASE WHEN "Counts"."Until" <= $2 THEN $3 ELSE "Counts"."Until" END
            RETURNING "Count"
            """,
            cancel,
            key,
            Now,
            Now + window
        );
        return (int)counted!;
    }

    /// <inheritdoc/>
    public override async ValueTask Forget(string key, CancellationToken cancel) =>
        await Ask("""DELETE FROM "Counts" WHERE "Key" = $1""", cancel, key);

    private DateTime Now => clock.GetUtcNow().UtcDateTime;

    // What is over goes now and then.
    private async Task Sweep(CancellationToken cancel)
    {
        var before = Interlocked.Read(ref swept);
        if (clock.GetElapsedTime(before) < Sweeping && before != 0)
            return;
        if (Interlocked.CompareExchange(ref swept, clock.GetTimestamp(), before) == before)
            await Ask("""DELETE FROM "Counts" WHERE "Until" <= $1""", cancel, Now);
    }

    private async Task<object?> Ask(string sql, CancellationToken cancel, params object[] values)
    {
        await using var open = new NpgsqlConnection(connection);
        await open.OpenAsync(cancel);
        await using var command = new NpgsqlCommand(sql, open);
        foreach (var value in values)
            command.Parameters.Add(new() { Value = value });
        return await command.ExecuteScalarAsync(cancel);
    }
}
