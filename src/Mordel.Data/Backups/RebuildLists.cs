using Microsoft.EntityFrameworkCore;
using Mordel.Core.Reports;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Backups;

/// <summary>What making the lists anew came to.</summary>
/// <param name="Runs">How many signed runs were read.</param>
/// <param name="RunsMended">How many stood in lists otherwise than they were sealed.</param>
/// <param name="Left">Runs whose seal cannot be read; their lines stay as they are.</param>
/// <param name="Assemblies">How many assemblies there are.</param>
/// <param name="LastTestsMended">How many showed another last test.</param>
/// <param name="DuesMended">How many owed something else.</param>
public sealed record RebuiltLists(
    int Runs,
    int RunsMended,
    IReadOnlyList<Guid> Left,
    int Assemblies,
    int LastTestsMended,
    int DuesMended
);

/// <summary>
/// Makes anew what lists and charts read beside what was entered and sealed: the lines of runs, each assembly's last
/// test, what it owes, its chance to fail, the index of the register, the counts of Standing. Some at a time, so that
/// memory does not grow with the installation; what is as it should be is not written.
/// </summary>
public sealed class RebuildLists(
    Store store,
    SealReader seals,
    DueProjection dues,
    ChanceProjection chances,
    RegisterIndex index,
    StandingProjection standing,
    TimeProvider clock
)
{
    private const int Batch = 100;

    /// <summary>Makes all of them anew.</summary>
    /// <param name="progress">Told what is done, in a few words.</param>
    /// <param name="cancel">Ends it between two batches; what was made until then stays.</param>
    public async Task<RebuiltLists> All(Action<string> progress, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(progress);
        var (runs, mended, left) = await Runs(progress, cancel);
        progress("The last test of each assembly, and what it owes…");
        var (assemblies, lastTests) = await LastTests(cancel);
        var moved = await dues.Rebuild(null, cancel);
        progress("How likely each fails at its next test…");
        await Chances(cancel);
        progress("The index of the register, and the counts of Standing…");
        await index.Rebuild(cancel);
        await standing.Count(cancel);
        return new(runs, mended, left, assemblies, lastTests, moved);
    }

    private async Task<(int Runs, int Mended, List<Guid> Left)> Runs(Action<string> progress, CancellationToken cancel)
    {
        var ids = await store
            .Runs.Where(r => r.SignedAt != null || r.Seals.Count > 0)
            .OrderBy(r => r.Id)
            .Select(r => r.Id)
            .ToListAsync(cancel);
        var (done, mended, left) = (0, 0, new List<Guid>());
        foreach (var batch in ids.Chunk(Batch))
        {
            var reports = await seals.Of(batch, cancel);
            var rows = await store
                .Runs.Include(r => r.Results)
                .Where(r => batch.Contains(r.Id))
                .ToDictionaryAsync(r => r.Id, cancel);
            foreach (var report in reports)
                if (report is not { Run: { } run, Seal: not null })
                {
                    left.Add(report.RunId);
                }
                else
                {
                    var row = rows[report.RunId];
                    var setup = row.Setup;
                    if (!IsAsSealed(row, run))
                    {
                        Projection.Write(row, run);
                        mended++;
                    }

                    // Where the seal is broken, what the row has may be what was signed.
                    row.Setup = report.Holds ? RunRow.InItsRecord : setup;
                }

            await store.SaveChangesAsync(cancel);
            // What an earlier version kept twice.
            await store.DropEntries([.. reports.Where(r => r.Holds).Select(r => r.RunId)], cancel);
            store.ChangeTracker.Clear();
            done += batch.Length;
            progress($"{done} of {ids.Count} signed runs");
        }

        return (ids.Count, mended, left);
    }

    private static bool IsAsSealed(RunRow row, SealedRun run)
    {
        var fresh = new RunRow { ProcedureId = row.ProcedureId, ProfileId = row.ProfileId };
        Projection.Write(fresh, run);
        return Line(row).Equals(Line(fresh)) && Items(row).SequenceEqual(Items(fresh));
    }

    private static object Line(RunRow r) =>
        (r.SignedAt, r.SignedName, r.Outcome, r.Summary, r.FoundText, r.NotEntered, r.ZeroHigh, r.WasMended);

    private static IEnumerable<object> Items(RunRow row) =>
        row
            .Results.OrderBy(r => r.Item, StringComparer.Ordinal)
            .Select(r => (object)(r.Item, r.Result, r.Value, r.Unit, r.Limit, r.Text));

    // As sealing after sealing has written it.
    private async Task<(int Assemblies, int Mended)> LastTests(CancellationToken cancel)
    {
        var (count, mended, today) = (0, 0, clock.Today());
        await foreach (var batch in store.Assemblies.Batches(cancel))
        {
            var ids = batch.Select(a => a.Id).ToList();
            var tests = (
                await (
                    from s in store.Seals
                    where ids.Contains(s.AssemblyId) && s.AmendmentId == null
                    join r in store.Runs on s.RunId equals r.Id
                    where r.SignedAt != null
                    orderby s.Sequence
                    select new
                    {
                        s.AssemblyId,
                        r.SignedAt,
                        r.Outcome,
                    }
                ).ToListAsync(cancel)
            ).ToLookup(t => t.AssemblyId);
            foreach (var assembly in batch.Where(a => tests.Contains(a.Id)))
            {
                var before = (assembly.LastTestOn, assembly.LastOutcome);
                (assembly.LastTestOn, assembly.LastOutcome) = (null, null);
                foreach (var test in tests[assembly.Id])
                    Projection.WriteLast(assembly, test.Outcome, clock.DayOf(test.SignedAt!.Value), today);
                if (before != (assembly.LastTestOn, assembly.LastOutcome))
                    mended++;
            }

            await store.SaveChangesAsync(cancel);
            store.ChangeTracker.Clear();
            count += batch.Count;
        }

        return (count, mended);
    }

    private async Task Chances(CancellationToken cancel)
    {
        var today = clock.Today();
        await foreach (var batch in store.Assemblies.Batches(cancel))
        {
            foreach (var assembly in batch)
                await chances.Write(assembly, today, cancel);
            await store.SaveChangesAsync(cancel);
            store.ChangeTracker.Clear();
        }
    }
}
