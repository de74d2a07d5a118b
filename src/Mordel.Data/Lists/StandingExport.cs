using System.Globalization;
using Mordel.Core.Outside;

namespace Mordel.Data.Lists;

/// <summary>The tables behind the charts of the standing.</summary>
public static class StandingExport
{
    private static readonly string[] TimeHeads = ["timed", "short minutes", "middle minutes", "long minutes"];

    /// <summary>The table of a chart; null where there is no such chart.</summary>
    /// <param name="view">What is shown.</param>
    /// <param name="chart"><c>outcomes</c>, <c>parts</c>, <c>repairs</c>, <c>months</c>, <c>testers</c> or
    /// <c>steps</c>.</param>
    public static ExportTable? Of(StandingView view, string chart)
    {
        ArgumentNullException.ThrowIfNull(view);
        return chart switch
        {
            "outcomes" => Table(
                ["what", "failed", "tests", "share", "low", "high"],
                view.Outcomes.Select(o =>
                    new[]
                    {
                        o.Name,
                        Whole(o.Failed.Part),
                        Whole(o.Failed.All),
                        Part(o.Failed.Value),
                        Part(o.Failed.Low),
                        Part(o.Failed.High),
                    }
                )
            ),
            "parts" => Lives(view.Lives),
            "repairs" => Lives(view.Repairs),
            "months" => Table(
                ["month", "made", "owed"],
                view.Months.Select(m =>
                    new[] { m.First.ToString("yyyy-MM", CultureInfo.InvariantCulture), Whole(m.Done), Whole(m.Owed) }
                )
            ),
            "testers" => Table(["tester", .. TimeHeads], view.Testers.Select(Time)),
            "steps" => Table(["step", .. TimeHeads], view.Steps.Select(Time)),
            _ => null,
        };
    }

    private static ExportTable Lives(IEnumerable<LifeLine> lines) =>
        Table(
            ["part", "year", "tested", "failed", "still hold", "low", "high"],
            from line in lines
            from p in line.Points
            select new[]
            {
                line.Name,
                Whole(p.Year),
                Whole(p.Seen),
                Whole(p.Failed),
                Part(p.Holds),
                Part(p.Low),
                Part(p.High),
            }
        );

    private static string[] Time(TimeLine line) =>
        [line.Name, Whole(line.Count), Tenths(line.Short), Tenths(line.Middle), Tenths(line.Long)];

    private static ExportTable Table(IReadOnlyList<string> heads, IEnumerable<string[]> lines) =>
        new(heads, lines.ToAsyncEnumerable());

    private static string Whole(int value) => value.ToString(CultureInfo.InvariantCulture);

    private static string Part(double value) => value.ToString("0.0000", CultureInfo.InvariantCulture);

    private static string Tenths(double value) => value.ToString("0.0#", CultureInfo.InvariantCulture);
}
