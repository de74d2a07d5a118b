using Microsoft.EntityFrameworkCore;
using Mordel.Data.Audit;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Lists;

/// <summary>How an installation is.</summary>
/// <param name="Backup">The last backup that was made; null where none was.</param>
/// <param name="FailedBackup">The last one that failed since; null where none did.</param>
/// <param name="Check">The last check of all seals, whatever it found; null where there was none.</param>
/// <param name="Alarms">What is broken now, the first sentence of each.</param>
/// <param name="Stuck">How many things in the outbox are stuck.</param>
/// <param name="SignedRuns">How many signed runs there are.</param>
/// <param name="Assemblies">How many assemblies.</param>
/// <param name="Done">What was done last, the latest first.</param>
/// <param name="KeyId">The key that signs.</param>
/// <param name="Form">The last change of the database's form.</param>
/// <param name="Bytes">What the rows take.</param>
/// <param name="Place">Where they lie.</param>
public sealed record InstallationView(
    AuditRow? Backup,
    AuditRow? FailedBackup,
    AuditRow? Check,
    IReadOnlyList<string> Alarms,
    int Stuck,
    int SignedRuns,
    int Assemblies,
    IReadOnlyList<AuditRow> Done,
    string KeyId,
    string Form,
    long Bytes,
    string Place
);

/// <summary>How the installation is, for its owner.</summary>
public sealed class InstallationState(Store store, StoreAddress address, AuditLog audit, SigningKeys keys)
{
    private const int Shown = 8;

    /// <summary>How it is now.</summary>
    public async Task<InstallationView> Now(CancellationToken cancel)
    {
        var last = await audit.Last(
            [AuditKinds.BackedUp, AuditKinds.NotBackedUp, AuditKinds.SealsChecked, AuditKinds.SealsBroken],
            cancel
        );
        var (made, failed) = (
            last.GetValueOrDefault(AuditKinds.BackedUp),
            last.GetValueOrDefault(AuditKinds.NotBackedUp)
        );
        return new(
            made,
            failed is not null && (made is null || failed.Number > made.Number) ? failed : null,
            new[] { AuditKinds.SealsChecked, AuditKinds.SealsBroken }
                .Select(k => last.GetValueOrDefault(k))
                .MaxBy(r => r?.Number ?? 0),
            await store
                .AlarmRows.AsNoTracking()
                .OrderBy(a => a.FirstSeenAt)
                .Select(a => a.Says)
                .Take(Shown)
                .ToListAsync(cancel),
            await store.Outbox.CountAsync(o => OutboxStates.Stuck.Contains(o.State), cancel),
            await store.Runs.CountAsync(r => r.SignedAt != null, cancel),
            await store.Assemblies.CountAsync(cancel),
            await audit.Find(default, cancel, Shown),
            keys.Id,
            await store
                .Database.SqlQueryRaw<string>("""SELECT MAX("MigrationId") AS "Value" FROM "__EFMigrationsHistory" """)
                .SingleAsync(cancel),
            await address.Bytes(store, cancel),
            address.Place
        );
    }
}
