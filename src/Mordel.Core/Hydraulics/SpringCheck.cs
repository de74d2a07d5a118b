using Mordel.Core.Rigs;

namespace Mordel.Core.Hydraulics;

/// <summary>
/// A spring-loaded check: shut until upstream less downstream exceeds its spring, then lifted in proportion up to its
/// full lift: q = k·min(1, (Δp − s)/lift)·√Δp. With no flow a train of checks keeps each spring's differential. A leak
/// is an orifice beside it.
/// </summary>
/// <param name="part">Which check.</param>
/// <param name="from">Upstream cell.</param>
/// <param name="to">Downstream cell.</param>
/// <param name="spring">s, psid.</param>
/// <param name="conductance">k fully lifted, in³/s/√psi.</param>
/// <param name="lift">psi over the spring for the full lift.</param>
internal sealed class SpringCheck(PartId part, int from, int to, double spring, double conductance, double lift)
    : Element(part, from, to)
{
    /// <summary>s, k and lift.</summary>
    public (double Spring, double Conductance, double Lift) Makes => (spring, conductance, lift);

    /// <inheritdoc/>
    public override void At(Pressures at)
    {
        var x = at.Seen[From] - at.Seen[To];
        var over = (x - spring) / lift;
        if (over <= 0)
        {
            (Q, ByFrom, ByTo) = (0, 0, 0);
            return;
        }

        var open = Math.Min(1, over);
        var root = Orifice.Root(x, out var slope);
        Q = conductance * open * root;
        var by = conductance * ((over < 1 ? root / lift : 0) + (open * slope));
        ByFrom = by * at.Slope[From];
        ByTo = -by * at.Slope[To];
    }
}
