using System.Diagnostics;
using Mordel.Core.Forecasts;

namespace Mordel.Bench;

/// <summary>
/// Histories with a known truth: how often the range that a forecast states for the next reading holds, how often it
/// names a trend where there is one and where there is none.
/// </summary>
internal static class ForecastBench
{
    public static int Run(int count)
    {
        Console.WriteLine(
            "tests | range holds | to half a tenth | width, psid | trend, worn | trend, stable | the right way"
        );
        foreach (var tests in new[] { 3, 4, 5, 6, 8, 10 })
        {
            var (held, width, named, claimed, right) = (0, 0.0, 0, 0, 0);
            var inside = 0;
            for (var i = 0; i < count; i++)
            {
                var wears = i % 2 == 0;
                var history = SimulatedWear.Draw(i, wears, tests);
                var forecast = Forecast.Of(history.Readings)!;
                var range = forecast.On(history.Next.Day);
                // What is read to the tenth stands for half a tenth either side.
                held += history.Next.Margin >= range.Low - 0.05 && history.Next.Margin <= range.High + 0.05 ? 1 : 0;
                inside += history.Next.Margin >= range.Low && history.Next.Margin <= range.High ? 1 : 0;
                width += range.High - range.Low;
                if (wears)
                {
                    named += forecast.Trend is null ? 0 : 1;
                    right += forecast.Trend is < 0 ? 1 : 0;
                }
                else
                    claimed += forecast.Trend is null ? 0 : 1;
            }

            Console.WriteLine(
                $"{tests, 5} | {100.0 * inside / count, 9:0.0} % | {100.0 * held / count, 13:0.0} % | "
                    + $"{width / count, 11:0.00} | "
                    + $"{200.0 * named / count, 8:0.0} % | {200.0 * claimed / count, 11:0.0} % | "
                    + $"{100.0 * right / Math.Max(1, named), 0:0.0} %"
            );
        }

        var some = SimulatedWear.Draw(1, true, 10).Readings;
        var clock = Stopwatch.StartNew();
        for (var i = 0; i < 200; i++)
            _ = Forecast.Of(some)!.FailsOn(new(2031, 1, 1));
        Console.WriteLine($"a forecast of ten tests: {clock.Elapsed.TotalMilliseconds / 200:0.00} ms");
        return 0;
    }
}
