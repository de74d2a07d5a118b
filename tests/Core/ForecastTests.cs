using Mordel.Core.Forecasts;
using Xunit;

namespace Mordel.Core.Tests;

/// <summary>What a forecast says holds as often as it says; chance, steps and kits are not taken for wear.</summary>
public class ForecastTests
{
    private static readonly DateOnly First = new(2024, 5, 3);

    private static MarginReading At(int year, double margin, string kit = "own") =>
        new(First.AddYears(year), margin, kit);

    private static Forecast Of(params double[] margins) => Forecast.Of(margins.Select((m, i) => At(i, m)))!;

    [Trait("Turn", "1")]
    [Theory]
    [InlineData(3)]
    [InlineData(5)]
    [InlineData(9)]
    public void Of_ten_ranges_that_are_stated_eight_hold(int tests)
    {
        // As many as tell 75 from 80: seeds stand still, so that luck does not decide.
        const int Histories = 1200;
        var held = Enumerable
            .Range(0, Histories)
            .Count(i =>
            {
                var history = SimulatedWear.Draw(i, i % 2 == 0, tests);
                var range = Forecast.Of(history.Readings)!.On(history.Next.Day);
                return history.Next.Margin >= range.Low && history.Next.Margin <= range.High;
            });
        Assert.InRange((double)held / Histories, 0.75, 0.88);
    }

    [Fact]
    public void A_stable_history_is_called_stable_in_95_of_100_and_wear_is_found_where_it_has_had_time()
    {
        var (claimed, stable, found, worn) = (0, 0, 0, 0);
        for (var i = 0; i < 1500; i++)
        {
            claimed += Forecast.Of(SimulatedWear.Draw(i, false, 3 + (i % 8)).Readings)!.Trend is null ? 0 : 1;
            stable++;
            if (i % 8 < 3)
                continue;
            found += Forecast.Of(SimulatedWear.Draw(i, true, 3 + (i % 8)).Readings)!.Trend is < 0 ? 1 : 0;
            worn++;
        }

        Assert.InRange((double)claimed / stable, 0, 0.05);
        Assert.InRange((double)found / worn, 0.85, 1);
    }

    [Fact]
    public void Fewer_than_three_tests_say_nothing_and_neither_do_three_in_a_week()
    {
        Assert.Null(Forecast.Of([]));
        Assert.Null(Forecast.Of([At(0, 1), At(1, 0.9)]));
        Assert.Null(Forecast.Of(Enumerable.Range(0, 5).Select(d => new MarginReading(First.AddDays(d), 1, "own"))));
        Assert.NotNull(Forecast.Of([At(0, 1), At(1, 0.9), At(2, 0.8)]));
    }

    [Fact]
    public void A_spring_that_loses_a_fifth_a_year_crosses_when_it_must()
    {
        var forecast = Of(1.6, 1.4, 1.2, 1.0, 0.8);
        Assert.InRange(forecast.Trend!.Value, -0.23, -0.16);
        // Its margin is gone eight years after the first test, give or take.
        Assert.InRange(forecast.Crosses(0.5)!.Value, First.AddYears(7), First.AddYears(9).AddMonths(6));
        Assert.True(forecast.Crosses(0.1) < forecast.Crosses(0.5));
        Assert.InRange(forecast.FailsOn(First.AddYears(5)), 0, 0.02);
        var before = 0.0;
        for (var year = 5; year < 14; year++)
        {
            var chance = forecast.FailsOn(First.AddYears(year));
            Assert.InRange(chance, before, 1);
            before = chance;
        }

        Assert.True(before > 0.85);
    }

    [Fact]
    public void One_odd_reading_a_step_and_another_kit_are_not_wear()
    {
        Assert.Null(Of(1.5, 1.5, 1.6, 0.7, 1.5, 1.5).Trend);
        Assert.Null(Of(0.8, 0.9, 0.8, 1.5, 1.6, 1.5).Trend);
        Assert.Null(Of(1.6, 1.5, 1.6, 0.9, 0.8, 0.9).Trend);
        var kits = new[] { At(0, 1.5), At(1, 1.5), At(2, 1.5), At(3, 1.3, "other"), At(4, 1.3, "other") };
        Assert.Null(Forecast.Of(kits)!.Trend);
        // After a step it goes on from there.
        Assert.InRange(Of(0.8, 0.9, 0.8, 1.5, 1.6, 1.5).On(First.AddYears(6)).Middle, 1.3, 1.7);
        Assert.InRange(Of(1.5, 1.5, 1.6, 0.7, 1.5, 1.5).On(First.AddYears(6)).Middle, 1.3, 1.6);
    }

    [Fact]
    public void What_gains_never_crosses_and_order_does_not_matter()
    {
        var gains = new[] { 0.5, 0.7, 0.9, 1.1, 1.3 };
        Assert.Null(Of(gains).Crosses(0.1));
        Assert.True(Of(gains).Trend > 0);
        var readings = gains.Select((m, i) => At(i, m)).ToList();
        readings.Reverse();
        Assert.Equal(Of(gains).FailsOn(First.AddYears(6)), Forecast.Of(readings)!.FailsOn(First.AddYears(6)));
    }
}
