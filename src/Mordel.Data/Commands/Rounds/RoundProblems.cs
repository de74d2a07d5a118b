using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Dues;
using Mordel.Core.Outside;
using Mordel.Core.Planning;
using Mordel.Core.Register;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Commands.Rounds;

/// <summary>Writes rounds to be planned out of the register, the people and the rounds as they stand.</summary>
public sealed class RoundProblems(Store store, ProfileList profiles, ConsentList consents, ITravelTimes? travel = null)
{
    // Where nobody has said when the water may be off; and between which hours ways are asked for.
    private static readonly Window Usual = new(7 * 60, 17 * 60);
    private const int FirstHour = 5,
        LastHour = 20,
        Hour = 60;

    // Without a service that knows the roads: as the crow flies with a third more, 25 km/h, two minutes to park. A
    // place without coordinates is a quarter of an hour from everywhere.
    private const double CrowMetresPerMinute = 420,
        Detour = 1.33;
    private const int Parking = 2,
        Anywhere = 15;

    private static readonly Window Lunch = new((11 * 60) + 30, (13 * 60) + 30);

    /// <summary>Writes the problem.</summary>
    public async Task<PlanProblem> Of(WishedRounds wished, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(wished);
        var first = wished.Days.Min();
        var people = await People(wished, cancel);
        var standing = await Standing(wished, cancel);
        var wanted = wished.Assemblies.Concat(standing.Select(s => s.AssemblyId)).Distinct().ToList();
        var assemblies = await store
            .Assemblies.AsNoTracking()
            .Include(a => a.Place)
            .Include(a => a.Authority)
            .Where(a => wanted.Contains(a.Id))
            .OrderBy(a => a.Tag)
            .ToListAsync(cancel);
        var hours = await store
            .WorkingHours.AsNoTracking()
            .Where(h => wished.Testers.Contains(h.AccountId))
            .ToDictionaryAsync(h => h.AccountId, cancel);
        var places = new PlanPlaces();
        var now = wished.From is null ? null : await WhereTheyAre(wished, cancel);
        var shifts = new List<PlanShift>();
        foreach (var day in wished.Days.Order())
        foreach (var tester in wished.Testers)
        {
            var work = hours.GetValueOrDefault(tester) ?? new() { AccountId = tester };
            var start = places.Yard(work);
            var from = day == first && wished.From is { } at ? Later(at, work.From) : work.From;
            if (from >= work.Until)
                continue;
            shifts.Add(
                new(
                    tester.ToString(),
                    day,
                    new(Minute(from), Minute(work.Until)),
                    day == first && now?.GetValueOrDefault(tester) is { } here ? places.Of(here) : start,
                    start,
                    work.LunchMinutes > 0
                    && Math.Max(Minute(from), Lunch.From) + work.LunchMinutes
                        <= Math.Min(Minute(work.Until), Lunch.Until)
                        ? new(Lunch, work.LunchMinutes)
                        : null
                )
            );
        }

        var rules = new Dictionary<string, Profile?>();
        foreach (var profile in assemblies.Select(a => a.Authority!.ProfileId).Distinct())
            rules[profile] = await profiles.On(profile, first, cancel);
        var agreed = await consents.Latest(wanted, cancel);
        var stops = assemblies
            .Select(a =>
                Stop(
                    a,
                    places,
                    standing.Find(s => s.AssemblyId == a.Id),
                    rules[a.Authority!.ProfileId],
                    first,
                    agreed.GetValueOrDefault(a.Id)
                )
            )
            .ToList();
        var crowded = stops
            .Where(s => s.Together is not null)
            .GroupBy(s => s.Together)
            .ToDictionary(g => g.Key!, g => g.Count());
        var problem = new PlanProblem(
            [.. places.All],
            [.. stops.Select(s => s.Together is { } key && crowded[key] < 2 ? s with { Together = null } : s)],
            [.. people],
            [.. shifts],
            await Roads(places, cancel)
        );
        return problem with { Before = Before(problem, standing) };
    }

    private async Task<List<PlanTester>> People(WishedRounds wished, CancellationToken cancel)
    {
        var accounts = await store
            .Users.AsNoTracking()
            .Where(u => wished.Testers.Contains(u.Id) && u.DismissedAt == null)
            .OrderBy(u => u.FullName)
            .ToListAsync(cancel);
        var certificates = await TesterRights.Certificates(store, wished.Testers, cancel);
        var kits = await KitsInHand.Between(store, wished.Testers, wished.Days.Min(), wished.Days.Max(), cancel);
        var skills = await store
            .WorkingHours.AsNoTracking()
            .Where(h => wished.Testers.Contains(h.AccountId))
            .ToDictionaryAsync(h => h.AccountId, h => h.Skills, cancel);
        return
        [
            .. accounts.Select(a => new PlanTester(a.Id.ToString(), a.FullName)
            {
                Certificates =
                [
                    .. certificates
                        .Where(c => c.AccountId == a.Id)
                        .Select(c => new PlanCertificate(
                            c.Authority?.Name,
                            [.. c.Types.Split(' ')],
                            c.ValidFrom,
                            c.ValidUntil
                        )),
                ],
                Kits = wished.WithoutKit.Contains(a.Id)
                    ? []
                    :
                    [
                        .. kits.Of(a.Id, wished.Days)
                            .Select(k => new PlanKit(k.Kit.Kind, k.Kit.Serial, k.Kit.CalibrationDue)
                            {
                                Days = k.Days.Count == wished.Days.Length ? [] : [.. k.Days],
                            }),
                    ],
                Skills = [.. skills.GetValueOrDefault(a.Id, "").Split(',', StringSplitOptions.RemoveEmptyEntries)],
            }),
        ];
    }

