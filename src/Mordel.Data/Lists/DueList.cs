using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Dues;
using Mordel.Core.Register;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>Which of what is owed is shown.</summary>
public sealed record DueFilter
{
    /// <summary>What is shown: everything, <c>overdue</c>, <c>stuck</c> or <c>seasonal</c>.</summary>
    public string? Show { get; init; }
    public Guid? Authority { get; init; }
    public string? District { get; init; }
    public string? Type { get; init; }
    public string? Use { get; init; }
    public Guid? Owner { get; init; }

    /// <summary>The Monday of the week that is shown; null for all.</summary>
    public DateOnly? Week { get; init; }

    /// <summary>A branch's id; anything else for all of them.</summary>
    public string? Branch { get; init; }

    /// <summary>Whether anything is left out.</summary>
    public bool IsNothing => BranchFilter.Id(Branch) is null && this with { Branch = null } == new DueFilter();
}

/// <summary>What is owed, as it stands in the list.</summary>
/// <param name="Assembly">With place, owner and authority.</param>
/// <param name="Planned">The next day on which somebody goes there; null where nobody does.</param>
/// <param name="Tester">Who goes.</param>
public sealed record DueLine(AssemblyRow Assembly, DateOnly? Planned, string? Tester)
{
    /// <summary>What its owner was told last, and when; null where nothing was.</summary>
    public (string Kind, DateTimeOffset At)? Told { get; init; }
}

/// <summary>A week of the year ahead.</summary>
/// <param name="Monday">Its first day.</param>
/// <param name="Count">How many tests are owed in it.</param>
public readonly record struct DueWeek(DateOnly Monday, int Count);

/// <summary>A year at a glance.</summary>
/// <param name="Overdue">How many tests are owed since before today.</param>
/// <param name="Weeks">The weeks from today's on.</param>
/// <param name="Later">How many are owed behind them.</param>
/// <param name="Busiest">The most tests that the firm made in a week of the last half year.</param>
public sealed record DueYear(int Overdue, IReadOnlyList<DueWeek> Weeks, int Later, int Busiest);

/// <summary>A choice of the list, with its name.</summary>
public sealed record DueChoice(string Value, string Name);

/// <summary>What lists can be of.</summary>
public sealed record ListChoices(
    IReadOnlyList<DueChoice> Authorities,
    IReadOnlyList<string> Districts,
    BranchFilter Branches
);

/// <summary>Everything that is owed: what the office begins its day with.</summary>
public sealed class DueList(Store store, TimeProvider clock)
{
    /// <summary>Lines on a page.</summary>
    public const int PageSize = 60;

    private const int Weeks = 52,
        HalfYear = 182;

    /// <summary>The Monday of a day's week.</summary>
    public static DateOnly MondayOf(DateOnly day) => day.AddDays(-(((int)day.DayOfWeek + 6) % 7));

    /// <summary>A year at a glance, of what a filter leaves; its week does not count.</summary>
    public async Task<DueYear> Year(DueFilter filter, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(filter);
        var today = clock.Today();
        var days = await Filtered(filter with { Week = null })
            .GroupBy(a => a.NextDue)
            .Select(g => new { Day = g.Key!.Value, Count = g.Count() })
            .ToListAsync(cancel);
        var first = MondayOf(today);
        var counts = days.Where(d => d.Day >= today)
            .GroupBy(d => MondayOf(d.Day))
            .ToDictionary(g => g.Key, g => g.Sum(d => d.Count));
        var weeks = Enumerable
            .Range(0, Weeks)
            .Select(i => first.AddDays(7 * i))
            .Select(m => new DueWeek(m, counts.GetValueOrDefault(m)))
            .ToList();
        return new(
            days.Where(d => d.Day < today).Sum(d => d.Count),
            weeks,
            counts.Where(c => c.Key > weeks[^1].Monday).Sum(c => c.Value),
            await Busiest(today, cancel)
        );
    }

    /// <summary>What is owed, by its day, behind a line; one more than a page has.</summary>
    /// <param name="filter">What is shown.</param>
    /// <param name="after">The day and the tag of the line before; null for the first page.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<IReadOnlyList<DueLine>> Lines(
        DueFilter filter,
        (DateOnly Day, string Tag)? after,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(filter);
        var today = clock.Today();
        var rows = Filtered(filter);
        if (filter.Week is { } monday)
        {
            var next = monday.AddDays(7);
            rows = rows.Where(a => a.NextDue >= monday && a.NextDue < next);
        }

