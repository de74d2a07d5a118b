using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Diagnosis;

/// <summary>How likely each observation of evidence is where one row of an atlas is the truth.</summary>
/// <remarks>
/// A reading that follows its part's spring is not held against the row's own spring, which is one of a thousand that
/// it might have: the row carries a normal distribution of what the spring may be, and each such reading narrows it (a
/// scalar Kalman filter). So a few rows stand for all springs.
/// </remarks>
internal sealed class RowFit
{
    // psid: how near a reading must be to a spring to be taken as following it; what repeated readings differ by; how
    // far a reading that follows nothing lies from another case's.
    private const double Follows = 1.0,
        Repeats = 0.12,
        Elsewhere = 0.4;

    // psid: how far a sound spring is from what it was at the last test.
    private const double SinceLastTime = 0.35;

    private readonly Atlas atlas;
    private readonly Evidence evidence;
    private readonly ImmutableArray<PartId> springs;
    private readonly int school;

    /// <summary>Compares an atlas with evidence.</summary>
    public RowFit(Atlas atlas, Evidence evidence)
    {
        (this.atlas, this.evidence) = (atlas, evidence);
        springs = Atlas.SpringsOf(atlas.Body);
        school = SchoolOf(atlas, evidence.Procedure);
    }

    /// <summary>The school of the atlas that evidence is compared with; -1 where the atlas does not have it.</summary>
    public static int SchoolOf(Atlas atlas, string? procedure)
    {
        for (var s = 0; s < atlas.Schools.Length; s++)
            if (atlas.Schools[s].Id == procedure)
                return s;
        return -1;
    }

    /// <summary>Says how likely each observation is where a row is so; never 0.</summary>
    /// <param name="at">The row.</param>
    /// <param name="but">An observation that is left out; -1 for none.</param>
    /// <param name="into">For each observation the rows; the row's place is written.</param>
    public void Weigh(int at, int but, double[][] into)
    {
        var row = atlas.Rows[at];
        var set = atlas.Sets[row.Set];
        Span<double> mean = stackalloc double[springs.Length],
            spread = stackalloc double[springs.Length];
        for (var i = 0; i < springs.Length; i++)
        {
            var worn = set.Has(springs[i], PartFault.SpringWeak);
            var (low, high) = AtlasCase.SpringRange(atlas.Body, springs[i], worn);
            (mean[i], spread[i]) =
                !worn && evidence.Springs.TryGetValue(springs[i], out var known)
                    ? (known, SinceLastTime)
                    : ((low + high) / 2, Math.Max(0.15, (high - low) / (worn ? 3 : 4)));
        }

        for (var e = 0; e < into.Length; e++)
            if (e != but)
                into[e][at] = Math.Max(1e-12, One(evidence.Observations[e], row, set, mean, spread));
    }

    /// <summary>The school that sights and results are compared with; null where the atlas does not have it.</summary>
    public AtlasSchool? School => school < 0 ? null : atlas.Schools[school];

    /// <summary>What a row met at a step: the bits of its sights; null where the step is not known.</summary>
    public (ushort Bits, AtlasStep Step)? Step(AtlasRow row, string step)
    {
        if (School is not { } known || row.Schools[school] is not { } test)
            return null;
        var at = AtlasMaker.IndexOf(known, step);
        return at < 0 ? null : (test.Steps[at], known.Steps[at]);
    }

    /// <summary>What a row gives for an item; NaN where it got none, and whether such a test was performed.</summary>
    public (double Value, bool Performed) Value(TestItem item, AtlasRow row)
    {
        var (value, performed, _) = ValueIn(item, row);
        return (value, performed);
    }

    private double One(Observed observed, AtlasRow row, FaultSet set, Span<double> mean, Span<double> spread) =>
        observed switch
        {
            Observed.PortSeen port => OfPort(port, row),
            Observed.LineRead line => Likelihood.OfLine(line.Psi, row.Supply),
            Observed.SightMet met => OfSight(met, row),
            Observed.PartOpened opened => Likelihood.Of(opened.Lay, opened.Part, set.Of(opened.Part)),
            Observed.ItemRead result => OfResult(result, row, mean, spread),
            _ => 1,
        };

    private double OfPort(Observed.PortSeen port, AtlasRow row)
    {
        var at = 0;
        foreach (var look in atlas.PortLooks)
        {
            if (look == port.Look)
                return Likelihood.Of(port.Seen, row.Outlets[at]);
            at++;
        }

        return 1;
    }

