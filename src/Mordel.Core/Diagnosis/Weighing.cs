using System.Collections.Immutable;

namespace Mordel.Core.Diagnosis;

/// <summary>
/// How well each row of an atlas goes with what was seen. A row begins with its set's chance; every observation
/// multiplies it by how likely that observation is where the row is so. In logarithms; nothing becomes impossible.
/// </summary>
internal sealed class Weighing
{
    // Before anything was seen: that none of the sets is the truth.
    private const double NothingOfThis = 0.003;

    private readonly Atlas atlas;
    private readonly Evidence evidence;
    private readonly double[][] each;
    private readonly double[] prior;
    private readonly double[] logarithms;
    private readonly double noneOfThis;
    private readonly RowFit fit;

    /// <summary>Weighs.</summary>
    public Weighing(Atlas atlas, ImmutableArray<FaultRate> rates, Evidence evidence)
    {
        (this.atlas, this.evidence) = (atlas, evidence);
        fit = new RowFit(atlas, evidence);
        prior = [.. atlas.Sets.Select(s => Rates.Of(s, rates))];
        var whole = prior.Sum();
        for (var i = 0; i < prior.Length; i++)
            prior[i] = Math.Log(prior[i] / whole);
        each = WeighAll(-1);
        logarithms = Logarithms(each, -1);
        noneOfThis = evidence.Observations.Sum(o => Math.Log(Likelihood.OfAnything(o)));
        Posterior = [.. logarithms];
        Fits = Share(Posterior, noneOfThis, out var nothing);
        Nothing = nothing;
        Sets = new double[atlas.Sets.Length];
        for (var r = 0; r < Posterior.Length; r++)
            Sets[atlas.Rows[r].Set] += Posterior[r];
        Best = [.. each.Select(rows => Math.Max(1e-12, rows.Max()))];
    }

    /// <summary>The weight of each row; with <see cref="Nothing"/> they sum to 1.</summary>
    public double[] Posterior { get; }

    /// <summary>The weight of each set.</summary>
    public double[] Sets { get; }

    /// <summary>The weight of "nothing of this".</summary>
    public double Nothing { get; }

    /// <summary>
    /// How much better the atlas explains the evidence than "anything may be seen", natural logarithm; negative where
    /// it explains it worse.
    /// </summary>
    public double Fits { get; }

    /// <summary>How likely each observation is where it is likeliest.</summary>
    public ImmutableArray<double> Best { get; }

    /// <summary>How likely an observation is where a set is so, as a part of <see cref="Best"/>.</summary>
    public double Of(int observation, int set) => Average(each[observation], set) / Best[observation];

    /// <summary>How likely an observation is by all the rows as they are weighed, as a part of <see cref="Best"/>.
    /// </summary>
    public double Expected(int observation)
    {
        var sum = 0.0;
        for (var r = 0; r < Posterior.Length; r++)
            sum += Posterior[r] * each[observation][r];
        return sum / Best[observation];
    }

    /// <summary>The average over a set's rows as they are weighed.</summary>
    /// <param name="values">A value for each row.</param>
    /// <param name="set">The set.</param>
    private double Average(double[] values, int set)
    {
        var (sum, weight) = (0.0, 0.0);
        foreach (var r in atlas.RowsOf(set))
        {
            sum += Posterior[r] * values[r];
            weight += Posterior[r];
        }

        return weight > 0 ? sum / weight : 0;
    }

    /// <summary>The row of a set that goes best with the evidence.</summary>
    public int BestRow(int set) => atlas.RowsOf(set).MaxBy(r => Posterior[r]);

    /// <summary>How well the evidence without one observation is explained; see <see cref="Fits"/>.</summary>
    public double FitsWithout(int observation)
    {
        var none = noneOfThis - Math.Log(Likelihood.OfAnything(evidence.Observations[observation]));
        // Only a reading says anything of how likely the others are.
        if (evidence.Observations[observation] is Observed.ItemRead)
            return Share(Logarithms(WeighAll(observation), observation), none, out _);
        var without = new double[logarithms.Length];
        for (var r = 0; r < without.Length; r++)
            without[r] = logarithms[r] - Math.Log(each[observation][r]);
        return Share(without, none, out _);
    }

    private double[][] WeighAll(int but)
    {
        var into = new double[evidence.Observations.Length][];
        for (var e = 0; e < into.Length; e++)
            into[e] = new double[atlas.Rows.Length];
        for (var r = 0; r < atlas.Rows.Length; r++)
            fit.Weigh(r, but, into);
        return into;
    }

    // The logarithm of each row's prior times what all observations but one say.
    private double[] Logarithms(double[][] from, int but)
    {
        var log = new double[atlas.Rows.Length];
        for (var r = 0; r < log.Length; r++)
            log[r] = prior[atlas.Rows[r].Set] - Math.Log(atlas.Cases[atlas.Rows[r].Set]);
        for (var e = 0; e < from.Length; e++)
            if (e != but)
                for (var r = 0; r < log.Length; r++)
                    log[r] += Math.Log(from[e][r]);
        return log;
    }

    // Logarithms become weights, in place; what is left of 1 is "nothing of this". Answers how well they fit.
    private static double Share(double[] log, double none, out double nothing)
    {
        var most = Math.Max(none, log.Max());
        var sum = 0.0;
        for (var r = 0; r < log.Length; r++)
            sum += log[r] = Math.Exp(log[r] - most);
        var rest = NothingOfThis * Math.Exp(none - most);
        for (var r = 0; r < log.Length; r++)
            log[r] /= sum + rest;
        nothing = rest / (sum + rest);
        return Math.Log(Math.Max(sum, 1e-300)) + most - none;
    }
}
