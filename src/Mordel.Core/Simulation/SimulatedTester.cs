using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Simulation;

/// <summary>
/// Performs a procedure on the water by the procedure's own steps: turns what they say, waits for what they wait for,
/// answers with what shows, and goes where the answer leads. It is told nothing that a tester could not see. The log it
/// leaves is an ordinary run.
/// </summary>
public sealed partial class SimulatedTester
{
    // Seconds: as long as somebody waits for a needle; as long as a peg is watched that something may pull the needle
    // from.
    private const int Patience = 900,
        WatchingThePeg = 600,
        Glance = 40,
        MostSteps = 400;

    // As often as anybody does the same again.
    private const int Tries = 10;

    private readonly RunPlan plan;
    private readonly WaterModel water;
    private readonly SimulatedVisit visit;
    private readonly Eyes eyes;
    private readonly Hands hands;
    private readonly Replay replay;
    private readonly Dictionary<TestItem, double> exact = [];
    private readonly Dictionary<TestItem, double> noted = [];
    private readonly List<MetSight> met = [];
    private readonly List<FindingKind> swaps = [];
    private readonly bool siteIsKnown;
    private readonly double began;
    private double papers;
    private int done;
    private string at = "";

    /// <summary>A tester in front of a rig in service.</summary>
    /// <param name="plan">School, rig, profile, kit.</param>
    /// <param name="situation">What is true of the rig; it must be the plan's rig.</param>
    /// <param name="trace">Told of every quarter of a second.</param>
    /// <param name="moved">Told of every move, after it was made, with its time in seconds.</param>
    /// <param name="budget">What may be spent on the water; null for as much as it takes.</param>
    /// <param name="visit">When and with whom; null for a test without papers.</param>
    public SimulatedTester(
        RunPlan plan,
        Situation situation,
        Action<TraceMoment>? trace = null,
        Action<double, Move>? moved = null,
        WorkBudget? budget = null,
        SimulatedVisit? visit = null
    )
        : this(plan, new WaterModel(situation, budget), RunLog.Empty, trace, moved, visit) { }

