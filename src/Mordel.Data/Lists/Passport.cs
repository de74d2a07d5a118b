using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Lists;

/// <summary>An assembly's passport.</summary>
/// <param name="Assembly">With place, owner and authority.</param>
/// <param name="Tests">Its sealed tests, each checked, with its chain.</param>
/// <param name="Replaces">The assembly that it replaced.</param>
/// <param name="ReplacedBy">The one that took its place, or under which it stands; null where it stands itself.</param>
public sealed record PassportView(
    AssemblyRow Assembly,
    SealedHistory Tests,
    AssemblyRow? Replaces,
    AssemblyRow? ReplacedBy
);

/// <summary>Reads a passport: the data, and every sealed run as it was sealed, the last first.</summary>
public sealed class Passport(Store store, SealReader seals)
{
    /// <summary>The passport, or null when there is no such assembly.</summary>
    public async Task<PassportView?> Of(Guid assemblyId, CancellationToken cancel)
    {
        var assembly = await store
            .Assemblies.AsNoTrackingWithIdentityResolution()
            .Include(a => a.Place!)
                .ThenInclude(p => p.Owner)
            .Include(a => a.Place!)
                .ThenInclude(p => p.Assemblies)
            .Include(a => a.Authority)
            .FirstOrDefaultAsync(a => a.Id == assemblyId, cancel);
        if (assembly is null)
            return null;
        var replaces = assembly.ReplacesId is { } id
            ? await store.Assemblies.AsNoTracking().FirstOrDefaultAsync(a => a.Id == id, cancel)
            : null;
        var by = assembly.ReplacedOn is null
            ? null
            : await store
                .Assemblies.AsNoTracking()
                .FirstOrDefaultAsync(a => a.ReplacesId == assemblyId || a.Id == assembly.MergedIntoId, cancel);
        return new(assembly, await seals.OfAssembly(assemblyId, cancel), replaces, by);
    }
}
