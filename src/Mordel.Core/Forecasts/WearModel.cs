namespace Mordel.Core.Forecasts;

/// <summary>
/// One way in which a history of readings may have come about: with or without wear, with or without one break. All of
/// it normal: the readings are one draw of a normal distribution whose covariance says what hangs together, so that
/// weight and prediction are a few lines of linear algebra (regression by a Gaussian process).
/// </summary>
/// <remarks>
/// Covariance of two readings at times <c>s</c>, <c>t</c> (years from the first): level A² + wear W²·s·t where there is
/// any + season S²·cos 2π(s − t) + the kit's error K²·exp(−|s − t| / 3) where both are of the same kit, which is
/// calibrated and repaired and so another in time + the reading's own error E² for itself. A step adds B² for two
/// readings that both stand behind it; a slip adds B² to one reading alone.
/// </remarks>
internal sealed class WearModel
{
    // psid; psid a year for wear and drift.
    private const double Level = 6,
        Wear = 0.16,
        Season = 0.05,
        KitError = 0.08,
        Reading = 0.09,
        Break = 0.7;

    // Years in which a kit's error becomes another.
    private const double KitKeeps = 3;

    private readonly IReadOnlyList<(double Year, double Margin, string Kit)> seen;
    private readonly bool wears;
    private readonly int step;
    private readonly double[][] root;
    private readonly double[] weights;

    /// <summary>Weighs a history.</summary>
    /// <param name="seen">Readings by time.</param>
    /// <param name="wears">Whether there is wear.</param>
    /// <param name="step">The first reading behind a step; 0 for none.</param>
    /// <param name="slip">The reading that is a slip; -1 for none.</param>
    public WearModel(IReadOnlyList<(double Year, double Margin, string Kit)> seen, bool wears, int step, int slip)
    {
        (this.seen, this.wears, this.step) = (seen, wears, step);
        var n = seen.Count;
        root = new double[n][];
        for (var i = 0; i < n; i++)
        {
            root[i] = new double[n];
            for (var j = 0; j <= i; j++)
                root[i][j] =
                    Covariance(seen[i].Year, seen[i].Kit, i >= step, seen[j].Year, seen[j].Kit, j >= step)
                    + (i == j ? (Reading * Reading) + (i == slip ? Break * Break : 0) : 0);
        }

        // Cholesky, in place: root · rootᵀ is the covariance.
        for (var i = 0; i < n; i++)
        for (var j = 0; j <= i; j++)
        {
            var sum = root[i][j];
            for (var k = 0; k < j; k++)
                sum -= root[i][k] * root[j][k];
            root[i][j] = i == j ? Math.Sqrt(sum) : sum / root[j][j];
        }

        var half = Forward([.. seen.Select(s => s.Margin)]);
        Likelihood = 0;
        for (var i = 0; i < n; i++)
            Likelihood -= (half[i] * half[i] / 2) + Math.Log(root[i][i]);
        weights = Backward(half);
    }

    /// <summary>How well it goes with the history, natural logarithm, but for what all models share.</summary>
    public double Likelihood { get; }

    /// <summary>What a kit would read at a time: mean and variance, psid, psid².</summary>
    /// <param name="year">Years from the first reading.</param>
    /// <param name="kit">The kit; a name that does not occur for one that was not used here yet.</param>
    public (double Mean, double Variance) At(double year, string kit)
    {
        var with = new double[seen.Count];
        for (var i = 0; i < with.Length; i++)
            with[i] = Covariance(year, kit, true, seen[i].Year, seen[i].Kit, i >= step);
        var half = Forward(with);
        var (mean, left) = (0.0, Covariance(year, kit, true, year, kit, true) + (Reading * Reading));
        for (var i = 0; i < with.Length; i++)
        {
            mean += with[i] * weights[i];
            left -= half[i] * half[i];
        }

        return (mean, Math.Max(left, 1e-6));
    }

    /// <summary>What is lost or gained a year by wear: mean, psid a year.</summary>
    public double Slope
    {
        get
        {
            if (!wears)
                return 0;
            var sum = 0.0;
            for (var i = 0; i < seen.Count; i++)
                sum += Wear * Wear * seen[i].Year * weights[i];
            return sum;
        }
    }

    private double Covariance(double s, string kit, bool behind, double t, string other, bool otherBehind) =>
        (Level * Level)
        + (wears ? Wear * Wear * s * t : 0)
        + (Season * Season * Math.Cos(2 * Math.PI * (s - t)))
        + (kit == other ? KitError * KitError * Math.Exp(-Math.Abs(s - t) / KitKeeps) : 0)
        + (step > 0 && behind && otherBehind ? Break * Break : 0);

    // root · x = b, then rootᵀ · y = x.
    private double[] Forward(double[] b)
    {
        var x = new double[b.Length];
        for (var i = 0; i < x.Length; i++)
        {
            var sum = b[i];
            for (var k = 0; k < i; k++)
                sum -= root[i][k] * x[k];
            x[i] = sum / root[i][i];
        }

        return x;
    }

    private double[] Backward(double[] b)
    {
        var x = new double[b.Length];
        for (var i = x.Length - 1; i >= 0; i--)
        {
            var sum = b[i];
            for (var k = i + 1; k < x.Length; k++)
                sum -= root[k][i] * x[k];
            x[i] = sum / root[i][i];
        }

        return x;
    }
}
