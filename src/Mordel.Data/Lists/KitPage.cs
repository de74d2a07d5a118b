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
public sealed record KitView(KitRow Kit, Account? Keeper, IReadOnlyList<CalibrationRow> Calibrations, int Tests)
{
    /// <summary>Where it is lent, from today on, the first first.</summary>
    public IReadOnlyList<LoanRow> Loans { get; init; } = [];

    /// <summary>What it was compared with, the last first.</summary>
    public IReadOnlyList<ComparisonRow> Comparisons { get; init; } = [];

    /// <summary>Of how many signed tests it was confirmed that the needle stood at zero before.</summary>
    public int AtZero { get; init; }

    /// <summary>Of how many it was said that it did not.</summary>
    public int OffZero { get; init; }

    /// <summary>The last of those.</summary>
    public IReadOnlyList<ZeroCheck> Off { get; init; } = [];

    /// <summary>The gauge's unit.</summary>
    public DifferentialUnit Unit => DifferentialUnits.Parse(Kit.Unit)!.Value;

    /// <summary>By how much it read higher than another, in its own unit; negative for lower.</summary>
    public Differential Above(ComparisonRow comparison)
    {
        ArgumentNullException.ThrowIfNull(comparison);
        var apart = KitComparison.Apart(
            KitComparison.Read(comparison.Pairs),
            DifferentialUnits.Parse(comparison.One!.Unit)!.Value,
            DifferentialUnits.Parse(comparison.Other!.Unit)!.Value
        );
        return comparison.OneId == Kit.Id
            ? apart
            : new(decimal.Round(-apart.In(Unit), 3, MidpointRounding.AwayFromZero), Unit);
    }

    /// <summary>The other kit of a comparison.</summary>
    public KitRow Beside(ComparisonRow comparison)
    {
        ArgumentNullException.ThrowIfNull(comparison);
        return comparison.OneId == Kit.Id ? comparison.Other! : comparison.One!;
    }

    /// <summary>Whether two kits that are each as good as they say can be so far apart.</summary>
    public bool Agrees(ComparisonRow comparison) =>
        KitComparison.Agree(
            Above(comparison),
            new(Kit.Accuracy, Unit),
            new(Beside(comparison).Accuracy, DifferentialUnits.Parse(Beside(comparison).Unit)!.Value)
        );

    /// <summary>All that is known of how it reads, by day.</summary>
    public IReadOnlyList<KitPoint> Points =>
        [
            .. Calibrations
                .Select(c => new KitPoint(
                    c.On,
                    c.FoundHigh,
                    KitPointKind.Calibration,
                    $"calibrated by {c.CalibratedBy}"
                ))
                .Concat(
                    Comparisons.Select(c => new KitPoint(
                        c.On,
                        Above(c).Amount,
                        KitPointKind.Comparison,
                        $"beside {Beside(c).Serial}"
                    ))
                )
                .Concat(Off.Select(z => new KitPoint(z.Day, z.High, KitPointKind.Zero, $"before {z.Number}")))
                .OrderBy(p => p.Day)
                .ThenBy(p => p.Kind),
        ];
}

/// <summary>A needle that did not stand at zero before a test.</summary>
/// <param name="Run">The run.</param>
/// <param name="Number">The report's number.</param>
/// <param name="Day">The day.</param>
/// <param name="High">Where it stood, in the kit's unit.</param>
public sealed record ZeroCheck(Guid Run, string Number, DateOnly Day, decimal High);

/// <summary>Where something of a kit is known from.</summary>
public enum KitPointKind
{
    /// <summary>Found at a calibration, before it was set.</summary>
    Calibration,

    /// <summary>Read beside another kit: it says how far they are apart, not which is right.</summary>
    Comparison,

    /// <summary>Both ports open to air before a test.</summary>
    Zero,
}

/// <summary>Something that is known of how a kit reads.</summary>
/// <param name="Day">When.</param>
/// <param name="High">By how much it read high, in its unit; null where a calibration does not say.</param>
/// <param name="Kind">From where.</param>
/// <param name="Says">From where, in words.</param>
public sealed record KitPoint(DateOnly Day, decimal? High, KitPointKind Kind, string Says);

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

    // How many needles that stood off zero are listed.
    private const int MostOff = 100;

    /// <summary>A kit; null where there is none.</summary>
    public async Task<KitView?> Of(Guid id, CancellationToken cancel)
    {
        if (await store.Kits.AsNoTracking().FirstOrDefaultAsync(k => k.Id == id, cancel) is not { } kit)
            return null;
        var off = store.Runs.Where(r => r.KitId == id && r.ZeroHigh != null && r.ZeroHigh != 0m && r.SignedAt != null);
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
        )
        {
            Loans = await store
                .Loans.AsNoTracking()
                .Include(l => l.To)
                .Where(l => l.KitId == id && l.Until >= clock.Today())
                .OrderBy(l => l.From)
                .ToListAsync(cancel),
            Comparisons = await store
                .Comparisons.AsNoTracking()
                .Include(c => c.One)
                .Include(c => c.Other)
                .Where(c => c.OneId == id || c.OtherId == id)
                .OrderByDescending(c => c.On)
                .ThenByDescending(c => c.At)
                .ToListAsync(cancel),
            AtZero = await store.Runs.CountAsync(r => r.KitId == id && r.ZeroHigh == 0m, cancel),
            OffZero = await off.CountAsync(cancel),
            Off =
            [
                .. (
                    await off.OrderByDescending(r => r.SignedAt)
                        .Take(MostOff)
                        .Select(r => new
                        {
                            r.Id,
                            r.Number,
                            r.SignedAt,
                            r.ZeroHigh,
                        })
                        .ToListAsync(cancel)
                ).Select(r => new ZeroCheck(r.Id, r.Number ?? "", clock.DayOf(r.SignedAt!.Value), r.ZeroHigh!.Value)),
            ],
        };
    }

    /// <summary>All kits, by their serial.</summary>
    public async Task<IReadOnlyList<KitRow>> All(CancellationToken cancel) =>
        await store.Kits.AsNoTracking().OrderBy(k => k.Serial).ToListAsync(cancel);

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
