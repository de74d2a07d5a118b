using System.Data.Common;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Microsoft.EntityFrameworkCore.Storage;

namespace Mordel.Data;

/// <summary>
/// Puts rows of one kind into the database by a prepared statement, as the store's model would write them: for
/// thousands that nobody needs to be told of one by one.
/// </summary>
/// <typeparam name="T">The row.</typeparam>
public sealed class BulkInsert<T> : IDisposable
    where T : class
{
    private readonly DbCommand command;
    private readonly bool isServer;
    private readonly (Func<T, object?> Read, DbParameter Into)[] columns;

    /// <summary>Inserts into the store's own connection, inside the transaction that was begun there.</summary>
    public BulkInsert(Store store)
        : this(store, store.Database.GetDbConnection(), store.Database.CurrentTransaction?.GetDbTransaction()) { }

    /// <summary>Inserts into another connection.</summary>
    public BulkInsert(Store store, DbConnection connection, DbTransaction? transaction = null)
    {
        ArgumentNullException.ThrowIfNull(store);
        ArgumentNullException.ThrowIfNull(connection);
        var type = store.Model.FindEntityType(typeof(T))!;
        var table = StoreObjectIdentifier.Table(type.GetTableName()!, null);
        isServer = store is PostgresStore;
        command = connection.CreateCommand();
        if (transaction is not null)
            command.Transaction = transaction;
        columns = [.. type.GetProperties().Where(p => !p.IsShadowProperty()).Select(Column)];
        var names = type.GetProperties().Where(p => !p.IsShadowProperty()).Select(p => $"\"{p.GetColumnName(table)}\"");
        command.CommandText =
            $"INSERT INTO \"{table.Name}\" ({string.Join(", ", names)}) "
            + $"VALUES ({string.Join(", ", columns.Select(c => c.Into.ParameterName))})";
    }

    /// <summary>Adds a row.</summary>
    public void Add(T row)
    {
        Fill(row);
        command.ExecuteNonQuery();
    }

    /// <summary>Adds a row, holding no thread while the database writes it.</summary>
    public Task AddAsync(T row, CancellationToken cancel)
    {
        Fill(row);
        return command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Adds rows.</summary>
    public void AddAll(IEnumerable<T> rows)
    {
        ArgumentNullException.ThrowIfNull(rows);
        foreach (var row in rows)
            Add(row);
    }

    /// <inheritdoc/>
    public void Dispose() => command.Dispose();

    private void Fill(T row)
    {
        foreach (var (read, into) in columns)
            into.Value = read(row) switch
            {
                null => DBNull.Value,
                string text when isServer => ServerText.Of(text),
                var value => value,
            };
    }

    private (Func<T, object?>, DbParameter) Column(IProperty property)
    {
        var mapping = property.GetRelationalTypeMapping();
        var parameter = mapping.CreateParameter(command, $"@p{command.Parameters.Count}", null, nullable: true);
        command.Parameters.Add(parameter);
        var (getter, converter) = (property.PropertyInfo!, mapping.Converter);
        return (
            row => getter.GetValue(row) is { } value ? converter?.ConvertToProvider(value) ?? value : null,
            parameter
        );
    }
}
