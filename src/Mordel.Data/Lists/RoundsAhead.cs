using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>A tester's round of a day in one line.</summary>
/// <param name="Day">The day.</param>
/// <param name="TesterId">Whose.</param>
/// <param name="Tester">The name.</param>
/// <param name="Stops">How many stops.</param>
/// <param name="Open">How many of them are not begun.</param>
/// <param name="From">The first hour.</param>
public sealed record RoundAhead(DateOnly Day, Guid TesterId, string Tester, int Stops, int Open, TimeOnly From);

/// <summary>The rounds of the days ahead, and what could go into them.</summary>
public sealed class RoundsAhead(Store store, TimeProvider clock)
{
    private const int Most = 300,
        Days = 28;

    /// <summary>The rounds from a day on.</summary>
    /// <param name="day">The day.</param>
    /// <param name="branch">Only of this branch's people, by its id; anything else for all.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<IReadOnlyList<RoundAhead>> From(DateOnly day, string? branch, CancellationToken cancel)
    {
        var (until, only) = (day.AddDays(Days), BranchFilter.Id(branch));
        return await (
            from s in store.Stops
            where s.Day >= day && s.Day < until
            where only == null || store.BranchPeople.Any(p => p.AccountId == s.TesterId && p.BranchId == only)
            join u in store.Users on s.TesterId equals u.Id
            group s by new
            {
                s.Day,
                s.TesterId,
                u.FullName,
            } into g
            orderby g.Key.Day, g.Key.FullName
            select new RoundAhead(
                g.Key.Day,
                g.Key.TesterId,
                g.Key.FullName,
                g.Count(),
                g.Count(s => !store.Runs.Any(r => r.StopId == s.Id)),
                g.Min(s => s.PlannedAt ?? s.WindowFrom)
            )
        )
            .Take(Most)
            .ToListAsync(cancel);
    }

    /// <summary>How many stops somebody has from a day on that are not begun.</summary>
    public Task<int> StopsFrom(Guid testerId, DateOnly day, CancellationToken cancel) =>
        store.Stops.CountAsync(
            s => s.TesterId == testerId && s.Day >= day && !store.Runs.Any(r => r.StopId == s.Id),
            cancel
        );

    /// <summary>What is owed by a day, in no round and not stuck, what waits longest first.</summary>
    /// <param name="by">The day; within four weeks where none is said.</param>
    /// <param name="most">No more than so many.</param>
    /// <param name="branch">Only of this branch, by its id; anything else for all.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<List<Guid>> Due(DateOnly? by, int most, string? branch, CancellationToken cancel)
    {
        var (today, last) = (clock.Today(), by ?? clock.Today().AddDays(Days));
        return await store
            .Assemblies.OfBranch(store, branch)
            .Where(a =>
                a.NextDue != null
                && a.NextDue <= last
                && a.Stuck == null
                && !store.Stops.Any(s => s.AssemblyId == a.Id && s.Day >= today)
            )
            .OrderBy(a => a.NextDue)
            .ThenBy(a => a.Tag)
            .Take(Math.Clamp(most, 1, Most))
            .Select(a => a.Id)
            .ToListAsync(cancel);
    }
}
