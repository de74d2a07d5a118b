using Mordel.Core.Catalogue;
using Mordel.Core.Drawing;
using Mordel.Core.Forecasts;
using Mordel.Core.Register;
using Mordel.Core.Reports;
using Mordel.Core.Rules;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Data.Lists;

namespace Mordel.Web.Pages.Register;

/// <summary>
/// The two readings of an assembly that tell most over the years: what was sealed here, and, smaller, what was brought
/// in from elsewhere.
/// </summary>
/// <param name="type">What is charted of the type.</param>
/// <param name="runs">The sealed runs that hold.</param>
/// <param name="brought">The tests that were brought in.</param>
/// <param name="rules">The rules of today; give the limit where nothing was sealed yet.</param>
public sealed class PassportChart(
    TypeFacts type,
    IReadOnlyCollection<SealedRun> runs,
    IReadOnlyCollection<BroughtTest> brought,
    SchoolRules? rules
)
{
    private readonly (double? Value, string Unit) limit = LimitOf(type, runs, rules);

    /// <summary>The chart; null where nothing was ever read.</summary>
    /// <param name="forecasts">What the next readings will most likely be, in the order of the columns.</param>
    /// <param name="next">When the next test is made.</param>
    public string? Draw(IReadOnlyList<ItemForecast?> forecasts, DateOnly next)
    {
        ArgumentNullException.ThrowIfNull(forecasts);
        return HistoryChart.Draw(
            [
                .. type.Charted.Select(
                    (c, i) =>
                        new ChartSeries(
                            c.Name,
                            $"line-{i + 1}",
                            [.. Sealed(c.Item).Concat(Elsewhere(c.Item)).OrderBy(p => p.Day)],
                            forecasts[i]?.On(next) is { } range ? new(next, range.Low, range.Middle, range.High) : null
                        )
                ),
            ],
            limit.Value,
            limit.Unit
        );
    }

    // An RP's CV1 is judged against its relief, each time another; the limit that is drawn across stands by itself.
    private static (double?, string) LimitOf(TypeFacts type, IReadOnlyCollection<SealedRun> runs, SchoolRules? rules)
    {
        var item = type.ChartedLimit;
        var judged = runs.SelectMany(r => r.Verdict.Items).FirstOrDefault(i => i.Item == item && i.Limit is not null);
        if (judged is not null)
            return ((double?)judged.Limit, judged.Unit ?? "psid");
        var asked = rules?.For(item)?.Criteria.OfType<Criterion.AtLeast>().FirstOrDefault();
        return asked is null ? (null, "psid") : ((double)asked.Limit.Amount, asked.Limit.Unit.Symbol());
    }

    private IEnumerable<ChartPoint> Sealed(TestItem item) =>
        from run in runs
        from result in run.Verdict.Items
        let reading = (result.Value as ItemValue.Measured)?.Reading.Value
        where result.Item == item && reading is not null
        select new ChartPoint(
            DateOnly.FromDateTime(run.Signing.At.LocalDateTime),
            (double)reading.Value.Amount,
            result.Result != ItemResult.Fail,
            item != type.ChartedLimit && result.Limit is { } own ? (double)own : null
        );

    private IEnumerable<ChartPoint> Elsewhere(TestItem item)
    {
        foreach (var (test, said) in brought)
            if (Reading(said, item) is { } read && read.Unit == limit.Unit)
                yield return new(
                    test.Day,
                    (double)read.Value,
                    test.Outcome != "fail" || (limit.Value is { } least && (double)read.Value >= least)
                )
                {
                    IsElsewhere = true,
                };
    }

    private static (decimal Value, string Unit)? Reading(IReadOnlyDictionary<string, string> said, TestItem item) =>
        TestFields.Reading(said.GetValueOrDefault(item.Id)) is var (value, unit) ? (value, unit ?? "psid") : null;
}
