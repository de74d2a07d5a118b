using System.Collections.Immutable;
using Mordel.Core.Planning;

namespace Mordel.Planning.Tests;

/// <summary>Days of work to be planned, by hand or by lot.</summary>
internal static class Days
{
    public const string Board = "Ravelsund Water Board",
        Valley = "Eastfell Valley Supply";

    public static readonly DateOnly Monday = new(2026, 11, 30);
    public static readonly PlanEffort Short = new(TimeSpan.FromSeconds(2), 120);

    /// <summary>Minutes on a grid of streets, slower in the rush and into the centre.</summary>
    public static TravelTable Roads(IReadOnlyList<(int East, int North)> places)
    {
        ImmutableArray<int> Slow(double slower) =>
            [
                .. from a in places
                from b in places
                let metres = Math.Abs(a.East - b.East) + Math.Abs(a.North - b.North)
                let inward = Math.Abs(b.East) + Math.Abs(b.North) < Math.Abs(a.East) + Math.Abs(a.North)
                select a == b ? 0 : (int)Math.Ceiling((metres / 420.0 * slower * (inward ? 1.15 : 1)) + 2),
            ];
        return new(places.Count, [(0, Slow(1)), (420, Slow(1.4)), (540, Slow(1)), (960, Slow(1.4)), (1080, Slow(1))]);
    }

    /// <summary>A tester who may do everything.</summary>
    public static PlanTester Able(string id, string name) =>
        new(id, name)
        {
            Certificates = [new(null, ["DC", "RP", "PVB", "SVB"], Monday.AddYears(-1), Monday.AddYears(1))],
            Kits = [new("five-valve", $"GB-{id}", Monday.AddYears(1))],
            Skills = ["confined space", "fire line"],
        };

    /// <summary>A day from eight to four with half an hour for a meal.</summary>
    public static PlanShift Shift(string tester, int day = 0, int place = 0) =>
        new(tester, Monday.AddDays(day), new(480, 960), place, place, new(new(690, 810), 30));

    public static PlanStop Stop(string id, int place, int minutes = 25) =>
        new(id, $"RP {id}", place, minutes, Board, "RP") { Windows = [new(480, 960)] };

    /// <summary>A problem by lot: some of it cannot be done.</summary>
    public static PlanProblem ByLot(int seed, int stops, int testers, int days)
    {
        var lot = new Random(seed);
        T One<T>(params T[] of) => of[lot.Next(of.Length)];
        var places = Enumerable
            .Range(0, stops + 1)
            .Select(_ => (lot.Next(-2500, 2500), lot.Next(-2500, 2500)))
            .ToList();
        places[0] = (0, 0);
        Window Off()
        {
            var from = 15 * lot.Next(26, 56);
            return new(from, from + (15 * lot.Next(2, 12)));
        }

        return new(
            [.. places.Select((p, i) => new PlanPlace($"p{i}", $"Place {i}", p.Item1, p.Item2))],
            [
                .. Enumerable
                    .Range(0, stops)
                    .Select(i => new PlanStop(
                        $"s{i}",
                        $"Stop {i}",
                        1 + (i / 2 * 2),
                        lot.Next(15, 60),
                        One(Board, Valley),
                        One("DC", "RP", "PVB")
                    )
                    {
                        Windows =
                            One(0, 1, 2, 3) == 0 ? [Off(), Off()]
                            : One(0, 1) == 0 ? [Off()]
                            : [new(450, 990)],
                        Days = One(0, 1, 2, 3, 4, 5) == 0 ? [Monday.AddDays(lot.Next(days + 1))] : [],
                        Kits = One(0, 1, 2, 3) == 0 ? ["five-valve"] : [],
                        Skills = One(0, 1, 2, 3, 4, 5) == 0 ? [One("confined space", "fire line")] : [],
                        Due = One(0, 1, 2) == 0 ? null : Monday.AddDays(lot.Next(-40, 20)),
                        Priority = lot.Next(1, 6),
                        Together = One(0, 1, 2, 3, 4) == 0 ? "pit" : null,
                        Pin =
                            One(0, 1, 2, 3, 4, 5, 6, 7, 8, 9) == 0
                                ? new(
                                    $"t{lot.Next(testers)}",
                                    Monday.AddDays(lot.Next(days)),
                                    One<int?>(null, 600, 700)
                                )
                                : null,
                    }),
            ],
            [
                .. Enumerable
                    .Range(0, testers)
                    .Select(t => new PlanTester($"t{t}", $"Tester {t}")
                    {
                        Certificates =
                        [
                            new(
                                One(null, null, Board, Valley),
                                ["DC", "RP"],
                                Monday.AddYears(-1),
                                Monday.AddDays(lot.Next(-1, 9))
                            ),
                            new(null, ["PVB"], Monday.AddYears(-1), Monday.AddYears(1)),
                        ],
                        Kits =
                        [
                            new(One("five-valve", "three-valve"), $"k{t}", Monday.AddDays(lot.Next(-1, 60)))
                            {
                                Days = lot.Next(4) == 0 ? [Monday] : [],
                            },
                        ],
                        Skills = One(0, 1) == 0 ? ["confined space"] : ["fire line"],
                    }),
            ],
            [
                .. from t in Enumerable.Range(0, testers)
                from d in Enumerable.Range(0, days)
                select new PlanShift(
                    $"t{t}",
                    Monday.AddDays(d),
                    new(450 + (30 * (t % 2)), 960),
                    0,
                    t % 3 == 0 ? 1 : 0,
                    t % 4 == 3 ? null : new(new(690, 810), 30)
                ),
            ],
            Roads(places)
        )
        {
            Seed = seed,
        };
    }

    public static Plan Planned(this PlanProblem problem, PlanEffort? effort = null) =>
        RoundSolver.Solve(problem, effort ?? Short, null, CancellationToken.None);
}
