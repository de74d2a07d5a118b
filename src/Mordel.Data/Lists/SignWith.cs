using Microsoft.EntityFrameworkCore;

namespace Mordel.Data.Lists;

/// <summary>Finds the certificate that a run would be signed with today.</summary>
public sealed class SignWith(Store store, TimeProvider clock)
{
    /// <summary>Its number, or null when none covers the type today.</summary>
    public async Task<string?> Number(RunFile run, CancellationToken cancel)
    {
        var day = clock.Today();
        var all = await store.Certificates.AsNoTracking().Where(c => c.AccountId == run.Row.TesterId).ToListAsync(cancel);
        return all.Find(c => c.Covers(run.Row.Assembly!.Type, day))?.Number;
    }
}
