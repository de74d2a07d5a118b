using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Setups;

/// <summary>
/// Who has which kit on a day: their own, unless it is lent away, and what is lent to them. The one place that says so.
/// </summary>
public sealed class KitsInHand
{
    private readonly IReadOnlyList<KitRow> kits;
    private readonly IReadOnlyList<LoanRow> loans;

    private KitsInHand(IReadOnlyList<KitRow> kits, IReadOnlyList<LoanRow> loans) =>
        (this.kits, this.loans) = (kits, loans);

    /// <summary>Reads the kits that these people may have on some days.</summary>
    /// <param name="store">The store.</param>
    /// <param name="people">The people; null for everybody.</param>
    /// <param name="first">The first of the days.</param>
    /// <param name="last">The last.</param>
    /// <param name="cancel">Ends the wait.</param>
    public static async Task<KitsInHand> Between(
        Store store,
        IReadOnlyCollection<Guid>? people,
        DateOnly first,
        DateOnly last,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(store);
        var read = await store
            .Kits.AsNoTracking()
            .Where(k =>
                people == null
                || (k.KeeperId != null && people.Contains(k.KeeperId.Value))
                || store.Loans.Any(l =>
                    l.KitId == k.Id && l.Until >= first && l.From <= last && people.Contains(l.ToId)
                )
            )
            .OrderBy(k => k.Serial)
            .Select(k => new
            {
                Kit = k,
                Loans = store
                    .Loans.Where(l => l.KitId == k.Id && l.Until >= first && l.From <= last)
                    .Select(l => new { Loan = l, l.To })
                    .ToList(),
            })
            .ToListAsync(cancel);
        var loans = new List<LoanRow>();
        foreach (var one in read)
        foreach (var lent in one.Loans)
        {
            (lent.Loan.Kit, lent.Loan.To) = (one.Kit, lent.To);
            loans.Add(lent.Loan);
        }

        return new([.. read.Select(r => r.Kit)], [.. loans.OrderBy(l => l.From)]);
    }

    /// <summary>As <see cref="Between"/>, for one day.</summary>
    public static Task<KitsInHand> On(
        Store store,
        IReadOnlyCollection<Guid>? people,
        DateOnly day,
        CancellationToken cancel
    ) => Between(store, people, day, day, cancel);

    /// <summary>The loan by which a kit is away from its keeper on a day; null where it is not.</summary>
    public LoanRow? Loan(Guid kit, DateOnly day) =>
        loans.FirstOrDefault(l => l.KitId == kit && l.From <= day && l.Until >= day);

    /// <summary>The loans by which others' kits are with somebody on a day.</summary>
    public IEnumerable<LoanRow> Lent(Guid person, DateOnly day) =>
        loans.Where(l => l.From <= day && l.Until >= day && l.ToId == person);

    /// <summary>The loans by which somebody's own kits are away on a day.</summary>
    public IEnumerable<LoanRow> Away(Guid keeper, DateOnly day) =>
        loans.Where(l => l.From <= day && l.Until >= day && l.Kit!.KeeperId == keeper);

    /// <summary>Whether somebody has a kit on a day.</summary>
    public bool Has(Guid person, KitRow kit, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(kit);
        return (Loan(kit.Id, day)?.ToId ?? kit.KeeperId) == person;
    }

    /// <summary>
    /// What somebody has on a day: what is in calibration first, of that what was lent, since it was lent to be used.
    /// </summary>
    public IReadOnlyList<KitRow> Of(Guid person, DateOnly day) =>
        [
            .. kits.Where(k => Has(person, k, day))
                .OrderBy(k => k.CalibrationDue < day)
                .ThenBy(k => Loan(k.Id, day) is null),
        ];

    /// <summary>What somebody tests with on a day; null for nothing.</summary>
    public KitRow? Best(Guid person, DateOnly day) => Of(person, day) is { Count: > 0 } all ? all[0] : null;

    /// <summary>What somebody has on any of these days, each with the days.</summary>
    public IEnumerable<(KitRow Kit, IReadOnlyList<DateOnly> Days)> Of(Guid person, IReadOnlyCollection<DateOnly> days)
    {
        foreach (var kit in kits)
            if (days.Where(d => Has(person, kit, d)).ToList() is { Count: > 0 } on)
                yield return (kit, on);
    }
}
