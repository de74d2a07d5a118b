namespace Mordel.Core.Hydraulics;

/// <summary>
/// A space with water: what it holds at a pressure, V(p), always rising with p. Let P = p − head of its top.
/// Shut: V = full + C·P − air·Pa/(P + Pa): walls that give, and air that was trapped at atmosphere and is squeezed
/// (Boyle). Open to the air at its top: above P = 0 the walls give; below, the surface sinks through the space, S =
/// area/γ in³/psi, down to its floor. Below the vapour pressure water boils: the space takes any volume.
/// </summary>
internal sealed class Cell(string name, double gives, double holds, double top, double floor)
{
    private const double BoilingGives = 1000,
        PastTheFloor = 0.02;

    /// <summary>The chamber's name.</summary>
    public string Name { get; } = name;

    /// <summary>What its walls give, in³/psi.</summary>
    public double Gives { get; } = gives;

    /// <summary>Volume when full at atmosphere, in³.</summary>
    public double Holds { get; } = holds;

    /// <summary>Height of its top, in.</summary>
    public double Top { get; } = top;

    /// <summary>Height of its floor, in: no surface sinks below it.</summary>
    public double Floor { get; } = floor;

    /// <summary>Pressure at the centre line when the surface stands at its top, psi.</summary>
    public double TopHead { get; } = top * Sizes.PsiPerInch;

    /// <summary>The same at its floor.</summary>
    public double FloorHead { get; } = floor * Sizes.PsiPerInch;

    /// <summary>Air trapped in it, in³ at atmosphere.</summary>
    public double Air;

    /// <summary>Air that cannot be driven out, in³ at atmosphere.</summary>
    public double StubbornAir;

    /// <summary>
    /// What the mean pressure in it stands above the one at its end, psi: a hose hangs from the gauge down or up to its
    /// cock.
    /// </summary>
    public double Raised;

    /// <summary>Whether air comes and goes freely at its top.</summary>
    public bool Vented;

    private double Depth => TopHead - FloorHead;

    /// <summary>What it holds at a pressure, in³, and how that rises with the pressure, in³/psi.</summary>
    public double Volume(double p, out double slope)
    {
        var over = p - TopHead + Raised;
        if (Vented)
        {
            if (over >= 0)
            {
                slope = Gives;
                return Holds + (Gives * over);
            }

            var surface = Holds / Depth;
            slope = surface;
            if (over >= -Depth)
                return Holds + (surface * over);
            slope = PastTheFloor;
            return Past(PastTheFloor * (over + Depth), over, ref slope);
        }

        slope = Gives;
        var volume = Holds + (Gives * over);
        if (Air > 0)
        {
            var absolute = Math.Max(over + Sizes.Atmosphere, Sizes.Atmosphere + Sizes.Boils);
            volume -= Air * Sizes.Atmosphere / absolute;
            if (over > Sizes.Boils)
                slope += Air * Sizes.Atmosphere / (absolute * absolute);
        }

        return Past(volume, over, ref slope);
    }

    private static double Past(double volume, double over, ref double slope)
    {
        if (over >= Sizes.Boils)
            return volume;
        slope += BoilingGives;
        return volume + (BoilingGives * (over - Sizes.Boils));
    }

    /// <summary>A step of the solver, kept from jumping over a bend of V(p).</summary>
    public double Guarded(double from, double to)
    {
        if (Vented)
        {
            to = Stop(from, to, TopHead - Raised);
            to = Stop(from, to, FloorHead - Raised);
        }

        to = Stop(from, to, TopHead - Raised + Sizes.Boils);
        // With air in it the curve bends hard towards vacuum: half the way at a time.
        var vacuum = TopHead - Raised - Sizes.Atmosphere;
        return Air > 0 && !Vented && to < from && from > vacuum + 1 ? Math.Max(to, vacuum + ((from - vacuum) / 2)) : to;
    }

    private static double Stop(double from, double to, double bend) =>
        from > bend && to < bend ? bend - 1e-9
        : from < bend && to > bend ? bend + 1e-9
        : to;
}
