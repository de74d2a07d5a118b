using Microsoft.EntityFrameworkCore;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Lists;

/// <summary>A kit with its calibrations.</summary>
/// <param name="Kit">The kit.</param>
/// <param name="Keeper">Who has it; null for nobody.</param>
/// <param name="Calibrations">Its calibrations, the last first.</param>
/// <param name="Tests">How many tests it has signed.</param>
public sealed record KitView(KitRow Kit, Account? Keeper, IReadOnlyList<CalibrationRow> Calibrations, int Tests);

/// <summary>A test that was made with a kit while it may have read wrong.</summary>
/// <param name="Run">The run.</param>
/// <param name="Number">The report's number.</param>
/// <param name="Assembly">The assembly, with its place.</param>
/// <param name="SignedAt">When it was signed.</param>
/// <param name="Was">How it was judged.</param>
/// <param name="Would">How it would be without the error that was found.</param>
/// <param name="Why">Why then.</param>
/// <param name="IsLast">Whether it is the assembly's last test.</param>
public sealed record DoubtedTest(
    Guid Run,
    string Number,
    AssemblyRow Assembly,
    DateTimeOffset SignedAt,
    Overall Was,
    Overall Would,
    string Why,
    bool IsLast
)
{
    /// <summary>
    /// Whether the assembly is to be tested again: it passed, would not have, and nothing came after.
    /// </summary>
    public bool IsOwed => IsLast && Was == Overall.Pass && Would != Overall.Pass;
}

/// <summary>What a kit that was found wrong has done.</summary>
/// <param name="Since">Since when it is not known to have been right; null for as long as it has tested here.</param>
/// <param name="Until">The day on which it was found.</param>
/// <param name="FoundHigh">By how much it read high; negative for low.</param>
/// <param name="Tests">The tests it made in between, those that would read otherwise first.</param>
/// <param name="Left">How many more there are than were weighed.</param>
public sealed record KitDoubt(
    DateOnly? Since,
    DateOnly Until,
    Differential FoundHigh,
    IReadOnlyList<DoubtedTest> Tests,
    int Left
);

/// <summary>Reads a kit, and what follows where it was found wrong.</summary>
public sealed class KitPage(Store store, SealedRuns made, TimeProvider clock)
{
    /// <summary>The most tests that are weighed.</summary>
    public const int Most = 1000;

    /// <summary>A kit; null where there is none.</summary>
    public async Task<KitView?> Of(Guid id, CancellationToken cancel)
    {
        if (await store.Kits.AsNoTracking().FirstOrDefaultAsync(k => k.Id == id, cancel) is not { } kit)
            return null;
        return new(
            kit,
            await store.Users.AsNoTracking().FirstOrDefaultAsync(u => u.Id == kit.KeeperId, cancel),
            await store
                .Calibrations.AsNoTracking()
                .Include(c => c.Paper)
                .Where(c => c.KitId == id)
                .OrderByDescending(c => c.On)
                .ThenByDescending(c => c.At)
                .ToListAsync(cancel),
            await store.Runs.CountAsync(r => r.KitId == id && r.SignedAt != null, cancel)
        );
    }

    /// <summary>
    /// What a calibration means that found the gauge beyond its accuracy; null where it did not, or nobody has said.
    /// </summary>
    public async Task<KitDoubt?> Doubt(KitView view, CalibrationRow found, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(view);
        ArgumentNullException.ThrowIfNull(found);
        if (found.FoundHigh is not { } high || Math.Abs(high) <= view.Kit.Accuracy)
            return null;
        // Known to have been right: when it was set the time before, by what is kept here.
        var before = view.Calibrations.Where(c => c.On < found.On).Select(c => (DateOnly?)c.On).Max();
        var from = before is { } day ? clock.StartOf(day) : DateTimeOffset.MinValue;
        var until = clock.StartOf(found.On.AddDays(1));
        var tested = store
            .Runs.AsNoTracking()
            .Where(r => r.KitId == view.Kit.Id && r.SignedAt >= from && r.SignedAt < until);
        var rows = await tested
            .Include(r => r.Assembly!)
                .ThenInclude(a => a.Place)
            .OrderByDescending(r => r.SignedAt)
            .Take(Most)
            .ToListAsync(cancel);
        var error = new Differential(high, DifferentialUnits.Parse(view.Kit.Unit)!.Value);
        return new(
            before,
            found.On,
            error,
            await Weigh(rows, error, cancel),
            await tested.CountAsync(cancel) - rows.Count
        );
    }

    private async Task<IReadOnlyList<DoubtedTest>> Weigh(
        List<RunRow> rows,
        Differential error,
        CancellationToken cancel
    )
    {
        var assemblies = rows.Select(r => r.AssemblyId).Distinct().ToList();
        var last = await store
            .Runs.Where(r => assemblies.Contains(r.AssemblyId) && r.SignedAt != null)
            .GroupBy(r => r.AssemblyId)
            .Select(g => new { g.Key, At = g.Max(r => r.SignedAt) })
            .ToDictionaryAsync(g => g.Key, g => g.At, cancel);
        var byId = rows.ToDictionary(r => r.Id);
        var tests = new List<DoubtedTest>();
        await foreach (var run in made.Of(byId.Keys, cancel))
        {
            var (row, (was, would)) = (
                byId[run.Run],
                run.JudgeBeside((subject, results) => (subject, KitWhatIf.Without(results, error)))
            );
            tests.Add(
                new(
                    run.Run,
                    run.Report.Number,
                    row.Assembly!,
                    run.Signing.At,
                    was.Overall,
                    would.Overall,
                    would.Reason,
                    last.GetValueOrDefault(row.AssemblyId) == row.SignedAt
                )
            );
        }

        return [.. tests.OrderBy(t => t.Was == t.Would).ThenByDescending(t => t.SignedAt)];
    }
}
