using System.Data.Common;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Mordel.Bench;

/// <summary>Counts the questions that the store asks of the database, and how long each took.</summary>
public sealed class CountedCommands : DbCommandInterceptor
{
    /// <summary>The questions since the last <see cref="Clear"/>, with their milliseconds.</summary>
    public List<(string Sql, double Ms)> Asked { get; } = [];

    /// <summary>Begins anew.</summary>
    public void Clear() => Asked.Clear();

    public override ValueTask<DbDataReader> ReaderExecutedAsync(
        DbCommand command,
        CommandExecutedEventData eventData,
        DbDataReader result,
        CancellationToken cancellationToken = default
    )
    {
        lock (Asked)
            Asked.Add((command.CommandText, eventData.Duration.TotalMilliseconds));
        return base.ReaderExecutedAsync(command, eventData, result, cancellationToken);
    }
}
