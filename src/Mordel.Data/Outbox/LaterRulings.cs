using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;
using Mordel.Data.Rows;

namespace Mordel.Data.Outbox;

/// <summary>
/// Takes in what authorities' services decide after they have answered: that they changed their mind, or say again what
/// they said. Each ruling counts once, in its order.
/// </summary>
public sealed class LaterRulings(
    Store store,
    TimeProvider clock,
    IAuthorityIntake? intake = null,
    ISecretBox? secrets = null
)
{
    /// <summary>Asks every service; answers whether something became of it.</summary>
    public async Task<bool> Take(CancellationToken cancel)
    {
        if (intake is null)
            return false;
        var services = await store
            .Authorities.AsNoTracking()
            .Where(a => a.ReportsBy == OutboxWays.Service && a.ReportsTo != null)
            .Select(a => new
            {
                a.Id,
                a.ReportsTo,
                a.ReportsKey,
                a.RulingsSeen,
            })
            .ToListAsync(cancel);
        var came = false;
        foreach (var service in services)
        {
            var secret = service.ReportsKey is { } hidden ? secrets?.Show(hidden) : null;
            var rulings = await intake.Rulings(service.ReportsTo!, secret, service.RulingsSeen, cancel);
            if (rulings.Length > 0)
                came |= await Keep(service.Id, rulings, cancel);
        }

        return came;
    }

    private async Task<bool> Keep(Guid authorityId, IReadOnlyCollection<IntakeRuling> rulings, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        var authority = await store.Authorities.FirstAsync(a => a.Id == authorityId, cancel);
        var came = false;
        foreach (var ruling in rulings.Where(r => r.Number > authority.RulingsSeen).OrderBy(r => r.Number))
        {
            authority.RulingsSeen = ruling.Number;
            // What is not ours, or another authority's, is none of this one's business.
            if (
                await store.Outbox.FirstOrDefaultAsync(o => o.Key == ruling.Key, cancel) is { } row
                && row.IsReportTo(authorityId)
            )
                came |= Settle(row, ruling);
        }

        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return came;
    }

    private bool Settle(OutboxRow row, IntakeRuling ruling)
    {
        var state = ruling.Taken ? OutboxStates.Delivered : OutboxStates.Refused;
        if (row.State == state && (!ruling.Taken || row.Receipt == ruling.Receipt))
            return false;
        (row.State, row.Says, row.Receipt, row.SettledAt) = (
            state,
            ruling.Taken ? null : $"{row.Recipient} had taken it and then said: {ruling.Why}",
            ruling.Receipt,
            clock.Now()
        );
        store.OutboxEvents.Add(OutboxEvents.Of(row, clock.Now()));
        return true;
    }
}
