using Microsoft.EntityFrameworkCore;
using Mordel.Core.Notices;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>What owners answer to visits, and ask for before there is one.</summary>
public sealed class ConsentList(Store store, TimeProvider clock)
{
    // What was asked for without a day counts for so long.
    private const int Days = 90,
        Most = 100;

    /// <summary>The last answer about each of these assemblies, as far as it still says something.</summary>
    public async Task<Dictionary<Guid, ConsentRow>> Latest(
        IReadOnlyCollection<Guid> assemblies,
        CancellationToken cancel
    )
    {
        var since = clock.Now().AddDays(-Days);
        var rows = await store
            .Consents.AsNoTracking()
            .Where(c => assemblies.Contains(c.AssemblyId) && c.At > since)
            .OrderBy(c => c.At)
            .ToListAsync(cancel);
        var today = clock.Today();
        return rows.GroupBy(c => c.AssemblyId)
            .Select(g => g.Last())
            .Where(c => c.Day is null || c.Day >= today)
            .ToDictionary(c => c.AssemblyId);
    }

    /// <summary>What the owners of the days ahead ask for and the rounds do not give, the latest first.</summary>
    /// <param name="branch">Only at assemblies of this branch, by its id; anything else for all.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<IReadOnlyList<OpenWish>> Open(string? branch, CancellationToken cancel)
    {
        var (since, today) = (clock.Now().AddDays(-Days), clock.Today());
        var only = BranchFilter.Id(branch);
        var rows = await store
            .Consents.AsNoTracking()
            .Include(c => c.Assembly!)
                .ThenInclude(a => a.Place)
            .Where(c =>
                c.At > since
                && !store.Consents.Any(later => later.AssemblyId == c.AssemblyId && later.At > c.At)
                && !c.Yes
                && (c.Day == null || c.Day >= today)
                && (only == null || store.Assemblies.OfBranch(store, branch).Any(a => a.Id == c.AssemblyId))
            )
            .OrderByDescending(c => c.At)
            .Take(Most)
            .ToListAsync(cancel);
        var ids = rows.Select(r => r.AssemblyId).ToList();
        var stops = (
            await store
                .Stops.AsNoTracking()
                .Where(s => ids.Contains(s.AssemblyId) && s.Day >= today)
                .ToListAsync(cancel)
        ).ToLookup(s => s.AssemblyId);
        return
        [
            .. rows.Where(r => r.Assembly!.LastTestOn is not { } last || last < clock.DayOf(r.At))
                .Select(r => new OpenWish(r, stops[r.AssemblyId].OrderBy(s => s.Day).FirstOrDefault()))
                .Where(w => w.Stop is null || !Holds(w.Asked, w.Stop)),
        ];
    }

    /// <summary>Whether a visit lies in the hours of an answer.</summary>
    public static bool Holds(ConsentRow consent, StopRow stop)
    {
        ArgumentNullException.ThrowIfNull(consent);
        ArgumentNullException.ThrowIfNull(stop);
        return new VisitPromise(consent.Day ?? stop.Day, consent.From, consent.Until).Holds(
            stop.Day,
            stop.From,
            stop.PlannedAt is null ? 0 : stop.Minutes
        );
    }
}

/// <summary>Another time that was asked for.</summary>
/// <param name="Asked">With assembly and place.</param>
/// <param name="Stop">The visit as it stands; null where there is none.</param>
public sealed record OpenWish(ConsentRow Asked, StopRow? Stop);
