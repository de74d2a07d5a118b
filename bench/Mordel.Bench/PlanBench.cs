using System.Collections.Immutable;
using System.Diagnostics;
using System.Globalization;
using Mordel.Core.Planning;
using Mordel.Planning;

namespace Mordel.Bench;

/// <summary>
/// How good rounds are after the time that the room gives them, against a search several times as long on the same
/// problem in the same run.
/// </summary>
internal static class PlanBench
{
    private const int Authorities = 2,
        HalfTown = 2_500;
    private static readonly DateOnly Monday = new(2027, 3, 1);

    public static int Run(int times)
    {
        Compare("a day of four testers, 30 stops", Town(1, 30, 4, 1), 5, times);
        Compare("a week of six testers, 200 stops", Town(2, 200, 6, 5), 60, times);
        return 0;
    }

    private static void Compare(string what, PlanProblem problem, int seconds, int times)
    {
        var (soon, spent) = Cost(problem, seconds);
        var (late, _) = Cost(problem, seconds * times);
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{what}: {soon.Stops} planned in {spent:0.0} s; costs {soon.Cost / (double)late.Cost:0.000} of what "
                    + $"{times} times as long finds ({late.Stops} planned); ways {soon.Ways} and {late.Ways} minutes"
            )
        );
    }

    private static ((int Stops, long Cost, int Ways) Found, double Seconds) Cost(PlanProblem problem, int seconds)
    {
        var clock = Stopwatch.StartNew();
        var plan = RoundSolver.Solve(
            problem,
            PlanEffort.Within(TimeSpan.FromSeconds(seconds)),
            null,
            CancellationToken.None
        );
        var spent = clock.Elapsed.TotalSeconds;
        if (!PlanCheck.Of(problem, plan).IsEmpty)
            throw new InvalidOperationException("A plan breaks a constraint.");
        return (
            (plan.Routes.Sum(r => r.Visits.Length), PlanCost.Of(problem, plan), PlanFigures.Of(problem, plan).Driving),
            spent
        );
    }

    // A town by lot: half of the stops with hours of their own, a third for one authority's testers, some in pits.
    private static PlanProblem Town(int seed, int stops, int testers, int days)
    {
        var lot = new Random(seed);
        var places = Enumerable
            .Range(0, stops + 1)
            .Select(i => new PlanPlace(
                $"p{i}",
                $"Place {i}",
                lot.Next(-HalfTown, HalfTown),
                lot.Next(-HalfTown, HalfTown)
            ))
            .ToList();
        Window Off(int minutes)
        {
            var from = 30 * lot.Next(15, 28);
            return lot.Next(2) == 0 ? new(450, 990) : new(from, from + minutes + (30 * lot.Next(1, 8)));
        }

        var all = Enumerable
            .Range(0, stops)
            .Select(i =>
            {
                var minutes = 20 + (5 * lot.Next(0, 7));
                return new PlanStop($"s{i}", $"Stop {i}", i + 1, minutes, $"authority {lot.Next(Authorities)}", "RP")
                {
                    Windows = [Off(minutes)],
                    Skills = lot.Next(6) == 0 ? ["confined space"] : [],
                    Due = Monday.AddDays(lot.Next(-30, 30)),
                    Priority = lot.Next(1, 6),
                };
            });
        return new(
            [.. places],
            [.. all],
            [
                .. Enumerable
                    .Range(0, testers)
                    .Select(t => new PlanTester($"t{t}", $"Tester {t}")
                    {
                        Certificates =
                        [
                            new(t % 3 == 2 ? "authority 0" : null, ["RP"], Monday.AddYears(-1), Monday.AddYears(1)),
                        ],
                        Kits = [new("five-valve", $"k{t}", Monday.AddYears(1))],
                        Skills = t % 2 == 0 ? ["confined space"] : [],
                    }),
            ],
            [
                .. from d in Enumerable.Range(0, days)
                from t in Enumerable.Range(0, testers)
                select new PlanShift($"t{t}", Monday.AddDays(d), new(450, 990), 0, 0, new(new(690, 810), 30)),
            ],
            Roads(places)
        )
        {
            Seed = seed,
        };
    }

    private static TravelTable Roads(List<PlanPlace> places)
    {
        ImmutableArray<int> Minutes(double slower) =>
            [
                .. from a in places
                from b in places
                select a == b
                    ? 0
                    : (int)
                        Math.Ceiling(((Math.Abs(a.East - b.East) + Math.Abs(a.North - b.North)) / 420.0 * slower) + 2),
            ];
        return new(places.Count, [(0, Minutes(1)), (420, Minutes(1.4)), (540, Minutes(1)), (960, Minutes(1.4))]);
    }
}
