using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Hydraulics;

/// <summary>
/// A moment of the water: give it back to <see cref="WaterModel.Return"/> and the same follows, to the last bit.
/// </summary>
/// <param name="Rig">How the rig stood.</param>
/// <param name="Numbers">All that the model knew.</param>
/// <param name="TapOpen">Whether the tap downstream ran.</param>
public sealed record WaterMoment(RigState Rig, double[] Numbers, bool TapOpen);

/// <summary>
/// The water in a rig: pressures, flows, the needle, as they follow from how every valve stands and what is wrong
/// inside. Deterministic: only sums, products, quotients and square roots, so that every machine comes to the same last
/// bit. Derivation: <c>docs/water.md</c>.
/// </summary>
public sealed partial class WaterModel
{
    // psi: error of a step, and how exactly an inlet's opening is met.
    private const double Tolerance = 0.002,
        RelativeTolerance = 2e-4,
        PopWithin = 0.001;
    private const double ShortestStep = 1e-6,
        LongestStep = 1.0,
        FirstStep = 1e-3,
        Stuck = 0.01;

    // in³, and the seconds that an inlet's disc takes to drop before anything can push it up again.
    private const double TubeEmpty = 0.02,
        Drops = 0.2;

    // Seconds: long enough for a body to drain.
    private const double FoundAfter = 120;

    // What a change of the rig costs, in tries of the solver.
    private const int ForAChange = 2;

    private readonly Network network;
    private readonly Solver solver;
    private readonly GaugeNeedle needle;
    private readonly double opensAt;
    private double step = FirstStep,
        poppedAt = -1;

    private readonly WorkBudget? budget;

    /// <summary>The water of a situation, in service and come to rest.</summary>
    /// <param name="situation">What is true of the rig.</param>
    /// <param name="budget">What may be spent on it; null for as much as it takes.</param>
    public WaterModel(Situation situation, WorkBudget? budget = null)
    {
        ArgumentNullException.ThrowIfNull(situation);
        this.budget = budget;
        Situation = situation;
        network = new(situation);
        solver = new(network);
        needle = new(situation.Sizes.Lag, situation.Kit(FaultKind.ZeroOffset) ?? 0, situation.FullScale);
        opensAt =
            network.Body >= 0 && situation.Of(Parts.AirInlet, FaultKind.StuckClosed) is null
                ? situation.Springs.Inlet
                : double.NegativeInfinity;
        Rig = situation.Rig.InService();
        FirstGuess();
        Set(Rig);
        solver.Fill();
        Run(20);
        if (!situation.FoundPositions.IsEmpty)
        {
            Set(
                situation.FoundPositions.Aggregate(Rig, (state, found) =>
                    state with
                    {
                        Openings = state.Openings.SetItem(found.Part, found.Position.AsOpening()),
                    }
                )
            );
            Run(FoundAfter);
        }

        Time = 0;
        (solver.In, solver.Out) = (0, 0);
    }

    internal Network Plumbing => network;

    internal Pressures Pressures => solver.Now;

    /// <summary>What is true of the rig.</summary>
    public Situation Situation { get; }

    /// <summary>How the rig stands.</summary>
    public RigState Rig { get; private set; }

    /// <summary>Seconds since it was in service.</summary>
    public double Time { get; private set; }

    /// <summary>Steps of the solver so far.</summary>
    public long Steps { get; private set; }

    /// <summary>Where the needle stands, psid.</summary>
    public double Needle => needle.At;

    private double Felt => needle.Felt(solver.Now.P[network.High], solver.Now.P[network.Low]);

    /// <summary>Whether the air inlet stands open.</summary>
    public bool InletOpen { get; private set; }

    /// <summary>Where the needle stood when the inlet last opened, psid.</summary>
    public double NeedleAtPop { get; private set; }

    /// <summary>Whether a tap runs downstream, opened by the tester.</summary>
    public bool TapOpen
    {
        get;
        set
        {
            field = value;
            step = FirstStep;
        }
    }

    /// <summary>A hand has changed the rig.</summary>
    public void Set(RigState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        Rig = state;
        budget?.Spend(ForAChange);
        network.Build(state);
        step = FirstStep;
    }

    /// <summary>Lets time pass.</summary>
    /// <param name="seconds">How much, 0 or more.</param>
    public void Run(double seconds)
    {
        var until = Time + seconds;
        while (until - Time > 1e-9)
            Once(until - Time);
    }

    /// <summary>All that is needed to go on from here.</summary>
    public WaterMoment Moment()
    {
        var n = network.Cells.Length;
        var numbers = new double[(5 * n) + 10 + network.Elements.Length];
        solver.Save(numbers);
        for (var i = 0; i < n; i++)
        {
            numbers[(2 * n) + 2 + i] = network.Cells[i].Air;
            numbers[(3 * n) + 2 + i] = network.Cells[i].Vented ? 1 : 0;
        }

        var rest = numbers.AsSpan((5 * n) + 2);
        (rest[0], rest[1], rest[2], rest[3], rest[4], rest[5]) = (
            Time,
            needle.At,
            step,
            InletOpen ? 1 : 0,
            Steps,
            NeedleAtPop
        );
        rest[7] = poppedAt;
        // What runs carries air off in the next step.
        for (var i = 0; i < network.Elements.Length; i++)
            rest[8 + i] = network.Elements[i].Q;
        return new(Rig, numbers, TapOpen);
    }

    /// <summary>
    /// A short name for a moment, the same on every machine that came to the same last bit (FNV-1a over the numbers'
    /// bits).
    /// </summary>
    public string Fingerprint()
    {
        var hash = 14695981039346656037UL;
        foreach (var number in Moment().Numbers)
        {
            var bits = BitConverter.DoubleToUInt64Bits(number);
            for (var i = 0; i < 64; i += 8)
                hash = (hash ^ ((bits >> i) & 0xFF)) * 1099511628211UL;
        }

        return hash.ToString("x16", System.Globalization.CultureInfo.InvariantCulture);
    }

    /// <summary>Goes back to a moment.</summary>
    public void Return(WaterMoment moment)
    {
        ArgumentNullException.ThrowIfNull(moment);
        var (n, numbers) = (network.Cells.Length, moment.Numbers);
        Set(moment.Rig);
        solver.Load(numbers);
        for (var i = 0; i < n; i++)
        {
            network.Cells[i].Air = numbers[(2 * n) + 2 + i];
            network.Cells[i].Vented = numbers[(3 * n) + 2 + i] > 0;
        }

        var rest = numbers.AsSpan((5 * n) + 2);
        TapOpen = moment.TapOpen;
        (Time, needle.At, step, InletOpen, Steps, NeedleAtPop) = (
            rest[0],
            rest[1],
            rest[2],
            rest[3] > 0,
            (long)rest[4],
            rest[5]
        );
        poppedAt = rest[7];
        for (var i = 0; i < network.Elements.Length; i++)
            network.Elements[i].Q = rest[8 + i];
    }

    private int Named(PartId hose) => network.Named(Situation.Rig.At(new(hose, "kit"))!.Id);
}
