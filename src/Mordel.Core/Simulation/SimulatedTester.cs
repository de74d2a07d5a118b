using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Simulation;

/// <summary>A moment of a simulated test, for a trace.</summary>
/// <param name="Step">The step at hand.</param>
/// <param name="Water">The water as it is now.</param>
public readonly record struct TraceMoment(string Step, WaterModel Water);

/// <summary>A sight that was met, and when.</summary>
/// <param name="Step">The step's key.</param>
/// <param name="Sight">What was seen.</param>
/// <param name="At">Seconds into the test.</param>
/// <param name="Needle">Where the needle stood, psid.</param>
public sealed record MetSight(string Step, Sight Sight, double At, double Needle);

/// <summary>What came of a simulated test.</summary>
/// <param name="Plan">What the run was made with.</param>
/// <param name="State">The run, as its log replays.</param>
/// <param name="Verdict">The verdict.</param>
/// <param name="Exact">The needle as it stood when a number was taken, psid, not rounded.</param>
/// <param name="Findings">What was found, in the order found.</param>
/// <param name="Met">Every sight that was met.</param>
/// <param name="Seconds">Simulated time.</param>
/// <param name="Log">The log that the test left.</param>
/// <param name="Fingerprint">The water at the end, to the last bit.</param>
/// <param name="Finished">Whether it came to its end; false when the steps went round in circles.</param>
public sealed record SimulatedTest(
    RunPlan Plan,
    RunState State,
    Verdict Verdict,
    IReadOnlyDictionary<TestItem, double> Exact,
    IReadOnlyList<FindingKind> Findings,
    IReadOnlyList<MetSight> Met,
    double Seconds,
    RunLog Log,
    string Fingerprint,
    bool Finished
);

