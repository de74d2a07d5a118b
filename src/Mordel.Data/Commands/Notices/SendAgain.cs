using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Notices;

/// <summary>Sends again what waits, was refused, came back or was given up, to where it would go today.</summary>
public sealed class SendAgain(Store store, OutboxBell bell, TimeProvider clock)
{
    /// <summary>A letter goes to the address of the register, a report the way its authority takes reports
    /// now.</summary>
    public async Task<Reply<Guid>> It(Guid id, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await store.Outbox.FirstOrDefaultAsync(o => o.Id == id, cancel) is not { } row)
            return Reply<Guid>.NotFound("There is no such thing in the outbox.");
        if (row.State == OutboxStates.Delivered)
            return Reply<Guid>.Refused("It is delivered; it does not go out twice.");
        if (row.Kind == OutboxRow.Report)
            await Report(row, cancel);
        else if (await Letter(row, cancel) is { } wrong)
            return Reply<Guid>.Refused(wrong);
        var now = clock.Now();
        (row.State, row.SettledAt, row.NextTryAt, row.ExpiresAt) = (
            OutboxStates.Waiting,
            null,
            now,
            now + OutboxWriter.Patience
        );
        row.Receipt = null;
        store.OutboxEvents.Add(OutboxEvents.Of(row, now, author.By));
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        bell.Ring();
        return row.Id;
    }

    // The key stays: an intake that has it already gives the same receipt.
    private async Task Report(OutboxRow row, CancellationToken cancel)
    {
        var authority = await store
            .Runs.Where(r => r.Id == row.RunId)
            .Select(r => r.Assembly!.Authority)
            .FirstOrDefaultAsync(cancel);
        if (authority is { ReportsBy: { } way, ReportsTo: { } to } && row.IsReportTo(authority.Id))
            (row.Way, row.To, row.Forms, row.Recipient) = (way, to, authority.ReportsAs, authority.Name);
    }

    private async Task<string?> Letter(OutboxRow row, CancellationToken cancel)
    {
        var to = row switch
        {
            { OwnerId: { } owner } => await store
                .Owners.Where(o => o.Id == owner)
                .Select(o => o.Mail)
                .FirstOrDefaultAsync(cancel),
            { PlaceId: { } place } => await store
                .Places.Where(p => p.Id == place)
                .Select(p => p.OccupantMail)
                .FirstOrDefaultAsync(cancel),
            _ => row.To,
        };
        if (!Recipient.IsMail(to))
            return $"{row.Recipient} has no address for letters. Give one in the register first.";
        // To another address it is another letter for who carries it: the one that came back is not counted.
        if (row.State == OutboxStates.Returned || row.To != to)
            row.Key = $"{row.Key.Split('#')[0]}#{row.Tries}";
        row.To = to!;
        return null;
    }
}
