using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;

namespace Mordel.Core.Training;

/// <summary>How everything stood when an answer was written down.</summary>
/// <param name="At">Tick.</param>
/// <param name="Write">The answer.</param>
/// <param name="Needle">The needle, psid.</param>
/// <param name="Rate">How fast it went, psid/s.</param>
/// <param name="Stands">Height of the gauge, inches above the body's centre.</param>
/// <param name="High">The chamber that the high hose felt; null for air or a closed cock.</param>
/// <param name="Low">The chamber that the low hose felt.</param>
/// <param name="Air">Part of the high hose that was air.</param>
/// <param name="Outlet">What ran where a check's water leaves, in³/s.</param>
/// <param name="Relief">What ran from the relief port, in³/s.</param>
/// <param name="Tube">Level of the tube, 0 to 1; NaN without one.</param>
internal sealed record WrittenAnswer(
    int At,
    BenchAction.Write Write,
    double Needle,
    double Rate,
    double Stands,
    string? High,
    string? Low,
    double Air,
    double Outlet,
    double Relief,
    double Tube
);

/// <summary>A happening, with the valves as they stood at that moment.</summary>
internal readonly record struct ObservedEvent(RigEvent What, RigState Rig);

/// <summary>
/// Plays a recording and notes how the rig stood when something was written down, fitted, or happened.
/// </summary>
internal sealed class BenchObserver
{
    private readonly List<ObservedEvent> scenes = [];
    private readonly HashSet<PartId> flushed = [];
    private int heard;

    public BenchObserver(Recording recording, WorkBudget? budget = null)
    {
        Cocks = recording.Scenario.Situation.Rig.Body.Cocks;
        Live = recording.Play(EachTick, Before, budget);
    }

    /// <summary>The rig at the end.</summary>
    public LiveRig Live { get; }

    /// <summary>The cocks of the body.</summary>
    public ImmutableArray<PartId> Cocks { get; }

    /// <summary>The last answer to each item.</summary>
    public Dictionary<TestItem, WrittenAnswer> Writes { get; } = [];

    /// <summary>What the learner found.</summary>
    public ImmutableSortedSet<FindingKind> Findings { get; private set; } = ImmutableSortedSet.Create(FindingKind.ById);

    /// <summary>The learner's verdict.</summary>
    public Verdicts.Overall? Verdict { get; private set; }

    /// <summary>When it was given.</summary>
    public int VerdictAt { get; private set; }

    /// <summary>Everything that happened, with the rig at that moment.</summary>
    public IReadOnlyList<ObservedEvent> Scenes => scenes;

    /// <summary>Cocks that something was fitted to before they had run, and when.</summary>
    public Dictionary<PartId, int> FittedUnflushed { get; } = [];

    /// <summary>
    /// Height of the surface that a one-hose reading refers to, inches: the water in the tube, the inlet, the vent, or
    /// the opened cock.
    /// </summary>
    public double Surface(WrittenAnswer pulled)
    {
        var water = Live.Water;
        if (pulled.Write.Item == TestItem.AirInletOpening)
            return water.LevelOf(Parts.AirInlet);
        if (Live.Rig.Rig.Has(Parts.VentScrew))
            return water.LevelOf(Parts.VentScrew);
        var cock = water.LevelOf(Cocks[0]);
        return double.IsNaN(pulled.Tube)
            ? cock
            : cock + (Math.Max(0, pulled.Tube) * (water.LevelOf(Parts.SightTube) - cock));
    }

    private void EachTick(LiveRig live)
    {
        var all = live.EventLog.All;
        for (; heard < all.Count; heard++)
        {
            var rigEvent = all[heard];
            if (
                rigEvent.What is RigEventKind.Runs or RigEventKind.Pours
                && Cocks.Contains(rigEvent.Part)
                && live.Rig.On(rigEvent.Part) is null
            )
                flushed.Add(rigEvent.Part);
            scenes.Add(new(rigEvent, live.Rig));
        }
    }

    private void Before(LiveRig live, BenchAction action)
    {
        switch (action)
        {
            case BenchAction.Write w:
                Writes[w.Item] = Pull(live, w);
                break;
            case BenchAction.ReportFinding f:
                Findings = f.Stands ? Findings.Add(f.Finding) : Findings.Remove(f.Finding);
                break;
            case BenchAction.Conclude c:
                (Verdict, VerdictAt) = (c.Overall, live.Tick);
                break;
            case BenchAction.Connect c when Cocks.Contains(c.To) && !flushed.Contains(c.To):
                FittedUnflushed.TryAdd(c.To, live.Tick);
                break;
        }
    }

    private WrittenAnswer Pull(LiveRig live, BenchAction.Write write)
    {
        var (water, outlet) = (live.Water, 0.0);
        foreach (var part in Cocks.Append(Parts.SightTube).Append(Parts.VentScrew))
            outlet += water.Spills(part);
        return new(
            live.Tick,
            write,
            water.Needle,
            live.EventLog.Rate(live.Tick, Recording.PerSecond),
            water.GaugeStands,
            live.Feels(Parts.HighHose),
            live.Feels(Parts.LowHose),
            water.AirIn(Parts.HighHose),
            outlet,
            water.Spills(Parts.Relief),
            water.TubeLevel
        );
    }
}
