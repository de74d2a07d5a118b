using Microsoft.EntityFrameworkCore;

namespace Mordel.Data.Lists;

/// <summary>
/// The full-text index in a file: every assembly's words by their parts of three letters and by their beginnings. The
/// rows of the index lie in the order of the tags, so that a first page is read and no more; the database marks what
/// has changed, and that is brought in before the next search.
/// </summary>
public sealed class SqliteRegisterIndex(Store store) : RegisterIndex
{
    // Room between two neighbours, for tags that come between them; how many changes are brought in one by one.
    private const int Room = 1 << 20,
        OneByOne = 2000;

    private const string Words =
        "a.Tag || char(10) || a.Serial || char(10) || a.Make || char(10) || a.Model || char(10) || a.Serves "
        + "|| char(10) || p.Name || char(10) || p.Address || char(10) || p.District || char(10) || o.Name";

    private const string Register =
        "FROM Assemblies a JOIN Places p ON p.Id = a.PlaceId JOIN Owners o ON o.Id = p.OwnerId";

    private const string Shown = "WHERE a.ReplacedOn IS NULL";

    private const string Stale = "(SELECT AssemblyId FROM SearchStale)";

    private const string Mark = "BEGIN INSERT OR IGNORE INTO SearchStale ";

    private static readonly (string Name, string Sql)[] Triggers =
    [
        ("SearchAdded", $"CREATE TRIGGER SearchAdded AFTER INSERT ON Assemblies {Mark} VALUES (new.Id); END"),
        ("SearchGone", $"CREATE TRIGGER SearchGone AFTER DELETE ON Assemblies {Mark} VALUES (old.Id); END"),
        (
            "SearchChanged",
            "CREATE TRIGGER SearchChanged AFTER UPDATE OF Id, Tag, Serial, Make, Model, Serves, PlaceId, ReplacedOn "
                + $"ON Assemblies {Mark} VALUES (old.Id), (new.Id); END"
        ),
        (
            "SearchMoved",
            "CREATE TRIGGER SearchMoved AFTER UPDATE OF Name, Address, District, OwnerId ON Places "
                + $"{Mark} SELECT Id FROM Assemblies WHERE PlaceId = new.Id; END"
        ),
        (
            "SearchRenamed",
            $"CREATE TRIGGER SearchRenamed AFTER UPDATE OF Name ON Owners {Mark} "
                + "SELECT a.Id FROM Assemblies a JOIN Places p ON p.Id = a.PlaceId WHERE p.OwnerId = new.Id; END"
        ),
    ];

    /// <summary>
    /// Sees that the database marks what changes, and brings the index up to date: a table that was made anew has lost
    /// its triggers.
    /// </summary>
    public override async Task Prepare(CancellationToken cancel)
    {
        var there = await store
            .Database.SqlQueryRaw<string>("SELECT name AS Value FROM sqlite_master WHERE type = 'trigger'")
            .ToListAsync(cancel);
        var lacking = Triggers.Where(t => !there.Contains(t.Name)).ToList();
        if (lacking.Count > 0)
        {
            // Together or not at all: a start that is killed in between would leave what nothing marks as changed.
            await using var writing = await store.BeginWriting(cancel);
            foreach (var (_, sql) in lacking)
                await store.Database.ExecuteSqlRawAsync(sql, cancel);
            await MakeAnew(cancel);
            await writing.CommitAsync(cancel);
        }

        await Refresh(cancel);
    }

    /// <summary>Brings in what has changed since; nothing to do costs one look at an empty table.</summary>
    public override async Task Refresh(CancellationToken cancel)
    {
        if (!await Any("SELECT EXISTS (SELECT 1 FROM SearchStale) AS Value", cancel))
            return;
        await using var writing = store.Database.CurrentTransaction is null ? await store.BeginWriting(cancel) : null;
        var stale = await store
            .Database.SqlQueryRaw<string>($"SELECT AssemblyId AS Value FROM SearchStale LIMIT {OneByOne + 1}")
            .ToListAsync(cancel);
        if (stale.Count > OneByOne || !await Bring(stale, cancel))
            await MakeAnew(cancel);
        if (writing is not null)
            await writing.CommitAsync(cancel);
    }

