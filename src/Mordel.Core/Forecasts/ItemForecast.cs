using System.Globalization;
using Mordel.Core.Catalogue;
using Mordel.Core.Reports;
using Mordel.Core.Runs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Forecasts;

/// <summary>The forecast of one item of an assembly, in the unit it was last read in.</summary>
/// <param name="Item">The item.</param>
/// <param name="Unit">The unit.</param>
/// <param name="Limit">The limit that the last reading was judged by, in the unit.</param>
/// <param name="Forecast">The forecast, of margins in psid.</param>
public sealed record ItemForecast(TestItem Item, DifferentialUnit Unit, decimal Limit, Forecast Forecast)
{
    // Below and above: "under 1 %", "over 99 %".
    private const double Little = 0.01;

    /// <summary>
    /// The forecast from an assembly's signed tests; null where there are fewer than three since the item last failed
    /// or a part was put right, in a run or by a repair: what failed is taken to have been put right before it passed
    /// again.
    /// </summary>
    /// <param name="runs">The tests, in any order.</param>
    /// <param name="item">The item.</param>
    public static ItemForecast? Of(IEnumerable<SealedRun> runs, TestItem item)
    {
        ArgumentNullException.ThrowIfNull(runs);
        var readings = new List<MarginReading>();
        (DifferentialUnit Unit, decimal Limit)? last = null;
        foreach (var run in runs.OrderBy(r => r.Signing.At))
        {
            var judged = run.Verdict.Items.FirstOrDefault(i => i.Item == item);
            if (
                judged?.Result == ItemResult.Fail
                || run.Setup.Repair is not null
                || run.Log.Any(e => e.Entry.Body is EntryBody.Mended)
            )
                readings.Clear();
            if (
                judged
                is { Result: not ItemResult.Fail }
                    and { Value: ItemValue.Measured measured, Limit: { } limit, Margin: { } margin }
            )
            {
                var unit = measured.Reading.Value.Unit;
                readings.Add(
                    new(
                        DateOnly.FromDateTime(run.Signing.At.LocalDateTime),
                        (double)margin / Per(unit),
                        run.Setup.Kit.Id.ToString()
                    )
                );
                last = (unit, limit);
            }
        }

        return last is var (of, governs) && Forecast.Of(readings) is { } forecast
            ? new(item, of, governs, forecast)
            : null;
    }

    /// <summary>Between what the reading will be on a day, in the unit.</summary>
    /// <param name="day">The day.</param>
    public MarginRange On(DateOnly day)
    {
        var margin = Forecast.On(day);
        return new(Read(margin.Low), Read(margin.Middle), Read(margin.High));
    }

    /// <summary>Whether it fails at a test on a day with a chance of one in four or more.</summary>
    /// <param name="day">The day.</param>
    public bool IsLikelyToFail(DateOnly day) => Forecast.FailsOn(day) >= LikelyToFail.Percent / 100.0;

    /// <summary>What it says, in sentences.</summary>
    /// <param name="next">The day of the next test.</param>
    public string Says(DateOnly next)
    {
        var range = On(next);
        var trend = Forecast.Trend is { } slope
            ? $"{(slope < 0 ? "Loses" : "Gains")} about {Rate(Math.Abs(slope))} a year."
            : $"No trend in {Forecast.Tests} tests.";
        var expected =
            $"At the next test {Figure(range.Middle)} {Unit.Symbol()}, eight times in ten between "
            + $"{Figure(range.Low)} and {Figure(range.High)}; chance that it fails: {Percent(Forecast.FailsOn(next))}.";
        // What has come to that by the next test is said by its chance.
        DateOnly? Later(double chance) => Forecast.Crosses(chance) is { } day && day > next ? day : null;
        var crosses = (Later(0.1), Later(0.5)) switch
        {
            ({ } early, { } half) => $" One in ten fails from {Month(early)} on, every second from {Month(half)}.",
            ({ } early, null) => $" One in ten fails from {Month(early)} on.",
            (null, { } half) => $" Every second fails from {Month(half)} on.",
            _ => "",
        };
        return $"{trend} {expected}{crosses}";
    }

    private double PerPsi => Per(Unit);

    private static double Per(DifferentialUnit unit) =>
        unit == DifferentialUnit.Psid ? 1 : (double)DifferentialUnits.KpaPerPsi;

    private double Read(double margin) => Math.Max(0, (double)Limit + (margin * PerPsi));

    private string Figure(double value) =>
        value.ToString(Unit == DifferentialUnit.Psid ? "0.0" : "0", CultureInfo.InvariantCulture);

    private string Rate(double psid) =>
        (psid * PerPsi).ToString(Unit == DifferentialUnit.Psid ? "0.00" : "0.0", CultureInfo.InvariantCulture)
        + $" {Unit.Symbol()}";

    private static string Percent(double chance) =>
        chance < Little ? "less than 1 %"
        : chance > 1 - Little ? "more than 99 %"
        : string.Create(CultureInfo.InvariantCulture, $"{100 * chance:0} %");

    private static string Month(DateOnly day) => day.ToString("MMMM yyyy", CultureInfo.InvariantCulture);
}
