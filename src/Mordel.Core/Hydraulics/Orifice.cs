using Mordel.Core.Rigs;

namespace Mordel.Core.Hydraulics;

/// <summary>
/// Turbulent flow through an opening: q = k·Δp/(Δp² + ε²)^¼, which is k·√Δp but for a hair's breadth around zero, where
/// it is straight. Valve, cock, needle, bleed, hose, leak, the main's resistance.
/// </summary>
/// <param name="part">Whose water it is.</param>
/// <param name="from">From cell.</param>
/// <param name="to">To cell.</param>
/// <param name="conductance">k, in³/s/√psi.</param>
/// <param name="head">What the far end stands above the near one, psi; or the pressure at a boundary.</param>
/// <param name="outOnly">Whether only water leaves: what would come in is air.</param>
/// <param name="seesDrained">Whether a drained chamber counts as standing at atmosphere.</param>
internal sealed class Orifice(
    PartId part,
    int from,
    int to,
    double conductance,
    double head = 0,
    bool outOnly = false,
    bool seesDrained = false
) : Element(part, from, to)
{
    // psi; the smoothing's width. Well below what a gauge shows, well above what rounding makes.
    private const double Epsilon = 1e-3;

    // The root that was taken last, its derivative, and of what.
    private double root,
        slope,
        rootOf = double.NaN;

    /// <summary>Whether only water leaves.</summary>
    public bool OutOnly => outOnly;

    /// <summary>k, in³/s/√psi.</summary>
    public double Conductance = conductance;

    /// <summary>Head or boundary pressure, psi.</summary>
    public double Head = head;

    /// <inheritdoc/>
    public override void At(Pressures at)
    {
        var sees = seesDrained ? at.Seen : at.P;
        var x = sees[From] - sees[To] - Head;
        if (Conductance == 0 || (outOnly && x <= 0))
        {
            (Q, ByFrom, ByTo) = (0, 0, 0);
            return;
        }

        // The second stage of a step begins where the first ended, and a step where the last did.
        if (x != rootOf)
            (root, rootOf) = (Root(x, out slope), x);
        Q = Conductance * root;
        ByFrom = Conductance * slope;
        ByTo = -ByFrom;
        if (!seesDrained)
            return;
        ByFrom *= at.Slope[From];
        ByTo *= at.Slope[To];
    }

    /// <summary>The smoothed, signed square root and its derivative.</summary>
    public static double Root(double x, out double slope)
    {
        var square = x * x;
        var inverse = 1 / Math.Sqrt(Math.Sqrt(square + (Epsilon * Epsilon)));
        var fourth = inverse * inverse * inverse * inverse;
        slope = (1 - (0.5 * square * fourth)) * inverse;
        return x * inverse;
    }
}
