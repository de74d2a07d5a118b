using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Simulation;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Training;

/// <summary>One thing a learner does at the bench.</summary>
public abstract record BenchAction
{
    private BenchAction() { }

    /// <summary>Turns a valve.</summary>
    /// <param name="Part">The valve.</param>
    /// <param name="To">Where it stands afterwards.</param>
    /// <param name="Over">Ticks that the turning takes, 0 for at once.</param>
    public sealed record Turn(PartId Part, Opening To, int Over) : BenchAction;

    /// <summary>Connects a hose or fitting, taking it from where it was.</summary>
    public sealed record Connect(PartId Item, PartId To) : BenchAction;

    /// <summary>Takes a hose or fitting off.</summary>
    public sealed record TakeOff(PartId Item) : BenchAction;

    /// <summary>Holds the gauge at a height.</summary>
    /// <param name="Inches">Above the body's centre line.</param>
    public sealed record Lift(decimal Inches) : BenchAction;

    /// <summary>Opens or shuts a tap somewhere behind SO2.</summary>
    public sealed record DrawOff(bool Open) : BenchAction;

    /// <summary>Writes an answer on the report: a number off the dial, tight or leaks, yes or no.</summary>
    /// <param name="Item">The item.</param>
    /// <param name="Value">The answer.</param>
    public sealed record Write(TestItem Item, ItemValue Value) : BenchAction;

    /// <summary>Puts a finding on the report, or strikes it.</summary>
    /// <param name="Finding">Which.</param>
    /// <param name="Stands">Whether it stands there now.</param>
    public sealed record ReportFinding(FindingKind Finding, bool Stands) : BenchAction;

    /// <summary>Gives the verdict.</summary>
    /// <param name="Overall">The verdict.</param>
    public sealed record Conclude(Overall Overall) : BenchAction;
}

/// <summary>A action and when it was done.</summary>
/// <param name="At">Ticks since the bench began.</param>
/// <param name="What">The action.</param>
public readonly record struct TimedAction(int At, BenchAction What);

/// <summary>
/// Everything a learner did on one rig. Played again it gives the same water to the last bit, on any machine: a mark, a
/// replay and a comparison need nothing else.
/// </summary>
/// <param name="Scenario">The rig.</param>
/// <param name="Actions">What was done, in order.</param>
/// <param name="End">Ticks at the end.</param>
public sealed record Recording(Scenario Scenario, ImmutableArray<TimedAction> Actions, int End)
{
    /// <summary>Ticks a second of the bench's clock.</summary>
    public const int PerSecond = 60;

    /// <summary>The longest recording that is played, ticks: two hours.</summary>
    public const int Longest = 2 * 3600 * PerSecond;

    /// <summary>The most actions on a recording.</summary>
    public const int Most = 20_000;

    /// <summary>The rig, played to the end.</summary>
    /// <param name="look">Told of every tick after it has passed.</param>
    /// <param name="before">Told of every action before it is done.</param>
    /// <param name="budget">What may be spent on the water; null for as much as it takes.</param>
    public LiveRig Play(
        Action<LiveRig>? look = null,
        Action<LiveRig, BenchAction>? before = null,
        WorkBudget? budget = null
    )
    {
        var rig = new LiveRig(Scenario.Situation, budget);
        foreach (var (at, what) in Actions)
        {
            rig.Advance(at - rig.Tick, look);
            before?.Invoke(rig, what);
            rig.Do(what);
        }

        rig.Advance(End - rig.Tick, look);
        return rig;
    }
}