/// <summary>
/// Performs a procedure on the water by the procedure's own steps: turns what they say, waits for what they wait for,
/// answers with what shows, and goes where the answer leads. It is told nothing that a tester could not see. The log it
/// leaves is an ordinary run.
/// </summary>
public sealed class SimulatedTester
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
    private readonly Eyes eyes;
    private readonly Hands hands;
    private readonly Replay replay;
    private readonly Dictionary<TestItem, double> exact = [];
    private readonly Dictionary<TestItem, double> noted = [];
    private readonly List<MetSight> met = [];
    private readonly List<FindingKind> swaps = [];
    private readonly bool siteIsKnown;
    private RunLog log = RunLog.Empty;
    private string at = "";

    /// <summary>A tester in front of a rig.</summary>
    /// <param name="plan">School, rig, profile, kit.</param>
    /// <param name="situation">What is true of the rig; it must be the plan's rig.</param>
    /// <param name="trace">Told of every quarter of a second.</param>
    /// <param name="moved">Told of every move, after it was made, with its time in seconds.</param>
    /// <param name="budget">What may be spent on the water; null for as much as it takes.</param>
    public SimulatedTester(
        RunPlan plan,
        Situation situation,
        Action<TraceMoment>? trace = null,
        Action<double, Move>? moved = null,
        WorkBudget? budget = null
    )
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(situation);
        this.plan = plan;
        water = new(situation, budget);
        eyes = new(water, situation.FullScale);
        hands = new(water, eyes, () => trace?.Invoke(new(at, water)))
        {
            Crossed = situation.Kit(FaultKind.HosesSwapped) is not null,
            Moved = moved,
        };
        replay = new(plan);
        siteIsKnown = situation.SiteBehind.Plumbing != SitePlumbing.Closed;
    }

    /// <summary>The clearance that a rig of the simulation has under its relief port.</summary>
    public static Length Clearance { get; } = new(12, LengthUnit.Inch);

    /// <summary>Performs the whole test.</summary>
    public SimulatedTest Perform()
    {
        var state = replay.State;
        var count = 0;
        for (; state.Current is { } step && count < MostSteps; count++)
            state = Do(step, state);
        var findings = state
            .Findings.Select(f => f.Kind)
            .OfType<FindingKind>()
            .Concat(state.Earlier.SelectMany(e => e.Findings.Select(f => f.Kind).OfType<FindingKind>()));
        return new(
            plan,
            state,
            plan.VerdictOn(state),
            exact,
            [.. swaps.Concat(findings).Distinct()],
            met,
            water.Time,
            log,
            water.Fingerprint(),
            count < MostSteps
        );
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
            if (step.Asks == Question.Arrival)
                foreach (var (part, standing) in water.Situation.FoundPositions)
                    Add(new EntryBody.AsFound(part, standing));
            return Add(new EntryBody.Done(planned.Key));
        }

        foreach (var act in step.Acts)
            Perform(act, step);
        hands.Wait(2);
        eyes.HandsOff();
        Watch(step, planned.Stage);
        if (step.Asks == Question.Departure)
            foreach (var part in ValvePositions.WrittenDownFor(plan.Rig.Body))
                Add(new EntryBody.AsLeft(part, water.Rig[part].AsPosition()));
        var state = Answer(planned, before);
        hands.Agree(state.Rig);
        return state;
    }

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

    private static bool MayFallByItself(Step step) =>
        step.Sights.Any(s => s.Branch.Any(b => b.Cue.Kind == CueKind.FallsByItself));

    private void Watch(Step step, string stage)
    {
        switch (step.Cue.Kind)
        {
            case CueKind.FirstDrip when eyes.NeedleAtDrip is not null:
            case CueKind.Pop when eyes.NeedleAtPop is not null:
                return;
            case CueKind.FallsByItself:
                hands.Brake(Patience);
                return;
            case CueKind.OnlyDrips:
                hands.BleedToTheDrip();
                break;
        }

        if (step.Sights.IsEmpty && step.Capture is null)
        {
            hands.Wait(stage == "finish" ? 1 : 2);
            return;
        }

        // Where nothing is read and nothing must be answered, a glance is enough.
        var patience = step.Capture is null && !step.MustAnswer ? Glance : Patience;

        // A pegged needle says nothing by standing still: what may pull it off needs time, and is acted on as soon as
        // it shows.
        var falls = step.Sights.Any(s => s.Id is "left-the-peg" or "drops" or "falls");
        if (falls && eyes.Pegged && !eyes.LeftThePeg && step.Cue.Kind == CueKind.Still)
            for (var waited = 0; waited < WatchingThePeg && !eyes.OffThePeg; waited++)
                hands.Wait(1);
        if (MayFallByItself(step) && eyes.LeftThePeg)
            return;
        hands.Settle(patience);
    }

    private RunState Answer(PlannedStep planned, RunState before)
    {
        var (key, step) = (planned.Key, planned.Step);
        var sight = SightObservations.At(step, Scene(planned));
        if (sight is { Good: false })
            return See(planned, sight);
        if (step.Capture is { } capture && capture.Item.Kind != ItemKind.Differential)
        {
            ItemValue value =
                capture.Item.Kind == ItemKind.Length
                    ? new ItemValue.Clearance(Clearance)
                    : new ItemValue.Line(LineGauge());
            return Add(new EntryBody.Answered(key, capture.Item, value));
        }

        if (step.Holds && plan.School.HoldSeconds > 0 && !before.Holds.ContainsKey(key))
        {
            var still = step.Cue.Kind == CueKind.Still;
            Add(new EntryBody.HoldStarted(key, null));
            if (still)
                hands.Wait(plan.School.HoldSeconds);
            Add(new EntryBody.HoldEnded(key, null, still ? null : "The number is taken as it happens."));
            if (still && SightObservations.At(step, Scene(planned)) is { Good: false } late)
                return See(planned, late);
        }

        if (sight is not null)
            return Add(new EntryBody.Saw(key, sight.Id));
        if (step.Capture is not { } wanted)
            return Add(new EntryBody.Done(key));
        var needle = step.Cue.Kind switch
        {
            CueKind.FirstDrip => eyes.NeedleAtDrip,
            CueKind.Pop or CueKind.FallsByItself => eyes.NeedleAtPop,
            _ => null,
        } ?? eyes.Needle;
        (wanted.Provisional ? noted : exact)[wanted.Item] = needle;
        var speed = step.Cue.Kind is CueKind.FirstDrip or CueKind.Pop or CueKind.FallsByItself
            ? Math.Max(0, eyes.Falling(1))
            : 0;
        return Add(
            new EntryBody.Taken(
                key,
                new Reading(
                    Shown(needle),
                    plan.Resolution,
                    new Differential(decimal.Round((decimal)speed * InUnit, 3), plan.Resolution.Unit)
                )
            )
        );
    }

    private RunState See(PlannedStep planned, Sight sight)
    {
        met.Add(new(planned.Key, sight, water.Time, eyes.Needle));
        if (sight.Leads == LeadsTo.Repeat && planned.Attempt >= Tries)
            return Add(new EntryBody.Stopped($"{sight.Seen}: {Tries} tries led no further."));
        if (sight.Findings.Contains(FindingKind.HosesSwapped))
        {
            // Seen is mended: from here the hoses go where they belong.
            swaps.Add(FindingKind.HosesSwapped);
            hands.Crossed = false;
        }

        var item = sight.Item ?? planned.Step.Capture?.Item;
        if (item is not null && sight.Takes == TakesValue.ZeroOnDial)
            exact[item] = eyes.Needle;
        if (item is not null && sight.Takes == TakesValue.NumberHeld && noted.TryGetValue(item, out var held))
            exact[item] = held;
        return Add(new EntryBody.Saw(planned.Key, sight.Id));
    }

    private Scene Scene(PlannedStep planned) =>
        new(
            eyes,
            planned.Attempt,
            hands.ReachedTheEnd,
            hands.Crossed,
            -water.Through(Parts.BypassHose),
            water.TubeLevel,
            water.InletOpening,
            water.Spills(Parts.BleedOff),
            water.Spills(Parts.Site)
        );

    private LinePressure LineGauge()
    {
        var chamber = plan.Rig.At(new(plan.Rig.Body.SupplyCock, "in"))!.Id;
        // A line gauge has no marks below its zero.
        var psi = Math.Clamp((decimal)water.PressureIn(chamber), 0m, 999m);
        return plan.Resolution.Unit == DifferentialUnit.Psid
            ? new(decimal.Round(psi), LinePressureUnit.Psi)
            : new(decimal.Round(psi * DifferentialUnits.KpaPerPsi), LinePressureUnit.Kpa);
    }

    private decimal InUnit => plan.Resolution.Unit == DifferentialUnit.Psid ? 1m : DifferentialUnits.KpaPerPsi;

    private Differential Shown(double psid)
    {
        var steps = decimal.Round((decimal)psid * InUnit / plan.Resolution.Amount, MidpointRounding.ToEven);
        // No needle is read below its zero.
        return new(Math.Max(0m, steps) * plan.Resolution.Amount, plan.Resolution.Unit);
    }

    private RunState Add(EntryBody body)
    {
        var number = log.LastTick + 1;
        var id = new byte[16];
        BitConverter.TryWriteBytes(id, number);
        var entry = new Entry(new(new Guid(id)), number, DateTimeOffset.UnixEpoch.AddSeconds(water.Time), body);
        log = log.With(entry);
        return replay.Add(entry);
    }
}
