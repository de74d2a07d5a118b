using Mordel.Core.Rigs;

namespace Mordel.Core.Hydraulics;

/// <summary>
/// An RP's relief valve: its diaphragm feels the supply side of CV1 against the zone, and opens in proportion as that
/// difference falls below the opening point s: q = k·min(stroke, s − (p₁ − p_zone))·√p_zone, from the zone to the air.
/// </summary>
/// <param name="zone">The zone's cell.</param>
/// <param name="supply">The cell before CV1.</param>
/// <param name="air">The air.</param>
/// <param name="opens">s, psid.</param>
/// <param name="conductance">k, in³/s/√psi per psi of opening.</param>
/// <param name="stroke">Most that it opens, psi.</param>
internal sealed class ReliefSeat(int zone, int supply, int air, double opens, double conductance, double stroke)
    : Element(Parts.Relief, zone, air)
{
    /// <summary>s, k and stroke.</summary>
    public (double Opens, double Conductance, double Stroke) Makes => (opens, conductance, stroke);

    /// <inheritdoc/>
    public override void At(Pressures at)
    {
        var below = opens - (at.P[supply] - at.P[From]);
        if (below <= 0 || at.P[From] <= 0)
        {
            (Q, ByFrom, BySensed) = (0, 0, 0);
            return;
        }

        var open = Math.Min(stroke, below);
        var root = Orifice.Root(at.P[From], out var slope);
        Q = conductance * open * root;
        var byOpen = below < stroke ? conductance * root : 0;
        ByFrom = byOpen + (conductance * open * slope);
        BySensed = -byOpen;
    }
}
