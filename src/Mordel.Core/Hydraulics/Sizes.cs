namespace Mordel.Core.Hydraulics;

/// <summary>
/// What the model's valves let through, what its spaces give, and where things stand. Conductances in in³/s per √psi,
/// compliances in in³/psi, volumes in in³, heights in inches above the body's centre line. Reasons for each value:
/// <c>docs/water.md</c>.
/// </summary>
public sealed record Sizes
{
    /// <summary>The usual ones.</summary>
    public static Sizes Usual { get; } = new();

    /// <summary>Pressure of one inch of water, psi (handbook chapter 1).</summary>
    public const double PsiPerInch = 0.0361;

    /// <summary>Atmospheric pressure, psi.</summary>
    public const double Atmosphere = 14.7;

    /// <summary>
    /// Below this, psi under the atmosphere, water boils instead of stretching: 0.3 psi is its vapour pressure at 18
    /// °C.
    /// </summary>
    public const double Boils = -14.4;

    /// <summary>The main's resistance.</summary>
    public double Main { get; init; } = 25;

    /// <summary>A shutoff, fully open.</summary>
    public double Shutoff { get; init; } = 60;

    /// <summary>A check, fully lifted.</summary>
    public double Check { get; init; } = 60;

    /// <summary>Pressure over the spring at which a check is fully lifted, psi.</summary>
    public double CheckLift { get; init; } = 0.3;

    /// <summary>What a check's disc and seat give, in³/psi.</summary>
    public double CheckGive { get; init; } = 0.0006;

    /// <summary>A test cock.</summary>
    public double Cock { get; init; } = 4;

    /// <summary>A hose.</summary>
    public double Hose { get; init; } = 2;

    /// <summary>A control or a bleed.</summary>
    public double Needle { get; init; } = 1;

    /// <summary>The bleed-off tee's needle valve.</summary>
    public double Tee { get; init; } = 3;

    /// <summary>A vent screw taken out.</summary>
    public double Screw { get; init; } = 3;

    /// <summary>The relief valve, per psi below its opening point.</summary>
    public double Relief { get; init; } = 20;

    /// <summary>Pressure below its opening point at which the relief valve is fully open, psi.</summary>
    public double ReliefStroke { get; init; } = 3;

    /// <summary>An air inlet that stands open, for water.</summary>
    public double Inlet { get; init; } = 30;

    /// <summary>Times its opening point at which an open inlet is pushed shut again.</summary>
    public double InletShuts { get; init; } = 1.1;

    /// <summary>How far an inlet opens that hangs.</summary>
    public double InletHangs { get; init; } = 0.3;

    /// <summary>An outlet of the site that stands open.</summary>
    public double Outlet { get; init; } = 8;

    /// <summary>A tap opened downstream by the tester.</summary>
    public double Tap { get; init; } = 3;

    /// <summary>Leaks by their size.</summary>
    public double Weep { get; init; } = 0.002;

    /// <summary>A small leak.</summary>
    public double Small { get; init; } = 0.03;

    /// <summary>A large leak.</summary>
    public double Large { get; init; } = 0.3;

    /// <summary>A gush.</summary>
    public double Gush { get; init; } = 2;

    /// <summary>What a chamber of the body gives.</summary>
    public double ChamberGives { get; init; } = 0.03;

    /// <summary>What a hose with its gauge port gives.</summary>
    public double HoseGives { get; init; } = 0.02;

    /// <summary>What the manifold or the tee gives.</summary>
    public double ManifoldGives { get; init; } = 0.005;

    /// <summary>What the site's pipes give.</summary>
    public double SiteGives { get; init; } = 2;

    /// <summary>Water in a chamber down to the lowest level that air can reach.</summary>
    public double ChamberHolds { get; init; } = 3;

    /// <summary>Water in a hose.</summary>
    public double HoseHolds { get; init; } = 3.5;

    /// <summary>Water in the manifold or the tee.</summary>
    public double ManifoldHolds { get; init; } = 0.3;

    /// <summary>Height of the cocks' outlets.</summary>
    public double CockHeight { get; init; } = 1;

    /// <summary>Height of an SVB's vent screw and air inlet.</summary>
    public double VentHeight { get; init; } = 1.5;

    /// <summary>Height of a PVB's air inlet.</summary>
    public double InletHeight { get; init; } = 3;

    /// <summary>Lowest level in a chamber that has drained.</summary>
    public double Floor { get; init; } = -0.5;

    /// <summary>Length of the sight tube.</summary>
    public double TubeLength { get; init; } = 8;

    /// <summary>Bore of the sight tube, in².</summary>
    public double TubeBore { get; init; } = 0.11;

    /// <summary>Where the gauge hangs while nobody holds it.</summary>
    public double GaugeHangs { get; init; } = -12;

    /// <summary>The gauge's lag, s.</summary>
    public double Lag { get; init; } = 0.3;

    /// <summary>Part of a hose that stays full of air when it was not purged.</summary>
    public double AirLeft { get; init; } = 0.2;

    /// <summary>All leaks, all openings that a hand turns, all that gives, multiplied.</summary>
    public Sizes Times(double leaks = 1, double openings = 1, double gives = 1) =>
        this with
        {
            Weep = Weep * leaks,
            Small = Small * leaks,
            Large = Large * leaks,
            Gush = Gush * leaks,
            Main = Main * openings,
            Shutoff = Shutoff * openings,
            Check = Check * openings,
            Cock = Cock * openings,
            Hose = Hose * openings,
            Needle = Needle * openings,
            Tee = Tee * openings,
            Screw = Screw * openings,
            Relief = Relief * openings,
            Inlet = Inlet * openings,
            Outlet = Outlet * openings,
            Tap = Tap * openings,
            ChamberGives = ChamberGives * gives,
            HoseGives = HoseGives * gives,
            ManifoldGives = ManifoldGives * gives,
            SiteGives = SiteGives * gives,
            CheckGive = CheckGive * gives,
        };
}
