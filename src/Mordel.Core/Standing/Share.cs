namespace Mordel.Core.Standing;

/// <summary>How many of all, with how sure that is.</summary>
/// <param name="Part">How many; from 0.</param>
/// <param name="All">Of how many; from 0.</param>
/// <remarks>The range is the score interval for a proportion, 95 in 100 (E. B. Wilson, 1927).</remarks>
public readonly record struct Share(int Part, int All)
{
    // Two-sided 95 in 100 of a normal distribution.
    internal const double Z = 1.959964;

    /// <summary>The share, 0 to 1; 0 of nothing.</summary>
    public double Value => All == 0 ? 0 : (double)Part / All;

    /// <summary>The lower end of what the true share may be, 0 to 1.</summary>
    public double Low => All == 0 || Part == 0 ? 0 : Math.Max(0, Middle - Spread);

    /// <summary>The upper end of what the true share may be, 0 to 1.</summary>
    public double High => All == 0 || Part == All ? 1 : Math.Min(1, Middle + Spread);

    private double Middle => (Value + (Z * Z / (2 * All))) / (1 + (Z * Z / All));

    private double Spread =>
        Z / (1 + (Z * Z / All)) * Math.Sqrt((Value * (1 - Value) / All) + (Z * Z / (4.0 * All * All)));

    /// <summary>In whole percent.</summary>
    public int Percent => (int)Math.Round(100 * Value, MidpointRounding.AwayFromZero);
}
