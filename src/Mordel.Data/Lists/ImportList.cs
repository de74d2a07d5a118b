using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>A line of an import as it is shown.</summary>
/// <param name="Row">The line.</param>
/// <param name="Cells">Its cells.</param>
/// <param name="Remarks">What a person should see of it.</param>
/// <param name="Tag">The tag of the assembly it is about; null while there is none.</param>
public sealed record ImportLineView(
    ImportLineRow Row,
    IReadOnlyList<string> Cells,
    IReadOnlyList<LineRemark> Remarks,
    string? Tag
);

/// <summary>Files that were brought in, and their lines.</summary>
public sealed class ImportList(Store store)
{
    /// <summary>Lines on a page.</summary>
    public const int PageSize = 50;

    private const int Most = 100;

    /// <summary>The latest first.</summary>
    public async Task<IReadOnlyList<ImportRow>> Latest(CancellationToken cancel) =>
        await store.Imports.AsNoTracking().OrderByDescending(i => i.At).Take(Most).ToListAsync(cancel);

    /// <summary>One; null where there is none.</summary>
    public async Task<ImportRow?> Of(Guid id, CancellationToken cancel) =>
        await store.Imports.AsNoTracking().FirstOrDefaultAsync(i => i.Id == id, cancel);

    /// <summary>Senders whose columns are remembered.</summary>
    public async Task<IReadOnlyList<string>> Senders(CancellationToken cancel) =>
        await store.ColumnMemories.Select(m => m.Sender).Distinct().OrderBy(s => s).Take(Most).ToListAsync(cancel);

    /// <summary>Its lines of one state, behind a line; one more than a page has.</summary>
    public async Task<IReadOnlyList<ImportLineView>> Lines(
        Guid id,
        LineState state,
        int after,
        CancellationToken cancel
    )
    {
        var of = state.ToString();
        var rows = await (
            from l in store.ImportLines.AsNoTracking()
            where l.ImportId == id && l.State == of && l.Number > after
            join a in store.Assemblies on l.AssemblyId equals a.Id into known
            from a in known.DefaultIfEmpty()
            orderby l.Number
            select new { l, Tag = (string?)a.Tag }
        )
            .Take(PageSize + 1)
            .ToListAsync(cancel);
        return [.. rows.Select(r => new ImportLineView(r.l, r.l.CellTexts(), Remarks(r.l), r.Tag))];
    }

    /// <summary>Every line that was not taken in, to be sent back with reasons.</summary>
    public async IAsyncEnumerable<(IReadOnlyList<string> Cells, string Why)> NotTaken(
        Guid id,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
    )
    {
        var rows = store
            .ImportLines.AsNoTracking()
            .Where(l =>
                l.ImportId == id
                && (
                    l.State == nameof(LineState.Wrong)
                    || (
                        l.State == nameof(LineState.Doubtful)
                        && (l.Decision == null || l.Decision == LineDecisions.Leave)
                    )
                )
            )
            .OrderBy(l => l.Number)
            .AsAsyncEnumerable();
        await foreach (var row in rows.WithCancellation(cancel))
            yield return (
                row.CellTexts(),
                string.Join(" ", Remarks(row).Select(r => r.Column.Length > 0 ? $"{r.Column}: {r.Says}" : r.Says))
            );
    }

    private static List<LineRemark> Remarks(ImportLineRow row) =>
        row.Remarks is null ? [] : JsonSerializer.Deserialize<List<LineRemark>>(row.Remarks)!;
}
