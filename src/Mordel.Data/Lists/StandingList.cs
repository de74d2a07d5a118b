using System.Collections.Immutable;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Schools;
using Mordel.Core.Standing;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>What of the standing is shown.</summary>
public sealed record StandingFilter
{
    /// <summary>The type; null for all.</summary>
    public string? Type { get; init; }

    /// <summary>By what outcomes are set out, one of <see cref="StandingDimensions"/>; null for the first.</summary>
    public string? By { get; init; }

    /// <summary>The last so many years of tests; null for all.</summary>
    public int? Years { get; init; }

    /// <summary>The procedure of which steps are timed; null for the one that is used most.</summary>
    public string? Procedure { get; init; }

    /// <summary>What of it can be shown; anything else is left out.</summary>
    public StandingFilter Known() =>
        this with
        {
            Type = AssemblyTypes.Named(Type) is null ? null : Type,
            By = StandingDimensions.All.Any(d => d.Id == By) ? By : null,
            Years = Years is 1 or 3 ? Years : null,
        };
}

/// <summary>How the tests of one kind came out.</summary>
/// <param name="Value">What they have in common, as it is kept.</param>
/// <param name="Name">As people read it.</param>
/// <param name="Failed">How many failed, of those that do not follow a failure.</param>
public sealed record OutcomeLine(string Value, string Name, Share Failed);

/// <summary>How long a kind of part holds.</summary>
/// <param name="Name">What the part is called.</param>
/// <param name="Mended">After a failure; else from new.</param>
/// <param name="Points">By age.</param>
public sealed record LifeLine(string Name, bool Mended, IReadOnlyList<LifePoint> Points);

/// <summary>A month's work.</summary>
/// <param name="First">Its first day.</param>
/// <param name="Done">Tests that were made in it.</param>
/// <param name="Owed">Tests that are owed in it.</param>
public sealed record MonthLine(DateOnly First, int Done, int Owed);

/// <summary>How long something takes.</summary>
/// <param name="Name">What, or whose.</param>
/// <param name="Count">How often it was timed.</param>
/// <param name="Short">One in ten takes less, minutes.</param>
/// <param name="Middle">Half take less.</param>
/// <param name="Long">One in ten takes more.</param>
public sealed record TimeLine(string Name, int Count, double Short, double Middle, double Long);

/// <summary>All of the standing.</summary>
public sealed record StandingView
{
    /// <summary>First tests, and those that follow a failure.</summary>
    public required Share Failed { get; init; }

    /// <summary>Of the tests that followed a failure, those that passed.</summary>
    public required Share AgainPassed { get; init; }

    /// <summary>Tests that came to no end.</summary>
    public required int Unfinished { get; init; }
    public required IReadOnlyList<OutcomeLine> Outcomes { get; init; }

    /// <summary>Whether branches look after any district.</summary>
    public required bool HasBranches { get; init; }
    public required IReadOnlyList<LifeLine> Lives { get; init; }

    /// <summary>All parts together: from new, and after a failure.</summary>
    public required IReadOnlyList<LifeLine> Repairs { get; init; }
    public required IReadOnlyList<MonthLine> Months { get; init; }
    public required int Overdue { get; init; }
    public required IReadOnlyList<TimeLine> Testers { get; init; }
    public required IReadOnlyList<TimeLine> Steps { get; init; }

    /// <summary>The procedures that were timed, the most used first.</summary>
    public required IReadOnlyList<DueChoice> Procedures { get; init; }

    /// <summary>The one of which the steps are shown; null where none was timed.</summary>
    public string? Procedure { get; init; }
}

/// <summary>Reads the standing: from counts, so that it takes the same time whatever the number of tests.</summary>
public sealed class StandingList(Store store, TimeProvider clock)
{
    private const int MonthsEitherWay = 12;

    // Fewer tell nothing of a person's or a step's time.
    private const int LeastTimed = 3;

    // A tenth, half, nine tenths.
    private const double Tenth = 0.1,
        Half = 0.5;

    private const double Minute = 60;

