using System.Collections.Immutable;
using System.Globalization;
using System.Net;
using System.Text;
using static Mordel.Core.Drawing.Frame;

namespace Mordel.Core.Drawing;

/// <summary>A reading of one item on one day.</summary>
/// <param name="Day">The day.</param>
/// <param name="Value">The reading, in the unit of the chart.</param>
/// <param name="Passes">Whether it passed.</param>
/// <param name="Limit">Its own limit, where that is another each time; null where one limit stands for all.</param>
public sealed record ChartPoint(DateOnly Day, double Value, bool Passes, double? Limit = null)
{
    /// <summary>Whether it was read elsewhere and brought in; drawn smaller.</summary>
    public bool IsElsewhere { get; init; }
}

/// <summary>Between what the next reading is expected, eight times in ten.</summary>
/// <param name="Day">The day of the next test.</param>
/// <param name="Low">One in ten is lower, in the unit of the chart.</param>
/// <param name="Middle">As many are lower as higher.</param>
/// <param name="High">One in ten is higher.</param>
public sealed record ChartRange(DateOnly Day, double Low, double Middle, double High);

/// <summary>The readings of one item over the years.</summary>
/// <param name="Name">What it is.</param>
/// <param name="Css">Line class, <c>line-1</c> or <c>line-2</c>; lines differ by pattern as well as colour.</param>
/// <param name="Points">By day.</param>
/// <param name="Next">The forecast; null where there is none.</param>
public sealed record ChartSeries(string Name, string Css, ImmutableArray<ChartPoint> Points, ChartRange? Next = null);

/// <summary>Draws readings against their limit over the years as SVG.</summary>
public static class HistoryChart
{
    private const double Width = 760,
        Height = 300,
        Left = 54,
        Right = 96,
        Top = 18,
        Bottom = 40;

    /// <summary>The chart, or null when there is nothing to draw.</summary>
    /// <param name="series">The series; at least one point between them.</param>
    /// <param name="limit">The limit, in the unit of the readings; null where there is none.</param>
    /// <param name="unit">Unit on the axis.</param>
    public static string? Draw(IReadOnlyList<ChartSeries> series, double? limit, string unit)
    {
        ArgumentNullException.ThrowIfNull(series);
        var points = series.SelectMany(s => s.Points).ToList();
        if (points.Count == 0)
            return null;
        var ahead = series.Select(s => s.Next).OfType<ChartRange>().ToList();
        var days = points.Select(p => p.Day).Concat(ahead.Select(a => a.Day)).ToList();
        var (first, last) = (days.Min().DayNumber - 30, days.Max().DayNumber + 30);
        var tallest = points.Select(p => Math.Max(p.Value, p.Limit ?? 0)).Concat(ahead.Select(a => a.High)).Max();
        var most = Nice(Math.Max(tallest, limit ?? 0) * 1.15);
        double X(DateOnly day) => Left + (Width - Left - Right) * (day.DayNumber - first) / Math.Max(1, last - first);
        double Y(double value) => Top + (Height - Top - Bottom) * (1 - Math.Clamp(value, 0, most) / most);
        var svg = new StringBuilder(
            $"<svg class=\"chart\" viewBox=\"0 0 {N(Width)} {N(Height)}\" role=\"img\" "
                + $"aria-label=\"{WebUtility.HtmlEncode(Words(series, limit, unit))}\">"
        );
        for (var i = 0; i <= 4; i++)
        {
            var value = most * i / 4;
            svg.Append(
                $"<path class=\"grid\" d=\"M{N(Left)},{N(Y(value))} H{N(Width - Right)}\"/><text class=\"axis\" "
                    + $"x=\"{N(Left - 8)}\" y=\"{N(Y(value) + 5)}\" "
                    + $"text-anchor=\"end\">{value.ToString("0.##", CultureInfo.InvariantCulture)}</text>"
            );
        }

        svg.Append($"<text class=\"axis\" x=\"{N(Left + 6)}\" y=\"{N(Top + 16)}\">{unit}</text>");
        for (var year = DateOnly.FromDayNumber(first).Year + 1; year <= DateOnly.FromDayNumber(last).Year; year++)
        {
            var x = X(new DateOnly(year, 1, 1));
            svg.Append(
                $"<path class=\"grid\" d=\"M{N(x)},{N(Height - Bottom)} v6\"/><text class=\"axis\" x=\"{N(x)}\" "
                    + $"y=\"{N(Height - Bottom + 22)}\" text-anchor=\"middle\">{year}</text>"
            );
        }

        if (limit is { } bound)
            svg.Append(
                $"<path class=\"limit\" d=\"M{N(Left)},{N(Y(bound))} H{N(Width - Right)}\"/><text "
                    + $"class=\"limit-text\" x=\"{N(Width - Right + 8)}\" y=\"{N(Y(bound) + 5)}\">limit "
                    + $"{bound.ToString("0.##", CultureInfo.InvariantCulture)}</text>"
            );
        foreach (var one in series.Where(s => !s.Points.IsEmpty))
            Draw(svg, one, X, Y);
        return svg.Append("</svg>").ToString();
    }

