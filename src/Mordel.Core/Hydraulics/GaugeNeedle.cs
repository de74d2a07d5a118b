namespace Mordel.Core.Hydraulics;

/// <summary>
/// The differential gauge: high port less low port, off by its zero error, late by its lag (first order: τ·dn/dt =
/// reading − n), stopped by its pegs.
/// </summary>
/// <param name="lag">τ, s.</param>
/// <param name="zero">Zero error, psid.</param>
/// <param name="fullScale">The upper peg, psid; the lower stands at −2.</param>
internal sealed class GaugeNeedle(double lag, double zero, double fullScale)
{
    private const double LowerPeg = -2;

    /// <summary>Where it stands, psid.</summary>
    public double At;

    /// <summary>What the ports feel now, within the scale.</summary>
    public double Felt(double high, double low) => Math.Clamp(high - low + zero, LowerPeg, fullScale);

    /// <summary>
    /// Moves it over a time in which the ports felt a difference; implicit, so that it never overshoots.
    /// </summary>
    public void Move(double felt, double seconds) => At = (At + (felt * seconds / lag)) / (1 + (seconds / lag));
}
