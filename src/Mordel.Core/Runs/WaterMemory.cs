using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Runs;

/// <summary>
/// Remembers the sketch of the water up to a state of the rig, so that a longer history of the same run goes on from
/// there.
/// </summary>
internal sealed class WaterMemory
{
    private int upTo;
    private RigState? start;
    private WaterSketch sketch = WaterSketch.Nothing;

    public WaterSketch After(ImmutableArray<RigState> history)
    {
        var (from, water) =
            upTo <= history.Length && ReferenceEquals(start, history[0]) ? (upTo, sketch) : (0, WaterSketch.Nothing);
        for (var i = from; i < history.Length; i++)
            // Where nothing was turned or moved the water stays as it is.
            if (i == 0 || !IsPlumbedAs(history[i], history[i - 1]))
                water = water.After(history[i]);
        (upTo, sketch, start) = (history.Length, water, history[0]);
        return water;
    }

    private static bool IsPlumbedAs(RigState one, RigState other) =>
        ReferenceEquals(one.Rig, other.Rig)
        && ReferenceEquals(one.Openings, other.Openings)
        && ReferenceEquals(one.Connections, other.Connections);
}
