using System.Globalization;
using System.Text;
using Mordel.Core.Repairs;

namespace Mordel.Core.Drawing;

/// <summary>
/// Draws a construction family with its parts drawn apart along one axis, what comes out first on top, over the body
/// that they came from.
/// </summary>
public static class ExplodedRenderer
{
    private const double Width = 430,
        Row = 54,
        BodyTall = 66;

    /// <summary>The drawing as SVG.</summary>
    /// <param name="family">The family.</param>
    /// <param name="isIn">Whether it is put together; else it is taken apart.</param>
    /// <param name="step">The step that is made, from 0; -1 for none.</param>
    /// <param name="linkOf">Where a touched part leads; null where parts lead nowhere.</param>
    /// <param name="atHand">The part that is looked at; null where a step is made.</param>
    public static string Draw(
        BenchSheet family,
        bool isIn,
        int step,
        Func<int, string>? linkOf = null,
        string? atHand = null
    )
    {
        ArgumentNullException.ThrowIfNull(family);
        var steps = isIn ? family.In : family.Out;
        var tall = (family.Parts.Count * Row) + BodyTall;
        var svg = new StringBuilder();
        var now = step >= 0 && step < steps.Count ? steps[step] : null;
        svg.Append(
            CultureInfo.InvariantCulture,
            $"<svg class=\"exploded\" viewBox=\"0 0 {Width} {tall}\" role=\"{(linkOf is null ? "img" : "group")}\" "
        );
        svg.Append(CultureInfo.InvariantCulture, $"aria-label=\"{Pen.Text(Words(family, now))}\">");
        svg.Append(CultureInfo.InvariantCulture, $"<path class=\"axis\" d=\"M80,0 V{tall - 40}\"/>");
        for (var i = 0; i < family.Parts.Count; i++)
        {
            var part = family.Parts[i];
            var at = IndexOf(steps, part.Id);
            var state =
                part.Id == atHand ? "now look"
                : at == step ? (isIn ? "now in" : "now out")
                : isIn ? (at < step ? "there" : "gone")
                : at < step ? "gone"
                : "there";
            var link = linkOf?.Invoke(at);
            if (link is not null)
                svg.Append(CultureInfo.InvariantCulture, $"<a href=\"{Pen.Text(link)}\">");
            svg.Append(
                CultureInfo.InvariantCulture,
                $"<g class=\"bench-part {state}\" data-part=\"{part.Id}\" transform=\"translate(20 {i * Row})\">"
            );
            svg.Append("<rect class=\"touch\" x=\"0\" y=\"0\" width=\"410\" height=\"52\"/><g class=\"shape\">");
            foreach (var shape in PartShapes.Of(part.Form))
                svg.Append(CultureInfo.InvariantCulture, $"<path class=\"{shape.Css}\" d=\"{shape.Path}\"/>");
            svg.Append("</g>");
            if (at == step)
                svg.Append(
                    isIn
                        ? "<path class=\"way\" d=\"M132,4 V34 M124,24 L132,34 L140,24\"/>"
                        : "<path class=\"way\" d=\"M132,36 V6 M124,16 L132,6 L140,16\"/>"
                );
            Name(svg, part.Name);
            svg.Append("</g>");
            if (link is not null)
                svg.Append("</a>");
        }

        // The body, cut open.
        svg.Append(
            CultureInfo.InvariantCulture,
            $"<path class=\"solid\" d=\"M4,{tall - 26} H36 V{tall - 58} H52 V{tall - 26} H108 V{tall - 58} H124 "
        );
        svg.Append(
            CultureInfo.InvariantCulture,
            $"V{tall - 26} H156 V{tall - 4} H4 Z\"/><text class=\"name\" x=\"172\" y=\"{tall - 10}\">body</text></svg>"
        );
        return svg.ToString();
    }

    // A long name takes two lines.
    private static void Name(StringBuilder svg, string name)
    {
        const int Longest = 26;
        var cut = name.Length > Longest ? name.LastIndexOf(' ', Longest) : -1;
        string[] lines = cut < 0 ? [name] : [name[..cut], name[(cut + 1)..]];
        svg.Append(CultureInfo.InvariantCulture, $"<text class=\"name\" x=\"152\" y=\"{(cut < 0 ? 26 : 18)}\">");
        for (var i = 0; i < lines.Length; i++)
            svg.Append(
                CultureInfo.InvariantCulture,
                $"<tspan x=\"152\" dy=\"{(i == 0 ? 0 : 20)}\">{Pen.Text(lines[i])} </tspan>"
            );
        svg.Append("</text>");
    }

    private static int IndexOf(IReadOnlyList<BenchStep> steps, string part)
    {
        for (var i = 0; i < steps.Count; i++)
            if (steps[i].Parts.Contains(part))
                return i;
        return -1;
    }

    private static string Words(BenchSheet family, BenchStep? now) =>
        $"{family.Title}, drawn apart: {string.Join(", ", family.Parts.Select(p => p.Name))}, body."
        + (now is null ? "" : $" Now: {now.Does}.");
}