    /// <summary>
    /// A tester who takes a run over: the water may stand at any moment and the log at any step. Valves and couplings
    /// are first brought to where the run says they are.
    /// </summary>
    /// <param name="plan">School, rig, profile, kit.</param>
    /// <param name="water">The water; its rig must be the plan's.</param>
    /// <param name="log">The run so far.</param>
    /// <param name="trace">Told of every quarter of a second.</param>
    /// <param name="moved">Told of every move, after it was made, with its time in seconds.</param>
    /// <param name="visit">When and with whom; null for a test without papers.</param>
    public SimulatedTester(
        RunPlan plan,
        WaterModel water,
        RunLog log,
        Action<TraceMoment>? trace = null,
        Action<double, Move>? moved = null,
        SimulatedVisit? visit = null
    )
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(water);
        ArgumentNullException.ThrowIfNull(log);
        (this.plan, this.water, this.visit, Log) = (plan, water, visit ?? new(), log);
        var situation = water.Situation;
        eyes = new(water, situation.FullScale);
        hands = new(water, eyes, () => trace?.Invoke(new(at, water)))
        {
            Crossed = situation.Kit(FaultKind.HosesSwapped) is not null,
            Moved = moved,
        };
        began = log.Count == 0 ? 0 : water.Time;
        siteIsKnown = situation.SiteBehind.Plumbing != SitePlumbing.Closed;
        replay = new(plan, log);
        State = replay.State;
        if (log.Count > 0)
            TakeOver();
    }

    /// <summary>Where the run stands.</summary>
    public RunState State { get; private set; }

    /// <summary>The log so far.</summary>
    public RunLog Log { get; private set; }

    /// <summary>Whether the run is at its end, or goes round in circles.</summary>
    public bool IsDone => State.Current is null || done >= MostSteps;

    /// <summary>Performs the step at hand and answers it.</summary>
    /// <returns>False when there is none.</returns>
    public bool Step()
    {
        if (IsDone)
            return false;
        State = Do(State.Current!, State);
        done++;
        return true;
    }

    /// <summary>Performs the test to its end, or until it comes to a step.</summary>
    /// <param name="until">Whether to stop before a step; null for the whole test.</param>
    public SimulatedTest Perform(Func<PlannedStep, bool>? until = null)
    {
        while (!IsDone && until?.Invoke(State.Current!) != true)
            Step();
        var findings = State
            .Findings.Select(f => f.Kind)
            .OfType<FindingKind>()
            .Concat(State.Earlier.SelectMany(e => e.Findings.Select(f => f.Kind).OfType<FindingKind>()));
        return new(
            plan,
            State,
            plan.VerdictOn(State),
            exact,
            [.. swaps.Concat(findings).Distinct()],
            met,
            water.Time,
            Log,
            water.Fingerprint(),
            done < MostSteps
        );
    }

    // What another hand did is believed: numbers that were noted, cocks that have run when they were flushed.
    private void TakeOver()
    {
        foreach (var (item, held) in State.Held)
            noted[item] = (double)held.Reading.Value.In(DifferentialUnit.Psid);
        foreach (var passed in State.Behind)
        foreach (var flushed in passed.Planned.Step.Acts.OfType<Act.Blip>())
            eyes.Believe(flushed.Part);
        // A hose that hangs where the sheet has it was put right before.
        if (State.Rig.Connections.Any(c => water.Rig.Connections.GetValueOrDefault(c.Key) == c.Value))
            hands.Crossed = false;
        hands.Agree(State.Rig);
    }

    private RunState Do(PlannedStep planned, RunState before)
    {
        var step = planned.Step;
        // A site that stands open, or has a pressure of its own, is known to whoever tests there: SO2 can be shown.
        if (
            siteIsKnown
            && !before.Given.ContainsKey(TestItem.Shutoff2)
            && step.Offers.FirstOrDefault() is { } offer
            && !before.Behind.Any(b => b.Planned.Step.Id == offer.Id)
        )
            return Add(new EntryBody.TookOffer(planned.Key, offer.Id));
        at = planned.Key;
        eyes.Begin();
        hands.Begin();
        // The preliminaries are for eyes and papers; nothing is turned.
        if (planned.Stage == "before")
        {
            papers += visit.Papers;
            Ask(step.Asks);
            return Add(new EntryBody.Done(planned.Key));
        }

        foreach (var act in step.Acts)
            Perform(act, step);
        hands.Wait(2);
        eyes.HandsOff();
        Watch(step, planned.Stage);
        if (planned.Stage == "finish")
        {
            papers += visit.Papers;
            Ask(step.Asks);
        }

        var state = Answer(planned, before);
        hands.Agree(state.Rig);
        return state;
    }

    // What people are asked, and how the valves stand.
    private void Ask(Question question)
    {
        switch (question)
        {
            case Question.Permission when visit.Contact is { } contact:
                Add(new EntryBody.Agreed(Matter.Permission, contact));
                break;
            case Question.BeforeRestoring when visit.Contact is { } contact:
                Add(new EntryBody.Agreed(Matter.Restoring, contact));
                break;
            case Question.Arrival:
                foreach (var (part, position) in Found())
                    Add(new EntryBody.AsFound(part, position));
                break;
            case Question.Leaving when visit.Leave is { } leave:
                Add(new EntryBody.ToBeLeft(leave));
                break;
            case Question.Departure:
                foreach (var part in ValvePositions.WrittenDownFor(plan.Rig.Body))
                    if (visit.Contact is null || IsShutoff(part) || water.Rig[part].IsOpen)
                        Add(new EntryBody.AsLeft(part, water.Rig[part].AsPosition()));
                break;
        }
    }

    private IEnumerable<(PartId Part, ValvePosition Position)> Found()
    {
        var found = water.Situation.FoundPositions;
        return visit.Contact is null
            ? found
            : plan
                .Rig.Body.Parts.Where(p => IsShutoff(p.Id) && !found.Any(f => f.Part == p.Id))
                .Select(p => (p.Id, p.Normal.AsPosition()))
                .Concat(found);
    }

    private bool IsShutoff(PartId part) => plan.Rig[part].Kind == PartKind.Shutoff;

    private void Perform(Act act, Step step)
    {
        if (
            MayFallByItself(step)
            && act is Act.Do { Move: Move.Turn { Part: var part, To.IsOpen: false } }
            && part == Parts.So1
        )
            hands.CloseFeather(part);
        else
            hands.Perform(act, step.Cue);
    }

    private RunState Add(EntryBody body)
    {
        var number = Log.LastTick + 1;
        var time = visit.Start.AddSeconds(water.Time - began + papers);
        var entry = new Entry(new(visit.NewId?.Invoke() ?? Counted(number)), number, time, body);
        Log = Log.With(entry);
        return replay.Add(entry);
    }

    private static Guid Counted(long number)
    {
        var id = new byte[16];
        BitConverter.TryWriteBytes(id, number);
        return new(id);
    }
}