    private double OfSight(Observed.SightMet met, AtlasRow row)
    {
        if (Step(row, met.Step) is not var (bits, step))
            return Likelihood.SightNull;
        var bit = step.Sights.IndexOf(met.Sight);
        if (met.Sight == Observed.SightMet.NotReached)
            return bits == 0 ? Likelihood.SightTold : Likelihood.SightWrong;
        if (met.Sight == Observed.SightMet.None)
            return bits == AtlasRow.Reached ? Likelihood.SightTold
                : bits != 0 ? Likelihood.SightMissed
                : Likelihood.StepNotReached;
        return bit < 0 ? Likelihood.SightNull
            : (bits & (1 << bit)) != 0 ? Likelihood.SightTold
            : (bits & AtlasRow.Reached) != 0 ? Likelihood.SightWrong
            : Likelihood.StepNotReached;
    }

    private double OfResult(Observed.ItemRead result, AtlasRow row, Span<double> mean, Span<double> spread)
    {
        var (value, performed, by) = ValueIn(result.Item, row);
        if (!performed)
            return Likelihood.OfAnything(result);
        if (result.Value is ItemValue.Measured measured)
            return OfReading(
                result.Item,
                (double)measured.Reading.Value.In(DifferentialUnit.Psid),
                value,
                atlas.Follows(by, result.Item) ? row : null,
                mean,
                spread
            );
        if (result.Value is ItemValue.Line line)
            return Likelihood.OfLine((double)line.Pressure.In(LinePressureUnit.Psi), row.Supply);
        var told = result.Value switch
        {
            ItemValue.Tightness t => t.Tight ? 1 : 0,
            ItemValue.YesNo y => y.Yes ? 1 : 0,
            _ => 2,
        };
        // "Not shown" and "tight" are the same water; which it is hangs on what the tester knows of the site.
        return double.IsNaN(value) ? 0.1
            : Math.Abs(told - value) < 0.5 ? 1 - (2 * Likelihood.AnswerWrong)
            : told + value >= 2.5 ? 0.3
            : Likelihood.AnswerWrong;
    }

    private (double Value, bool Performed, int School) ValueIn(TestItem item, AtlasRow row)
    {
        for (var s = 0; s < atlas.Schools.Length; s++)
        {
            // Where the school is not known, any that takes the item will do.
            if (school >= 0 && s != school)
                continue;
            if (atlas.Schools[s].Items.IndexOf(item) is >= 0 and var at)
                return row.Schools[s] is { } test ? (test.Items[at], true, s) : (double.NaN, false, s);
        }

        return (double.NaN, false, -1);
    }

    private double OfReading(
        TestItem item,
        double told,
        double value,
        AtlasRow? follows,
        Span<double> mean,
        Span<double> spread
    )
    {
        // Where the case's tester got no number, any is a surprise.
        if (double.IsNaN(value))
            return 0.1 * Likelihood.OfAnything(Any(item));
        var error = Math.Sqrt((evidence.Accuracy * evidence.Accuracy / 4) + (Repeats * Repeats));
        var spring = SpringOf(item);
        if (follows is { } row && spring >= 0 && value > 0.3 && Math.Abs(value - row.Springs[spring]) <= Follows)
        {
            var over = value - row.Springs[spring];
            var variance = (spread[spring] * spread[spring]) + (error * error);
            var density = Likelihood.Normal(told, mean[spring] + over, Math.Sqrt(variance));
            if (Math.Abs(told - mean[spring] - over) < 3 * Math.Sqrt(variance))
            {
                var gain = spread[spring] * spread[spring] / variance;
                mean[spring] += gain * (told - over - mean[spring]);
                spread[spring] *= Math.Sqrt(1 - gain);
            }

            return Mixed(density);
        }

        // A needle that has run down to zero stands there for all cases alike.
        var apart = Math.Abs(value) < 0.3 ? error + 0.05 : error + Elsewhere;
        return Mixed(Likelihood.Normal(told, value, apart));
    }

    private static Observed.ItemRead Any(TestItem item) =>
        new(item, ItemValue.Of(0, DifferentialUnit.Psid)) { Place = "" };

    private static double Mixed(double density) =>
        ((1 - Likelihood.Misread) * density) + (Likelihood.Misread / Likelihood.Dial);

    private int SpringOf(TestItem item) => springs.IndexOf(Atlas.SpringOf(item));
}
