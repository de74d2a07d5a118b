using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Lists;

/// <summary>An assembly in a list, with its last sealed test.</summary>
/// <param name="Assembly">With place and owner.</param>
/// <param name="Last">Its last sealed test, checked; null when it has none.</param>
public sealed record RegisterLine(AssemblyRow Assembly, LastSealed? Last)
{
    /// <summary>By when a stopgap on it is to be put right; null where none is open.</summary>
    public DateOnly? Stopgap { get; init; }

    /// <summary>Whether it was repaired and no test has followed.</summary>
    public bool IsUntested { get; init; }
}

/// <summary>Searches the register by anything: serial, tag, place, street, owner, make, what it serves.</summary>
public sealed class RegisterSearch(Store store, RegisterIndex index, SealReader seals, TimeProvider clock)
{
    /// <summary>The most lines on a page.</summary>
    public const int PageSize = 40;

    private const int MostWords = 6;

    // How far a count goes before it says "more".
    private const int Counted = 1000;

    /// <summary>
    /// Assemblies that match every word, by tag, after a tag (keyset paging). What was replaced is found from the
    /// passport of what replaced it.
    /// </summary>
    public Task<IReadOnlyList<RegisterLine>> Find(string? words, string? afterTag, CancellationToken cancel) =>
        Find(words, new(), RegisterOrder.Tag, afterTag, cancel);

    /// <summary>Assemblies that match every word and a filter, in an order, after a line.</summary>
    /// <param name="words">The words.</param>
    /// <param name="filter">What else they must be.</param>
    /// <param name="order">The order.</param>
    /// <param name="after">
    /// The tag of the line before; with a day and a blank before it where the order is by a day.
    /// </param>
    /// <param name="cancel">Ends it.</param>
    public async Task<IReadOnlyList<RegisterLine>> Find(
        string? words,
        RegisterFilter filter,
        RegisterOrder order,
        string? after,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(filter);
        await index.Refresh(cancel);
        var ids = IsBare(filter, order)
            ? await Page(words, after, cancel)
            : await Keyset.Of(Matching(words, filter), order, after).Take(PageSize + 1).ToListAsync(cancel);
        var found = await store
            .Assemblies.AsNoTracking()
            .Include(a => a.Place!)
                .ThenInclude(p => p.Owner)
            .Where(a => ids.Contains(a.Id))
            .Select(a => new
            {
                Assembly = a,
                Stopgap = store.FollowUps.Where(f => f.AssemblyId == a.Id && f.How == null).Min(f => (DateOnly?)f.Due),
                IsUntested = store.Repairs.Any(r =>
                    r.AssemblyId == a.Id
                    && r.ClosedAt != null
                    && (r.RetestId == null || store.Runs.Any(t => t.Id == r.RetestId && t.SignedAt == null))
                ),
            })
            .ToListAsync(cancel);
        var last = await seals.LastOf(ids, cancel);
        return
        [
            .. found
                .OrderBy(f => ids.IndexOf(f.Assembly.Id))
                .Select(f => new RegisterLine(f.Assembly, last.GetValueOrDefault(f.Assembly.Id))
                {
                    Stopgap = f.Stopgap,
                    IsUntested = f.IsUntested,
                }),
        ];
    }

    /// <summary>How many match; exact up to a thousand, and one more where there are more.</summary>
    public async Task<int> Count(
        string? words,
        RegisterFilter filter,
        CancellationToken cancel,
        RegisterOrder order = RegisterOrder.Tag
    )
    {
        ArgumentNullException.ThrowIfNull(filter);
        if (!IsBare(filter, order))
            return await Keyset.Of(Matching(words, filter), order, null).Take(Counted + 1).CountAsync(cancel);
        // While somebody types, no more of the index is read than is counted.
        var (sql, values) = index.Question(Words(words), "", Counted + 1);
        return await store.Database.SqlQueryRaw<Guid>(sql, values).CountAsync(cancel);
    }

    /// <summary>What matches, to be written out line by line.</summary>
    public IQueryable<AssemblyRow> Matching(string? words, RegisterFilter filter)
    {
        ArgumentNullException.ThrowIfNull(filter);
        var rows = filter.Of(store, clock.Today());
        var parts = Words(words);
        if (parts.Length == 0)
            return rows;
        var (sql, values) = index.Question(parts, "", limit: null);
        var found = store.Database.SqlQueryRaw<Guid>(sql, values);
        return rows.Where(a => found.Contains(a.Id));
    }

    // Words alone, in the order of the index itself.
    private static bool IsBare(RegisterFilter filter, RegisterOrder order) =>
        order == RegisterOrder.Tag && filter.IsNothing;

    private static string[] Words(string? words) =>
        [.. (words ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(MostWords)];

    private async Task<List<Guid>> Page(string? words, string? after, CancellationToken cancel)
    {
        var (sql, values) = index.Question(Words(words), after ?? "", PageSize + 1);
        return await store.Database.SqlQueryRaw<Guid>(sql, values).ToListAsync(cancel);
    }
}
