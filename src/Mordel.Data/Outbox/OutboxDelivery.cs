using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;
using Mordel.Data.Links;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Outbox;

/// <summary>
/// Delivers what lies in the outbox. A try that was not answered, or whose answer was lost with the process, is made
/// again under the same key; the other side takes each key once.
/// </summary>
/// <param name="store">The store.</param>
/// <param name="seals">Reads reports; one whose seal is broken does not leave the house.</param>
/// <param name="files">Writes them.</param>
/// <param name="links">Knows the secrets of links in letters.</param>
/// <param name="installation">Its address stands in front of them.</param>
/// <param name="clock">The time.</param>
/// <param name="mail">The way for letters; null where this installation has none.</param>
/// <param name="intake">The way to authorities' services; null where this installation has none.</param>
/// <param name="secrets">Reads their keys; null where this installation keeps none.</param>
public sealed class OutboxDelivery(
    Store store,
    SealReader seals,
    ReportFiles files,
    KeepLinks links,
    Installation installation,
    TimeProvider clock,
    IMail? mail = null,
    IAuthorityIntake? intake = null,
    ISecretBox? secrets = null
)
{
    private const int AtOnce = 20;

    // How long to wait after the first, the second … try; the last stands for all that follow.
    private static readonly TimeSpan[] Waits =
    [
        TimeSpan.FromSeconds(10),
        TimeSpan.FromMinutes(1),
        TimeSpan.FromMinutes(5),
        TimeSpan.FromMinutes(30),
        TimeSpan.FromHours(2),
    ];

    /// <summary>Tries what is due; answers when the next try is, or null when nothing waits.</summary>
    public async Task<DateTimeOffset?> Due(CancellationToken cancel)
    {
        var now = clock.Now();
        var due = await store
            .Outbox.Where(o => o.State == OutboxStates.Waiting && o.NextTryAt <= now)
            .OrderBy(o => o.NextTryAt)
            .Take(AtOnce)
            .ToListAsync(cancel);
        foreach (var row in due)
        {
            Settle(row, await Deliver(row, cancel));
            // Each by itself: what is delivered is known before the next one is tried.
            await store.SaveChangesAsync(cancel);
        }

        return await store
            .Outbox.Where(o => o.State == OutboxStates.Waiting)
            .OrderBy(o => o.NextTryAt)
            .Select(o => (DateTimeOffset?)o.NextTryAt)
            .FirstOrDefaultAsync(cancel);
    }

    private void Settle(OutboxRow row, Delivery delivery)
    {
        var now = clock.Now();
        row.Tries++;
        (row.State, row.Says, row.Receipt) = delivery switch
        {
            Delivery.Accepted accepted => (OutboxStates.Delivered, null, accepted.Receipt),
            Delivery.Declined declined => (OutboxStates.Refused, declined.Why, null),
            Delivery.Later later when now >= row.ExpiresAt => (OutboxStates.Expired, later.Why, null),
            Delivery.Later later => (OutboxStates.Waiting, (string?)later.Why, (string?)null),
            _ => throw new InvalidOperationException($"{delivery} is no delivery."),
        };
        row.SettledAt = row.State == OutboxStates.Waiting ? null : now;
        var wait = Waits[Math.Min(row.Tries, Waits.Length) - 1];
        // Who asks to be left alone is, as long as that leaves time for another try.
        if (delivery is Delivery.Later { After: { } asked } && asked > wait)
            wait = asked < Waits[^1] ? asked : Waits[^1];
        row.NextTryAt = now + wait;
        store.OutboxEvents.Add(OutboxEvents.Of(row, now));
        Measures.Deliveries.One(row.State);
    }

    private async Task<Delivery> Deliver(OutboxRow row, CancellationToken cancel)
    {
        var report = row.RunId is { } run ? await seals.Of(run, cancel) : null;
        if (row.RunId is not null && report is not { Holds: true, Run: not null })
            return new Delivery.Declined("The seal of this report is broken: it does not leave the house.");
        try
        {
            return row.Way switch
            {
                OutboxWays.Mail => mail is null
                    ? new Delivery.Later("This installation has no mail server.")
                    : await Send(mail, row, report, cancel),
                OutboxWays.Service => intake is null
                    ? new Delivery.Later("This installation has no way to authorities' services.")
                    : await HandIn(intake, row, report!, cancel),
                _ => new Delivery.Declined($"There is no way \"{row.Way}\"."),
            };
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            // A carrier that throws is a carrier that failed; the outbox goes on.
            return new Delivery.Later($"It could not be handed over: {e.Message}");
        }
    }

    private async Task<Delivery> HandIn(
        IAuthorityIntake intake,
        OutboxRow row,
        SealedReport report,
        CancellationToken cancel
    )
    {
        var (kept, secret) = await ServiceKeys.Of(store, secrets, row.AuthorityId, cancel);
        return kept && secret is null
            ? new Delivery.Declined($"The key for {row.Recipient} cannot be read any more. Set it anew in Rules.")
            : await intake.Submit(
                new(
                    row.Key,
                    row.Recipient,
                    row.To,
                    report.Run!.Report.Number,
                    await files.Of(report, ReportForms.Of(row.Forms, row.Way)[0], cancel)
                )
                {
                    Secret = secret,
                },
                cancel
            );
    }

    private async Task<Delivery> Send(IMail carrier, OutboxRow row, SealedReport? report, CancellationToken cancel)
    {
        if (row.Kind == OutboxRow.Report)
            return await carrier.Send(await ReportMail(row, report!, cancel), cancel);
        var letter = await store.Letters.AsNoTracking().FirstOrDefaultAsync(l => l.OutboxId == row.Id, cancel);
        if (letter is null)
            return new Delivery.Declined("The words of this letter are gone: write it again.");
        var page = await Page(letter, cancel);
        if (page is null)
            return new Delivery.Declined("The link in this letter has ended: write it again.");
        ImmutableArray<Enclosure> enclosed = report is null ? [] : [await files.Of(report, ReportForms.Pdf, cancel)];
        return await carrier.Send(
            new(
                row.Key,
                row.To,
                letter.Subject,
                letter.Text.Replace(LetterRow.Page, page, StringComparison.Ordinal),
                enclosed,
                letter.Html.Replace(LetterRow.Page, page, StringComparison.Ordinal)
            ),
            cancel
        );
    }

    // The address of the page; empty where the letter has none, null where its link opens nothing any more.
    private async Task<string?> Page(LetterRow letter, CancellationToken cancel)
    {
        if (letter.LinkId is not { } id)
            return "";
        var link = await store.Links.AsNoTracking().FirstOrDefaultAsync(l => l.Id == id, cancel);
        return link?.HoldsAt(clock.Now()) == true && links.SecretOf(link) is { } secret
            ? $"{installation.Address}/owner/{secret}"
            : null;
    }

    private async Task<OutgoingMail> ReportMail(OutboxRow row, SealedReport report, CancellationToken cancel)
    {
        var number = report.Run!.Report.Number;
        var enclosed = ImmutableArray.CreateBuilder<Enclosure>();
        foreach (var form in ReportForms.Of(row.Forms, row.Way))
            enclosed.Add(await files.Of(report, form, cancel));
        return new(
            row.Key,
            row.To,
            $"{row.Title}, {report.Run!.Setup.Place.Name}",
            $"""
            {row.Recipient},

            enclosed is report {number} on the backflow preventer {report.Run.Setup.Assembly.Serial} at
            {report.Run.Setup.Place.Name}, {report.Run.Setup.Place.Address}: {report.Run.Report.Reason}

            Whether it is genuine, and still the latest, anybody can see here:
            {installation.CheckOf(report.Record!).Link}
            """,
            enclosed.ToImmutable()
        );
    }
}
