using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;

namespace Mordel.Data.Lists;

/// <summary>
/// The full-text index on a server: the words of every assembly in one row, found by their parts of three letters. The
/// server's own triggers keep it up to date with what is written.
/// </summary>
public sealed partial class PostgresRegisterIndex(Store store) : RegisterIndex
{
    /// <summary>Makes table, triggers and all; part of the first migration.</summary>
    internal const string Sql = $"""
        CREATE EXTENSION IF NOT EXISTS pg_trgm;
        CREATE TABLE "Search" (
          "AssemblyId" uuid PRIMARY KEY, "Tag" text COLLATE "C" NOT NULL, "Words" text COLLATE "C" NOT NULL);
        CREATE INDEX "IX_Search_Tag" ON "Search" ("Tag");
        CREATE INDEX "IX_Search_Words" ON "Search" USING gin ("Words" gin_trgm_ops);

        CREATE FUNCTION mordel_search_bring(ids uuid[]) RETURNS void LANGUAGE sql AS $$
          DELETE FROM "Search" WHERE "AssemblyId" = ANY (ids);
          {Bring} AND a."Id" = ANY (ids);
        $$;
        CREATE FUNCTION mordel_search_assembly() RETURNS trigger LANGUAGE plpgsql AS $$
          BEGIN
            IF TG_OP <> 'INSERT' THEN PERFORM mordel_search_bring(ARRAY[OLD."Id"]); END IF;
            IF TG_OP <> 'DELETE' THEN PERFORM mordel_search_bring(ARRAY[NEW."Id"]); END IF;
            RETURN NULL;
          END $$;
        CREATE FUNCTION mordel_search_place() RETURNS trigger LANGUAGE plpgsql AS $$
          BEGIN
            PERFORM mordel_search_bring(ARRAY(SELECT "Id" FROM "Assemblies" WHERE "PlaceId" = NEW."Id"));
            RETURN NULL;
          END $$;
        CREATE FUNCTION mordel_search_owner() RETURNS trigger LANGUAGE plpgsql AS $$
          BEGIN
            PERFORM mordel_search_bring(ARRAY(SELECT a."Id" FROM "Assemblies" a
              JOIN "Places" p ON p."Id" = a."PlaceId" WHERE p."OwnerId" = NEW."Id"));
            RETURN NULL;
          END $$;

        CREATE TRIGGER "SearchAdded" AFTER INSERT OR DELETE ON "Assemblies"
          FOR EACH ROW EXECUTE FUNCTION mordel_search_assembly();
        CREATE TRIGGER "SearchChanged" AFTER UPDATE ON "Assemblies" FOR EACH ROW
          WHEN ((OLD."Id", OLD."Tag", OLD."Serial", OLD."Make", OLD."Model", OLD."Serves", OLD."PlaceId",
            OLD."ReplacedOn") IS DISTINCT FROM (NEW."Id", NEW."Tag", NEW."Serial", NEW."Make", NEW."Model",
            NEW."Serves", NEW."PlaceId", NEW."ReplacedOn"))
          EXECUTE FUNCTION mordel_search_assembly();
        CREATE TRIGGER "SearchMoved" AFTER UPDATE ON "Places" FOR EACH ROW
          WHEN ((OLD."Name", OLD."Address", OLD."District", OLD."OwnerId")
            IS DISTINCT FROM (NEW."Name", NEW."Address", NEW."District", NEW."OwnerId"))
          EXECUTE FUNCTION mordel_search_place();
        CREATE TRIGGER "SearchRenamed" AFTER UPDATE ON "Owners" FOR EACH ROW
          WHEN (OLD."Name" IS DISTINCT FROM NEW."Name") EXECUTE FUNCTION mordel_search_owner();
        """;

    // Small letters in every language, as the words that are looked for.
    private const string Bring = """
        INSERT INTO "Search" ("AssemblyId", "Tag", "Words")
          SELECT a."Id", a."Tag", lower(concat_ws(E'\n', a."Tag", a."Serial", a."Make", a."Model", a."Serves",
            p."Name", p."Address", p."District", o."Name") COLLATE "und-x-icu")
          FROM "Assemblies" a JOIN "Places" p ON p."Id" = a."PlaceId" JOIN "Owners" o ON o."Id" = p."OwnerId"
          WHERE a."ReplacedOn" IS NULL
        """;

    /// <inheritdoc/>
    public override Task Prepare(CancellationToken cancel) => Task.CompletedTask;

    /// <inheritdoc/>
    public override Task Refresh(CancellationToken cancel) => Task.CompletedTask;

    /// <inheritdoc/>
    public override async Task Rebuild(CancellationToken cancel)
    {
        await using var writing = await store.BeginWriting(cancel);
        await store.Database.ExecuteSqlRawAsync($"DELETE FROM \"Search\"; {Bring}", cancel);
        await writing.CommitAsync(cancel);
    }

    /// <inheritdoc/>
    public override (string Sql, object[] Values) Question(IReadOnlyList<string> words, string afterTag, int? limit)
    {
        ArgumentNullException.ThrowIfNull(words);
        var (parts, starts, others) = SearchWords.Of(words);
        var values = new List<object> { afterTag };
        string Value(string value)
        {
            values.Add(value);
            return $"{{{values.Count - 1}}}";
        }

        List<string> wanted =
        [
            "\"Tag\" > {0}",
            .. parts.Concat(others).Select(w => $"\"Words\" LIKE {Value($"%{Literal(Small(w))}%")}"),
            .. starts.Select(w => $"\"Words\" ~ {Value($"\\m{Letters().Match(Small(w)).Value}")}"),
        ];
        var page = limit is { } most ? $" ORDER BY \"Tag\" LIMIT {most}" : "";
        return (
            $"SELECT \"AssemblyId\" AS \"Value\" FROM \"Search\" WHERE {string.Join(" AND ", wanted)}{page}",
            [.. values]
        );
    }

#pragma warning disable CA1308 // Small letters are what the index holds.
    private static string Small(string word) => word.ToLowerInvariant();
#pragma warning restore CA1308

    private static string Literal(string word) =>
        word.Replace("\\", "\\\\", StringComparison.Ordinal)
            .Replace("%", "\\%", StringComparison.Ordinal)
            .Replace("_", "\\_", StringComparison.Ordinal);

    [GeneratedRegex(@"[\p{L}\p{N}]+")]
    private static partial Regex Letters();
}
