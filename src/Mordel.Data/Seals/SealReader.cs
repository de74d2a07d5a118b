using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Seals;

/// <summary>An assembly's sealed runs, checked, with what is wrong in its chain.</summary>
/// <param name="Reports">The reports, the last sealed first.</param>
/// <param name="ChainTrouble">What is wrong with the chain as a whole; empty when it is whole.</param>
public sealed record SealedHistory(IReadOnlyList<SealedReport> Reports, IReadOnlyList<string> ChainTrouble);

/// <summary>The last sealed test of an assembly, as a list shows it.</summary>
/// <param name="RunId">The run; null when the end of the chain is gone.</param>
/// <param name="Outcome">The outcome, or <see cref="SealedReport.BrokenOutcome"/>.</param>
/// <param name="SignedAt">When it was signed; null when that cannot be told.</param>
/// <param name="Broken">What is broken; empty when nothing is.</param>
public sealed record LastSealed(Guid? RunId, string Outcome, DateTimeOffset? SignedAt, IReadOnlyList<string> Broken);

/// <summary>Loads sealed runs and checks them; whatever is found broken is raised as an alarm.</summary>
public sealed class SealReader(
    Store store,
    SetupReader setups,
    SigningKeys keys,
    Alarms alarms,
    RecordMemory? memory = null
)
{
    private readonly RecordMemory records = memory ?? new();

    /// <summary>
    /// A sealed run with its chain, checked in full; null when there is no such run, or it is not sealed.
    /// </summary>
    public async Task<SealedReport?> Of(Guid runId, CancellationToken cancel)
    {
        var rows = await Rows(r => r.Id == runId, cancel);
        if (rows.Count == 0 || !IsSealed(rows[0]))
            return null;
        var report = (await Check(rows, cancel))[0];
        report = report with { ChainTrouble = await ChainOf(report.AssemblyId, null, cancel) };
        await Settle([report], report.AssemblyId, report.ChainTrouble, cancel);
        return report;
    }

    /// <summary>All sealed runs of an assembly, checked in full, with its chain.</summary>
    public async Task<SealedHistory> OfAssembly(Guid assemblyId, CancellationToken cancel)
    {
        var rows = await Rows(r => r.AssemblyId == assemblyId && (r.SignedAt != null || r.Seals.Count > 0), cancel);
        var reports = await Check(rows, cancel);
        var signed = rows.Where(r => r.SignedAt is not null).Select(r => r.Id).ToList();
        var trouble = await ChainOf(assemblyId, signed, cancel);
        await Settle(reports, assemblyId, trouble, cancel);
        return new([.. reports.OrderByDescending(r => r.Seal?.Link.Sequence ?? int.MaxValue)], trouble);
    }

    /// <summary>A batch of runs, checked in full, for whoever checks all of them.</summary>
    public async Task<IReadOnlyList<SealedReport>> Of(IReadOnlyCollection<Guid> runIds, CancellationToken cancel)
    {
        var rows = await Rows(r => runIds.Contains(r.Id), cancel);
        return await Check([.. rows.Where(IsSealed)], cancel);
    }

    /// <summary>
    /// Which runs of a list are broken, by the seal and the record behind each line, and by the alarms that fuller
    /// checks have raised; those that are whole are left out.
    /// </summary>
    public async Task<IReadOnlyDictionary<Guid, IReadOnlyList<string>>> BrokenAmong(
        IReadOnlyCollection<Guid> runIds,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(runIds);
        var broken = new Dictionary<Guid, IReadOnlyList<string>>();
        if (runIds.Count == 0)
            return broken;
        var rows = await store
            .Runs.AsNoTracking()
            .Include(r => r.Seals)
            .Where(r => runIds.Contains(r.Id))
            .ToListAsync(cancel);
        // A line shows no more than its facts, and of all the texts of a record only the profile is among them.
        await setups.FetchNamed(
            rows.SelectMany(r => r.Seals)
                .Where(s => s.AmendmentId is null)
                .Select(s => records.Of(s).Facts?.Profile)
                .OfType<string>(),
            cancel
        );
        var check = new SealCheck(keys, setups.Parts);
        var subjects = runIds.Select(Alarms.OfRun).ToList();
        var alarmed = await store.AlarmRows.AsNoTracking().Where(a => subjects.Contains(a.Subject)).ToListAsync(cancel);
        foreach (var row in rows.Where(IsSealed))
        {
            IReadOnlyList<string> wrong =
            [
                .. check
                    .Light(row, records)
                    .Concat(alarmed.Where(a => a.Subject == Alarms.OfRun(row.Id)).Select(a => a.Says))
                    .Distinct(),
            ];
            if (wrong.Count > 0)
                broken[row.Id] = wrong;
        }

        return broken;
    }

    /// <summary>
    /// The last sealed test of each assembly of a list: its seal and record, and whether the chain is as long as it was
    /// signed. Assemblies without any are left out.
    /// </summary>
    public async Task<IReadOnlyDictionary<Guid, LastSealed>> LastOf(
        IReadOnlyCollection<Guid> assemblyIds,
        CancellationToken cancel
    )
    {
        var links = await store
            .Seals.AsNoTracking()
            .Where(s => assemblyIds.Contains(s.AssemblyId))
            .Select(s => new
            {
                s.AssemblyId,
                s.Sequence,
                s.RunId,
                s.AmendmentId,
                s.Hash,
            })
            .ToListAsync(cancel);
        var ends = await store
            .Chains.AsNoTracking()
            .Where(c => assemblyIds.Contains(c.AssemblyId))
            .ToDictionaryAsync(c => c.AssemblyId, cancel);
        var last = links
            .Where(l => l.AmendmentId is null)
            .GroupBy(l => l.AssemblyId)
            .ToDictionary(g => g.Key, g => g.MaxBy(l => l.Sequence)!.RunId);
        var broken = await BrokenAmong(last.Values, cancel);
        var rows = await store
            .Runs.AsNoTracking()
            .Where(r => last.Values.Contains(r.Id))
            .Select(r => new
            {
                r.Id,
                r.Outcome,
                r.SignedAt,
            })
            .ToDictionaryAsync(r => r.Id, cancel);
        var found = new Dictionary<Guid, LastSealed>();
        foreach (var assembly in last.Keys.Union(ends.Keys))
        {
            var chain = links.Where(l => l.AssemblyId == assembly).OrderBy(l => l.Sequence).ToList();
            var whole =
                ends.GetValueOrDefault(assembly) is { } end
                && new ChainCheck(keys).EndsAt(end, chain.Count, chain.LastOrDefault()?.Hash);
            var run = last.TryGetValue(assembly, out var id) ? rows.GetValueOrDefault(id) : null;
            IReadOnlyList<string> wrong =
            [
                .. whole ? [] : new[] { "The chain of this assembly is not as it was signed." },
                .. run is null ? [] : broken.GetValueOrDefault(run.Id) ?? [],
            ];
            found[assembly] = new(
                run?.Id,
                wrong.Count > 0 || run?.Outcome is null ? SealedReport.BrokenOutcome : run.Outcome,
                run?.SignedAt,
                wrong
            );
        }

        return found;
    }

    /// <summary>What is wrong with an assembly's chain; alarms are settled by it.</summary>
    public async Task<IReadOnlyList<string>> Chain(Guid assemblyId, CancellationToken cancel)
    {
        var wrong = await ChainOf(assemblyId, null, cancel);
        await alarms.Settle(Alarms.OfChain(assemblyId), wrong, cancel);
        return wrong;
    }

    // The signed runs are read where they are not at hand.
    private async Task<IReadOnlyList<string>> ChainOf(
        Guid assemblyId,
        IReadOnlyCollection<Guid>? signed,
        CancellationToken cancel
    )
    {
        var links = await store
            .Seals.AsNoTracking()
            .Where(s => s.AssemblyId == assemblyId)
            .Select(s => new ChainLink(s.Number, s.Sequence, s.RunId, s.Link, s.Hash, s.Signature))
            .ToListAsync(cancel);
        var end = await store.Chains.AsNoTracking().FirstOrDefaultAsync(c => c.AssemblyId == assemblyId, cancel);
        signed ??= await store
            .Runs.AsNoTracking()
            .Where(r => r.AssemblyId == assemblyId && r.SignedAt != null)
            .Select(r => r.Id)
            .ToListAsync(cancel);
        return new ChainCheck(keys).Of(assemblyId, links, end, signed);
    }

    // A run counts as sealed when either its row or a seal says so: taking one of them away does not open it again.
    private static bool IsSealed(RunRow row) => row.SignedAt is not null || row.Seals.Count > 0;

    // Results and amendments of a run are few; its entries and seals are asked for by themselves.
    private async Task<List<RunRow>> Rows(
        System.Linq.Expressions.Expression<Func<RunRow, bool>> which,
        CancellationToken cancel
    )
    {
        var rows = await store
            .Runs.AsNoTracking()
            .AsSingleQuery()
            .Include(r => r.Results)
            .Include(r => r.Amendments)
            .Where(which)
            .ToListAsync(cancel);
        var ids = rows.Select(r => r.Id).ToList();
        var byId = rows.ToDictionary(r => r.Id);
        foreach (var entry in await store.Entries.AsNoTracking().Where(e => ids.Contains(e.RunId)).ToListAsync(cancel))
            byId[entry.RunId].Entries.Add(entry);
        foreach (var seal in await store.Seals.AsNoTracking().Where(s => ids.Contains(s.RunId)).ToListAsync(cancel))
            byId[seal.RunId].Seals.Add(seal);
        return rows;
    }

    // A check that has what the records of these runs name at hand.
    private async Task<SealCheck> CheckFor(List<RunRow> rows, CancellationToken cancel)
    {
        await setups.Fetch(rows.SelectMany(r => r.Seals).Select(s => s.RecordText).OfType<string>(), cancel);
        return new(keys, setups.Parts);
    }

    private async Task<List<SealedReport>> Check(List<RunRow> rows, CancellationToken cancel)
    {
        var ids = rows.Select(r => r.Id).Concat(rows.SelectMany(r => r.Amendments).Select(a => a.Id)).ToList();
        var earlier = await store.EarlierSeals.AsNoTracking().Where(e => ids.Contains(e.Id)).ToListAsync(cancel);
        var check = await CheckFor(rows, cancel);
        return
        [
            .. rows.Select(r =>
                check.Of(r, [.. earlier.Where(e => e.Id == r.Id || r.Amendments.Any(a => a.Id == e.Id))])
            ),
        ];
    }

    private Task Settle(
        IEnumerable<SealedReport> reports,
        Guid assemblyId,
        IReadOnlyList<string> chain,
        CancellationToken cancel
    ) =>
        alarms.Settle(
            [.. reports.Select(r => (Alarms.OfRun(r.RunId), r.Broken)), (Alarms.OfChain(assemblyId), chain)],
            cancel
        );
}
