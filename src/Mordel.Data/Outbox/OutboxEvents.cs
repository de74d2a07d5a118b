using Mordel.Data.Rows;

namespace Mordel.Data.Outbox;

/// <summary>Notes what becomes of something in the outbox.</summary>
public static class OutboxEvents
{
    /// <summary>How it stands now.</summary>
    public static OutboxEventRow Of(OutboxRow row, DateTimeOffset at, string? by = null)
    {
        ArgumentNullException.ThrowIfNull(row);
        return new()
        {
            OutboxId = row.Id,
            At = at,
            State = row.State,
            Says = row.Says,
            Receipt = row.Receipt,
            By = by,
        };
    }
}
