using Microsoft.EntityFrameworkCore;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;

namespace Mordel.Data.Seals;

/// <summary>What a check of everything has found.</summary>
/// <param name="Runs">How many sealed runs were checked.</param>
/// <param name="Seals">How many seals.</param>
/// <param name="Broken">What is broken: the subject and a sentence.</param>
/// <param name="JudgedOtherwise">How many runs this version would judge otherwise than the one that sealed them; that
/// breaks nothing.</param>
public sealed record InstallationResult(
    int Runs,
    long Seals,
    IReadOnlyList<(string Subject, string Says)> Broken,
    int JudgedOtherwise
)
{
    /// <summary>Whether everything is as it was sealed.</summary>
    public bool Holds => Broken.Count == 0;
}

/// <summary>
/// Checks every seal of the installation: keys, ledger, shared texts, chains, and each run in full. Alarms are settled
/// by what it finds.
/// </summary>
public sealed class InstallationCheck(
    Store store,
    SealReader reader,
    SigningKeys keys,
    Alarms alarms,
    IAlsoChecked audit
)
{
    private const int Batch = 100;

    /// <summary>Checks all of it.</summary>
    /// <param name="rest">Called between two batches with how many runs are done; may wait, so that others come
    /// first.</param>
    /// <param name="cancel">Ends it between two batches.</param>
    public async Task<InstallationResult> All(Func<int, Task> rest, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(rest);
        var broken = new List<(string Subject, string Says)>();
        await keys.Reread(store, cancel);
        broken.AddRange(keys.Problems.Select(p => (Alarms.Installation, p)));
        var seals = await TheLedger(broken, cancel);
        broken.AddRange((await audit.Check(cancel)).Select(says => (Alarms.Installation, says)));
        var texts = await SharedTexts(broken, cancel);
        await Chains(broken, cancel);
        var (runs, otherwise) = await Runs(texts, broken, rest, cancel);
        await RegisterRows(broken, cancel);
        await Orphans(broken, cancel);
        await Settle(broken, cancel);
        return new(runs, seals, broken, otherwise);
    }

    private async Task<long> TheLedger(List<(string, string)> broken, CancellationToken cancel)
    {
        var (count, running) = (0L, ContentHash.Beginning);
        await foreach (
            var seal in store
                .Seals.AsNoTracking()
                .OrderBy(s => s.Number)
                .Select(s => new { s.Number, s.Hash })
                .AsAsyncEnumerable()
                .WithCancellation(cancel)
        )
        {
            for (count++; count < seal.Number; count++)
                broken.Add((Alarms.Installation, $"Seal number {count} of the installation is missing."));
            running = SealFormat.Running(running, seal.Hash);
        }

        var row = await store.Ledger.AsNoTracking().OrderBy(l => l.Id).ToListAsync(cancel);
        if (row.Count == 0 && count == 0)
            return 0;
        if (row is not [{ Id: SealWriter.TheLedger } only] || keys.Signed(only) is not { } ledger)
            broken.Add((Alarms.Installation, "The ledger of all seals is missing or not as it was signed."));
        else if (ledger.Count != count)
            broken.Add((Alarms.Installation, $"There are {count} seals, where the ledger has {ledger.Count}."));
        else if (ledger.Running != running)
            broken.Add(
                (Alarms.Installation, "The seals are not those that the ledger was signed over, or not in their order.")
            );
        return count;
    }

    private async Task<HashSet<string>> SharedTexts(List<(string, string)> broken, CancellationToken cancel)
    {
        var there = new HashSet<string>(StringComparer.Ordinal);
        await foreach (var text in store.KeptTexts.AsNoTracking().AsAsyncEnumerable().WithCancellation(cancel))
        {
            there.Add(text.Hash);
            if (Packed.Unpack(text.Text) is not { } unpacked || ContentHash.Compute(unpacked) != text.Hash)
                broken.Add(
                    (
                        Alarms.Installation,
                        $"The kept text {text.Hash} (a profile or a run sheet) is not what its name says."
                    )
                );
        }

        return there;
    }

    private async Task Chains(List<(string, string)> broken, CancellationToken cancel)
    {
        var assemblies = (await store.Seals.Select(s => s.AssemblyId).Distinct().ToListAsync(cancel))
            .Union(await store.Chains.Select(c => c.AssemblyId).ToListAsync(cancel))
            .Union(
                await store.Runs.Where(r => r.SignedAt != null).Select(r => r.AssemblyId).Distinct().ToListAsync(cancel)
            )
            .ToList();
        foreach (var assembly in assemblies)
            broken.AddRange((await reader.Chain(assembly, cancel)).Select(says => (Alarms.OfChain(assembly), says)));
    }

    private async Task<(int Runs, int WhatIf)> Runs(
        HashSet<string> texts,
        List<(string, string)> broken,
        Func<int, Task> rest,
        CancellationToken cancel
    )
    {
        var ids = await store
            .Runs.Where(r => r.SignedAt != null || r.Seals.Count > 0)
            .OrderBy(r => r.Id)
            .Select(r => r.Id)
            .ToListAsync(cancel);
        var (done, otherwise) = (0, 0);
        foreach (var batch in ids.Chunk(Batch))
        {
            foreach (var report in await reader.Of(batch, cancel))
            {
                broken.AddRange(report.Broken.Select(says => (Alarms.OfRun(report.RunId), says)));
                if (report.JudgedOtherwise is not null)
                    otherwise++;
                // Texts that are still in memory would hide that they are gone.
                if (report is not { Run: not null, RecordText: { } record })
                    continue;
                var pieces = SealedRecord.Read(record);
                foreach (
                    var lacking in new[] { pieces.Profile, pieces.Sheet }.Where(h => h.Length > 0 && !texts.Contains(h))
                )
                    broken.Add(
                        (Alarms.Installation, $"The kept text {lacking} (a profile or a run sheet) is missing.")
                    );
            }

            done += batch.Length;
            await rest(done);
        }

        return (done, otherwise);
    }

    // What the register shows of an assembly's last test is what its chain says.
    private async Task RegisterRows(List<(string, string)> broken, CancellationToken cancel)
    {
        var shown = await store
            .Assemblies.AsNoTracking()
            .Where(a => a.LastOutcome != null || a.LastTestOn != null)
            .Select(a => new
            {
                a.Id,
                a.Tag,
                a.LastOutcome,
            })
            .ToListAsync(cancel);
        foreach (var batch in shown.Chunk(Batch))
        {
            var ids = batch.Select(a => a.Id).ToList();
            var sealed_ = (
                await store
                    .Runs.AsNoTracking()
                    .Where(r => ids.Contains(r.AssemblyId) && r.SignedAt != null)
                    .Select(r => new { r.AssemblyId, r.Outcome })
                    .ToListAsync(cancel)
            ).ToLookup(r => r.AssemblyId, r => r.Outcome);
            foreach (var assembly in batch.Where(a => !sealed_[a.Id].Contains(a.LastOutcome)))
                broken.Add(
                    (
                        Alarms.OfChain(assembly.Id),
                        $"The register says {assembly.LastOutcome ?? "nothing"} of {assembly.Tag}, which none of "
                            + $"its sealed tests says."
                    )
                );
        }
    }

    // Rows that belong to nothing: the database lets nobody add them who asks it properly, and a server nobody at all.
    private async Task Orphans(List<(string, string)> broken, CancellationToken cancel)
    {
        if (store is PostgresStore)
            return;
        var tables = await store
            .Database.SqlQueryRaw<string>("""SELECT DISTINCT "table" AS "Value" FROM pragma_foreign_key_check""")
            .ToListAsync(cancel);
        broken.AddRange(tables.Select(t => (Alarms.Installation, $"The table {t} has rows that belong to nothing.")));
    }

    private async Task Settle(List<(string Subject, string Says)> broken, CancellationToken cancel)
    {
        var earlier = await store
            .AlarmRows.AsNoTracking()
            .Where(a => !a.Subject.StartsWith(Alarms.CarriedOn))
            .Select(a => a.Subject)
            .Distinct()
            .ToListAsync(cancel);
        var found = broken.ToLookup(b => b.Subject, b => b.Says);
        await alarms.Settle(
            [
                .. earlier
                    .Union(found.Select(g => g.Key))
                    .Select(subject => (subject, (IReadOnlyList<string>)[.. found[subject].Distinct()])),
            ],
            cancel
        );
    }
}
