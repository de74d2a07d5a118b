using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;
using Mordel.Core.Register;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Imports;

/// <summary>
/// Goes through a file line by line and says what would become of each. The register stays as it is.
/// </summary>
public sealed class CheckImport(Store store, IFiles files, ITableReader reader, TimeProvider clock)
{
    /// <summary>Lines that are worked on at once.</summary>
    public const int Batch = 500;

    /// <summary>Judges the lines of a table, some at a time.</summary>
    /// <param name="lines">The lines, with their cells.</param>
    /// <param name="isOurs">Whether the file is one of our own.</param>
    /// <param name="cancel">Ends it between two batches.</param>
    public async IAsyncEnumerable<IReadOnlyList<(JudgedLine Judged, IReadOnlyList<string> Cells)>> Judge(
        IEnumerable<(ImportLine Line, IReadOnlyList<string> Cells)> lines,
        bool isOurs,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
    )
    {
        var seen = new SeenLines();
        foreach (var batch in lines.Chunk(Batch))
        {
            cancel.ThrowIfCancellationRequested();
            var beside = await ImportBatch.Of(store, clock, [.. batch.Select(l => l.Line)], isOurs, cancel);
            var judged = new List<(JudgedLine, IReadOnlyList<string>)>(batch.Length);
            foreach (var (line, cells) in batch)
            {
                judged.Add((beside.Judge(line, seen), cells));
                seen.Add(line);
            }

            yield return judged;
            store.ChangeTracker.Clear();
        }
    }

    /// <summary>Checks a file that was brought in, and keeps what was found for whoever decides.</summary>
    /// <param name="importId">The import; it waits to be checked.</param>
    /// <param name="cancel">Ends it; what was found so far is thrown away at the next check.</param>
    public async Task Run(Guid importId, CancellationToken cancel)
    {
        var import = await store.Imports.AsNoTracking().FirstAsync(i => i.Id == importId, cancel);
        if (import.State != ImportStates.Checking)
            return;
        await store.ImportLines.Where(l => l.ImportId == importId).ExecuteDeleteAsync(cancel);
        var columns = ImportColumns.Read(import.Columns);
        var understood = new Understanding();
        var counts = new ImportCounts();
        string? says = null;
        try
        {
            await using var file = files.Open(BeginImport.FileOf(importId))
                ?? throw new TableRefusedException("The file is not there any more. Bring it again.");
            await foreach (
                var batch in Judge(ImportFile.Lines(reader, file, columns), ImportFile.IsOurs(columns), cancel)
            )
            {
                foreach (var (judged, cells) in batch)
                    understood.See(cells, columns, judged.Line);
                await Keep(importId, batch, counts, cancel);
            }
        }
        catch (TableRefusedException e)
        {
            says = e.Message;
        }

        var done = await store.Imports.FirstAsync(i => i.Id == importId, cancel);
        done.Understood = understood.Write();
        done.Says = says;
        if (done.State == ImportStates.Checking)
            done.State = says is null ? ImportStates.Checked : ImportStates.Stopped;
        await store.SaveChangesAsync(cancel);
    }

    private async Task Keep(
        Guid importId,
        IReadOnlyList<(JudgedLine Judged, IReadOnlyList<string> Cells)> batch,
        ImportCounts counts,
        CancellationToken cancel
    )
    {
        store.ChangeTracker.Clear();
        await using var transaction = await store.BeginWriting(cancel);
        using var lines = new BulkInsert<ImportLineRow>(store);
        var import = await store.Imports.FirstAsync(i => i.Id == importId, cancel);
        if (import.State != ImportStates.Checking)
            throw new OperationCanceledException("Somebody stopped it.", cancel);
        foreach (var (judged, cells) in batch)
        {
            counts.Add(judged.State);
            lines.Add(
                new()
                {
                    ImportId = importId,
                    Number = judged.Line.Number,
                    State = judged.State.ToString(),
                    Cells = JsonSerializer.Serialize(cells),
                    Remarks = Remarks(judged),
                    AssemblyId = judged.Existing?.Id,
                }
            );
        }

        import.Counted(counts);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    // What changes stands with what is remarked: the line's own page of the conversation.
    private static string? Remarks(JudgedLine judged)
    {
        var all = judged.Remarks.ToList();
        all.AddRange(
            judged.Changes.Select(c => new LineRemark(
                c.Field.Label,
                c.From.Length > 0 ? $"{c.From}, would become {c.To}" : $"would become {c.To}"
            ))
        );
        if (judged.BringsDue)
            all.Add(new(LifeFields.Announced.Label, $"{judged.Line[LifeFields.Announced]}, by this list"));
        if (judged.BringsTest)
            all.Add(
                new(
                    "Test",
                    $"of {judged.Line[TestFields.TestDay]}, {judged.Line[TestFields.Outcome] ?? "outcome not said"}"
                )
            );
        foreach (var (kind, day) in judged.BringsEvents)
            all.Add(new("Event", $"{kind}, {day:yyyy-MM-dd}"));
        return all.Count > 0 ? JsonSerializer.Serialize(all) : null;
    }
}
