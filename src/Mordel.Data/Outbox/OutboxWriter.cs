using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Outbox;

/// <summary>Writes down what is to leave the house; saved with its cause.</summary>
public sealed class OutboxWriter(Store store, TimeProvider clock)
{
    /// <summary>How long something may wait before somebody must look at it.</summary>
    public static readonly TimeSpan Patience = TimeSpan.FromDays(3);

    /// <summary>
    /// A report, or an amendment of it, goes to the authority of its assembly, where that authority takes reports.
    /// </summary>
    /// <param name="run">The run; its assembly is loaded.</param>
    /// <param name="amendment">The amendment; null when it is the report itself.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task Report(RunRow run, Guid? amendment, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(run);
        var authority = await store.Authorities.FirstAsync(a => a.Id == run.Assembly!.AuthorityId, cancel);
        if (authority is not { ReportsBy: { } way, ReportsTo: { } to })
            return;
        var now = clock.Now();
        store.Outbox.Add(
            new()
            {
                Id = Guid.CreateVersion7(),
                Key = OutboxRow.KeyOf(run.Id, amendment, authority.Id),
                Way = way,
                To = to,
                Recipient = authority.Name,
                Title = $"{(amendment is null ? "Report" : "Amendment of report")} {run.Number}",
                Forms = authority.ReportsAs,
                RunId = run.Id,
                WrittenAt = now,
                State = OutboxStates.Waiting,
                NextTryAt = now,
                ExpiresAt = now + Patience,
            }
        );
    }
}
