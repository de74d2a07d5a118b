using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;
using Mordel.Data.Rows;

namespace Mordel.Data.Outbox;

/// <summary>Takes in what comes back: answers, and letters that could not be delivered. The same comes once.</summary>
public sealed class IncomingLetters(Store store, TimeProvider clock, IMailbox? mailbox = null)
{
    private const int LongestText = 20_000,
        LongestLine = 300;

    /// <summary>Takes in what has come; answers how many letters that were.</summary>
    public async Task<int> Take(CancellationToken cancel)
    {
        if (mailbox is null)
            return 0;
        var taken = 0;
        foreach (var mail in await mailbox.Read(cancel))
        {
            if (await Keep(mail, cancel))
                taken++;
            // Only when it is kept for good: what is not taken comes again.
            await mailbox.Taken(mail.Id, cancel);
        }

        return taken;
    }

    private async Task<bool> Keep(IncomingMail mail, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        var id = Cut(mail.Id, LongestLine);
        if (await store.Incoming.AnyAsync(i => i.MessageId == id, cancel))
            return false;
        var ours = mail.Answers is { } key ? await store.Outbox.FirstOrDefaultAsync(o => o.Key == key, cancel) : null;
        store.Incoming.Add(
            new()
            {
                Id = Guid.CreateVersion7(),
                MessageId = id,
                At = clock.Now(),
                From = Cut(mail.From, LongestLine),
                Subject = Cut(mail.Subject, LongestLine),
                Text = Cut(mail.Text, LongestText),
                Bounced = mail.Bounced,
                OutboxId = ours?.Id,
            }
        );
        if (mail.Bounced && ours is not null)
            (ours.State, ours.Says, ours.SettledAt) = (
                OutboxStates.Returned,
                Cut($"It came back: {mail.Text.ReplaceLineEndings(" ")}", LongestLine),
                clock.Now()
            );
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    private static string Cut(string text, int most) => text.Length <= most ? text : text[..most];
}
