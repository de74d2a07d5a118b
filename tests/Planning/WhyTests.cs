using Mordel.Core.Planning;

namespace Mordel.Planning.Tests;

/// <summary>A stop that cannot be made, planted among others, is explained by what keeps it out.</summary>
public class WhyTests
{
    private static readonly (PlanLimit Limit, Func<PlanStop, PlanStop> Spoil)[] Plants =
    [
        (PlanLimit.Certificate, s => s with { Authority = "Highmoor Springs" }),
        (PlanLimit.Certificate, s => s with { Type = "SVB" }),
        (PlanLimit.Kit, s => s with { Kits = ["digital"] }),
        (PlanLimit.Calibration, s => s with { Kits = ["two-valve"] }),
        (PlanLimit.Skill, s => s with { Skills = ["diving"] }),
        (PlanLimit.Day, s => s with { Days = [Days.Monday.AddDays(5)] }),
        (PlanLimit.Window, s => s with { Windows = [new(300, 360)] }),
        (PlanLimit.Window, s => s with { Windows = [new(600, 600 + s.Minutes - 5)] }),
        (PlanLimit.Hours, s => s with { Minutes = 600, Windows = [new(0, 1440)] }),
        (PlanLimit.Pin, s => s with { Pin = new("b", Days.Monday.AddDays(1), null) }),
        (PlanLimit.Way, s => s with { Place = 9 }),
    ];

    public static TheoryData<int> Numbers => [.. Enumerable.Range(0, Plants.Length)];

    private static PlanProblem Village(int seed, params PlanStop[] more)
    {
        var lot = new Random(seed);
        var places = Enumerable.Range(0, 9).Select(_ => (lot.Next(-2000, 2000), lot.Next(-2000, 2000))).ToList();
        var roads = Days.Roads([.. places, (0, 9000)]);
        // Nobody knows the way to the last place.
        var n = places.Count + 1;
        var cut = new TravelTable(
            n,
            [
                .. roads
                    .Parts.Select(p =>
                        (
                            p.Begins,
                            p.Minutes.Select((m, i) => i % n == n - 1 ^ i / n == n - 1 ? TravelTable.NoWay : m)
                                .ToArray()
                        )
                    )
                    .Select(p => (p.Begins, System.Collections.Immutable.ImmutableArray.Create(p.Item2))),
            ]
        );
        PlanTester Tester(string id, string name) =>
            Days.Able(id, name) with
            {
                Certificates = [new(Days.Board, ["DC", "RP"], Days.Monday.AddYears(-1), Days.Monday.AddYears(1))],
                Kits =
                [
                    new("five-valve", $"GB-{id}", Days.Monday.AddDays(90)),
                    new("two-valve", "GB-old", Days.Monday.AddDays(-3)),
                ],
            };
        return new(
            [.. places.Append((0, 9000)).Select((p, i) => new PlanPlace($"p{i}", $"Place {i}", p.Item1, p.Item2))],
            [.. Enumerable.Range(1, 6).Select(i => Days.Stop($"s{i}", i)), .. more],
            [Tester("a", "Ada Holm"), Tester("b", "Bo Lind")],
            [Days.Shift("a"), Days.Shift("b"), Days.Shift("a", 1)],
            cut
        );
    }

    [Theory]
    [MemberData(nameof(Numbers))]
    public void A_stop_that_cannot_be_made_says_what_keeps_it_out(int plant)
    {
        var (limit, spoil) = Plants[plant];
        for (var seed = 1; seed <= 6; seed++)
        {
            var problem = Village(seed, spoil(Days.Stop("planted", 7)));
            var left = Assert.Single(problem.Planned().LeftOut);
            Assert.Equal("planted", left.Stop);
            Assert.True(left.Limits.Contains(limit), $"{limit}: {string.Join(" ", left.Limits)}: {left.Says}");
            Assert.True(left.Limits.Length == 1 || limit == PlanLimit.Window, string.Join(" ", left.Limits));
        }
    }

