using System.Globalization;
using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Dues;
using Mordel.Core.Register;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Data;
using Mordel.Data.Rows;

namespace Mordel.DemoData;

/// <summary>
/// Six years of the assemblies that were taken over, and the years before the firm's own assemblies came into Mordel:
/// wear, grit after works on a main, a delivery of discs that swell, a kit that drifts. Performed on the water; what
/// was tested before Mordel is kept as brought in, never as sealed.
/// </summary>
public sealed class DemoYears(Store store, DemoPeople people, PerformedPast past, TimeProvider clock)
{
    /// <summary>Days since the firm took the assemblies over.</summary>
    private const int TakenOverAgo = 120;

    private const int Years = 6,
        OwnYearsOnPaper = 3,
        GritYear = 2;

    // The kit that drifts: since when, and psid in a month.
    private const int DriftsSince = 230;
    private const double Drift = 0.06;

    private const string OwnPaper = "Our paper files";

    /// <summary>All visits to an assembly that was taken over, the first one first.</summary>
    public IEnumerable<PlannedVisit> Of(TownValve valve, DateOnly today)
    {
        ArgumentNullException.ThrowIfNull(valve);
        for (var ago = Years - 1; ago >= 0; ago--)
        {
            var chance = new SeededChance((valve.Index * 100) + ago);
            var age = valve.Years - (valve.LastTested / 365.0) - ago;
            var jitter = ago == 0 ? 0 : chance.Next(-11, 12);
            var day = SeasonOf(valve) is { } season
                ? StartUp(season, today, ago).AddDays(chance.Next(-9, 15))
                : today.AddDays(-valve.LastTested - (365 * ago) + jitter);
            var missed = valve.Trouble == Trouble.Missed && ago == 0 && SeasonOf(valve) is null;
            if (age < 0.1 || day >= today || missed)
                continue;
            var springs = Worn(valve, age, chance);
            var faults = Faults(valve, ago, chance);
            var visit = Planned(
                valve.Row,
                valve.Index,
                new(springs, [.. faults, .. DriftOn(valve.Row, day, today)]),
                day
            );
            yield return visit;
            var fails = faults.Any(f => f.Part == Parts.Cv1 || f.Part == Parts.Cv2) || IsTooWeak(valve, springs);
            if (!fails || (valve.Trouble == Trouble.BadDiscs && chance.Next(3) > 0))
                continue;
            var again = day.AddDays(chance.Next(2, 8));
            if (again >= today)
                continue;
            var mended = new Inside(valve.New, [.. faults.Where(f => f.Part != Parts.Cv1 && f.Part != Parts.Cv2)]);
            yield return Planned(valve.Row, valve.Index, mended, again) with
            {
                After = visit,
            };
        }
    }

    /// <summary>Whether a visit was made for the firm that had the assembly then.</summary>
    public static bool IsElsewhere(PlannedVisit visit, DateOnly today)
    {
        ArgumentNullException.ThrowIfNull(visit);
        return (visit.After ?? visit).Day < today.AddDays(-TakenOverAgo);
    }

    /// <summary>The years before the first visit that is in Mordel, as they stand in the firm's paper files.</summary>
    /// <param name="first">That visit.</param>
    /// <param name="index">The assembly's number among the firm's own.</param>
    public IEnumerable<PlannedVisit> OnPaper(PlannedVisit first, int index)
    {
        ArgumentNullException.ThrowIfNull(first);
        for (var ago = OwnYearsOnPaper; ago > 0; ago--)
        {
            var chance = new SeededChance(-(index * 100) - ago);
            var day = first.Day.AddYears(-ago).AddDays(chance.Next(-9, 10));
            if (day < first.Assembly.InstalledOn.AddDays(20))
                continue;
            var (s, more) = (first.Inside.Springs, ago * (0.03 + (chance.Fraction() * 0.03)));
            yield return Planned(
                first.Assembly,
                index,
                new(
                    new(
                        s.Cv1 + (more * (s.Cv1 > 5 ? 2.5 : 1)),
                        s.Cv2 == 0 ? 0 : s.Cv2 + more,
                        s.Relief,
                        s.Inlet == 0 ? 0 : s.Inlet + (more * 0.4)
                    )
                ),
                day
            );
        }
    }