    /// <summary>All of it.</summary>
    public async Task<StandingView> Of(StandingFilter filter, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(filter);
        var by = StandingDimensions.All.FirstOrDefault(d => d.Id == filter.By, StandingDimensions.All[0]).Id;
        var counted = StandingDimensions.CountedAs(by);
        var counts = await store
            .StandingCounts.AsNoTracking()
            .Where(c => c.Dimension == StandingDimensions.Everything || c.Dimension == counted)
            .Where(c => filter.Type == null || c.Type == filter.Type)
            .ToListAsync(cancel);
        var from = filter.Years is { } years ? StandingCountRow.MonthOf(clock.Today().AddYears(-years)) : 0;
        var all = counts.Where(c => c.Dimension == StandingDimensions.Everything).ToList();
        var shown = all.Where(c => c.Month > from).ToList();
        var branches = await store
            .BranchDistricts.Select(d => new { d.District, d.Branch!.Name })
            .ToDictionaryAsync(d => d.District, d => d.Name, cancel);
        string Value(StandingCountRow row) =>
            by == StandingDimensions.Branch ? branches.GetValueOrDefault(row.Value, "") : row.Value;
        var (lives, repairs) = await Lives(filter.Type, cancel);
        var (months, overdue) = await Months(filter.Type, all, cancel);
        var times = await Times(filter, cancel);
        return new()
        {
            Failed = Failures(shown.Where(c => !c.Again)),
            AgainPassed = new(
                shown.Where(c => c.Again).Sum(c => c.Passed),
                shown.Where(c => c.Again).Sum(c => c.Passed + c.Failed)
            ),
            Unfinished = shown.Sum(c => c.Unfinished),
            Outcomes = Outcomes(
                by,
                counts.Where(c => c.Dimension == counted && c.Month > from && !c.Again).GroupBy(Value)
            ),
            HasBranches = branches.Count > 0,
            Lives = lives,
            Repairs = repairs,
            Months = months,
            Overdue = overdue,
            Testers = times.Testers,
            Steps = times.Steps,
            Procedures = times.Procedures,
            Procedure = times.Chosen,
        };
    }

    private static Share Failures(IEnumerable<StandingCountRow> rows)
    {
        var (failed, all) = (0, 0);
        foreach (var row in rows)
            (failed, all) = (failed + row.Failed, all + row.Failed + row.Passed);
        return new(failed, all);
    }

    private static List<OutcomeLine> Outcomes(string by, IEnumerable<IGrouping<string, StandingCountRow>> values)
    {
        var lines = values
            .Select(g => new OutcomeLine(g.Key, NameOf(by, g.Key), Failures(g)))
            .Where(l => l.Failed.All > 0);
        // What has an order of its own keeps it; else what fails most comes first.
        return by is "age" or "season"
            ? [.. lines.OrderBy(l => l.Value, StringComparer.Ordinal)]
            :
            [
                .. lines
                    .OrderByDescending(l => l.Failed.Value)
                    .ThenByDescending(l => l.Failed.All)
                    .ThenBy(l => l.Value, StringComparer.Ordinal),
            ];
    }

    private static string NameOf(string by, string value) =>
        by switch
        {
            "age" => StandingDimensions.AgeName(value),
            "season" when int.TryParse(value, CultureInfo.InvariantCulture, out var month) && month is >= 1 and <= 12 =>
                CultureInfo.InvariantCulture.DateTimeFormat.GetMonthName(month),
            StandingDimensions.Branch when value.Length == 0 => "no branch",
            "family" => ConstructionFamily.All.FirstOrDefault(f => f.Id == value)?.Title ?? "not said",
            _ => value.Length == 0 ? "not said" : value,
        };

    private async Task<(IReadOnlyList<LifeLine> Parts, IReadOnlyList<LifeLine> All)> Lives(
        string? type,
        CancellationToken cancel
    )
    {
        var rows = await store.PartYears.AsNoTracking().Where(y => type == null || y.Type == type).ToListAsync(cancel);
        var parts = rows.Where(r => !r.Mended)
            .GroupBy(r => r.Part)
            .OrderBy(g => g.Key, StringComparer.Ordinal)
            .Select(g => new LifeLine(PartName(g.Key), false, Table(g)));
        var all = rows.GroupBy(r => r.Mended)
            .OrderBy(g => g.Key)
            .Select(g => new LifeLine(g.Key ? "mended" : "new", g.Key, Table(g)));
        return ([.. parts], [.. all]);
    }

