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

    // Letters that make a part; shorter words count from the beginning of a word.
    private const int Part = 3,
        MostWords = 6;

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
        var (sql, values) = Question(Words(words), "", Counted + 1);
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
        var (sql, values) = Question(parts, "", limit: null);
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
        var (sql, values) = Question(Words(words), after ?? "", PageSize + 1);
        return await store.Database.SqlQueryRaw<Guid>(sql, values).ToListAsync(cancel);
    }

    // Rows lie in the order of their tags: the first page is read, and no more.
    private static (string Sql, object[] Values) Question(string[] words, string afterTag, int? limit)
    {
        const string Behind =
            "> COALESCE((SELECT Place FROM SearchOrder WHERE Tag <= {0} ORDER BY Tag DESC LIMIT 1), 0)";
        var parts = words.Where(w => w.EnumerateRunes().Count() >= Part).ToList();
        var starts = words.Except(parts).Where(w => w.Any(char.IsLetterOrDigit)).ToList();
        var others = words.Except(parts).Except(starts).ToList();
        var values = new List<object> { afterTag };
        string Value(string value)
        {
            values.Add(value);
            return $"{{{values.Count - 1}}}";
        }

        var (from, key) =
            parts.Count > 0 ? ("SearchParts", "SearchParts.rowid")
            : starts.Count > 0 ? ("SearchStarts", "SearchStarts.rowid")
            : ("SearchOrder", "SearchOrder.Place");
        var wanted = new List<string> { $"{key} {Behind}" };
        if (parts.Count > 0)
            wanted.Add($"SearchParts MATCH {Value(string.Join(" AND ", parts.Select(Quoted)))}");
        if (starts.Count > 0)
        {
            // The plus keeps the database from asking the index anew for each row.
            var match = $"SearchStarts MATCH {Value(string.Join(" AND ", starts.Select(w => $"{Quoted(w)}*")))}";
            wanted.Add(parts.Count == 0 ? match : $"+{key} IN (SELECT rowid FROM SearchStarts WHERE {match})");
        }

        foreach (var word in others)
            wanted.Add(
                $"EXISTS (SELECT 1 FROM SearchParts t WHERE t.rowid = {key} AND instr(t.Words, {Value(word)}) > 0)"
            );
        var page = limit is { } most ? $" ORDER BY {key} LIMIT {most}" : "";
        return (
            $"SELECT o.AssemblyId AS Value FROM (SELECT {key} AS Place FROM {from} "
                + $"WHERE {string.Join(" AND ", wanted)}{page}) f "
                + $"JOIN SearchOrder o ON o.Place = f.Place{(limit is null ? "" : " ORDER BY f.Place")}",
            [.. values]
        );
    }

    private static string Quoted(string word) => $"\"{word.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
}