    /// <summary>Keeps visits as tests that were brought in.</summary>
    /// <param name="visits">The visits.</param>
    /// <param name="own">Whether they were the firm's own, on paper.</param>
    /// <param name="cancel">Ends it.</param>
    public void BringIn(IEnumerable<PlannedVisit> visits, bool own, CancellationToken cancel)
    {
        var made = visits
            .AsParallel()
            .AsOrdered()
            .WithCancellation(cancel)
            .Select(v =>
                (Visit: v, Test: past.Elsewhere(v, DemoRecords.SchoolOf(v.Assembly), DemoRecords.ProfileOf(v.Assembly)))
            )
            .ToList();
        foreach (var (visit, test) in made)
        {
            var (account, kit) = visit.Team;
            var values = new Dictionary<string, string>(test.Values)
            {
                [TestFields.Tester.Id] = own ? account.FullName : TakenOverData.Tester,
                [TestFields.TestKit.Id] = own ? $"{kit.Make} {kit.Model} {kit.Serial}" : TakenOverData.Kit,
            };
            store.BroughtTests.Add(
                new()
                {
                    Id = visit.Id,
                    AssemblyId = visit.Assembly.Id,
                    Day = visit.Day,
                    Outcome = test.Outcome,
                    Values = JsonSerializer.Serialize(values),
                    Source = own ? OwnPaper : $"{TakenOverData.Firm}, ledger",
                    By = "Wilma Quent",
                    At = clock.Now().AddDays(-TakenOverAgo),
                }
            );
            if (visit.Assembly.BroughtOn is not { } last || last <= visit.Day)
                (visit.Assembly.BroughtOn, visit.Assembly.BroughtOutcome) = (visit.Day, test.Outcome);
        }
    }

    private static Season? SeasonOf(TownValve valve) => Season.Parse(valve.Row.Season);

    // The last start-up that lies behind, or one of those before.
    private static DateOnly StartUp(Season season, DateOnly today, int ago)
    {
        var last = season.StartFrom(today.AddYears(-1));
        return last.AddYears(-ago);
    }

    private static Springs Worn(TownValve valve, double age, SeededChance chance)
    {
        double Noise() => Math.Round((chance.Fraction() - 0.5) * 0.16, 3);
        var (s, lost) = (valve.New, valve.Wear * age);
        double Less(double spring, double by) => spring == 0 ? 0 : Math.Round(Math.Max(0.3, spring - by + Noise()), 3);
        return new(
            Less(
                s.Cv1,
                lost
                    * (
                        s.Cv1 > 5 ? 2.5
                        : valve.Row.Type == "PVB" ? 0.5
                        : 1
                    )
            ),
            Less(s.Cv2, lost * 0.8),
            s.Relief == 0 ? 0 : Math.Round(s.Relief + Noise(), 3),
            Less(s.Inlet, lost * 0.4)
        );
    }

    private static List<Fault> Faults(TownValve valve, int ago, SeededChance chance)
    {
        Fault Leaks(PartId part) => new(part, FaultKind.Leaks);
        return valve.Trouble switch
        {
            Trouble.GritNow when ago == 0 && chance.Next(3) > 0 => [Leaks(Parts.Cv1)],
            Trouble.GritThen when ago == GritYear => [Leaks(Parts.Cv1)],
            Trouble.BadDiscs when ago == 0 && chance.Next(3) > 0 => [Leaks(Parts.Cv2)],
            // Where the school goes no further over a leaking shutoff it was mended long ago.
            Trouble.So1Leaks when !IsMetric(valve.Row) && ago < 3 => [Leaks(Parts.So1)],
            Trouble.So2Leaks when !IsMetric(valve.Row) && ago < 3 => [Leaks(Parts.So2)],
            _ => [],
        };
    }

    private static bool IsMetric(AssemblyRow row) =>
        row.Authority!.ProfileId.StartsWith("kpa", StringComparison.Ordinal);

    private static bool IsTooWeak(TownValve valve, Springs springs) =>
        springs.Cv1 < (valve.Row.Type == "RP" ? springs.Relief + 3 : 1)
        || (springs.Cv2 > 0 && springs.Cv2 < 1)
        || (springs.Inlet > 0 && springs.Inlet < 1);

    // The needle of one kit creeps up, month by month, until its calibration runs out.
    private Fault[] DriftOn(AssemblyRow row, DateOnly day, DateOnly today)
    {
        var months = (DriftsSince - (today.DayNumber - day.DayNumber)) / 30;
        return months > 0 && TeamFor(row, day).Kit.Serial == DemoPeople.Drifting
            ? [new(Parts.Gauge, FaultKind.ZeroOffset, By: Math.Round(months * Drift, 2))]
            : [];
    }

    private Team TeamFor(AssemblyRow row, DateOnly day) =>
        people.Able(
            people.Testers[
                IsMetric(row) ? 2
                : row.Place!.District is "Old Quay" or "Saltings" ? 3
                : row.Place.District is "Northyard" ? 1
                : 0
            ],
            row.Type,
            day
        );

    private PlannedVisit Planned(AssemblyRow row, int index, Inside inside, DateOnly day)
    {
        // A seed of its own for each assembly and day.
        var number = int.Parse(row.Tag.AsSpan(2), CultureInfo.InvariantCulture);
        var chance = new SeededChance((number * 8192) + (day.DayNumber % 8192));
        var team = TeamFor(row, day);
        return new(
            chance.NewId(),
            row,
            team with
            {
                Kit = DemoHistory.AsOn(team.Kit, day),
            },
            inside,
            new(day.ToDateTime(new TimeOnly(8 + chance.Next(7), chance.Next(60))), TimeSpan.Zero),
            null,
            (index * 17) + (int)(inside.Springs.Cv1 * 1000)
        )
        {
            IsSeasonal = row.Season is not null,
        };
    }
}