    private static string PartName(string part) =>
        Bodies.All.SelectMany(b => b.Parts).FirstOrDefault(p => p.Id.Value == part)?.Label ?? part;

    private static ImmutableArray<LifePoint> Table(IEnumerable<PartYearRow> rows) =>
        LifeTable.Of(rows.GroupBy(r => r.Year).Select(y => (y.Key, y.Sum(r => r.Seen), y.Sum(r => r.Failed))));

    private async Task<(IReadOnlyList<MonthLine> Months, int Overdue)> Months(
        string? type,
        List<StandingCountRow> counts,
        CancellationToken cancel
    )
    {
        var today = clock.Today();
        var days = await store
            .Assemblies.Where(a => a.NextDue != null && (type == null || a.Type == type))
            .GroupBy(a => a.NextDue)
            .Select(g => new { Day = g.Key!.Value, Count = g.Count() })
            .ToListAsync(cancel);
        var done = counts.ToLookup(c => c.Month, c => c.Passed + c.Failed + c.Unfinished);
        var owed = days.Where(d => d.Day >= today).ToLookup(d => StandingCountRow.MonthOf(d.Day), d => d.Count);
        var first = new DateOnly(today.Year, today.Month, 1);
        return (
            [
                .. Enumerable
                    .Range(-MonthsEitherWay, (2 * MonthsEitherWay) + 1)
                    .Select(first.AddMonths)
                    .Select(m => new MonthLine(
                        m,
                        done[StandingCountRow.MonthOf(m)].Sum(),
                        owed[StandingCountRow.MonthOf(m)].Sum()
                    )),
            ],
            days.Where(d => d.Day < today).Sum(d => d.Count)
        );
    }

    private async Task<Timed> Times(StandingFilter filter, CancellationToken cancel)
    {
        var used = await store
            .Durations.Where(d => d.Step == "")
            .GroupBy(d => d.ProcedureId)
            .Select(g => new { Id = g.Key, Count = g.Sum(d => d.Count) })
            .ToListAsync(cancel);
        var procedures = (
            from u in used
            let procedure = SchoolCatalogue.Named(u.Id)
            where procedure is not null && (filter.Type is null || procedure.Type.Name == filter.Type)
            orderby u.Count descending
            select new DueChoice(u.Id, procedure.Title)
        ).ToList();
        var chosen = procedures.Find(p => p.Value == filter.Procedure)?.Value ?? procedures.FirstOrDefault()?.Value;
        var rows = await store.Durations.AsNoTracking().Where(d => d.ProcedureId == chosen).ToListAsync(cancel);
        var testers = rows.Select(r => r.TesterId).Distinct().ToList();
        var names = await store
            .Users.Where(u => testers.Contains(u.Id))
            .Select(u => new { u.Id, u.FullName })
            .ToDictionaryAsync(u => u.Id, u => u.FullName, cancel);
        var steps = await store
            .DurationSteps.AsNoTracking()
            .Where(s => s.ProcedureId == chosen)
            .OrderBy(s => s.Order)
            .ToListAsync(cancel);
        var ofStep = rows.ToLookup(r => r.Step);
        return new(
            [
                .. ofStep[""]
                    .GroupBy(r => r.TesterId)
                    .Select(g => Line(names.GetValueOrDefault(g.Key, "somebody who left"), g))
                    .Where(l => l.Count >= LeastTimed)
                    // By name: it is for planning, and no race.
                    .OrderBy(l => l.Name, StringComparer.Ordinal),
            ],
            [.. steps.Select(s => Line(s.Title, ofStep[s.Step])).Where(l => l.Count >= LeastTimed)],
            procedures,
            chosen
        );
    }

    private static TimeLine Line(string name, IEnumerable<DurationRow> rows)
    {
        var counts = rows.Select(r => (r.Class, r.Count)).ToList();
        double Minutes(double share) => (Durations.Below(counts, share) ?? 0) / Minute;
        return new(name, counts.Sum(c => c.Count), Minutes(Tenth), Minutes(Half), Minutes(1 - Tenth));
    }

    private sealed record Timed(
        IReadOnlyList<TimeLine> Testers,
        IReadOnlyList<TimeLine> Steps,
        IReadOnlyList<DueChoice> Procedures,
        string? Chosen
    );
}