    private static void Draw(StringBuilder svg, ChartSeries series, Func<DateOnly, double> x, Func<double, double> y)
    {
        var points = series.Points.OrderBy(p => p.Day).ToList();
        svg.Append(
            $"<path class=\"series {series.Css}\" d=\"M"
                + $"{string.Join(" L", points.Select(p => $"{N(x(p.Day))},{N(y(p.Value))}"))}\"/>"
        );
        foreach (var p in points)
        {
            var (px, py) = (x(p.Day), y(p.Value));
            if (p.Limit is { } own)
                svg.Append($"<path class=\"limit own\" d=\"M{N(px - 14)},{N(y(own))} H{N(px + 14)}\"/>");
            // A pass is a filled dot, a fail a cross: shape before colour.
            svg.Append(
                p.Passes
                    ? $"<circle class=\"dot {series.Css}{(p.IsElsewhere ? " elsewhere" : "")}\" "
                        + $"cx=\"{N(px)}\" cy=\"{N(py)}\" r=\"5\"/>"
                    : $"<path class=\"cross\" d=\"M{N(px - 6)},{N(py - 6)} L{N(px + 6)},{N(py + 6)} "
                        + $"M{N(px + 6)},{N(py - 6)} L{N(px - 6)},{N(py + 6)}\"/>"
            );
        }

        var end = points[^1];
        if (series.Next is { } next)
            Ahead(svg, series.Css, next, (x(end.Day), y(end.Value)), x, y);
        svg.Append(
            $"<text class=\"series-name\" x=\"{N(x(series.Next?.Day ?? end.Day) + 10)}\" "
                + $"y=\"{N(y(series.Next?.Middle ?? end.Value) + (series.Css == "line-1" ? -4 : 14))}\">"
                + $"{WebUtility.HtmlEncode(series.Name)}</text>"
        );
    }

    // What has not been read is hollow: a dashed way to an open bracket.
    private static void Ahead(
        StringBuilder svg,
        string css,
        ChartRange next,
        (double X, double Y) from,
        Func<DateOnly, double> x,
        Func<double, double> y
    )
    {
        var (at, low, middle, high) = (x(next.Day), y(next.Low), y(next.Middle), y(next.High));
        svg.Append(
            $"<path class=\"ahead {css}\" d=\"M{N(from.X)},{N(from.Y)} L{N(at)},{N(middle)}\"/>"
                + $"<path class=\"range {css}\" d=\"M{N(at - 6)},{N(low)} h12 M{N(at)},{N(low)} V{N(high)} "
                + $"M{N(at - 6)},{N(high)} h12\"/>"
        );
    }

    private static string Words(IReadOnlyList<ChartSeries> series, double? limit, string unit) =>
        string.Join(
            " ",
            series
                .Where(s => !s.Points.IsEmpty)
                .Select(s =>
                    $"{s.Name}: {string.Join(", ", s.Points.OrderBy(p => p.Day).Select(Words))}"
                    + (s.Next is { } n ? $", next most likely {Figure(n.Low)} to {Figure(n.High)}." : ".")
                )
        ) + (limit is { } l ? $" Limit {Figure(l)} {unit}." : "");

    private static string Words(ChartPoint point) =>
        $"{Figure(point.Value)} in {point.Day.Year}{(point.Passes ? "" : " (fails)")}"
        + (point.IsElsewhere ? ", brought in" : "")
        + (point.Limit is { } own ? $", limit {Figure(own)}" : "");

    private static string Figure(double value) => value.ToString("0.##", CultureInfo.InvariantCulture);

    private static double Nice(double value)
    {
        var size = Math.Pow(10, Math.Floor(Math.Log10(Math.Max(value, 0.1))));
        return new[] { 1, 2, 4, 5, 8, 10 }.Select(n => n * size).First(n => n >= value);
    }
}
