using Mordel.Core.Collections;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;

namespace Mordel.Core.Training;

/// <summary>
/// A look at a bench whose hands are elsewhere: all that was done there up to now, and how it is to be shown. Played
/// anew each time, it needs no memory of the one before.
/// </summary>
/// <param name="Recording">What was done, up to the moment of the look.</param>
/// <param name="Words">What was said to the sheet.</param>
/// <param name="Guided">Whether the sheet is beside it.</param>
/// <param name="Flow">Which way the water runs on the drawing.</param>
/// <param name="Told">Happenings that were told before.</param>
/// <param name="Drawn">Whether the drawing is there already.</param>
public sealed record BenchLook(
    Recording Recording,
    EquatableArray<SheetWord> Words,
    bool Guided,
    FlowDirection Flow,
    int Told,
    bool Drawn
)
{
    /// <summary>The latest moment that is looked at, ticks: five minutes.</summary>
    public const int Latest = 5 * 60 * Recording.PerSecond;

    /// <summary>The bench as it stands then.</summary>
    /// <param name="budget">What may be spent on the water.</param>
    /// <exception cref="TooMuchWorkException">More was needed.</exception>
    public BenchSession Play(WorkBudget? budget = null)
    {
        var bench = new BenchSession(Recording.Scenario, Guided, budget);
        bench.Play(Recording, Words);
        return bench;
    }
}
