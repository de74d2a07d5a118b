using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>Lends a kit from one tester to another by day, and takes it back sooner.</summary>
public sealed class LendKit(Store store, ChangeLog log, TimeProvider clock)
{
    /// <summary>The most days of one loan.</summary>
    public const int MostDays = 366;

    /// <summary>Lends it.</summary>
    /// <param name="kitId">The kit.</param>
    /// <param name="toId">Who gets it.</param>
    /// <param name="from">The first day; today or later.</param>
    /// <param name="until">The last day.</param>
    /// <param name="author">Who says so.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> With(
        Guid kitId,
        Guid toId,
        DateOnly? from,
        DateOnly? until,
        Author author,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        var row = new LoanRow
        {
            Id = Guid.CreateVersion7(),
            KitId = kitId,
            ToId = toId,
            From = fields.Day("from", from, "The first day"),
            Until = fields.Day("until", until, "The last day"),
            At = clock.Now(),
            By = author.By,
        };
        fields.That("from", from is null || row.From >= clock.Today(), "A kit is lent from today on, not backwards.");
        fields.That("until", row.Until >= row.From, "The last day lies before the first.");
        fields.That(
            "until",
            row.Until.DayNumber - row.From.DayNumber < MostDays,
            "A kit that is away for longer than a year has another keeper."
        );
        await using var transaction = await store.BeginWriting(cancel);
        if (await store.Kits.FirstOrDefaultAsync(k => k.Id == kitId, cancel) is not { } kit)
            return Reply<Guid>.NotFound("There is no such kit.");
        var to = await store.Users.FirstOrDefaultAsync(u => u.Id == toId && u.DismissedAt == null, cancel);
        fields.That("toId", to is not null, "Choose who gets it.");
        fields.That("toId", kit.KeeperId != toId, "It is that person’s own kit.");
        if (fields.Any)
            return fields;
        var other = await store
            .Loans.Include(l => l.To)
            .Where(l => l.KitId == kitId && l.From <= row.Until && l.Until >= row.From)
            .FirstOrDefaultAsync(cancel);
        if (other is not null)
            return Reply<Guid>.Refused(
                $"It is lent to {other.To!.FullName} from {Said(other.From)} to {Said(other.Until)}. Take it back "
                    + "first."
            );
        store.Loans.Add(row);
        log.Write(
            author,
            Things.Kit,
            kitId,
            "lent",
            "",
            $"to {to!.FullName} from {Said(row.From)} to {Said(row.Until)}"
        );
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }

    /// <summary>It is back: from today its keeper has it again; a loan that has not begun is taken back.</summary>
    /// <returns>The kit.</returns>
    public async Task<Reply<Guid>> Back(Guid kitId, Guid loanId, Author author, CancellationToken cancel)
    {
        var today = clock.Today();
        await using var transaction = await store.BeginWriting(cancel);
        var loan = await store
            .Loans.Include(l => l.To)
            .FirstOrDefaultAsync(l => l.Id == loanId && l.KitId == kitId, cancel);
        if (loan is null)
            return Reply<Guid>.NotFound("There is no such loan.");
        if (loan.Until < today)
            return Reply<Guid>.Refused($"It came back on {Said(loan.Until)}.");
        var was = $"to {loan.To!.FullName} from {Said(loan.From)} to {Said(loan.Until)}";
        if (loan.From >= today)
            store.Loans.Remove(loan);
        else
            loan.Until = today.AddDays(-1);
        log.Write(author, Things.Kit, kitId, "lent", was, $"back on {Said(today)}");
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return kitId;
    }

    private static string Said(DateOnly day) => day.ToString("d MMM yyyy", CultureInfo.InvariantCulture);
}
