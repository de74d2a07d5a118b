using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Runs;

/// <summary>
/// Remembers the sketch of the water up to a state of the rig, so that a longer history of the same run goes on from
/// there. Whoever asks at the same time gets the same answer.
/// </summary>
internal sealed class WaterMemory
{
    private sealed record Known(RigState Start, int UpTo, WaterSketch Sketch);

    private Known? known;

    public WaterSketch After(ImmutableArray<RigState> history)
    {
        var (from, water) =
            known is { } before && before.UpTo <= history.Length && ReferenceEquals(before.Start, history[0])
                ? (before.UpTo, before.Sketch)
                : (0, WaterSketch.Nothing);
        for (var i = from; i < history.Length; i++)
            // Where nothing was turned or moved the water stays as it is.
            if (i == 0 || !IsPlumbedAs(history[i], history[i - 1]))
                water = water.After(history[i]);
        known = new(history[0], history.Length, water);
        return water;
    }

    private static bool IsPlumbedAs(RigState one, RigState other) =>
        ReferenceEquals(one.Rig, other.Rig)
        && ReferenceEquals(one.Openings, other.Openings)
        && ReferenceEquals(one.Connections, other.Connections);
}
