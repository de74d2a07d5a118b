using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Lists;

/// <summary>One thing that was observed, as the board shows it.</summary>
/// <param name="Row">How it is kept.</param>
/// <param name="Observed">What it is; null when it cannot be read any more.</param>
/// <param name="TakenBack">The entry that takes it back; null while it counts.</param>
public sealed record BoardLine(ObservationRow Row, Observed? Observed, ObservationRow? TakenBack);

/// <summary>A diagnosis with all that was observed.</summary>
/// <param name="Row">The row, with its assembly, place and links.</param>
/// <param name="Body">The assembly's body.</param>
/// <param name="Lines">What was observed, in order.</param>
public sealed record DiagnosisFile(DiagnosisRow Row, AssemblyBody Body, IReadOnlyList<BoardLine> Lines)
{
    /// <summary>What counts, as evidence.</summary>
    /// <param name="by">Who is at hand.</param>
    public Evidence Evidence(Doer by) =>
        new(
            Body,
            [
                .. Lines
                    .Where(l => l.TakenBack is null)
                    .Select(l => l.Observed)
                    .Where(o => o is not Observed.Unsure)
                    .OfType<Observed>(),
            ]
        )
        {
            Procedure = Row.ProcedureId,
            By = by,
        };
}

/// <summary>A line of a list of diagnoses.</summary>
/// <param name="Id">Its id.</param>
/// <param name="OpenedAt">When it was opened.</param>
/// <param name="OpenedBy">By whom.</param>
/// <param name="Assembly">The assembly.</param>
/// <param name="Place">Where it stands.</param>
/// <param name="Observations">How much was observed.</param>
public sealed record DiagnosisLine(
    Guid Id,
    DateTimeOffset OpenedAt,
    string OpenedBy,
    AssemblyRow Assembly,
    string Place,
    int Observations
);

/// <summary>Reads diagnoses.</summary>
public sealed class DiagnosisList(Store store)
{
    private const int Shown = 30;

    /// <summary>A diagnosis; null when there is none.</summary>
    public async Task<DiagnosisFile?> Of(Guid id, CancellationToken cancel)
    {
        var row = await store
            .Diagnoses.AsNoTracking()
            .Include(d => d.Assembly!)
                .ThenInclude(a => a.Place)
            .Include(d => d.Observations)
            .AsSplitQuery()
            .FirstOrDefaultAsync(d => d.Id == id, cancel);
        if (row is null)
            return null;
        var body = SetupWriter.Facts(row.Assembly!).Parts;
        var back = row.Observations.Where(o => o.TakesBack is not null).ToDictionary(o => o.TakesBack!.Value);
        return new(
            row,
            body,
            [
                .. row
                    .Observations.Where(o => o.Json is not null)
                    .OrderBy(o => o.Number)
                    .Select(o => new BoardLine(
                        o,
                        ObservationFormat.Read(o.Json!, body, o.Id.ToString()),
                        back.GetValueOrDefault(o.Id)
                    )),
            ]
        );
    }

    /// <summary>
    /// The springs of a diagnosis's assembly as its last sealed test read them, psid, where that tells them.
    /// </summary>
    /// <param name="view">The diagnosis.</param>
    /// <param name="atlas">The atlas of its body.</param>
    /// <param name="cancel">Ends it.</param>
    public Task<ImmutableDictionary<PartId, double>> Springs(DiagnosisFile view, Atlas atlas, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(view);
        return Springs(view.Row.AssemblyId, view.Row.OpenedAt, atlas, cancel);
    }

    /// <summary>The springs of an assembly as the last test sealed before a moment read them, psid.</summary>
    public async Task<ImmutableDictionary<PartId, double>> Springs(
        Guid assembly,
        DateTimeOffset opened,
        Atlas atlas,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(atlas);
        var last = await store
            .Runs.AsNoTracking()
            .Include(r => r.Results)
            .Where(r => r.AssemblyId == assembly && r.SignedAt != null && r.SignedAt < opened)
            .OrderByDescending(r => r.SignedAt)
            .FirstOrDefaultAsync(cancel);
        var springs = ImmutableDictionary.CreateBuilder<PartId, double>();
        foreach (var result in last?.Results ?? [])
            if (
                TestItem.Named(result.Item) is { Kind: ItemKind.Differential } item
                && result.Value is { } value
                && DifferentialUnits.Parse(result.Unit) is { } unit
                && atlas.SpringBy(
                    last!.ProcedureId,
                    item,
                    (double)new Differential(value, unit).In(DifferentialUnit.Psid)
                )
                    is { } spring
            )
                springs[Atlas.SpringOf(item)] = spring;
        return springs.ToImmutable();
    }

    /// <summary>The body of a diagnosis's assembly; null when there is no such diagnosis.</summary>
    public async Task<AssemblyBody?> Body(Guid id, CancellationToken cancel) =>
        await store.Diagnoses.AsNoTracking().Where(d => d.Id == id).Select(d => d.Assembly).FirstOrDefaultAsync(cancel)
            is { } assembly
            ? SetupWriter.Facts(assembly).Parts
            : null;

    /// <summary>The latest ones, of everybody.</summary>
    public Task<List<DiagnosisLine>> Latest(CancellationToken cancel) =>
        Lines(store.Diagnoses.OrderByDescending(d => d.OpenedAt), cancel);

    /// <summary>The latest ones of an assembly.</summary>
    public Task<List<DiagnosisLine>> OfAssembly(Guid assemblyId, CancellationToken cancel) =>
        Lines(store.Diagnoses.Where(d => d.AssemblyId == assemblyId).OrderByDescending(d => d.OpenedAt), cancel);

    private static Task<List<DiagnosisLine>> Lines(IQueryable<DiagnosisRow> rows, CancellationToken cancel) =>
        rows.AsNoTracking()
            .Take(Shown)
            .Select(d => new DiagnosisLine(
                d.Id,
                d.OpenedAt,
                d.OpenedBy,
                d.Assembly!,
                d.Assembly!.Place!.Name,
                d.Observations.Count(o => o.Json != null)
            ))
            .ToListAsync(cancel);
}
