using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Lists;

/// <summary>An assembly in a list, with its last sealed test.</summary>
/// <param name="Assembly">With place and owner.</param>
/// <param name="Last">Its last sealed test, checked; null when it has none.</param>
public sealed record RegisterLine(AssemblyRow Assembly, LastSealed? Last);

/// <summary>Searches the register by anything: serial, tag, place, street, owner, make, what it serves.</summary>
public sealed class RegisterSearch(Store store, SealReader seals)
{
    /// <summary>The most lines on a page.</summary>
    public const int PageSize = 40;

    /// <summary>Assemblies that match every word, by place and tag, after a tag (keyset paging).</summary>
    public async Task<IReadOnlyList<RegisterLine>> Find(string? words, string? afterTag, CancellationToken cancel)
    {
        var query = store.Assemblies.AsNoTracking().Include(a => a.Place!).ThenInclude(p => p.Owner).AsQueryable();
        foreach (var word in (words ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(6))
        {
            var literal = word.Replace("\\", "\\\\", StringComparison.Ordinal)
                .Replace("%", "\\%", StringComparison.Ordinal)
                .Replace("_", "\\_", StringComparison.Ordinal);
            var like = $"%{literal}%";
            query = query.Where(a =>
                EF.Functions.Like(a.Serial, like, "\\")
                || EF.Functions.Like(a.Tag, like, "\\")
                || EF.Functions.Like(a.Make, like, "\\")
                || EF.Functions.Like(a.Model, like, "\\")
                || EF.Functions.Like(a.Serves, like, "\\")
                || EF.Functions.Like(a.Place!.Name, like, "\\")
                || EF.Functions.Like(a.Place!.Address, like, "\\")
                || EF.Functions.Like(a.Place!.District, like, "\\")
                || EF.Functions.Like(a.Place!.Owner!.Name, like, "\\")
            );
        }

        // What was replaced is found from the passport of what replaced it.
        query = query.Where(a => a.ReplacedOn == null);
        if (!string.IsNullOrEmpty(afterTag))
            query = query.Where(a => string.Compare(a.Tag, afterTag) > 0);
        var found = await query.OrderBy(a => a.Tag).Take(PageSize + 1).ToListAsync(cancel);
        var last = await seals.LastOf([.. found.Select(a => a.Id)], cancel);
        return [.. found.Select(a => new RegisterLine(a, last.GetValueOrDefault(a.Id)))];
    }
}

/// <summary>An assembly's passport.</summary>
/// <param name="Assembly">With place, owner and authority.</param>
/// <param name="Tests">Its sealed tests, each checked, with its chain.</param>
/// <param name="Replaces">The assembly that it replaced.</param>
public sealed record PassportView(AssemblyRow Assembly, SealedHistory Tests, AssemblyRow? Replaces);

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
            .AsSplitQuery()
            .FirstOrDefaultAsync(a => a.Id == assemblyId, cancel);
        if (assembly is null)
            return null;
        var replaces = assembly.ReplacesId is { } id
            ? await store.Assemblies.AsNoTracking().FirstOrDefaultAsync(a => a.Id == id, cancel)
            : null;
        return new(assembly, await seals.OfAssembly(assemblyId, cancel), replaces);
    }
}
