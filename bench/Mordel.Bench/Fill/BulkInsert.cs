using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Mordel.Data;

namespace Mordel.Bench.Fill;

/// <summary>
/// Puts rows of one kind into a database by a prepared statement, as the store's model would write them.
/// </summary>
/// <typeparam name="T">The row.</typeparam>
public sealed class BulkInsert<T> : IDisposable
    where T : class
{
    private readonly SqliteCommand command;
    private readonly (Func<T, object?> Read, SqliteParameter Into)[] columns;

    public BulkInsert(Store store, SqliteConnection connection)
    {
        var type = store.Model.FindEntityType(typeof(T))!;
        var table = StoreObjectIdentifier.Table(type.GetTableName()!, null);
        command = connection.CreateCommand();
        columns = [.. type.GetProperties().Where(p => !p.IsShadowProperty()).Select(Column)];
        var names = type.GetProperties().Where(p => !p.IsShadowProperty()).Select(p => $"\"{p.GetColumnName(table)}\"");
        command.CommandText =
            $"INSERT INTO \"{table.Name}\" ({string.Join(", ", names)}) "
            + $"VALUES ({string.Join(", ", columns.Select(c => c.Into.ParameterName))})";
    }

    /// <summary>Adds a row.</summary>
    public void Add(T row)
    {
        foreach (var (read, into) in columns)
            into.Value = read(row) ?? DBNull.Value;
        command.ExecuteNonQuery();
    }

    public void Dispose() => command.Dispose();

    private (Func<T, object?>, SqliteParameter) Column(IProperty property)
    {
        var parameter = command.CreateParameter();
        parameter.ParameterName = $"@p{command.Parameters.Count}";
        command.Parameters.Add(parameter);
        var (getter, converter) = (property.PropertyInfo!, property.GetTypeMapping().Converter);
        return (
            row => getter.GetValue(row) is { } value ? converter?.ConvertToProvider(value) ?? value : null,
            parameter
        );
    }
}