        if (after is { } last)
            rows = rows.Where(a => a.NextDue > last.Day || (a.NextDue == last.Day && a.Tag.CompareTo(last.Tag) > 0));
        var page = await rows.OrderBy(a => a.NextDue)
            .ThenBy(a => a.Tag)
            .Take(PageSize + 1)
            .Include(a => a.Place!)
                .ThenInclude(p => p.Owner)
            .Include(a => a.Authority)
            .AsNoTrackingWithIdentityResolution()
            .ToListAsync(cancel);
        var ids = page.Select(a => a.Id).ToList();
        var stops = await (
            from s in store.Stops
            where ids.Contains(s.AssemblyId) && s.Day >= today
            join u in store.Users on s.TesterId equals u.Id
            orderby s.Day
            select new
            {
                s.AssemblyId,
                s.Day,
                u.FullName,
            }
        ).ToListAsync(cancel);
        var told = (
            await store
                .Notices.Where(n => ids.Contains(n.AssemblyId))
                .GroupBy(n => n.AssemblyId)
                .Select(g => g.OrderByDescending(n => n.At).First())
                .ToListAsync(cancel)
        ).ToDictionary(n => n.AssemblyId, n => ((string, DateTimeOffset)?)(n.Kind, n.At));
        var planned = stops.GroupBy(s => s.AssemblyId).ToDictionary(g => g.Key, g => g.First());
        return
        [
            .. page.Select(a =>
            {
                var stop = planned.GetValueOrDefault(a.Id);
                return new DueLine(a, stop?.Day, stop?.FullName) { Told = told.GetValueOrDefault(a.Id) };
            }),
        ];
    }

    /// <summary>The authorities, districts and branches that there are.</summary>
    /// <param name="who">Who asks: a branch may be theirs.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<ListChoices> Choices(Guid who, CancellationToken cancel)
    {
        // One question for both: they are few, and every list asks it.
        var named = await store
            .Authorities.Select(a => new
            {
                IsBranch = false,
                IsOwn = false,
                a.Id,
                a.Name,
            })
            .Concat(
                store.Branches.Select(b => new
                {
                    IsBranch = true,
                    IsOwn = store.BranchPeople.Any(p => p.AccountId == who && p.BranchId == b.Id),
                    b.Id,
                    b.Name,
                })
            )
            .OrderBy(n => n.Name)
            .ToListAsync(cancel);
        return new(
            [.. named.Where(n => !n.IsBranch).Select(n => new DueChoice($"{n.Id}", n.Name))],
            await store
                .Places.Where(p => p.District != "")
                .Select(p => p.District)
                .Distinct()
                .OrderBy(d => d)
                .Take(40)
                .ToListAsync(cancel),
            BranchFilter.Of([.. named.Where(n => n.IsBranch).Select(n => (n.Id, n.Name, n.IsOwn))])
        );
    }

    /// <summary>An owner's name; null where there is none.</summary>
    public async Task<string?> OwnerName(Guid id, CancellationToken cancel) =>
        await store.Owners.Where(o => o.Id == id).Select(o => o.Name).FirstOrDefaultAsync(cancel);

    private IQueryable<AssemblyRow> Filtered(DueFilter filter)
    {
        var today = clock.Today();
        var rows = store.Assemblies.Where(a => a.NextDue != null).OfBranch(store, filter.Branch);
        rows = filter.Show switch
        {
            "overdue" => rows.Where(a => a.NextDue < today),
            "stuck" => rows.Where(a => a.Stuck != null),
            "seasonal" => rows.Where(a => a.DueCause == nameof(DueCause.StartUp)),
            _ => rows,
        };
        if (filter.Authority is { } authority)
            rows = rows.Where(a => a.AuthorityId == authority);
        if (filter.District is { } district)
            rows = rows.Where(a => a.Place!.District == district);
        if (filter.Type is { } type)
            rows = rows.Where(a => a.Type == type);
        if (filter.Use is { } use)
            rows = rows.Where(a => a.Use == use);
        if (filter.Owner is { } owner)
            rows = rows.Where(a => a.Place!.OwnerId == owner);
        return rows;
    }

    private async Task<int> Busiest(DateOnly today, CancellationToken cancel)
    {
        // Day and count in one text: a file keeps instants as text, a server as such.
        var days =
            store is PostgresStore
                ? store.Database.SqlQuery<string>(
                    $"""
                    SELECT to_char("SignedAt" AT TIME ZONE 'UTC', 'YYYY-MM-DD') || ' ' || COUNT(*) AS "Value"
                    FROM "Runs" WHERE "SignedAt" >= {today.AddDays(-HalfYear).ToDateTime(default, DateTimeKind.Utc)}
                    GROUP BY to_char("SignedAt" AT TIME ZONE 'UTC', 'YYYY-MM-DD')
                    """
                )
                : store.Database.SqlQuery<string>(
                    $"""
                    SELECT substr(SignedAt, 1, 10) || ' ' || COUNT(*) AS Value
                    FROM Runs WHERE SignedAt >= {Days.Write(today.AddDays(-HalfYear))}
                    GROUP BY substr(SignedAt, 1, 10)
                    """
                );
        return (await days.ToListAsync(cancel))
            .GroupBy(d => MondayOf(Days.Read(d[..10]) ?? today))
            .Select(g => g.Sum(d => int.Parse(d[11..], CultureInfo.InvariantCulture)))
            .DefaultIfEmpty(0)
            .Max();
    }
}
