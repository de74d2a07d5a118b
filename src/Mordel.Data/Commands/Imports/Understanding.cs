using System.Text.Json;
using Mordel.Core.Register;

namespace Mordel.Data.Commands.Imports;

/// <summary>A spelling that was understood.</summary>
/// <param name="Head">The column's head.</param>
/// <param name="Written">As it stands in the file.</param>
/// <param name="Kept">As it is kept.</param>
/// <param name="Count">In how many lines.</param>
public sealed record Understood(string Head, string Written, string Kept, int Count);

/// <summary>Collects what was understood as what, the most common of each column.</summary>
public sealed class Understanding
{
    // Spellings that are told apart in a column, and shown of it.
    private const int Most = 200,
        Shown = 6;

    private readonly Dictionary<(string Head, string Written), (string Kept, int Count)> spellings = [];
    private readonly Dictionary<string, int> perHead = new(StringComparer.Ordinal);

    /// <summary>Takes a line's cells into account.</summary>
    public void See(IReadOnlyList<string> cells, IReadOnlyList<ImportColumn> columns, ImportLine line)
    {
        ArgumentNullException.ThrowIfNull(cells);
        ArgumentNullException.ThrowIfNull(columns);
        ArgumentNullException.ThrowIfNull(line);
        for (var i = 0; i < columns.Count && i < cells.Count; i++)
        {
            if (columns[i].Of is not { Kind: not FieldKind.Words } field || line[field] is not { } kept)
                continue;
            var written = Cleaner.Plain(cells[i]);
            if (written == kept)
                continue;
            var key = (columns[i].Head, written);
            if (spellings.TryGetValue(key, out var known))
                spellings[key] = (known.Kept, known.Count + 1);
            else if (perHead.GetValueOrDefault(columns[i].Head) < Most)
            {
                spellings[key] = (kept, 1);
                perHead[columns[i].Head] = perHead.GetValueOrDefault(columns[i].Head) + 1;
            }
        }
    }

    /// <summary>As it is kept with the import.</summary>
    public string Write() =>
        JsonSerializer.Serialize(
            spellings
                .Select(s => new Understood(s.Key.Head, s.Key.Written, s.Value.Kept, s.Value.Count))
                .GroupBy(s => s.Head)
                .SelectMany(g => g.OrderByDescending(s => s.Count).Take(Shown))
        );

    /// <summary>As it was kept.</summary>
    public static IReadOnlyList<Understood> Read(string? json) =>
        json is null ? [] : JsonSerializer.Deserialize<List<Understood>>(json)!;
}
