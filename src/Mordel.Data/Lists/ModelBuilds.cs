using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>Reads how makes and models are built.</summary>
public sealed class ModelBuilds(Store store)
{
    /// <summary>The families that a type's checks or inlet may be of.</summary>
    public static IEnumerable<ConstructionFamily> Inside(AssemblyType type) =>
        ConstructionFamily.Of(type).Where(f => !IsRelief(f));

    /// <summary>The families that a type's relief valve may be of; none where it has no relief valve.</summary>
    public static IEnumerable<ConstructionFamily> Reliefs(AssemblyType type) =>
        ConstructionFamily.Of(type).Where(IsRelief);

    /// <summary>The bench sheets of an assembly's make and model; none where nobody has said.</summary>
    public async Task<IReadOnlyList<BenchSheet>> Of(AssemblyRow assembly, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(assembly);
        var (make, model) = (assembly.Make, assembly.Model);
        var row = await store
            .ModelBuilds.AsNoTracking()
            .FirstOrDefaultAsync(b => b.Make == make && b.Model == model, cancel);
        return [.. new[] { row?.Family, row?.Relief }.Select(BenchSheets.Named).OfType<BenchSheet>()];
    }

    private static bool IsRelief(ConstructionFamily family) => family.Out is [var only] && only == Parts.Relief;

    /// <summary>The families that somebody has said of a make and model, by their titles.</summary>
    public async Task<IReadOnlyList<DueChoice>> Families(CancellationToken cancel)
    {
        var ids = await store
            .ModelBuilds.Where(b => b.Family != null)
            .Select(b => b.Family!)
            .Distinct()
            .ToListAsync(cancel);
        return
        [
            .. ConstructionFamily
                .All.Where(f => ids.Contains(f.Id))
                .Select(f => new DueChoice(f.Id, f.Title))
                .OrderBy(f => f.Name, StringComparer.Ordinal),
        ];
    }
}
