using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;

namespace Mordel.Data.Upgrade;

/// <summary>Gives assemblies of an earlier version the key by which serials that are alike are found.</summary>
public sealed class SerialKeyUpgrade(Store store)
{
    private const int Batch = 2000;

    /// <summary>Gives it to all that lack it.</summary>
    public async Task All(CancellationToken cancel)
    {
        while (true)
        {
            var lacking = await store
                .Assemblies.Where(a => a.SerialKey == "" && a.Serial != "")
                .OrderBy(a => a.Id)
                .Take(Batch)
                .ToListAsync(cancel);
            // A serial of signs alone has no key, and needs none.
            var changed = 0;
            foreach (var row in lacking)
            {
                row.KeepSerialKey();
                changed += row.SerialKey.Length > 0 ? 1 : 0;
            }

            await store.SaveChangesAsync(cancel);
            store.ChangeTracker.Clear();
            if (changed == 0)
                return;
        }
    }
}