    [Fact]
    public void What_is_said_would_help_does_help()
    {
        var problem = Village(3, Days.Stop("planted", 7) with { Windows = [new(300, 360)] });
        var left = Assert.Single(problem.Planned().LeftOut);
        Assert.Equal("No tester is free between 05:00 and 06:00 for 25 minutes of work.", left.Says);
        var time = left
            .WouldHelp.Select(h =>
                System.Text.RegularExpressions.Regex.Match(h, @"off from (\d\d:\d\d) to (\d\d:\d\d)")
            )
            .First(m => m.Success);
        var off = new Window(Window.Minute(time.Groups[1].Value)!.Value, Window.Minute(time.Groups[2].Value)!.Value);
        var mended = problem with
        {
            Stops = [.. problem.Stops.Select(s => s.Id == "planted" ? s with { Windows = [off] } : s)],
        };
        Assert.Empty(mended.Planned().LeftOut);
    }

    [Fact]
    public void Two_conditions_that_nobody_meets_together_stand_in_one_sentence()
    {
        var problem = Village(1, Days.Stop("planted", 7) with { Kits = ["five-valve"], Windows = [new(360, 450)] });
        problem = problem with
        {
            Testers =
            [
                problem.Testers[0],
                problem.Testers[1] with
                {
                    Certificates = [],
                    Kits = [new("three-valve", "GB-3", Days.Monday.AddDays(9))],
                },
            ],
            Shifts = [Days.Shift("a"), Days.Shift("b") with { Hours = new(330, 800) }],
        };
        var left = Assert.Single(problem.Planned().LeftOut);
        Assert.Equal([PlanLimit.Window, PlanLimit.Hours], left.Limits);
        Assert.Contains("between 06:00 and 07:30", left.Says, StringComparison.Ordinal);
        var without = problem with { Testers = [problem.Testers[0] with { Certificates = [] }, problem.Testers[1]] };
        var said = without.Planned().LeftOut.First(l => l.Stop == "planted");
        Assert.Contains("certificate for RP", said.Says, StringComparison.Ordinal);
    }

    [Fact]
    public void Where_others_are_in_its_place_it_says_who_and_what_would_make_room()
    {
        var places = Enumerable.Range(0, 12).Select(i => (i * 100, 0)).ToList();
        var stops = Enumerable
            .Range(1, 10)
            .Select(i => Days.Stop($"s{i}", i, 60) with { Priority = i == 10 ? 1 : 2 })
            .ToArray();
        var problem = RoundTests.Of(places, stops, [Days.Able("a", "Ada Holm")], [Days.Shift("a")]);
        var plan = problem.Planned();
        Assert.Contains(plan.LeftOut, l => l.Stop == "s10");
        Assert.Contains(plan.LeftOut.SelectMany(l => l.WouldHelp), h =>
            h.EndsWith("were put off (Ada Holm, Mon 30 Nov).", StringComparison.Ordinal)
        );
        Assert.All(plan.LeftOut, l =>
        {
            Assert.Equal([PlanLimit.Room], l.Limits);
            Assert.StartsWith(
                "There is no room for 60 minutes between 08:00 and 16:00: Ada Holm on Mon 30 Nov has",
                l.Says,
                StringComparison.Ordinal
            );
            Assert.All(l.WouldHelp, h => Assert.StartsWith("It would go if", h, StringComparison.Ordinal));
        });
    }

    [Fact]
    public void What_only_fits_one_by_one_says_that_it_is_made_in_one_visit()
    {
        var problem = Village(
            2,
            Days.Stop("one", 7, 40) with
            {
                Together = "line",
                Windows = [new(480, 560)],
            },
            Days.Stop("two", 7, 40) with
            {
                Together = "line",
                Windows = [new(480, 540)],
            }
        );
        var plan = problem.Planned();
        Assert.Equal(["one", "two"], plan.LeftOut.Select(l => l.Stop));
        Assert.All(plan.LeftOut, l => Assert.Equal([PlanLimit.Together], l.Limits));
    }

    [Fact]
    public void What_is_settled_for_somebody_says_what_stands_against_that_and_not_what_others_lack()
    {
        var pin = new PlanPin("a", Days.Monday, null);
        string Says(PlanStop stop) => Assert.Single(Village(2, stop with { Pin = pin }).Planned().LeftOut).Says;
        Assert.Equal(
            "It is settled for Ada Holm on Mon 30 Nov, who does not have a certificate for SVB at Ravelsund Water Board.",
            Says(Days.Stop("planted", 7) with { Type = "SVB" })
        );
        Assert.Equal(
            "It is settled for Ada Holm on Mon 30 Nov, who is not free between 05:00 and 06:00 for 25 minutes of work.",
            Says(Days.Stop("planted", 7) with { Windows = [new(300, 360)] })
        );
    }
}
