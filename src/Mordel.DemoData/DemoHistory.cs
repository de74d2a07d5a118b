using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Data;
using Mordel.Data.Rows;

namespace Mordel.DemoData;

/// <summary>
/// Three years of tests and the morning of the day: what was true of each assembly is drawn from a seed, the visits are
/// performed by the simulated tester on the water, and each is signed as any run is (<see cref="DemoRecords"/>).
/// </summary>
public sealed class DemoHistory(Store store, TimeProvider clock, SeededChance chance, DemoPeople people)
{
    private const int Years = 3,
        Fortnight = 14;

    private bool fouledLately;

    /// <summary>The visits to an assembly in the years before a day, the first one first.</summary>
    public IEnumerable<PlannedVisit> Past(AssemblyRow assembly, DateOnly today)
    {
        var make = TownData.Makes.First(m => m.Make == assembly.Make && m.Model == assembly.Model);
        var age = ((today.DayNumber - assembly.InstalledOn.DayNumber) / 365.0) - Years;
        // The first one of the register wears so that its next test is worth a kit in the van.
        var wear = (0.02 + (chance.Fraction() * 0.09)) * (assembly.Tag == "F-1001" ? 1.12 : 1);
        // An RP's stiff spring loses more in a year than a small one; its relief hardly changes.
        var share =
            make.Cv1 > 5 ? 2.5
            : make.Type == "PVB" ? 0.5
            : 1;
        var (cv1, cv2) = (make.Cv1 - (wear * share * age * 0.5), make.Cv2 - (wear * age * 0.4));
        var kpa = assembly.Authority!.ProfileId.StartsWith("kpa", StringComparison.Ordinal);
        var yearDay = today.AddDays(-chance.Next(8, 330));
        // Some shutoffs leak, from the first test on that says so.
        Fault[] shutoff = chance.Next(9) switch
        {
            0 => [new(Parts.So1, FaultKind.Leaks)],
            1 => [new(Parts.So2, FaultKind.Leaks)],
            _ => [],
        };
        var gritty = assembly.Place is { District: "Millrace" or "Saltings" } && chance.OneIn(3);
        // One of them was fouled a fortnight ago; the others last year.
        var fouledIn = gritty && !fouledLately ? 0 : 1;
        fouledLately |= gritty;
        for (var year = Years - 1; year >= 0; year--)
        {
            var on = yearDay.AddYears(-year).AddDays(chance.Next(-9, 10));
            if (on >= today)
                on = today.AddDays(-chance.Next(2, 9));
            var drift = wear * (Years - year);
            var springs = new Springs(
                Math.Max(0.3, cv1 - (drift * share) + Noise()),
                make.Cv2 == 0 ? 0 : Math.Max(0.3, cv2 - (drift * 0.8) + Noise()),
                make.Relief == 0 ? 0 : make.Relief + Noise(),
                make.Inlet == 0 ? 0 : Math.Max(0.4, make.Inlet - (drift * 0.4) + Noise())
            );
            var team = kpa
                ? people.Testers[2]
                : people.Testers[
                    chance.Next(5) switch
                    {
                        0 => 1,
                        1 => 3,
                        _ => 0,
                    }
                ];
            // Grit after works on the main fouled some checks: cleaned, and tested again.
            PlannedVisit? fouled = null;
            if (gritty && year == fouledIn)
            {
                on = year == 0 ? today.AddDays(-Fortnight) : on;
                fouled = Visit(assembly, team, new(springs, [new(Parts.Cv1, FaultKind.Leaks), .. shutoff]), on);
                yield return fouled;
                on = on.AddDays(year == 0 ? 1 : chance.Next(4, 20));
                cv1 += 0.1;
            }

            var visit = Visit(assembly, team, new(springs, shutoff), on) with { After = fouled };
            yield return visit;
            // Where the school goes no further over a leaking shutoff it was mended, and the test was made again.
            if (kpa && shutoff.Length > 0 && make.Relief > 0)
            {
                shutoff = [];
                yield return Visit(assembly, team, new(springs), on.AddDays(chance.Next(4, 20))) with
                {
                    After = visit,
                };
            }
        }
    }

    /// <summary>The first two stops of the first tester, as they are when the day is looked at.</summary>
    public async Task<IReadOnlyList<PlannedVisit>> Morning(DateOnly today, CancellationToken cancel)
    {
        var first = people.Testers[0];
        var stops = await store
            .Stops.Where(s => s.Day == today && s.TesterId == first.Account.Id)
            .OrderBy(s => s.Order)
            .Take(2)
            .ToListAsync(cancel);
        Inside[] found =
        [
            new(new Springs(2.3, 1.9, 0, 0)),
            new(new Springs(1.7, 1.6, 0, 0), new Fault(Parts.Cv2, FaultKind.Leaks)),
        ];
        var start = clock.Now().AddMinutes(-150);
        return
        [
            .. stops.Select(
                (stop, i) =>
                    new PlannedVisit(
                        chance.NewId(),
                        store.Assemblies.Local.First(a => a.Id == stop.AssemblyId),
                        first,
                        found[i],
                        start.AddMinutes(65 * i),
                        stop.Id,
                        chance.Next(1_000_000)
                    )
            ),
        ];
    }

    private PlannedVisit Visit(AssemblyRow assembly, Team team, Inside inside, DateOnly day)
    {
        var start = new DateTimeOffset(
            day.ToDateTime(new TimeOnly(8 + chance.Next(7), chance.Next(60))),
            TimeSpan.Zero
        );
        var able = people.Able(team, assembly.Type, day);
        return new(
            chance.NewId(),
            assembly,
            able with
            {
                Kit = AsOn(able.Kit, day),
            },
            inside,
            start,
            null,
            chance.Next(1_000_000)
        );
    }

    private double Noise() => (chance.Fraction() - 0.5) * 0.16;

    /// <summary>
    /// A kit as it was calibrated on a day, once a year: what held then is what the report of that day says.
    /// </summary>
    public static KitRow AsOn(KitRow kit, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(kit);
        var years = 0;
        while (kit.CalibratedOn.AddYears(years) > day)
            years--;
        return new()
        {
            Id = kit.Id,
            KeeperId = kit.KeeperId,
            Kind = kit.Kind,
            Make = kit.Make,
            Model = kit.Model,
            Serial = kit.Serial,
            Unit = kit.Unit,
            Resolution = kit.Resolution,
            Accuracy = kit.Accuracy,
            FullScale = kit.FullScale,
            CalibratedOn = kit.CalibratedOn.AddYears(years),
            CalibratedBy = kit.CalibratedBy,
            CalibrationDue = kit.CalibrationDue.AddYears(years),
        };
    }
}
