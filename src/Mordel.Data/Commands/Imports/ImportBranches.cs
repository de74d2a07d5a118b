using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Imports;

/// <summary>Whether a file changes what belongs to other branches than its bringer's.</summary>
internal static class ImportBranches
{
    /// <summary>The first line that would, in words; null where none does.</summary>
    public static async Task<string?> WhyNot(Store store, ImportRow import, BranchRow own, CancellationToken cancel)
    {
        var lines = store
            .ImportLines.AsNoTracking()
            .Where(l =>
                l.ImportId == import.Id
                && (
                    l.State == nameof(LineState.New)
                    || l.State == nameof(LineState.Changed)
                    || (
                        l.State == nameof(LineState.Doubtful)
                        && (l.Decision == LineDecisions.Same || l.Decision == LineDecisions.New)
                    )
                )
            );
        var there = await (
            from l in lines
            join a in store.Assemblies on l.AssemblyId equals a.Id
            join d in store.BranchDistricts on a.Place!.District equals d.District
            where d.BranchId != own.Id
            orderby l.Number
            select new
            {
                l.Number,
                a.Tag,
                d.Branch!.Name,
            }
        ).FirstOrDefaultAsync(cancel);
        if (there is not null)
            return Says(there.Number, there.Tag, there.Name, own);
        var columns = ImportColumns.Read(import.Columns);
        if (columns.All(c => c.Of != PlaceFields.District))
            return null;
        var others = await store
            .BranchDistricts.Where(d => d.BranchId != own.Id)
            .Select(d => new { d.District, d.Branch!.Name })
            .ToDictionaryAsync(d => d.District, d => d.Name, cancel);
        await foreach (var row in lines.OrderBy(l => l.Number).AsAsyncEnumerable().WithCancellation(cancel))
            if (
                ImportLine.Read(row.Number, row.CellTexts(), columns)[PlaceFields.District] is { } district
                && others.TryGetValue(district, out var branch)
            )
                return Says(row.Number, district, branch, own);
        return null;
    }

    private static string Says(int number, string what, string branch, BranchRow own) =>
        $"Line {number}: {what} belongs to the branch {branch}. You work for {own.Name}: leave such lines out, or let "
        + "somebody take the file in who works for all.";
}
