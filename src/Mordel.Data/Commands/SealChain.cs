using Microsoft.EntityFrameworkCore;

namespace Mordel.Data.Commands;

/// <summary>The chain of an assembly: each seal and each amendment names the hash of the one before.</summary>
public sealed class SealChain(Store store)
{
    /// <summary>The last hash of an assembly's chain; null before the first seal.</summary>
    public async Task<string?> LastHash(Guid assemblyId, CancellationToken cancel)
    {
        var run = await store.Runs.Where(r => r.AssemblyId == assemblyId && r.SignedAt != null).OrderByDescending(r => r.SignedAt).Select(r => new { At = r.SignedAt!.Value, r.Hash }).FirstOrDefaultAsync(cancel);
        var amendment = await store.Amendments.Where(a => store.Runs.Any(r => r.Id == a.RunId && r.AssemblyId == assemblyId)).OrderByDescending(a => a.At).Select(a => new { a.At, a.Hash }).FirstOrDefaultAsync(cancel);
        return amendment is not null && (run is null || amendment.At >= run.At) ? amendment.Hash : run?.Hash;
    }
}
