using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Audit;

/// <summary>
/// Writes down what is done, in the save that does it: whatever is saved of people, kits, rules, keys and seals, and
/// what was noted beside. Nothing is done without it, and nothing stands in it that was not done.
/// </summary>
public sealed class AuditWriter(WhoAsks who, SigningKeys keys, TimeProvider clock) : SaveChangesInterceptor
{
    private IReadOnlyList<(string What, string On, string Says)> noted = [];

    /// <inheritdoc/>
    public override async ValueTask<InterceptionResult<int>> SavingChangesAsync(
        DbContextEventData eventData,
        InterceptionResult<int> result,
        CancellationToken cancellationToken = default
    )
    {
        ArgumentNullException.ThrowIfNull(eventData);
        // Before the keys are opened nobody has done anything yet.
        if (eventData.Context is Store store && keys.AreOpen)
        {
            noted = who.Take();
            await Write(store, [.. Changed(store), .. noted], cancellationToken);
        }

        return result;
    }

    /// <inheritdoc/>
    public override Task SaveChangesFailedAsync(
        DbContextErrorEventData eventData,
        CancellationToken cancellationToken = default
    )
    {
        ArgumentNullException.ThrowIfNull(eventData);
        // What was not done is not written down; whoever saves again begins at the end as it is then.
        if (eventData.Context is Store store)
            foreach (
                var entry in store.ChangeTracker.Entries().Where(e => e.Entity is AuditRow or AuditEndRow).ToList()
            )
                entry.State = EntityState.Detached;
        foreach (var (what, on, says) in noted)
            who.Note(what, on, says);
        return Task.CompletedTask;
    }

    private async Task Write(Store store, List<(string What, string On, string Says)> done, CancellationToken cancel)
    {
        if (done.Count == 0)
            return;
        // Lines of an earlier save, which may have been given up with its transaction: they are nobody's concern now.
        foreach (
            var earlier in store.ChangeTracker.Entries<AuditRow>().Where(e => e.State == EntityState.Unchanged).ToList()
        )
            earlier.State = EntityState.Detached;
        var row = store.AuditEnds.Local.FirstOrDefault();
        // What is tracked may be of an earlier save; others have written since.
        if (row is not null && store.Entry(row).State == EntityState.Unchanged)
        {
            await store.Entry(row).ReloadAsync(cancel);
            // Made in a transaction that was given up.
            if (store.Entry(row).State == EntityState.Detached)
                row = null;
        }

        row ??= await store.AuditEnds.FindAsync([AuditChain.TheEnd], cancel);
        var (count, hash) = await End(store, row, cancel);
        var at = clock.Now();
        foreach (var (what, on, says) in done)
        {
            var line = new AuditRow
            {
                Number = ++count,
                At = at,
                AccountId = who.AccountId,
                Who = who.Name,
                What = what,
                On = on,
                Says = says,
                From = who.From,
                Hash = "",
            };
            line.Hash = hash = AuditChain.HashOf(hash, line);
            store.Audit.Add(line);
        }

        var text = AuditChain.Write(new(count, hash, keys.Id));
        if (row is null)
            store.AuditEnds.Add(
                new()
                {
                    Id = AuditChain.TheEnd,
                    Text = text,
                    Signature = keys.Sign(text),
                }
            );
        else
            (row.Text, row.Signature) = (text, keys.Sign(text));
    }

    // Behind an end that was tampered with it goes on after all that is there: what lacks stays visible.
    private async Task<(long Count, string Hash)> End(Store store, AuditEndRow? row, CancellationToken cancel)
    {
        if (row is not null && AuditChain.Signed(row, keys) is { } end)
            return (end.Count, end.Hash);
        var last = await store.Audit.AsNoTracking().OrderByDescending(a => a.Number).FirstOrDefaultAsync(cancel);
        return last is null ? (0, ContentHash.Beginning) : (last.Number, last.Hash);
    }

    private static IEnumerable<(string What, string On, string Says)> Changed(Store store)
    {
        foreach (var entry in store.ChangeTracker.Entries().OrderBy(e => (e.Entity as SealRow)?.Number ?? 0).ToList())
            switch (entry.Entity)
            {
                case ChangeRow change when entry.State == EntityState.Added && KindOf(change.Thing) is { } kind:
                    yield return (kind, $"{change.ThingId}", Says(change));
                    break;
                case TokenRow key when entry.State == EntityState.Added:
                    yield return (AuditKinds.Key, $"{key.AccountId}", $"{key.Name} made, may {key.Scope}");
                    break;
                case TokenRow key
                    when entry.State == EntityState.Modified && entry.Property(nameof(TokenRow.RevokedAt)).IsModified:
                    yield return (AuditKinds.Key, $"{key.AccountId}", $"{key.Name} taken back");
                    break;
                case SigningKeyRow key when entry.State == EntityState.Added:
                    yield return (AuditKinds.SigningKey, key.Id, "in use from now on");
                    break;
                case SealRow seal when entry.State == EntityState.Added:
                    yield return (
                        seal.AmendmentId is null ? AuditKinds.Sealed : AuditKinds.Amended,
                        $"{seal.RunId}",
                        $"seal number {seal.Number}"
                    );
                    break;
                default:
                    break;
            }
    }

    private static string? KindOf(string thing) =>
        thing switch
        {
            Things.Person => AuditKinds.Person,
            Things.Kit => AuditKinds.Kit,
            Things.Branch => AuditKinds.Branch,
            Things.Authority or Things.Profile => AuditKinds.Rules,
            _ => null,
        };

    private static string Says(ChangeRow change) =>
        (change.Field, change.From) switch
        {
            ("", _) => change.To,
            (_, "") => $"{change.Field}: {change.To}",
            _ => $"{change.Field}: {change.From}, now {change.To}",
        };
}
