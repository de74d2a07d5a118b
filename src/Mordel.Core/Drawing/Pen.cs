using System.Collections.Concurrent;
using System.Globalization;
using System.Net;
using System.Text;
using System.Text.RegularExpressions;
using static Mordel.Core.Drawing.Frame;

namespace Mordel.Core.Drawing;

/// <summary>
/// Writes SVG in the rig's own directions; where they lie on the sheet is said by <paramref name="at"/>.
/// </summary>
/// <param name="at">Maps along and outward to the sheet.</param>
/// <param name="frame">The frame that does; null where something else does.</param>
internal sealed partial class Pen(Func<double, double, (double X, double Y)> at, Frame? frame = null)
{
    // Bodies are drawn in few frames: where the points of a shape lie in one of them is worked out once.
    private const int MostKept = 20_000;

    private static readonly ConcurrentDictionary<
        (Frame Frame, string Path, double Along, bool Unmirrored),
        string
    > kept = new();

    private readonly StringBuilder svg = new();

    /// <summary>Whether what is written is turned a quarter to the left as a whole: letters are turned back.</summary>
    public bool IsTurned { get; set; }

    /// <summary>Where a point is on the sheet.</summary>
    public (double X, double Y) At(double along, double outward) => at(along, outward);

    /// <summary>Writes as it is.</summary>
    public Pen Raw(string text)
    {
        svg.Append(text);
        return this;
    }

    /// <summary>A path's points on the sheet; those of an unmirrored one go to the right whatever the flow.</summary>
    public string Points(string path, double along, bool unmirrored = false)
    {
        if (frame is null)
            return Laid(path, along, unmirrored);
        var key = (frame, path, along, unmirrored);
        if (kept.TryGetValue(key, out var points))
            return points;
        points = Laid(path, along, unmirrored);
        if (kept.Count < MostKept)
            kept[key] = points;
        return points;
    }

    private string Laid(string path, double along, bool unmirrored) =>
        Pair()
            .Replace(path, m =>
            {
                var (a, o) = (Number(m.Groups[1].Value), Number(m.Groups[2].Value));
                var (x, y) = unmirrored ? (At(along, 0).X + a, At(along, o).Y) : At(along + a, o);
                return $"{N(x)},{N(y)}";
            });

    /// <summary>A path.</summary>
    public void Line(string css, string points) => svg.Append($"<path class=\"{css}\" d=\"{points}\"/>");

    /// <summary>A circle.</summary>
    public void Ring(string css, double x, double y, double radius) =>
        svg.Append($"<circle class=\"{css}\" cx=\"{N(x)}\" cy=\"{N(y)}\" r=\"{N(radius)}\"/>");

    /// <summary>A rectangle by its upper left corner on the sheet.</summary>
    public void Block(string css, double x, double y, double wide, double tall, string more = "") =>
        svg.Append($"<rect class=\"{css}\"{more} x=\"{N(x)}\" y=\"{N(y)}\" width=\"{N(wide)}\" height=\"{N(tall)}\"/>");

    /// <summary>A word; letters stand upright, whatever is turned.</summary>
    public void Word(double x, double y, string text, string css, string anchor = "middle")
    {
        var back = IsTurned ? $" transform=\"rotate(90 {N(x)} {N(y)})\"" : "";
        svg.Append(
            $"<text class=\"{css}\"{back} x=\"{N(x)}\" y=\"{N(y)}\" text-anchor=\"{anchor}\">{Text(text)}</text>"
        );
    }

    /// <summary>The numbers of instructions in a lozenge.</summary>
    public void Mark(List<int> numbers, double x, double y)
    {
        var text = string.Join("·", numbers);
        var wide = 15 + 6 * (text.Length - 1);
        svg.Append(
            $"<rect class=\"mark\" x=\"{N(x - wide)}\" y=\"{N(y - 15)}\" width=\"{N(wide * 2)}\" height=\"30\" "
                + $"rx=\"15\"/><text class=\"mark-text\" x=\"{N(x)}\" y=\"{N(y + 7)}\" "
                + $"text-anchor=\"middle\">{text}</text>"
        );
    }

    /// <summary>Text as SVG holds it.</summary>
    public static string Text(string text) => WebUtility.HtmlEncode(text);

    /// <summary>What has been written.</summary>
    public override string ToString() => svg.ToString();

    private static double Number(string text) => double.Parse(text, CultureInfo.InvariantCulture);

    [GeneratedRegex(@"(-?\d+(?:\.\d+)?),(-?\d+(?:\.\d+)?)")]
    private static partial Regex Pair();
}
