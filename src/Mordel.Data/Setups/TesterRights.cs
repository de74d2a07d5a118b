using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Data.Rows;

namespace Mordel.Data.Setups;

/// <summary>Asks from the register who may sign what on which day.</summary>
public sealed class TesterRights(Store store)
{
    /// <summary>Why a tester could not sign a test of an assembly on a day; null where nothing stands against it, or
    /// there is no such tester or assembly.</summary>
    public async Task<string?> WhyNot(Guid testerId, Guid assemblyId, DateOnly day, CancellationToken cancel)
    {
        var of = await store
            .Assemblies.Where(a => a.Id == assemblyId)
            .Select(a => new { a.Type, a.Authority!.Name })
            .FirstOrDefaultAsync(cancel);
        var name = await store.Users.Where(u => u.Id == testerId).Select(u => u.FullName).FirstOrDefaultAsync(cancel);
        return of is null || name is null
            ? null
            : (await Of(testerId, name, AssemblyTypes.Parse(of.Type), of.Name, day, cancel)).Why;
    }

    /// <summary>What a tester may sign on a day: a right for each authority and type.</summary>
    public async Task<IReadOnlyList<(string Authority, string Type, SigningRight Right)>> Of(
        Account tester,
        DateOnly day,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(tester);
        var certificates = await Facts(tester.Id, cancel);
        var authorities = await store.Authorities.OrderBy(a => a.Name).Select(a => a.Name).ToListAsync(cancel);
        return
        [
            .. from authority in authorities
            from type in AssemblyTypes.Names.Select(AssemblyTypes.Parse)
            select (authority, type.Name, SigningRights.Of(tester.FullName, certificates, type, authority, day)),
        ];
    }

    /// <summary>The certificates of some testers, with the authorities that alone take them.</summary>
    public static Task<List<CertificateRow>> Certificates(
        Store store,
        IReadOnlyCollection<Guid> testers,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(store);
        return store
            .Certificates.AsNoTracking()
            .Include(c => c.Authority)
            .Where(c => testers.Contains(c.AccountId))
            .ToListAsync(cancel);
    }

    /// <summary>The right of a tester to sign a test of a type for an authority on a day, as things stand.</summary>
    public async Task<SigningRight> Of(
        Guid testerId,
        string name,
        AssemblyType type,
        string authority,
        DateOnly day,
        CancellationToken cancel
    ) => SigningRights.Of(name, await Facts(testerId, cancel), type, authority, day);

    private async Task<List<CertificateFacts>> Facts(Guid testerId, CancellationToken cancel) =>
        [.. (await Certificates(store, [testerId], cancel)).Select(SetupWriter.Facts)];
}
