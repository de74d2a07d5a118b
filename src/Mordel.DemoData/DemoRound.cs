using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Planning;
using Mordel.Data;
using Mordel.Data.Rows;

namespace Mordel.DemoData;

/// <summary>
/// Lays out the rounds of one day: each tester's nearest assemblies that have waited longest, in the order of the road.
/// </summary>
public sealed class DemoRound(Store store, TimeProvider clock)
{
    private static readonly (string Tester, string[] Districts, int Stops, (string Type, int Count)[]? Mixed)[] Beats =
    [
        ("ines", ["Millrace", "Centre", "Terraces"], 9, [("DC", 5), ("RP", 2), ("PVB", 1), ("SVB", 1)]),
        ("bram", ["Northyard"], 3, null),
        ("odd", ["Eastfell"], 4, [("DC", 1), ("RP", 1), ("PVB", 1), ("SVB", 1)]),
        ("sanna", ["Old Quay", "Saltings"], 3, null),
    ];

    private static readonly (string Serves, string Special)[] Specials =
    [
        ("fire line", "Fire line: tell the alarm company and keep a fire watch before anything is shut."),
        ("boiler feed", "Boiler feed: the engineer must drop the boiler to standby first."),
        ("laundry", "Guests' laundry: water off for twenty minutes at most."),
        ("laboratory", "Laboratory: wait until the class is out."),
        ("furnace cooling", "Never shut while the furnace draws: the foreman gives the word."),
    ];

    /// <summary>Plans the day.</summary>
    public async Task Plan(DateOnly day, CancellationToken cancel)
    {
        foreach (var (name, districts, count, mixed) in Beats)
        {
            var tester = await store.Users.FirstOrDefaultAsync(u => u.UserName == name && u.DemoNote != null, cancel);
            if (tester is null)
                continue;
            // The office plans what was taken over; the day's rounds are among the firm's own.
            const string own = "F-2000";
            var waiting = await store
                .Assemblies.Include(a => a.Place)
                .Where(a => districts.Contains(a.Place!.District) && a.ReplacedOn == null && own.CompareTo(a.Tag) > 0)
                .OrderBy(a => a.NextDue)
                .ThenBy(a => a.Tag)
                .ToListAsync(cancel);
            var road = waiting.OrderBy(a => a.Place!.North).ThenBy(a => a.Tag, StringComparer.Ordinal).ToList();
            if (mixed is { } order)
            {
                // A day with every type in it: the double checks in the morning, the others behind them.
                waiting = [.. order.SelectMany(t => waiting.Where(a => a.Type == t.Type).Take(t.Count))];
                road =
                [
                    .. waiting
                        .OrderBy(a => Array.FindIndex(order, t => t.Type == a.Type) > 0)
                        .ThenBy(a => a.Place!.North)
                        .ThenBy(a => a.Tag, StringComparer.Ordinal),
                ];
            }
            else
            {
                road = [.. road.Where(waiting.Take(count).Contains)];
            }

            var from = new TimeOnly(7, 30);
            foreach (var assembly in road)
            {
                var minutes = TestMinutes.Of(
                    AssemblyTypes.Parse(assembly.Type),
                    assembly.Size,
                    assembly.Season is not null,
                    assembly.FireLine
                );
                store.Stops.Add(
                    new()
                    {
                        Id = Guid.CreateVersion7(clock.GetUtcNow()),
                        Day = day,
                        TesterId = tester.Id,
                        Order = road.IndexOf(assembly) + 1,
                        AssemblyId = assembly.Id,
                        WindowFrom = from,
                        WindowUntil = from.AddMinutes(90),
                        Minutes = minutes,
                        Visit = assembly.Season is null ? null : StopRow.Seasonal,
                        Special = Specials.FirstOrDefault(s => s.Serves == assembly.Serves).Special,
                    }
                );
                from = from.AddMinutes(minutes + 25);
            }
        }

        await store.SaveChangesAsync(cancel);
    }
}
