using Microsoft.EntityFrameworkCore;
using Mordel.Core.Notices;
using Mordel.Core.Outside;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>A visit as its owner sees it: a place, a day, the hours.</summary>
/// <param name="Place">The place.</param>
/// <param name="Day">The day.</param>
/// <param name="From">From when the water may be off.</param>
/// <param name="Until">Until when.</param>
/// <param name="Tester">Who comes.</param>
/// <param name="Stops">The assemblies that are tested, each with its stop.</param>
/// <param name="Answer">What was answered last; null where nothing was, or it holds no longer.</param>
public sealed record OwnerVisit(
    PlaceRow Place,
    DateOnly Day,
    TimeOnly From,
    TimeOnly Until,
    string Tester,
    IReadOnlyList<StopRow> Stops,
    ConsentRow? Answer
)
{
    /// <summary>Whether the visit lies in the hours that were answered.</summary>
    public bool IsAsAnswered => Answer is { } said && Stops.All(s => ConsentList.Holds(said, s));

    /// <summary>Whether the answer is a yes to these hours.</summary>
    public bool IsAgreed => Answer is { Yes: true } && IsAsAnswered;
}

/// <summary>A place where tests are due and nobody comes yet.</summary>
/// <param name="Place">The place.</param>
/// <param name="Assemblies">What is due there, the first due first.</param>
/// <param name="Asked">The hours that were asked for; null where nobody has.</param>
public sealed record OwnerDue(PlaceRow Place, IReadOnlyList<AssemblyRow> Assemblies, ConsentRow? Asked);

/// <summary>A report that its owner may see.</summary>
public sealed record OwnerReport(Guid Run, DateOnly Day, string? Outcome, string Number, AssemblyRow Assembly);

/// <summary>What a link shows: only what belongs to who has it.</summary>
/// <param name="Name">Whose page it is.</param>
/// <param name="Visits">The visits ahead.</param>
/// <param name="Due">What is due without one.</param>
/// <param name="Reports">The reports, the last first.</param>
public sealed record OwnerView(
    string Name,
    IReadOnlyList<OwnerVisit> Visits,
    IReadOnlyList<OwnerDue> Due,
    IReadOnlyList<OwnerReport> Reports
);

/// <summary>Reads what an owner, or whoever is at a place, may see by a link.</summary>
public sealed class OwnerPage(Store store, ConsentList consents, TimeProvider clock)
{
    private const int MostAssemblies = 300,
        MostReports = 60,
        Ahead = 120;

    /// <summary>The page of a link; null where what it opens is gone.</summary>
    public async Task<OwnerView?> Of(LinkRow link, CancellationToken cancel)
    {
        if (await Name(link, cancel) is not { } name)
            return null;
        var today = clock.Today();
        var until = today.AddDays(Ahead);
        var theirs = Theirs(link);
        var stops = await store
            .Stops.AsNoTracking()
            .Where(s =>
                s.Day >= today
                && s.Day < until
                && theirs.Any(a => a.Id == s.AssemblyId)
                && !store.Runs.Any(r => r.StopId == s.Id && r.SignedAt != null)
            )
            .Include(s => s.Assembly!)
                .ThenInclude(a => a.Place)
            .OrderBy(s => s.Day)
            .ThenBy(s => s.Order)
            .Take(MostAssemblies)
            .ToListAsync(cancel);
        var due = await theirs
            .Where(a => a.NextDue != null && !store.Stops.Any(s => s.AssemblyId == a.Id && s.Day >= today))
            .OrderBy(a => a.NextDue)
            .ThenBy(a => a.Tag)
            .Include(a => a.Place)
            .Take(MostAssemblies)
            .AsNoTracking()
            .ToListAsync(cancel);
        var said = await consents.Latest(
            [.. stops.Select(s => s.AssemblyId).Concat(due.Select(a => a.Id)).Distinct()],
            cancel
        );
        return new(
            name,
            [.. (await Visits(stops, said, cancel)).Where(v => v.Day > today || v.Until > Now)],
            [
                .. due.GroupBy(a => a.PlaceId)
                    .Select(g => new OwnerDue(
                        g.First().Place!,
                        [.. g],
                        g.Select(a => said.GetValueOrDefault(a.Id)).FirstOrDefault(c => c is not null)
                    )),
            ],
            await Reports(link, cancel)
        );
    }

