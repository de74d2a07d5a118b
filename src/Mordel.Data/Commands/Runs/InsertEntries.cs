using System.Data.Common;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Storage;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Runs;

/// <summary>
/// Writes entries without following each of their rows: of many runs at once there are tens of thousands. Each value is
/// written as the store's model says.
/// </summary>
public static class InsertEntries
{
    /// <summary>Inserts entries of runs that are there, inside the transaction that was begun.</summary>
    /// <exception cref="InvalidOperationException">No transaction was begun.</exception>
    public static async Task Insert(this Store store, IEnumerable<EntryRow> entries, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(store);
        ArgumentNullException.ThrowIfNull(entries);
        var transaction = store.Database.CurrentTransaction
            ?? throw new InvalidOperationException("Entries are written inside a transaction.");
        var type = store.Model.FindEntityType(typeof(EntryRow))!;
        var sql = store.Database.GetService<ISqlGenerationHelper>();
        await using var command = store.Database.GetDbConnection().CreateCommand();
        command.Transaction = transaction.GetDbTransaction();
        var columns = new List<(Func<EntryRow, object?> Of, DbParameter Into)>();
        foreach (var property in type.GetProperties())
        {
            var mapping = property.GetRelationalTypeMapping();
            var parameter = mapping.CreateParameter(command, $"@{property.Name}", null, nullable: true);
            command.Parameters.Add(parameter);
            var (read, convert) = (property.PropertyInfo!, mapping.Converter);
            columns.Add(
                (row => convert is null ? read.GetValue(row) : convert.ConvertToProvider(read.GetValue(row)), parameter)
            );
        }

        var names = type.GetProperties().Select(p => sql.DelimitIdentifier(p.GetColumnName()));
        var values = type.GetProperties().Select(p => $"@{p.Name}");
        command.CommandText =
            $"INSERT INTO {sql.DelimitIdentifier(type.GetTableName()!)} ({string.Join(", ", names)}) "
            + $"VALUES ({string.Join(", ", values)})";
        foreach (var row in entries)
        {
            foreach (var (of, into) in columns)
                into.Value = of(row) ?? DBNull.Value;
            await command.ExecuteNonQueryAsync(cancel);
        }
    }
}