    // What is in these rounds and not begun.
    private async Task<List<StopRow>> Standing(WishedRounds wished, CancellationToken cancel) =>
        await store
            .Stops.AsNoTracking()
            .Where(s =>
                wished.Days.Contains(s.Day)
                && wished.Testers.Contains(s.TesterId)
                && !store.Runs.Any(r => r.StopId == s.Id)
            )
            .OrderBy(s => s.Day)
            .ThenBy(s => s.Order)
            .ToListAsync(cancel);

    // The place of the last run that each of them began on the first day.
    private async Task<Dictionary<Guid, PlaceRow>> WhereTheyAre(WishedRounds wished, CancellationToken cancel)
    {
        var day = wished.Days.Min();
        var begun = await (
            from r in store.Runs
            join s in store.Stops on r.StopId equals s.Id
            where s.Day == day && wished.Testers.Contains(s.TesterId)
            orderby s.Order
            select new { s.TesterId, Place = s.Assembly!.Place! }
        )
            .AsNoTracking()
            .ToListAsync(cancel);
        return begun.GroupBy(b => b.TesterId).ToDictionary(g => g.Key, g => g.Last().Place);
    }

    private static PlanStop Stop(
        AssemblyRow a,
        PlanPlaces places,
        StopRow? standing,
        Profile? profile,
        DateOnly today,
        ConsentRow? agreed
    )
    {
        var type = AssemblyTypes.Parse(a.Type);
        var seasonal = standing?.IsSeasonal ?? a.DueCause == nameof(DueCause.StartUp);
        var school = SchoolCatalogue.Named(profile?.For(type)?.ProcedureId);
        // What its owner has agreed to, or asks for, binds before what the register knows.
        var off =
            agreed is not null ? new Window(Minute(agreed.From), Minute(agreed.Until))
            : WaterHours.Parse(a.WaterOff) is { } hours ? new Window(hours.From, hours.Until)
            : Usual;
        return new(
            a.Id.ToString(),
            $"{a.Type} {a.Tag}, {a.Place!.Name}",
            places.Of(a.Place),
            TestMinutes.Of(type, a.Size, seasonal, a.FireLine),
            a.Authority!.Name,
            a.Type
        )
        {
            Windows = [off],
            Days = agreed?.Day is { } day ? [day] : [],
            Kits = school is null ? [] : [.. Kit.All.Where(k => school.Kits.Contains(k.Kind)).Select(k => k.Name)],
            Skills =
            [
                .. a.ConfinedSpace ? [WorkingHoursRow.ConfinedSpace] : (string[])[],
                .. a.FireLine ? [WorkingHoursRow.FireLine] : (string[])[],
            ],
            Due = a.NextDue,
            Priority = Priority(a, today),
            Together =
                a.Location.Length > 0 ? $"{a.PlaceId:N} {a.Location}"[..Math.Min(100, 33 + a.Location.Length)] : null,
        };
    }

    // What failed on a high hazard first, then what failed, is overdue or guards against a high hazard.
    private static int Priority(AssemblyRow a, DateOnly today) =>
        Math.Min(
            PlanStop.MostPriority,
            1
                + (a.DueCause == nameof(DueCause.Failed) ? 2 : 0)
                + (a.NextDue < today ? 1 : 0)
                + (a.Hazard == "high" ? 1 : 0)
        );

    // The rounds as they stand, those with hours as they were planned, others one behind the other.
    private static Plan? Before(PlanProblem problem, List<StopRow> standing)
    {
        if (standing.Count == 0)
            return null;
        var routes = standing
            .GroupBy(s => (Tester: s.TesterId.ToString(), s.Day))
            .Where(g => problem.Shift(g.Key.Tester, g.Key.Day) is not null)
            .Select(g =>
                DayTimes.Of(
                    problem,
                    problem.Shift(g.Key.Tester, g.Key.Day)!,
                    [.. g.Select(s => problem.Stop(s.AssemblyId.ToString())).OfType<PlanStop>().Distinct()],
                    out _
                )
            );
        return new([.. routes], []);
    }

    private async Task<TravelTable> Roads(PlanPlaces places, CancellationToken cancel)
    {
        var all = places.All.ToList();
        var parts = new List<(int, ImmutableArray<int>)>();
        for (var hour = 0; hour <= LastHour; hour = hour == 0 ? FirstHour : hour + 1)
        {
            var minutes = new int[all.Count * all.Count];
            for (var i = 0; i < minutes.Length; i++)
                minutes[i] = await Way(all[i / all.Count], all[i % all.Count], new(hour, 0), cancel);
            if (parts.Count == 0 || !parts[^1].Item2.SequenceEqual(minutes))
                parts.Add((hour * Hour, [.. minutes]));
        }

        return new(all.Count, parts);
    }

    private async ValueTask<int> Way(PlanPlace from, PlanPlace to, TimeOnly leaving, CancellationToken cancel)
    {
        if (from == to)
            return 0;
        if (PlanPlaces.IsNowhere(from) || PlanPlaces.IsNowhere(to))
            return Anywhere;
        if (travel is not null)
            return await travel.Minutes(new(from.East, from.North), new(to.East, to.North), leaving, cancel)
                ?? TravelTable.NoWay;
        var metres = double.Hypot(from.East - to.East, from.North - to.North);
        return Math.Min(TravelTable.Longest, (int)Math.Ceiling(metres * Detour / CrowMetresPerMinute) + Parking);
    }

    private static TimeOnly Later(TimeOnly a, TimeOnly b) => a > b ? a : b;

    private static int Minute(TimeOnly at) => (at.Hour * Hour) + at.Minute;
}
