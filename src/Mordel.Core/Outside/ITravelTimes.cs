namespace Mordel.Core.Outside;

/// <summary>A point on the map, metres east and north of a zero stone.</summary>
public readonly record struct MapPoint(int East, int North);

/// <summary>Knows how long the way between two places takes.</summary>
public interface ITravelTimes
{
    /// <summary>
    /// Door to door by road, in whole minutes, when leaving at that time of day; the way back may take another time.
    /// Null where it is not known.
    /// </summary>
    ValueTask<int?> Minutes(MapPoint from, MapPoint to, TimeOnly leaving, CancellationToken cancel);
}
