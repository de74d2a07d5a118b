using System.Globalization;
using Mordel.Core.Rigs;

namespace Mordel.Core.Drawing;

/// <summary>
/// Maps the rig's own directions (along the flow, and out toward the cocks) to the sheet, so that one drawing serves an
/// assembly that lies left to right or right to left, or stands upward or downward.
/// </summary>
/// <param name="Flow">Which way the water runs.</param>
/// <param name="Length">Length of the assembly along the flow.</param>
public sealed record Frame(FlowDirection Flow, double Length)
{
    /// <summary>Room for the kit, out from the pipe.</summary>
    public const double Reach = 384;

    /// <summary>Room for labels on the other side of the pipe.</summary>
    public const double Under = 88;

    /// <summary>Whether the pipe lies.</summary>
    public bool Lies => Flow is FlowDirection.LeftToRight or FlowDirection.RightToLeft;

    /// <summary>Width of the sheet.</summary>
    public double Width => Lies ? Length : Under + Reach + 70;

    /// <summary>Height of the sheet.</summary>
    public double Height => Lies ? Reach + Under : Length;

    /// <summary>A point: so far along the flow, so far out.</summary>
    public (double X, double Y) At(double along, double outward) =>
        Flow switch
        {
            FlowDirection.LeftToRight => (along, Reach - outward),
            FlowDirection.RightToLeft => (Length - along, Reach - outward),
            FlowDirection.Upward => (Under + outward, Length - along),
            _ => (Under + outward, along),
        };

    /// <summary>A point in path notation.</summary>
    public string P(double along, double outward)
    {
        var (x, y) = At(along, outward);
        return $"{N(x)},{N(y)}";
    }

    /// <summary>A number in SVG notation.</summary>
    public static string N(double value)
    {
        var rounded = Math.Round(value, 1);
        // Drawings are made of few numbers: those of a sheet, in tenths, are written once. Less than nothing that
        // rounds to nothing keeps its sign, as it is written else.
        var tenths = (int)Math.Round(rounded * 10);
        return rounded is > 0 and < Sheet && tenths / 10.0 == rounded
            ? written[tenths] ??= rounded.ToString(CultureInfo.InvariantCulture)
            : rounded.ToString(CultureInfo.InvariantCulture);
    }

    private const int Sheet = 1000;

    private static readonly string?[] written = new string?[Sheet * 10];
}
