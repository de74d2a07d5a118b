using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Diagnosis;

/// <summary>
/// How eyes, gauges and wrenches err: the chance of an observation where something is so. One place for all of it.
/// Nothing is impossible.
/// </summary>
internal static class Likelihood
{
    /// <summary>A reading that has nothing to do with what was there: a slip, psid around it a whole dial.</summary>
    public const double Misread = 0.02,
        Dial = 15;

    /// <summary>A sight that is there is told; it is missed; one that is not there is told all the same.</summary>
    public const double SightTold = 0.97,
        SightMissed = 0.015,
        SightWrong = 0.01,
        StepNotReached = 0.005,
        SightNull = 0.15;

    /// <summary>Between tight and leaking.</summary>
    public const double AnswerWrong = 0.015;

    private const double Line = 10;

    // Rows: what it does; columns: what is told. A drip is missed more easily than a stream; spells look like a drip to
    // who looks for a moment. Nobody sees water where none is, but for the last drops of a spit; and one says of
    // a trickle that it drips, another that it runs.
    private static readonly double[,] AtFirst =
    {
        { 0.985, 0.009, 0.001, 0.005 },
        { 0.02, 0.8, 0.16, 0.02 },
        { 0.003, 0.14, 0.845, 0.012 },
        { 0.03, 0.06, 0.03, 0.88 },
    };

    private static readonly double[,] AfterAnAct =
    {
        { 0.96, 0.028, 0.009, 0.003 },
        { 0.04, 0.89, 0.06, 0.01 },
        { 0.007, 0.03, 0.938, 0.025 },
        { 0.003, 0.007, 0.05, 0.94 },
    };

    /// <summary>The chance that somebody tells this where that is so.</summary>
    public static double Of(PortState told, PortState so) =>
        (so <= PortState.Spits, told <= PortState.Spits) switch
        {
            (true, true) => AtFirst[(int)so, (int)told],
            (false, false) => AfterAnAct[so - PortState.Stops, told - PortState.Stops],
            _ => 0.001,
        };

    /// <summary>A normal density.</summary>
    public static double Normal(double at, double mean, double deviation)
    {
        var off = (at - mean) / deviation;
        return Math.Exp(-0.5 * off * off) / (deviation * 2.5066282746310002);
    }

    /// <summary>The main's pressure: it is another at another hour.</summary>
    public static double OfLine(double told, double so) => Normal(told, so, Line);

    /// <summary>
    /// What lies in a part, where this is wrong with it (null: nothing). Mostly it is debris; some parts look clean
    /// and leak all the same.
    /// </summary>
    public static double Of(OpenedFinding found, PartId part, PartFault? fault)
    {
        var (relief, first) = (part == Parts.Relief, part == Parts.Cv1);
        var leaks = fault?.Known == FaultKind.Leaks;
        return (fault?.Kind, found) switch
        {
            (null, OpenedFinding.Clean) => 0.9,
            (null, OpenedFinding.DiscWorn or OpenedFinding.Debris) => 0.025,
            (null, _) => 0.006,
            _ when leaks => found switch
            {
                OpenedFinding.Debris => first ? 0.5 : 0.38,
                OpenedFinding.DiscCut => 0.13,
                OpenedFinding.DiscWorn => 0.13,
                OpenedFinding.SeatNicked => 0.1,
                OpenedFinding.DiaphragmTorn => relief ? 0.15 : 0.001,
                OpenedFinding.Clean => 0.05,
                OpenedFinding.StemBound => 0.06,
                _ => 0.015,
            },
            (PartFault.SpringWeak, _) => found switch
            {
                OpenedFinding.SpringWeak => 0.5,
                OpenedFinding.SpringBroken => 0.22,
                OpenedFinding.Clean => 0.15,
                OpenedFinding.StemBound => relief ? 0.06 : 0.02,
                _ => 0.015,
            },
            // Stuck or hanging.
            _ => found switch
            {
                OpenedFinding.StemBound => 0.45,
                OpenedFinding.SensingBlocked => relief ? 0.35 : 0.001,
                OpenedFinding.Debris => 0.15,
                OpenedFinding.SpringBroken => 0.1,
                OpenedFinding.Clean => 0.05,
                _ => 0.015,
            },
        };
    }

    /// <summary>What anything at all would show: each answer as likely as the others.</summary>
    public static double OfAnything(Observed observed) =>
        observed switch
        {
            Observed.PortSeen => 0.25,
            Observed.LineRead => 0.008,
            Observed.SightMet { Sight: Observed.SightMet.None or Observed.SightMet.NotReached } => 0.5,
            Observed.SightMet => SightNull,
            Observed.ItemRead { Item.Kind: ItemKind.Differential } => 0.12,
            Observed.ItemRead => 0.4,
            _ => 0.1,
        };
}
