using Mordel.Core.Rigs;

namespace Mordel.Core.Hydraulics;

/// <summary>
/// The pressures that elements see, psi at the body's centre line (the kit's at the gauge's height). The last entry is
/// the air, 0.
/// </summary>
internal sealed class Pressures(int cells)
{
    /// <summary>As they are.</summary>
    public readonly double[] P = new double[cells + 1];

    /// <summary>
    /// As a check or a hose sees them: a chamber that has drained stands at atmosphere, whatever pulls at its outlet.
    /// </summary>
    public readonly double[] Seen = new double[cells + 1];

    /// <summary>Derivative of <see cref="Seen"/> by <see cref="P"/>: 1 or 0.</summary>
    public readonly double[] Slope = new double[cells + 1];
}

/// <summary>Something that lets water pass from one cell to another, with its derivatives for the solver.</summary>
internal abstract class Element(PartId part, int from, int to)
{
    /// <summary>The part whose water it is.</summary>
    public PartId Part { get; } = part;

    /// <summary>Cell it comes from.</summary>
    public int From { get; } = from;

    /// <summary>Cell it goes to; the number of cells for the air.</summary>
    public int To { get; } = to;

    /// <summary>A cell that moves the valve without its water passing; −1 for none.</summary>
    public int Senses { get; init; } = -1;

    /// <summary>Flow, in³/s, positive from <see cref="From"/> to <see cref="To"/>.</summary>
    public double Q;

    /// <summary>Derivatives of the flow, in³/s/psi.</summary>
    public double ByFrom,
        ByTo,
        BySensed;

    /// <summary>Works out flow and derivatives.</summary>
    public abstract void At(Pressures at);
}
