using CsCheck;
using Mordel.Core.Standing;

namespace Mordel.Core.Tests;

/// <summary>Shares, lives of parts, durations: what the standing is worked out with.</summary>
public sealed class StandingTests
{
    private static readonly DateOnly New = new(2010, 4, 1);

    [Theory]
    // Worked by hand from the formula of the score interval.
    [InlineData(0, 10, 0, 0.2775)]
    [InlineData(1, 10, 0.0179, 0.4042)]
    [InlineData(5, 10, 0.2366, 0.7634)]
    [InlineData(10, 10, 0.7225, 1)]
    [InlineData(50, 1000, 0.0381, 0.0653)]
    public void A_share_says_where_the_truth_may_lie(int part, int all, double low, double high)
    {
        var share = new Share(part, all);
        Assert.Equal(low, share.Low, 0.0005);
        Assert.Equal(high, share.High, 0.0005);
    }

    [Fact]
    public void Of_nothing_a_share_says_nothing()
    {
        Assert.Equal((0, 0, 1), (new Share(0, 0).Value, new Share(0, 0).Low, new Share(0, 0).High));
    }

    [Fact]
    public void A_share_lies_in_its_range_and_more_tests_make_it_narrower() =>
        Gen.Select(Gen.Int[1, 400], Gen.Double[0, 1])
            .Sample(
                (all, of) =>
                {
                    var few = new Share((int)(all * of), all);
                    var many = new Share(10 * few.Part, 10 * all);
                    Assert.InRange(few.Value, few.Low, few.High);
                    Assert.True(many.High - many.Low < few.High - few.Low);
                }
            );

    [Fact]
    public void A_part_that_never_failed_was_seen_once_in_each_year_of_its_age()
    {
        var tests = new[] { 1, 2, 3, 4 }.SelectMany(y =>
            new[] { New.AddYears(y).AddDays(-20), New.AddYears(y).AddDays(20) }
        );
        Assert.Equal(
            [new(false, 1, false), new(false, 2, false), new(false, 3, false), new(false, 4, false)],
            PartLife.Of(New, tests.Select(d => new PartTest(d, false)))
        );
    }

    [Fact]
    public void After_a_failure_it_begins_to_count_anew()
    {
        var failed = New.AddYears(3);
        Assert.Equal(
            [new(false, 1, false), new(false, 3, true), new(true, 0, false), new(true, 2, true), new(true, 0, false)],
            PartLife.Of(
                New,
                [
                    new(New.AddYears(1), false),
                    new(failed, true),
                    new(failed, false),
                    new(failed.AddYears(2), true),
                    new(failed.AddYears(2).AddDays(3), false),
                ]
            )
        );
    }

    [Fact]
    public void A_failure_takes_the_place_of_what_the_same_year_showed_before() =>
        Assert.Equal(
            [new(false, 2, true)],
            PartLife.Of(New, [new(New.AddYears(2).AddDays(-90), false), new(New.AddYears(2), true)])
        );

    [Fact]
    public void A_test_before_the_installation_says_nothing_of_this_part() =>
        Assert.Empty(PartLife.Of(New, [new(New.AddDays(-1), true)]));

    [Fact]
    public void Every_failure_is_counted_once_and_a_year_of_a_life_never_twice() =>
        Gen.Select(Gen.Int[1, 1200].Array[0, 20], Gen.Int[0, 1_000_000])
            .Sample(
                (gaps, seed) =>
                {
                    var random = new Random(seed);
                    var (day, tests) = (New, new List<PartTest>());
                    foreach (var gap in gaps)
                        tests.Add(new(day = day.AddDays(gap), random.Next(4) == 0));
                    var years = PartLife.Of(New, tests).ToList();
                    Assert.Equal(tests.Count(t => t.Failed), years.Count(y => y.Failed));
                    // A life ends with its failure: within one, years only grow.
                    for (var i = 1; i < years.Count; i++)
                        Assert.True(years[i - 1].Failed || years[i].Year > years[i - 1].Year);
                }
            );

