namespace Mordel.Core.Simulation;

/// <summary>
/// A slow hand on a needle valve: a little more when the needle falls too slowly, a little less when too fast; bolder
/// while it keeps going the same way, finer after it has overdone it.
/// </summary>
internal sealed class ValveControl
{
    // Only a needle that runs away is caught boldly; what has come down too far does not come up again.
    private const double Boldest = 0.15,
        Gentle = 0.02,
        Finest = 0.0005,
        RunsAway = 6;

    private double turn = 0.03;
    private int last;

    /// <summary>The factor by which to open further.</summary>
    /// <param name="falls">How fast the needle falls, psid/s.</param>
    /// <param name="wanted">How fast it should.</param>
    public double Turn(double falls, double wanted)
    {
        var way =
            falls < 0.7 * wanted ? 1
            : falls > 1.3 * wanted ? -1
            : 0;
        if (way == 0)
            return 1;
        turn = way == last ? Math.Min(Boldest, turn * 1.15) : Math.Max(Finest, turn * 0.5);
        last = way;
        var by = falls > RunsAway * wanted ? turn : Math.Min(turn, Gentle);
        return way > 0 ? 1 + by : 1 / (1 + by);
    }
}
