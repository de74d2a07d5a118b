using System.Data.Common;
using Npgsql;
using NpgsqlTypes;

namespace Mordel.Data.Moving;

/// <summary>Writes rows of one table, some thousands in a transaction.</summary>
internal abstract class RowWriter : IAsyncDisposable
{
    /// <summary>A writer for the database behind a connection.</summary>
    public static async Task<RowWriter> For(DbConnection into, MovedTable table, CancellationToken cancel)
    {
        if (into is not NpgsqlConnection server)
            return new FileWriter(into, table, await into.BeginTransactionAsync(cancel));
        var importer = await server.BeginBinaryImportAsync(
            $"COPY \"{table.Name}\" ({table.Names}) FROM STDIN (FORMAT BINARY)",
            cancel
        );
        return new ServerWriter(importer, table);
    }

    /// <summary>Writes one row; the values are the store's own.</summary>
    public abstract Task Add(object?[] row, CancellationToken cancel);

    /// <summary>Makes what was written last.</summary>
    public abstract Task Commit(CancellationToken cancel);

    /// <inheritdoc/>
    public abstract ValueTask DisposeAsync();

    private sealed class FileWriter : RowWriter
    {
        private readonly DbTransaction transaction;
        private readonly DbCommand command;
        private readonly DbParameter[] parameters;
        private readonly MovedTable table;

        public FileWriter(DbConnection into, MovedTable table, DbTransaction transaction)
        {
            (this.transaction, this.table) = (transaction, table);
            command = into.CreateCommand();
            command.Transaction = transaction;
            parameters = [.. table.Columns.Select((c, i) => c.To.Parameter(command, $"@p{i}"))];
            foreach (var parameter in parameters)
                command.Parameters.Add(parameter);
            command.CommandText =
                $"INSERT INTO \"{table.Name}\" ({table.Names}) "
                + $"VALUES ({string.Join(", ", parameters.Select(p => p.ParameterName))})";
        }

        public override Task Add(object?[] row, CancellationToken cancel)
        {
            for (var i = 0; i < row.Length; i++)
                parameters[i].Value = table.Columns[i].To.Write(row[i]) ?? DBNull.Value;
            return command.ExecuteNonQueryAsync(cancel);
        }

        public override Task Commit(CancellationToken cancel) => transaction.CommitAsync(cancel);

        public override async ValueTask DisposeAsync()
        {
            await command.DisposeAsync();
            await transaction.DisposeAsync();
        }
    }

    // The server's own way to take many rows.
    private sealed class ServerWriter : RowWriter
    {
        private readonly NpgsqlBinaryImporter importer;
        private readonly MovedTable table;
        private readonly NpgsqlDbType[] types;

        public ServerWriter(NpgsqlBinaryImporter importer, MovedTable table)
        {
            (this.importer, this.table) = (importer, table);
            using var command = new NpgsqlCommand();
            types =
            [
                .. table.Columns.Select(
                    (c, i) =>
                        c.To.IsDocument
                            ? NpgsqlDbType.Jsonb
                            : ((NpgsqlParameter)c.To.Parameter(command, $"@p{i}")).NpgsqlDbType
                ),
            ];
        }

        public override async Task Add(object?[] row, CancellationToken cancel)
        {
            await importer.StartRowAsync(cancel);
            for (var i = 0; i < row.Length; i++)
                if (table.Columns[i].To.Write(row[i]) is { } value)
                    await importer.WriteAsync(value, types[i], cancel);
                else
                    await importer.WriteNullAsync(cancel);
        }

        public override async Task Commit(CancellationToken cancel) => await importer.CompleteAsync(cancel);

        public override ValueTask DisposeAsync() => importer.DisposeAsync();
    }
}
