using System.Text;
using Microsoft.AspNetCore.Html;
using Mordel.Core.Standing;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Standing;

/// <summary>Draws what the standing says.</summary>
public static class StandingDrawing
{
    // A bar in a line of a table.
    private const int BarWide = 300,
        BarHigh = 22;

    // A chart of lives.
    private const int LifeWide = 420,
        LifeHigh = 190,
        LifeLeft = 52,
        LifeBottom = 28,
        LifeRight = 66,
        LifeTop = 10;

    // A chart of months.
    private const int MonthWide = 44,
        MonthHigh = 130,
        MonthTop = 18;

    /// <summary>A share as a bar, with the range in which it may truly lie.</summary>
    /// <param name="share">The share.</param>
    /// <param name="most">What the full width stands for, 0 to 1.</param>
    /// <param name="middle">The share of all, drawn across; 0 to 1.</param>
    public static IHtmlContent Bar(Share share, double most, double middle)
    {
        var svg = new SvgText();
        svg.Add($"<svg viewBox=\"0 0 {BarWide} {BarHigh}\" class=\"bar\" aria-hidden=\"true\">");
        double X(double value) => BarWide * value / most;
        svg.Add($"<rect class=\"part\" x=\"0\" y=\"4\" width=\"{X(share.Value):0.#}\" height=\"{BarHigh - 8}\"/>");
        svg.Add($"<path class=\"whisker\" d=\"M{X(share.Low):0.#} {BarHigh / 2}H{X(Math.Min(most, share.High)):0.#}");
        svg.Add($"M{X(share.Low):0.#} 7V{BarHigh - 7}M{X(Math.Min(most, share.High)):0.#} 7V{BarHigh - 7}\"/>");
        svg.Add($"<path class=\"middle\" d=\"M{X(middle):0.#} 0V{BarHigh}\"/>");
        return svg.Html();
    }

    /// <summary>A duration: from a tenth to nine tenths, and the middle.</summary>
    /// <param name="time">The duration.</param>
    /// <param name="most">What the full width stands for, minutes.</param>
    public static IHtmlContent Range(TimeLine time, double most)
    {
        ArgumentNullException.ThrowIfNull(time);
        double X(double minutes) => BarWide * Math.Min(1, minutes / most);
        var svg = new SvgText();
        svg.Add($"<svg viewBox=\"0 0 {BarWide} {BarHigh}\" class=\"bar\" aria-hidden=\"true\">");
        svg.Add($"<rect class=\"span\" x=\"{X(time.Short):0.#}\" y=\"6\" ");
        svg.Add($"width=\"{Math.Max(2, X(time.Long) - X(time.Short)):0.#}\" height=\"{BarHigh - 12}\"/>");
        svg.Add($"<path class=\"half\" d=\"M{X(time.Middle):0.#} 2V{BarHigh - 2}\"/>");
        return svg.Html();
    }