    [Fact]
    public void The_table_is_the_product_of_what_held_in_each_year()
    {
        var table = LifeTable.Of([(1, 100, 5), (2, 80, 8), (3, 0, 0), (4, 40, 0)]);
        Assert.Equal([1, 2, 4], table.Select(p => p.Year));
        Assert.Equal([0.95, 0.95 * 0.9, 0.95 * 0.9], table.Select(p => p.Holds), (a, b) => Math.Abs(a - b) < 1e-12);
        // Greenwood by hand: 5/(100·95) + 8/(80·72), on log(−log).
        var wide = Math.Sqrt((5 / 9500.0) + (8 / 5760.0)) / -Math.Log(0.855);
        Assert.Equal(Math.Pow(0.855, Math.Exp(1.959964 * wide)), table[1].Low, 1e-9);
        Assert.Equal(Math.Pow(0.855, Math.Exp(-1.959964 * wide)), table[1].High, 1e-9);
        Assert.Equal(2, LifeTable.YearsUntil(table, 0.1));
        Assert.Null(LifeTable.YearsUntil(table, 0.5));
    }

    [Fact]
    public void However_parts_fail_the_table_falls_and_its_range_holds_it() =>
        Gen.Select(Gen.Int[0, 60], Gen.Double[0, 1])
            .Array[1, 15]
            .Sample(years =>
            {
                var before = 1.0;
                foreach (var p in LifeTable.Of(years.Select((y, i) => (i, y.Item1, (int)(y.Item1 * y.Item2)))))
                {
                    Assert.InRange(p.Holds, 0, before + 1e-12);
                    Assert.InRange(p.Low, -1e-12, p.Holds + 1e-12);
                    Assert.InRange(p.High, p.Holds - 1e-12, 1 + 1e-12);
                    before = p.Holds;
                }
            });

    [Fact]
    public void Of_a_hundred_ranges_about_ninety_five_hold_the_truth()
    {
        // Parts that fail by six in a hundred a year, tested each year for eight, a fifth leaving each year.
        var (random, held, runs) = (new Random(Cases.Seed), 0, 400);
        var truth = Math.Pow(0.94, 8);
        for (var run = 0; run < runs; run++)
        {
            var seen = new (int Seen, int Failed)[9];
            for (var part = 0; part < 150; part++)
            for (var year = 1; year <= 8; year++)
            {
                var fails = random.NextDouble() < 0.06;
                seen[year] = (seen[year].Seen + 1, seen[year].Failed + (fails ? 1 : 0));
                if (fails || random.NextDouble() < 0.2)
                    break;
            }

            var last = LifeTable.Of(seen.Select((s, i) => (i, s.Seen, s.Failed)))[^1];
            held += last.Low <= truth && truth <= last.High ? 1 : 0;
        }

        // Chance alone leaves this once in a hundred thousand runs.
        Assert.InRange(held / (double)runs, 0.89, 0.99);
    }

    [Fact]
    public void A_duration_is_told_to_within_a_class() =>
        Gen.Double[1, 14_000]
            .Array[1, 60]
            .Sample(seconds =>
            {
                var counts = seconds.GroupBy(s => Durations.ClassOf(s)!.Value).Select(g => (g.Key, g.Count()));
                var half = Durations.Below(counts, 0.5)!.Value;
                var sorted = seconds.Order().ToList();
                var (low, high) = (sorted[(sorted.Count - 1) / 2], sorted[sorted.Count / 2]);
                Assert.InRange(half, low / 1.16, high * 1.16);
            });

    [Fact]
    public void What_stood_open_over_night_is_no_duration()
    {
        Assert.Null(Durations.ClassOf(Durations.Longest + 1));
        Assert.Null(Durations.ClassOf(-1));
        Assert.Null(Durations.Below([], 0.5));
    }
}
