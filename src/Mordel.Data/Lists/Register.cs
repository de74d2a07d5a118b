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
public sealed class RegisterSearch(Store store, RegisterIndex index, SealReader seals)
{
    /// <summary>The most lines on a page.</summary>
    public const int PageSize = 40;

    // Letters that make a part; shorter words count from the beginning of a word.
    private const int Part = 3,
        MostWords = 6;

    /// <summary>
    /// Assemblies that match every word, by tag, after a tag (keyset paging). What was replaced is found from the
    /// passport of what replaced it.
    /// </summary>
    public async Task<IReadOnlyList<RegisterLine>> Find(string? words, string? afterTag, CancellationToken cancel)
    {
        await index.Refresh(cancel);
        var (sql, values) = Question(
            [.. (words ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(MostWords)],
            afterTag ?? ""
        );
        var ids = await store.Database.SqlQueryRaw<Guid>(sql, values).ToListAsync(cancel);
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
                .OrderBy(f => f.Assembly.Tag, StringComparer.Ordinal)
                .Select(f => new RegisterLine(f.Assembly, last.GetValueOrDefault(f.Assembly.Id))
                {
                    Stopgap = f.Stopgap,
                    IsUntested = f.IsUntested,
                }),
        ];
    }

    // Rows lie in the order of their tags: the first page is read, and no more.
    private static (string Sql, object[] Values) Question(string[] words, string afterTag)
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
        return (
            $"SELECT o.AssemblyId AS Value FROM (SELECT {key} AS Place FROM {from} "
                + $"WHERE {string.Join(" AND ", wanted)} ORDER BY {key} LIMIT {PageSize + 1}) f "
                + "JOIN SearchOrder o ON o.Place = f.Place ORDER BY f.Place",
            [.. values]
        );
    }

    private static string Quoted(string word) => $"\"{word.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
}

/// <summary>An assembly's passport.</summary>
/// <param name="Assembly">With place, owner and authority.</param>
/// <param name="Tests">Its sealed tests, each checked, with its chain.</param>
/// <param name="Replaces">The assembly that it replaced.</param>
public sealed record PassportView(AssemblyRow Assembly, SealedHistory Tests, AssemblyRow? Replaces);

/// <summary>Reads a passport: the data, and every sealed run as it was sealed, the last first.</summary>
public sealed class Passport(Store store, SealReader seals)
{
    /// <summary>The passport, or null when there is no such assembly.</summary>
    public async Task<PassportView?> Of(Guid assemblyId, CancellationToken cancel)
    {
        var assembly = await store
            .Assemblies.AsNoTrackingWithIdentityResolution()
            .Include(a => a.Place!)
                .ThenInclude(p => p.Owner)
            .Include(a => a.Place!)
                .ThenInclude(p => p.Assemblies)
            .Include(a => a.Authority)
            .AsSplitQuery()
            .FirstOrDefaultAsync(a => a.Id == assemblyId, cancel);
        if (assembly is null)
            return null;
        var replaces = assembly.ReplacesId is { } id
            ? await store.Assemblies.AsNoTracking().FirstOrDefaultAsync(a => a.Id == id, cancel)
            : null;
        return new(assembly, await seals.OfAssembly(assemblyId, cancel), replaces);
    }
}