    /// <summary>How long parts hold: a line and its range for each kind.</summary>
    /// <param name="lines">What is drawn.</param>
    /// <param name="years">The age at the right edge.</param>
    /// <param name="least">The share at the bottom, 0 to 1.</param>
    /// <param name="about">What it shows, in words.</param>
    public static IHtmlContent Lives(IReadOnlyList<LifeLine> lines, int years, double least, string about)
    {
        ArgumentNullException.ThrowIfNull(lines);
        var (right, ground) = (LifeWide - LifeRight, LifeHigh - LifeBottom);
        double X(double year) => LifeLeft + ((right - LifeLeft) * year / Math.Max(1, years));
        double Y(double share) => LifeTop + ((ground - LifeTop) * (1 - share) / (1 - least));
        var svg = new SvgText();
        svg.Add($"<svg viewBox=\"0 0 {LifeWide} {LifeHigh}\" class=\"life\" role=\"img\" ");
        svg.Add($"aria-label=\"{SvgText.Words(about)}\">");
        for (var i = 0; i <= 2; i++)
        {
            var share = least + ((1 - least) * i / 2);
            svg.Add($"<path class=\"grid\" d=\"M{LifeLeft} {Y(share):0.#}H{right}\"/><text class=\"axis\" ");
            svg.Add($"x=\"{LifeLeft - 8}\" y=\"{Y(share) + 5:0.#}\" text-anchor=\"end\">{100 * share:0} %</text>");
        }

        var every = years <= 6 ? 1 : 5;
        for (var year = 0; year <= years; year += every)
        {
            svg.Add($"<text class=\"axis\" x=\"{X(year):0.#}\" y=\"{ground + 20}\" text-anchor=\"middle\">{year}");
            svg.Add($"</text>");
        }

        var lowest = double.NegativeInfinity;
        for (var n = 0; n < lines.Count; n++)
        {
            var points = lines[n].Points.Where(p => p.Year <= years).ToList();
            if (points.Count == 0)
                continue;
            svg.Add($"<path class=\"range line-{n + 1}\" d=\"{Steps(p => p.High)}");
            for (var i = points.Count - 1; i >= 0; i--)
                svg.Add($"V{Y(Math.Max(least, points[i].Low)):0.#}H{X(i == 0 ? 0 : points[i - 1].Year):0.#}");
            svg.Add($"Z\"/><path class=\"series line-{n + 1}\" d=\"{Steps(p => p.Holds)}\"/>");
            // Names stand below one another where their lines end together.
            var y = Math.Max(lowest + 17, Y(Math.Max(least, points[^1].Holds)) + 5);
            lowest = y;
            svg.Add($"<text class=\"name\" x=\"{X(points[^1].Year) + 6:0.#}\" y=\"{y:0.#}\">");
            svg.Add($"{SvgText.Words(lines[n].Name)}</text>");

            // Held until the year's test, then down: nobody looked in between.
            string Steps(Func<LifePoint, double> of)
            {
                var path = new StringBuilder(SvgText.Invariant($"M{X(0):0.#} {Y(1):0.#}"));
                foreach (var point in points)
                    path.Append(SvgText.Invariant($"H{X(point.Year):0.#}V{Y(Math.Max(least, of(point))):0.#}"));
                return path.ToString();
            }
        }

        return svg.Html();
    }

    /// <summary>Work done and owed, month by month.</summary>
    public static IHtmlContent Months(IReadOnlyList<MonthLine> months)
    {
        ArgumentNullException.ThrowIfNull(months);
        var most = Math.Max(1, months.Max(m => m.Done + m.Owed));
        var ground = MonthTop + MonthHigh;
        var svg = new SvgText();
        svg.Add($"<svg viewBox=\"0 0 {months.Count * MonthWide} {ground + 40}\" class=\"months\" role=\"img\" ");
        svg.Add($"aria-label=\"Tests made in each of the last months, and owed in each of the next\">");
        svg.Add($"<path class=\"ground\" d=\"M0 {ground}H{months.Count * MonthWide}\"/>");
        for (var i = 0; i < months.Count; i++)
        {
            var (x, month) = (i * MonthWide, months[i]);
            var (done, owed) = ((double)MonthHigh * month.Done / most, (double)MonthHigh * month.Owed / most);
            var (middle, top) = (x + (MonthWide / 2), ground - done - owed);
            if (month.Done > 0)
                svg.Add($"<path class=\"done\" d=\"M{x + 5} {ground}V{ground - done:0.#}h34V{ground}Z\"/>");
            if (month.Owed > 0)
                svg.Add($"<path class=\"owed\" d=\"M{x + 6} {ground - done:0.#}V{top:0.#}h32v{owed:0.#}Z\"/>");
            if (month.Done + month.Owed > 0)
                Words("count", top - 5, $"{month.Done + month.Owed}");
            Words("axis", ground + 17, $"{month.First:MMM}");
            if (i == 0 || month.First.Month == 1)
                Words("axis", ground + 34, $"{month.First:yyyy}");

            void Words(string kind, double y, FormattableString says)
            {
                svg.Add($"<text class=\"{kind}\" x=\"{middle}\" y=\"{y:0.#}\" text-anchor=\"middle\">");
                svg.Add(says);
                svg.Add($"</text>");
            }
        }

        return svg.Html();
    }
}
