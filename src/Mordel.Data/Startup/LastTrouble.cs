using System.Data.Common;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Mordel.Data.Startup;

/// <summary>
/// Remembers the last thing that the database refused for reasons outside of any request, until a transaction gets
/// through again: health tells it.
/// </summary>
public sealed class LastTrouble : DbCommandInterceptor, IDbTransactionInterceptor
{
    /// <summary>What is wrong, and what to do; null while nothing is.</summary>
    public string? Says { get; private set; }

    /// <inheritdoc/>
    public override void CommandFailed(DbCommand command, CommandErrorEventData eventData) =>
        Note(eventData?.Exception);

    /// <inheritdoc/>
    public override Task CommandFailedAsync(
        DbCommand command,
        CommandErrorEventData eventData,
        CancellationToken cancellationToken = default
    )
    {
        Note(eventData?.Exception);
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public void TransactionFailed(DbTransaction transaction, TransactionErrorEventData eventData) =>
        Note(eventData?.Exception);

    /// <inheritdoc/>
    public Task TransactionFailedAsync(
        DbTransaction transaction,
        TransactionErrorEventData eventData,
        CancellationToken cancellationToken = default
    )
    {
        Note(eventData?.Exception);
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public void TransactionCommitted(DbTransaction transaction, TransactionEndEventData eventData) => Says = null;

    /// <inheritdoc/>
    public Task TransactionCommittedAsync(
        DbTransaction transaction,
        TransactionEndEventData eventData,
        CancellationToken cancellationToken = default
    )
    {
        Says = null;
        return Task.CompletedTask;
    }

    private void Note(Exception? e)
    {
        if (e is not null && !StoreTrouble.IsBusy(e) && StoreTrouble.Says(e) is { } says)
            Says = says;
    }
}
