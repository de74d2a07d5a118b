using Mordel.Data.Lists;

namespace Mordel.Data.Commands.Diagnoses;

/// <summary>Says from when on repairs count for the rates. What was found stays in its logs.</summary>
public sealed class ResetRates(Store store, RepairFindings findings, TimeProvider clock)
{
    /// <summary>Only what is found from now on counts.</summary>
    public Task<Reply<Guid>> FromNow(string by, CancellationToken cancel) => Add(by, clock.Now(), cancel);

    /// <summary>All that was ever found counts again.</summary>
    public async Task<Reply<Guid>> CountAll(string by, CancellationToken cancel) =>
        (await findings.LatestReset(cancel))?.From is null
            ? Reply<Guid>.Refused("Everything counts already.")
            : await Add(by, null, cancel);

    private async Task<Reply<Guid>> Add(string by, DateTimeOffset? from, CancellationToken cancel)
    {
        var row = new Rows.RateResetRow
        {
            Id = Guid.CreateVersion7(),
            At = clock.Now(),
            By = by,
            From = from,
        };
        store.RateResets.Add(row);
        await store.SaveChangesAsync(cancel);
        return row.Id;
    }
}