    /// <summary>Makes all of it anew, whatever is there.</summary>
    public override async Task Rebuild(CancellationToken cancel)
    {
        await using var writing = await store.BeginWriting(cancel);
        await MakeAnew(cancel);
        await writing.CommitAsync(cancel);
    }

    private Task<int> MakeAnew(CancellationToken cancel) =>
        store.Database.ExecuteSqlRawAsync(
            $"""
            DELETE FROM SearchParts; DELETE FROM SearchStarts; DELETE FROM SearchOrder; DELETE FROM SearchStale;
            INSERT INTO SearchOrder (Place, AssemblyId, Tag)
              SELECT row_number() OVER (ORDER BY a.Tag) * {Room}, a.Id, a.Tag FROM Assemblies a {Shown};
            INSERT INTO SearchParts (rowid, Words)
              SELECT s.Place, {Words} {Register} JOIN SearchOrder s ON s.AssemblyId = a.Id ORDER BY s.Place;
            INSERT INTO SearchStarts (rowid, Words) SELECT rowid, Words FROM SearchParts ORDER BY rowid;
            """,
            cancel
        );

    // All of these; false when there is no room left where a tag belongs. What was there goes first: tags may have
    // changed hands.
    private async Task<bool> Bring(List<string> stale, CancellationToken cancel)
    {
        await store.Database.ExecuteSqlRawAsync(
            $"""
            DELETE FROM SearchParts WHERE rowid IN (SELECT Place FROM SearchOrder WHERE AssemblyId IN {Stale});
            DELETE FROM SearchStarts WHERE rowid IN (SELECT Place FROM SearchOrder WHERE AssemblyId IN {Stale});
            DELETE FROM SearchOrder WHERE AssemblyId IN {Stale};
            DELETE FROM SearchStale;
            """,
            cancel
        );
        foreach (var id in stale)
            if (!await PutIn(id, cancel))
                return false;
        return true;
    }

    private async Task<bool> PutIn(string id, CancellationToken cancel)
    {
        var tag = await One<string>($"SELECT a.Tag AS Value FROM Assemblies a {Shown} AND a.Id = {{0}}", id, cancel);
        if (tag is null)
            return true;
        var before = await One<long?>(
            "SELECT Place AS Value FROM SearchOrder WHERE Tag < {0} ORDER BY Tag DESC LIMIT 1",
            tag,
            cancel
        );
        var after = await One<long?>(
            "SELECT Place AS Value FROM SearchOrder WHERE Tag > {0} ORDER BY Tag LIMIT 1",
            tag,
            cancel
        );
        var place = after is { } next ? ((before ?? 0) + next) / 2 : (before ?? 0) + Room;
        if (place == (before ?? 0))
            return false;
        await store.Database.ExecuteSqlRawAsync(
            $$"""
            INSERT INTO SearchOrder (Place, AssemblyId, Tag) VALUES ({0}, {1}, {2});
            INSERT INTO SearchParts (rowid, Words) SELECT {0}, {{Words}} {{Register}} WHERE a.Id = {1};
            INSERT INTO SearchStarts (rowid, Words) SELECT rowid, Words FROM SearchParts WHERE rowid = {0};
            """,
            [place, id, tag],
            cancel
        );
        return true;
    }

    private async Task<bool> Any(string sql, CancellationToken cancel) =>
        await store.Database.SqlQueryRaw<int>(sql).SingleAsync(cancel) > 0;

    private Task<T?> One<T>(string sql, string value, CancellationToken cancel) =>
        store.Database.SqlQueryRaw<T?>(sql, value).FirstOrDefaultAsync(cancel);

    /// <inheritdoc/>
    public override (string Sql, object[] Values) Question(IReadOnlyList<string> words, string afterTag, int? limit)
    {
        const string Behind =
            "> COALESCE((SELECT Place FROM SearchOrder WHERE Tag <= {0} ORDER BY Tag DESC LIMIT 1), 0)";
        var (parts, starts, others) = SearchWords.Of(words);
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
