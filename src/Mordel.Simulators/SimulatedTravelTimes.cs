using Mordel.Core.Outside;

namespace Mordel.Simulators;

/// <summary>
/// Stands in for a service that knows the roads: along the grid of the streets, slower in the two rush hours, slower
/// into the centre than out of it.
/// </summary>
public sealed class SimulatedTravelTimes : ITravelTimes
{
    // Metres a minute on town streets; minutes to park and to find the door.
    private const double MetresPerMinute = 420,
        Parking = 2;
    private const double Rush = 1.4,
        Inward = 1.15;

    /// <inheritdoc/>
    public ValueTask<int?> Minutes(MapPoint from, MapPoint to, TimeOnly leaving, CancellationToken cancel)
    {
        if (from == to)
            return new(0);
        var metres = Math.Abs((double)from.East - to.East) + Math.Abs((double)from.North - to.North);
        var slower = (InRush(leaving) ? Rush : 1) * (FromCentre(to) < FromCentre(from) ? Inward : 1);
        return new((int)Math.Ceiling((metres / MetresPerMinute * slower) + Parking));
    }

    private static double FromCentre(MapPoint p) => Math.Abs((double)p.East) + Math.Abs((double)p.North);

    private static bool InRush(TimeOnly at) =>
        at.IsBetween(new(7, 0), new(9, 0)) || at.IsBetween(new(16, 0), new(18, 0));
}