    /// <summary>The visits ahead as a calendar shows them.</summary>
    public async Task<IReadOnlyList<CalendarVisit>> Calendar(LinkRow link, CancellationToken cancel)
    {
        if (await Of(link, cancel) is not { } view)
            return [];
        return
        [
            .. view.Visits.SelectMany(v =>
                v.Stops.Select(s =>
                {
                    var promise = s.Promise();
                    return new CalendarVisit(
                        s.Id.ToString(),
                        s.Sequence,
                        s.ChangedAt ?? new DateTimeOffset(s.Day.AddDays(-1).ToDateTime(default), TimeSpan.Zero),
                        s.Day.ToDateTime(promise.From),
                        (int)(promise.Until - promise.From).TotalMinutes,
                        $"Water off: test of {s.Assembly!.Type} {s.Assembly.Tag}, {v.Place.Name}",
                        $"{v.Place.Address}, {v.Place.District}",
                        $"{v.Tester} comes; the test of {s.Assembly.Serves} takes some {s.Minutes} minutes."
                    );
                })
            ),
        ];
    }

    /// <summary>Whether a report belongs to who has the link.</summary>
    public Task<bool> MayRead(LinkRow link, Guid run, CancellationToken cancel)
    {
        var theirs = Theirs(link);
        return store.Runs.AnyAsync(
            r => r.Id == run && r.SignedAt != null && theirs.Any(a => a.Id == r.AssemblyId),
            cancel
        );
    }

    /// <summary>What belongs to who has the link.</summary>
    public IQueryable<AssemblyRow> Theirs(LinkRow link)
    {
        ArgumentNullException.ThrowIfNull(link);
        var id = link.OfId;
        return link.Purpose switch
        {
            LinkPurposes.Owner => store.Assemblies.Where(a => a.Place!.OwnerId == id),
            LinkPurposes.Occupant => store.Assemblies.Where(a => a.PlaceId == id),
            _ => throw new ArgumentException($"A link to a {link.Purpose} opens no page.", nameof(link)),
        };
    }

    private TimeOnly Now => TimeOnly.FromDateTime(clock.GetLocalNow().DateTime);

    private async Task<string?> Name(LinkRow link, CancellationToken cancel) =>
        link.Purpose == LinkPurposes.Owner
            ? await store.Owners.Where(o => o.Id == link.OfId).Select(o => o.Name).FirstOrDefaultAsync(cancel)
            : await store.Places.Where(p => p.Id == link.OfId).Select(p => p.Name).FirstOrDefaultAsync(cancel);

    private async Task<IReadOnlyList<OwnerVisit>> Visits(
        List<StopRow> stops,
        Dictionary<Guid, ConsentRow> said,
        CancellationToken cancel
    )
    {
        var ids = stops.Select(s => s.TesterId).Distinct().ToList();
        var testers = await store
            .Users.Where(u => ids.Contains(u.Id))
            .ToDictionaryAsync(u => u.Id, u => u.FullName, cancel);
        return
        [
            .. stops
                .GroupBy(s => (s.Day, s.Assembly!.PlaceId))
                .Select(g =>
                {
                    var promises = g.Select(s => s.Promise()).ToList();
                    return new OwnerVisit(
                        g.First().Assembly!.Place!,
                        g.Key.Day,
                        promises.Min(p => p.From),
                        promises.Max(p => p.Until),
                        string.Join(", ", g.Select(s => testers.GetValueOrDefault(s.TesterId, "")).Distinct()),
                        [.. g],
                        g.Select(s => said.GetValueOrDefault(s.AssemblyId)).FirstOrDefault(c => c is not null)
                    );
                }),
        ];
    }

    private async Task<IReadOnlyList<OwnerReport>> Reports(LinkRow link, CancellationToken cancel)
    {
        var theirs = Theirs(link);
        var runs = await store
            .Runs.Where(r => r.SignedAt != null && theirs.Any(a => a.Id == r.AssemblyId))
            .OrderByDescending(r => r.SignedAt)
            .Take(MostReports)
            .Select(r => new
            {
                r.Id,
                r.SignedAt,
                r.Outcome,
                r.Number,
                Assembly = r.Assembly!,
                Place = r.Assembly!.Place!,
            })
            .AsNoTracking()
            .ToListAsync(cancel);
        return
        [
            .. runs.Select(r =>
            {
                r.Assembly.Place = r.Place;
                return new OwnerReport(r.Id, clock.DayOf(r.SignedAt!.Value), r.Outcome, r.Number ?? "", r.Assembly);
            }),
        ];
    }
}
