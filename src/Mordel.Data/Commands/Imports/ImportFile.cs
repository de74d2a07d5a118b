using System.Collections.Immutable;
using Mordel.Core.Outside;
using Mordel.Core.Register;

namespace Mordel.Data.Commands.Imports;

/// <summary>The lines of a file that was brought in, as they are understood.</summary>
public static class ImportFile
{
    /// <summary>Lines that are looked at before the columns are recognised.</summary>
    public const int Sample = 200;

    /// <summary>
    /// Whether a file is one of our own: its heads are our fields and no others, its tags say what is what.
    /// </summary>
    public static bool IsOurs(IReadOnlyList<ImportColumn> columns)
    {
        ArgumentNullException.ThrowIfNull(columns);
        return columns.All(c => c.Field is not null && c.Head == c.Field)
            && columns.Any(c => c.Of == AssemblyFields.Tag);
    }

    /// <summary>Heads and first lines.</summary>
    /// <exception cref="TableRefusedException">It is no table, or has no heads.</exception>
    public static (ImmutableArray<string> Heads, ImmutableArray<IReadOnlyList<string>> First) Begin(
        ITableReader reader,
        Stream file
    )
    {
        ArgumentNullException.ThrowIfNull(reader);
        var lines = reader.Read(file).Take(Sample + 1).ToList();
        if (lines is not [{ Cells: { Count: > 0 } heads, Wrong: null }, ..])
            throw new TableRefusedException(
                lines is [{ Wrong: { } wrong }, ..]
                    ? $"Line 1: {wrong}"
                    : "The first line must hold the names of the columns."
            );
        if (heads.All(string.IsNullOrWhiteSpace))
            throw new TableRefusedException("The first line must hold the names of the columns; it is empty.");
        return (
            [.. heads.Select((h, i) => Shown(h, i))],
            [.. lines.Skip(1).Where(l => l.Wrong is null).Select(l => l.Cells)]
        );
    }

    /// <summary>All lines behind the heads, with their cells.</summary>
    /// <exception cref="TableRefusedException">It is no table.</exception>
    public static IEnumerable<(ImportLine Line, IReadOnlyList<string> Cells)> Lines(
        ITableReader reader,
        Stream file,
        IReadOnlyList<ImportColumn> columns
    )
    {
        ArgumentNullException.ThrowIfNull(reader);
        var last = 0;
        foreach (var line in reader.Read(file).Skip(1))
        {
            if (line.Wrong is null && line.Cells.All(string.IsNullOrWhiteSpace))
                continue;
            // Lines within a cell count once more: a line's number is never that of the one before.
            last = Math.Max(last + 1, line.Number);
            yield return line.Wrong is { } wrong
                ? (new(last, ImmutableDictionary<string, string>.Empty, [new("", wrong)]), line.Cells)
                : (ImportLine.Read(last, line.Cells, columns), line.Cells);
        }
    }

    // A head without a name is named by its place; two of one name are told apart.
    private static string Shown(string head, int index)
    {
        var plain = Cleaner.Plain(head).Replace('\n', ' ').Replace('\r', ' ');
        return plain.Length == 0 ? $"column {index + 1}"
            : plain.Length > 80 ? plain[..80]
            : string.Concat(plain.Where(c => !char.IsControl(c)));
    }
}
