using System.Data.Common;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Mordel.Core.Register;
using Mordel.Data.Audit;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Imports;

/// <summary>
/// Takes a checked file into the register, all of it or nothing, in one transaction. Each line is judged once more, by
/// the register as it is now.
/// </summary>
public sealed class ApplyImport(
    Store store,
    ProfileList profiles,
    DueProjection dues,
    ChangeLog log,
    RunningImports running,
    BranchRight right,
    TimeProvider clock
)
{
    /// <summary>Says what a doubtful line is.</summary>
    public async Task<Reply<Guid>> Decide(Guid importId, int number, string? decision, CancellationToken cancel)
    {
        if (decision is not null && !LineDecisions.All.Contains(decision))
            return Reply<Guid>.Refused("Say whether it is the one that is there, another one, or is left out.");
        var import = await store.Imports.AsNoTracking().FirstOrDefaultAsync(i => i.Id == importId, cancel);
        if (import is null)
            return Reply<Guid>.NotFound("There is no such import.");
        if (import.State != ImportStates.Checked)
            return Reply<Guid>.Refused("This file is being worked on, or was taken in already.");
        var line = await store.ImportLines.FirstOrDefaultAsync(
            l => l.ImportId == importId && l.Number == number && l.State == nameof(LineState.Doubtful),
            cancel
        );
        if (line is null)
            return Reply<Guid>.NotFound("There is no such doubtful line.");
        line.Decision = decision;
        await store.SaveChangesAsync(cancel);
        return importId;
    }

    /// <summary>Says yes: the file is to be taken in.</summary>
    public async Task<Reply<Guid>> Confirm(Guid importId, string by, CancellationToken cancel)
    {
        var import = await store.Imports.FirstOrDefaultAsync(i => i.Id == importId, cancel);
        if (import is null)
            return Reply<Guid>.NotFound("There is no such import.");
        if (import.State != ImportStates.Checked)
            return Reply<Guid>.Refused("Only a file that was checked can be taken in.");
        if (
            await right.BoundTo(store, cancel) is { } own
            && await ImportBranches.WhyNot(store, import, own, cancel) is { } why
        )
            return Reply<Guid>.Refused(why);
        (import.State, import.AppliedBy) = (ImportStates.Applying, by);
        await store.SaveChangesAsync(cancel);
        return importId;
    }

    /// <summary>Stops what is under way; nothing of it has reached the register.</summary>
    public async Task<Reply<Guid>> Stop(Guid importId, CancellationToken cancel)
    {
        // Called off first: what is being taken in holds the turn to write until it ends.
        running.Stop(importId);
        await using var transaction = await store.BeginWriting(cancel);
        var changed = await store
            .Imports.Where(i =>
                i.Id == importId && (i.State == ImportStates.Checking || i.State == ImportStates.Applying)
            )
            .ExecuteUpdateAsync(i => i.SetProperty(x => x.State, ImportStates.Stopped), cancel);
        await transaction.CommitAsync(cancel);
        return changed > 0 ? importId : Reply<Guid>.Refused("Nothing is under way here.");
    }

    /// <summary>Takes it in.</summary>
    /// <param name="importId">The import; somebody has said yes.</param>
    /// <param name="cancel">Ends it; nothing is changed then.</param>
    public async Task Run(Guid importId, CancellationToken cancel)
    {
        using var work = running.Begin(importId, cancel);
        store.ChangeTracker.Clear();
        var import = await store.Imports.AsNoTracking().FirstAsync(i => i.Id == importId, cancel);
        if (import.State != ImportStates.Applying)
            return;
        var columns = ImportColumns.Read(import.Columns);
        var by = import.AppliedBy ?? import.By;
        await using var transaction = await store.BeginWriting(work.Cancel);
        var writer = new LineWriter(store, log, import, new(by, "brought in", importId), clock)
        {
            Profiles = (await profiles.All(cancel)).Select(p => p.Id).ToHashSet(),
        };
        var counts = new ImportCounts();
        var seen = new SeenLines();
        for (var after = 0; ; )
        {
            work.Cancel.ThrowIfCancellationRequested();
            var rows = await store
                .ImportLines.AsNoTracking()
                .Where(l => l.ImportId == importId && l.Number > after)
                .OrderBy(l => l.Number)
                .Take(CheckImport.Batch)
                .ToListAsync(work.Cancel);
            if (rows.Count == 0)
                break;
            after = rows[^1].Number;
            await Take(rows, columns, writer, seen, counts, work.Cancel);
            work.Done += rows.Count;
        }

        var ended = await store.Imports.FirstAsync(i => i.Id == importId, cancel);
        // It may have been stopped before its turn to write came: then nothing of it stays.
        if (ended.State != ImportStates.Applying)
            return;
        (ended.State, ended.AppliedAt) = (ImportStates.Applied, clock.Now());
        ended.Counted(counts);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    private async Task Take(
        List<ImportLineRow> rows,
        IReadOnlyList<ImportColumn> columns,
        LineWriter writer,
        SeenLines seen,
        ImportCounts counts,
        CancellationToken cancel
    )
    {
        // A line that is wrong stays so, and one that is left out is not read again.
        var lines = rows.Where(r => r.State != nameof(LineState.Wrong))
            .Select(r => (Row: r, Line: ImportLine.Read(r.Number, r.CellTexts(), columns)))
            .ToList();
        var beside = await ImportBatch.Of(
            store,
            clock,
            [.. lines.Select(l => l.Line)],
            ImportFile.IsOurs(columns),
            cancel
        );
        await writer.Load([.. lines.Select(l => l.Line)], cancel);
        // What the first line of a serial made is what the next lines of it are about.
        var made = new Dictionary<string, AssemblyRow>(StringComparer.Ordinal);
        var touched = new HashSet<AssemblyRow>();
        foreach (var (row, line) in lines)
        {
            var key = SerialKeys.Of(line[AssemblyFields.Serial] ?? "") + line[AssemblyFields.Tag];
            var decided = row.Decision is LineDecisions.Same or LineDecisions.New;
            var judged = beside.Judge(line, seen, decided ? row.Decision : null);
            if (row.State == nameof(LineState.Doubtful) && !decided)
                judged = judged with { State = LineState.Doubtful };
            seen.Add(line);
            row.State = judged.State.ToString();
            var existing = judged.Existing;
            if (existing is null && row.Decision != LineDecisions.New && made.TryGetValue(key, out var before))
                (existing, judged) = (before, judged with { Existing = before });
            if (judged.State is LineState.New or LineState.Changed)
            {
                var effect = writer.Write(judged, existing, out var written);
                row.AssemblyId = written.Id;
                row.Effect = effect.IsNothing ? null : effect.Write();
                made.TryAdd(key, written);
                touched.Add(written);
            }
        }

        foreach (var row in rows)
            counts.Add(Enum.Parse<LineState>(row.State));
        await writer.Fresh.Write(dues, cancel);
        await store.SaveChangesAsync(cancel);
        List<AssemblyRow> there = [.. touched.Where(a => !writer.Fresh.Has(a))];
        if (there.Count > 0)
        {
            await dues.Write(there, cancel);
            await store.SaveChangesAsync(cancel);
        }

        Keep(rows);
        store.ChangeTracker.Clear();
        writer.Forget();
    }

    // What became of the lines stands with them.
    private void Keep(List<ImportLineRow> rows)
    {
        using var command = store.Database.GetDbConnection().CreateCommand();
        command.Transaction = store.Database.CurrentTransaction!.GetDbTransaction();
        var type = store.Model.FindEntityType(typeof(ImportLineRow))!;
        (string Name, DbParameter Into, Func<object?, object?> Kept) Column(string name)
        {
            var mapping = type.FindProperty(name)!.GetRelationalTypeMapping();
            var parameter = mapping.CreateParameter(command, $"@{name}", null, nullable: true);
            command.Parameters.Add(parameter);
            return ($"\"{name}\" = @{name}", parameter, value =>
                value is null ? DBNull.Value : mapping.Converter?.ConvertToProvider(value) ?? value
            );
        }

        var (state, assembly, effect, import, number) = (
            Column(nameof(ImportLineRow.State)),
            Column(nameof(ImportLineRow.AssemblyId)),
            Column(nameof(ImportLineRow.Effect)),
            Column(nameof(ImportLineRow.ImportId)),
            Column(nameof(ImportLineRow.Number))
        );
        command.CommandText =
            $"UPDATE \"ImportLines\" SET {state.Name}, {assembly.Name}, {effect.Name} "
            + $"WHERE {import.Name} AND {number.Name}";
        foreach (var row in rows)
        {
            state.Into.Value = state.Kept(row.State);
            assembly.Into.Value = assembly.Kept(row.AssemblyId);
            effect.Into.Value = effect.Kept(row.Effect);
            import.Into.Value = import.Kept(row.ImportId);
            number.Into.Value = number.Kept(row.Number);
            command.ExecuteNonQuery();
        }
    }
}
