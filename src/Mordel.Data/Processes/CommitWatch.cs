using System.Data.Common;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Mordel.Data.Processes;

/// <summary>
/// Whether anything that was done so far may last: a transaction was asked to be kept, or rows were changed outside of
/// one. Until then what was asked can be asked again from its beginning.
/// </summary>
public sealed class CommitWatch : DbCommandInterceptor, IDbTransactionInterceptor
{
    /// <inheritdoc/>
    public ValueTask<InterceptionResult> TransactionCommittingAsync(
        DbTransaction transaction,
        TransactionEventData eventData,
        InterceptionResult result,
        CancellationToken cancellationToken = default
    )
    {
        MayLast(eventData);
        return new(result);
    }

    /// <inheritdoc/>
    public InterceptionResult TransactionCommitting(
        DbTransaction transaction,
        TransactionEventData eventData,
        InterceptionResult result
    )
    {
        MayLast(eventData);
        return result;
    }

    /// <inheritdoc/>
    public override ValueTask<InterceptionResult<int>> NonQueryExecutingAsync(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<int> result,
        CancellationToken cancellationToken = default
    )
    {
        ArgumentNullException.ThrowIfNull(command);
        if (command.Transaction is null)
            MayLast(eventData);
        return new(result);
    }

    private static void MayLast(DbContextEventData what)
    {
        ArgumentNullException.ThrowIfNull(what);
        if (what.Context is Store store)
            store.MayLast = true;
    }
}
