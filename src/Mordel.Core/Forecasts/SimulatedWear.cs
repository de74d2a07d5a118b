using System.Collections.Immutable;
using Mordel.Core.Collections;

namespace Mordel.Core.Forecasts;

/// <summary>A history of readings whose truth is known, and the reading after it. For benches and tests.</summary>
/// <param name="Readings">The readings.</param>
/// <param name="Next">The one that a forecast must foretell.</param>
/// <param name="Slope">What is truly lost a year, psid; 0 for a stable history.</param>
public sealed record SimulatedWear(ImmutableArray<MarginReading> Readings, MarginReading Next, double Slope)
{
    /// <summary>
    /// Draws one: a spring that wears or does not; seasons; kits that are off and one that drifts; hands and eyes; now
    /// and then a step that nobody wrote down, or a slip. Read to the tenth.
    /// </summary>
    /// <param name="seed">Decides all of it.</param>
    /// <param name="wears">Whether the spring wears.</param>
    /// <param name="tests">How many readings.</param>
    public static SimulatedWear Draw(int seed, bool wears, int tests)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(tests, 1);
        var lot = new SeededRandom(seed, "wear", 1);
        var (level, slope) = (lot.Between(0.6, 3), wears ? -lot.Between(0.05, 0.3) : 0);
        var (season, phase) = (lot.Between(0.02, 0.08), lot.Between(0, 1));
        var kits = Enumerable.Range(0, 3).Select(_ => Spread(lot, 0.08)).ToArray();
        var drift = lot.Between(-0.06, 0.06);
        var step = lot.Between(0, 1) < 0.06 ? lot.Next(tests) : -1;
        var slip = lot.Between(0, 1) < 0.06 ? lot.Next(tests) : -1;
        var (jump, off) = (Odd(lot), Odd(lot));
        var first = new DateOnly(2020, 1, 15).AddDays(lot.Next(300));
        MarginReading Read(int at)
        {
            var day = first.AddDays((365 * at) + lot.Next(60) - 30);
            var year = (day.DayNumber - first.DayNumber) / 365.25;
            var kit = lot.Between(0, 1) < 0.6 ? 0 : lot.Next(3);
            var value =
                level
                + (slope * year)
                + (season * Math.Cos(2 * Math.PI * (year - phase)))
                + kits[kit]
                + (kit == 2 ? drift * year : 0)
                + (step > 0 && at >= step ? jump : 0)
                + (at == slip ? off : 0)
                + Spread(lot, 0.08);
            return new(day, Math.Round(value, 1), $"kit {kit}");
        }

        var readings = Enumerable.Range(0, tests).Select(Read).ToImmutableArray();
        return new(readings, Read(tests), slope);
    }

    private static double Odd(SeededRandom lot) => lot.Between(0.4, 1) * (lot.Between(0, 1) < 0.5 ? -1 : 1);

    // Twelve lots less six: near enough to a normal one.
    private static double Spread(SeededRandom lot, double deviation)
    {
        var sum = -6.0;
        for (var i = 0; i < 12; i++)
            sum += lot.Between(0, 1);
        return sum * deviation;
    }
}
