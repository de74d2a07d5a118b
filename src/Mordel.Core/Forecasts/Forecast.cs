using System.Collections.Immutable;

namespace Mordel.Core.Forecasts;

/// <summary>
/// What the next readings of an item will most likely be, from those since it was last repaired: by all the ways in
/// which that history may have come about, each by its weight. A single odd reading, a step and another kit are ways of
/// their own, so that they are not taken for wear.
/// </summary>
public sealed class Forecast
{
    /// <summary>The least number of tests that say anything of a trend.</summary>
    public const int LeastTests = 3;

    // More than anybody keeps of one assembly; the latest tell most.
    private const int MostTests = 24;

    // Before anything is read: that there is wear; that some reading is a step or a slip.
    private const double Wears = 0.5,
        StepOrSlip = 0.12;

    // From this weight on a trend is named.
    private const double Sure = 0.75;

    private const double DaysOfYear = 365.25;

    // Nobody plans further.
    private const int Horizon = 15;

    private readonly ImmutableArray<(WearModel Model, double Weight, bool Wears)> models;
    private readonly ImmutableArray<(string Kit, double Share)> kits;
    private readonly DateOnly first;

    private Forecast(IReadOnlyList<MarginReading> readings)
    {
        first = readings[0].Day;
        Last = readings[^1].Day;
        Tests = readings.Count;
        var seen = readings.Select(r => ((r.Day.DayNumber - first.DayNumber) / DaysOfYear, r.Margin, r.Kit)).ToList();
        // Who tested mostly tests mostly again; a new kit is as likely as one more test.
        kits =
        [
            .. readings.GroupBy(r => r.Kit).Select(g => (g.Key, g.Count() / (readings.Count + 1.0))),
            ("", 1 / (readings.Count + 1.0)),
        ];
        var ways = new List<(WearModel Model, double Log, bool Wears)>();
        foreach (var wears in new[] { false, true })
        {
            var prior = Math.Log(wears ? Wears : 1 - Wears);
            var odd = prior + Math.Log(StepOrSlip / ((2 * seen.Count) - 1));
            Add(new(seen, wears, 0, -1), prior + Math.Log(1 - StepOrSlip));
            for (var i = 0; i < seen.Count; i++)
            {
                Add(new(seen, wears, 0, i), odd);
                if (i > 0)
                    Add(new(seen, wears, i, -1), odd);
            }

            void Add(WearModel model, double chance) => ways.Add((model, chance + model.Likelihood, wears));
        }

        var most = ways.Max(w => w.Log);
        var sum = ways.Sum(w => Math.Exp(w.Log - most));
        models = [.. ways.Select(w => (w.Model, Math.Exp(w.Log - most) / sum, w.Wears))];
        var slope = models.Sum(m => m.Weight * m.Model.Slope);
        var worn = models.Where(m => m.Wears).Sum(m => m.Weight);
        Trend = worn >= Sure ? slope / worn : null;
    }

    /// <summary>How many tests it rests on.</summary>
    public int Tests { get; }

    /// <summary>The last of them.</summary>
    public DateOnly Last { get; }

    /// <summary>psid that are lost (negative) or gained a year; null where no trend can be told from chance.</summary>
    public double? Trend { get; }

    /// <summary>The forecast; null where there are too few tests, or none apart in time.</summary>
    /// <param name="readings">The readings since the last repair, in any order.</param>
    public static Forecast? Of(IEnumerable<MarginReading> readings)
    {
        ArgumentNullException.ThrowIfNull(readings);
        var all = readings.OrderBy(r => r.Day).TakeLast(MostTests).ToList();
        return all.Count < LeastTests || all[^1].Day.DayNumber - all[0].Day.DayNumber < 30 ? null : new(all);
    }

    /// <summary>Between what a reading on a day will be, eight times in ten.</summary>
    /// <param name="day">The day.</param>
    public MarginRange On(DateOnly day)
    {
        var parts = Parts(day);
        return new(Quantile(parts, 0.1), Quantile(parts, 0.5), Quantile(parts, 0.9));
    }

    /// <summary>The chance that a reading on a day is below its limit, 0 to 1.</summary>
    /// <param name="day">The day.</param>
    public double FailsOn(DateOnly day) => Below(Parts(day), 0);

    /// <summary>
    /// The first day from which on a reading fails with a chance; null where that is not within fifteen years, or where
    /// there is no trend that leads there.
    /// </summary>
    /// <param name="chance">The chance, 0 to 1.</param>
    public DateOnly? Crosses(double chance)
    {
        if (Trend is not < 0)
            return null;
        for (var months = 0; months <= 12 * Horizon; months++)
            if (Last.AddMonths(months) is var day && FailsOn(day) >= chance)
                return day;
        return null;
    }

    private List<(double Mean, double Deviation, double Weight)> Parts(DateOnly day)
    {
        var year = (day.DayNumber - first.DayNumber) / DaysOfYear;
        return
        [
            .. from way in models
            where way.Weight > 1e-6
            from kit in kits
            let at = way.Model.At(year, kit.Kit)
            select (at.Mean, Math.Sqrt(at.Variance), way.Weight * kit.Share),
        ];
    }

    private static double Below(List<(double Mean, double Deviation, double Weight)> parts, double value) =>
        parts.Sum(p => p.Weight * Normal((value - p.Mean) / p.Deviation)) / parts.Sum(p => p.Weight);

    // By halving: the sum of normal distributions grows everywhere.
    private static double Quantile(List<(double Mean, double Deviation, double Weight)> parts, double share)
    {
        var (low, high) = (parts.Min(p => p.Mean - (8 * p.Deviation)), parts.Max(p => p.Mean + (8 * p.Deviation)));
        for (var i = 0; i < 60; i++)
        {
            var middle = (low + high) / 2;
            if (Below(parts, middle) < share)
                low = middle;
            else
                high = middle;
        }

        return (low + high) / 2;
    }

    // The normal distribution's share below z: Abramowitz and Stegun 26.2.17, wrong by 7.5e-8 at most.
    private static double Normal(double z)
    {
        var t = 1 / (1 + (0.2316419 * Math.Abs(z)));
        var tail =
            0.3989422804014327
            * Math.Exp(-z * z / 2)
            * t
            * (0.319381530 + (t * (-0.356563782 + (t * (1.781477937 + (t * (-1.821255978 + (t * 1.330274429))))))));
        return z > 0 ? 1 - tail : tail;
    }
}
