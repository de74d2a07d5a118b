using Microsoft.AspNetCore.Html;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.KitsAndPeople;

/// <summary>Draws how a kit was seen to read over the years.</summary>
public static class KitDrawing
{
    private const int Wide = 440,
        High = 220,
        Left = 52,
        Right = 426,
        Top = 10,
        Ground = 188;

    /// <summary>What was seen, day by day, against what the gauge promises.</summary>
    /// <param name="view">The kit.</param>
    /// <param name="today">The right edge.</param>
    /// <param name="about">What it shows, in words.</param>
    public static IHtmlContent Drift(KitView view, DateOnly today, string about)
    {
        ArgumentNullException.ThrowIfNull(view);
        var (points, accuracy) = (view.Points, view.Kit.Accuracy);
        var first = points.Select(p => p.Day).Append(today.AddYears(-1)).Min();
        var most = Math.Max(accuracy * 1.6m, 1.15m * points.Max(p => Math.Abs(p.High ?? 0)));
        var days = Math.Max(1, today.DayNumber - first.DayNumber);
        double X(DateOnly day) => Left + ((Right - Left) * (day.DayNumber - first.DayNumber) / (double)days);
        double Y(decimal high) => Top + ((Ground - Top) * (double)(most - high) / (double)(2 * most));
        var svg = new SvgText();
        svg.Add($"<svg viewBox=\"0 0 {Wide} {High}\" class=\"drift\" role=\"img\" ");
        svg.Add($"aria-label=\"{SvgText.Words(about)}\">");
        svg.Add($"<rect class=\"band\" x=\"{Left}\" y=\"{Y(accuracy):0.#}\" width=\"{Right - Left}\" ");
        svg.Add($"height=\"{Y(-accuracy) - Y(accuracy):0.#}\"/>");
        foreach (var (value, says) in new[] { (accuracy, "+"), (0m, ""), (-accuracy, "−") })
        {
            svg.Add($"<path class=\"{(value == 0m ? "zero" : "grid")}\" d=\"M{Left} {Y(value):0.#}H{Right}\"/>");
            svg.Add($"<text class=\"axis\" x=\"{Left - 8}\" y=\"{Y(value) + 5:0.#}\" text-anchor=\"end\">");
            svg.Add($"{SvgText.Words(says)}{Math.Abs(value):0.##}</text>");
        }

        for (var year = first.Year + 1; year <= today.Year; year++)
        {
            var x = X(new(year, 1, 1));
            svg.Add($"<path class=\"tick\" d=\"M{x:0.#} {Ground}v8\"/>");
            svg.Add($"<text class=\"axis\" x=\"{x:0.#}\" y=\"{Ground + 26}\" text-anchor=\"middle\">{year}</text>");
        }

        foreach (var point in points)
        {
            var x = X(point.Day);
            // What was found there is before; after it the gauge is set.
            if (point.Kind == KitPointKind.Calibration)
                svg.Add($"<path class=\"set\" d=\"M{x:0.#} {Top}V{Ground}\"/>");
            if (point.High is not { } high)
                continue;
            var y = Y(high);
            svg.Add($"<path class=\"seen seen-{SvgText.Words(Name(point.Kind))}\" d=\"{Mark(point.Kind, x, y)}\">");
            svg.Add($"<title>{SvgText.Words($"{point.Day:d MMM yyyy}, {point.Says}: {Said(high)}")}</title></path>");
        }

        return svg.Html();
    }

    /// <summary>The mark of a kind, for the words beside the drawing.</summary>
    public static IHtmlContent Key(KitPointKind kind)
    {
        var svg = new SvgText();
        svg.Add($"<svg viewBox=\"0 0 22 22\" class=\"drift key\" aria-hidden=\"true\">");
        svg.Add($"<path class=\"seen seen-{SvgText.Words(Name(kind))}\" d=\"{Mark(kind, 11, 11)}\"/>");
        return svg.Html();
    }

    /// <summary>By how much, and to which side.</summary>
    /// <param name="high">By how much it reads high; negative for low.</param>
    /// <param name="unit">The unit; null where it stands elsewhere.</param>
    public static string Said(decimal high, string? unit = null) =>
        high == 0
            ? "right"
            : SvgText.Invariant(
                $"{Math.Abs(high):0.###}{(unit is null ? "" : $" {unit}")} {(high > 0 ? "high" : "low")}"
            );

    /// <summary>How it read: beside another kit it read higher, not high.</summary>
    public static string Read(KitPoint point, string unit)
    {
        ArgumentNullException.ThrowIfNull(point);
        var high = point.High ?? 0m;
        if (point.Kind != KitPointKind.Comparison)
            return Said(high, unit);
        return high == 0
            ? "the same"
            : SvgText.Invariant($"{Math.Abs(high):0.###} {unit} {(high > 0 ? "higher" : "lower")}");
    }

    private static string Name(KitPointKind kind) =>
        kind switch
        {
            KitPointKind.Calibration => "calibration",
            KitPointKind.Comparison => "comparison",
            _ => "zero",
        };

    // A square, a circle, a triangle: told apart without colour.
    private static string Mark(KitPointKind kind, double x, double y) =>
        kind switch
        {
            KitPointKind.Calibration => SvgText.Invariant($"M{x - 6:0.#} {y - 6:0.#}h12v12h-12Z"),
            KitPointKind.Comparison => SvgText.Invariant($"M{x - 7:0.#} {y:0.#}a7 7 0 1 0 14 0a7 7 0 1 0 -14 0Z"),
            _ => SvgText.Invariant($"M{x:0.#} {y - 7:0.#}l7 12h-14Z"),
        };
}
