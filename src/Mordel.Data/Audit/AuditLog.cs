using Microsoft.EntityFrameworkCore;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Audit;

/// <summary>What is looked for in the log.</summary>
/// <param name="What">One of <see cref="AuditKinds"/>; null for all.</param>
/// <param name="Who">Part of a name; null for all.</param>
/// <param name="On">The id of what it was done to; null for all.</param>
/// <param name="Before">Those before this number; null from the end.</param>
public readonly record struct AuditFilter(string? What, string? Who, string? On, long? Before);

/// <summary>The audit log: what is noted, read and checked.</summary>
public sealed class AuditLog(Store store, SigningKeys keys, WhoAsks who) : IAlsoChecked
{
    /// <summary>How many lines a page has.</summary>
    public const int Page = 100;

    private const string Escape = "\\";

    /// <summary>Writes something down at once.</summary>
    public Task Write(string what, string on, string says, CancellationToken cancel)
    {
        who.Note(what, on, says);
        (AuditKinds.AreOfSignIns.Contains(what) ? Measures.SignIns : Measures.Upkeep).One(what);
        return store.SaveChangesAsync(cancel);
    }

    /// <summary>A page of it, the latest first.</summary>
    public Task<List<AuditRow>> Find(AuditFilter filter, CancellationToken cancel, int lines = Page) =>
        Filtered(filter).OrderByDescending(a => a.Number).Take(lines).ToListAsync(cancel);

    /// <summary>All that fits, the first first, for whoever takes it out.</summary>
    public IAsyncEnumerable<AuditRow> All(AuditFilter filter) =>
        Filtered(filter).OrderBy(a => a.Number).AsAsyncEnumerable();

    /// <summary>The last of each of some kinds; those that never were are left out.</summary>
    public async Task<IReadOnlyDictionary<string, AuditRow>> Last(IEnumerable<string> kinds, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(kinds);
        var last = new Dictionary<string, AuditRow>(StringComparer.Ordinal);
        foreach (var kind in kinds)
            if (
                await store
                    .Audit.AsNoTracking()
                    .Where(a => a.What == kind)
                    .OrderByDescending(a => a.Number)
                    .FirstOrDefaultAsync(cancel) is
                { } row
            )
                last[kind] = row;
        return last;
    }

    /// <inheritdoc/>
    public async Task<IReadOnlyList<string>> Check(CancellationToken cancel)
    {
        var broken = new List<string>();
        var (count, hash) = (0L, ContentHash.Beginning);
        await foreach (
            var row in store.Audit.AsNoTracking().OrderBy(a => a.Number).AsAsyncEnumerable().WithCancellation(cancel)
        )
        {
            for (count++; count < row.Number; count++)
                broken.Add($"Line {count} of the audit log is missing.");
            if (row.Hash != AuditChain.HashOf(hash, row))
                broken.Add($"Line {row.Number} of the audit log is not as it was written, or not behind its own.");
            hash = row.Hash;
        }

        var end = await store.AuditEnds.AsNoTracking().ToListAsync(cancel);
        if (count == 0 && end.Count == 0)
            return broken;
        if (end is not [{ Id: AuditChain.TheEnd } only] || AuditChain.Signed(only, keys) is not { } signed)
            broken.Add("The end of the audit log is missing or not as it was signed.");
        else if (signed.Count != count || signed.Hash != hash)
            broken.Add($"The audit log has {count} lines, and ends otherwise than it was signed with {signed.Count}.");
        return broken;
    }

    private IQueryable<AuditRow> Filtered(AuditFilter filter)
    {
        var rows = store.Audit.AsNoTracking();
        if (filter.What is { Length: > 0 } what)
            rows = rows.Where(a => a.What == what);
        if (filter.On is { Length: > 0 } on)
            rows = rows.Where(a => a.On == on);
        if (filter.Who is { Length: > 0 } name)
        {
            var part =
                $"%{name.Replace(Escape, $"{Escape}{Escape}").Replace("%", $"{Escape}%").Replace("_", $"{Escape}_")}%";
            // Capitals and small letters are the same, on a server too.
            rows =
                store is PostgresStore
                    ? rows.Where(a => EF.Functions.ILike(a.Who, part, Escape))
                    : rows.Where(a => EF.Functions.Like(a.Who, part, Escape));
        }

        if (filter.Before is { } before)
            rows = rows.Where(a => a.Number < before);
        return rows;
    }
}
