using System.Collections.Immutable;
using Mordel.Core.AutoTest;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Training;

/// <summary>One thing a learner does at the bench.</summary>
public abstract record Deed
{
    private Deed() { }

    /// <summary>Turns a valve.</summary>
    /// <param name="Part">The valve.</param>
    /// <param name="To">Where it stands afterwards.</param>
    /// <param name="Over">Ticks that the turning takes, 0 for at once.</param>
    public sealed record Turn(PartId Part, Opening To, int Over) : Deed;

    /// <summary>Connects a hose or fitting, taking it from where it was.</summary>
    public sealed record Connect(PartId Item, PartId To) : Deed;

    /// <summary>Takes a hose or fitting off.</summary>
    public sealed record TakeOff(PartId Item) : Deed;

    /// <summary>Holds the gauge at a height.</summary>
    /// <param name="Inches">Above the body's centre line.</param>
    public sealed record Lift(decimal Inches) : Deed;

    /// <summary>Opens or shuts a tap somewhere behind SO2.</summary>
    public sealed record DrawOff(bool Open) : Deed;

    /// <summary>Writes an answer on the report: a number off the dial, tight or leaks, yes or no.</summary>
    /// <param name="Item">The item.</param>
    /// <param name="Value">The answer.</param>
    public sealed record Write(TestItem Item, ItemValue Value) : Deed;

    /// <summary>Puts a finding on the report, or strikes it.</summary>
    /// <param name="Finding">By its stable name.</param>
    /// <param name="Stands">Whether it stands there now.</param>
    public sealed record Find(string Finding, bool Stands) : Deed;

    /// <summary>Gives the verdict.</summary>
    /// <param name="Overall">The verdict.</param>
    public sealed record Conclude(Overall Overall) : Deed;
}

/// <summary>A deed and when it was done.</summary>
/// <param name="At">Ticks since the bench began.</param>
/// <param name="What">The deed.</param>
public readonly record struct TimedDeed(int At, Deed What);

/// <summary>
/// Everything a learner did on one rig. Played again it gives the same water to the last bit, on any machine: a mark, a
/// replay and a comparison need nothing else.
/// </summary>
/// <param name="Scenario">The rig.</param>
/// <param name="Deeds">What was done, in order.</param>
/// <param name="End">Ticks at the end.</param>
public sealed record Tape(Scenario Scenario, ImmutableArray<TimedDeed> Deeds, int End)
{
    /// <summary>Ticks a second of the bench's clock.</summary>
    public const int PerSecond = 60;

    /// <summary>The longest tape that is played, ticks: two hours.</summary>
    public const int Longest = 2 * 3600 * PerSecond;

    /// <summary>The most deeds on a tape.</summary>
    public const int Most = 20_000;

    /// <summary>The rig, played to the end.</summary>
    /// <param name="look">Told of every tick after it has passed.</param>
    /// <param name="before">Told of every deed before it is done.</param>
    /// <param name="budget">What may be spent on the water; null for as much as it takes.</param>
    public LiveRig Play(
        Action<LiveRig>? look = null,
        Action<LiveRig, Deed>? before = null,
        Water.WorkBudget? budget = null
    )
    {
        var rig = new LiveRig(Scenario.Situation, budget);
        foreach (var (at, what) in Deeds)
        {
            rig.Advance(at - rig.Tick, look);
            before?.Invoke(rig, what);
            rig.Do(what);
        }

        rig.Advance(End - rig.Tick, look);
        return rig;
    }
}
