using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

namespace Mordel.Data;

/// <summary>The same store on a PostgreSQL server, which several processes share.</summary>
/// <param name="options">How it is reached.</param>
/// <param name="writers">Where this process's writers wait for their turn; null where nobody else writes.</param>
public sealed class PostgresStore(DbContextOptions<PostgresStore> options, WriterQueue? writers = null)
    : Store(options, writers)
{
    // Any number that nothing else on the server takes: its lock is held by whoever writes.
    private const long WriterLock = 0x4D6F7264_656C;

    /// <summary>
    /// One writer at a time, over all processes: sequences, chains and ends are read and then written, as on a file.
    /// The server lets go of the lock with the transaction, however that ends.
    /// </summary>
    protected override Task KeepOthersOut(CancellationToken cancel) =>
        Database.ExecuteSqlAsync($"SELECT pg_advisory_xact_lock({WriterLock})", cancel);

    /// <summary>
    /// Writes in a transaction of its own: only so are others kept out, and rows that two change at once in different
    /// orders would wait for each other.
    /// </summary>
    protected override async Task<int> InItsTurn(Func<Task<int>> work, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(work);
        await using var writing = await BeginWriting(cancel);
        var written = await work();
        await writing.CommitAsync(cancel);
        return written;
    }

    /// <inheritdoc/>
    protected override void KeepAs(ModelConfigurationBuilder values)
    {
        ArgumentNullException.ThrowIfNull(values);
        values.Properties<DateTimeOffset>().HaveConversion<UtcInstant>();
        values.Properties<decimal>().HaveConversion<PlainDigits>();
        // Sorted and compared sign by sign, as everywhere else in Mordel, whatever the server's language.
        values.Properties<string>().UseCollation("C");
    }

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        // How long a text may be is for the commands to say; a file does not cut it off either.
        foreach (var text in builder.Model.GetEntityTypes().SelectMany(t => t.GetProperties()))
            if (text.ClrType == typeof(string))
                text.SetMaxLength(null);
        // Nothing stands before something, in orders and so in the indexes that serve them.
        foreach (var index in builder.Model.GetEntityTypes().SelectMany(t => t.GetIndexes()))
            if (index.Properties.Any(p => p.IsNullable))
                index.SetAnnotation("Npgsql:IndexNullSortOrder", SortOrders(index));
    }

    // What is never nothing keeps the server's own order, as the questions leave it.
    private static NullSortOrder[] SortOrders(IMutableIndex index) =>
        [.. index.Properties.Select(p => p.IsNullable ? NullSortOrder.NullsFirst : NullSortOrder.NullsLast)];
}
