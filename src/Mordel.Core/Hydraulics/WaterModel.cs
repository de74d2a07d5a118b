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
public sealed class WaterModel
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

    /// <summary>How far it stands open, 0 to 1.</summary>
    public double InletOpening =>
        !InletOpen ? 0
        : Situation.Of(Parts.AirInlet, FaultKind.Hangs) is null ? 1
        : Situation.Sizes.InletHangs;

    /// <summary>Height of the water in the sight tube, 0 empty to 1 running over; NaN while it is not fitted.</summary>
    public double TubeLevel =>
        !Rig.Connections.ContainsKey(Parts.SightTube)
            ? double.NaN
            : Math.Clamp(
                (solver.Now.P[network.Tube] - network.Cells[network.Tube].FloorHead)
                    / (network.Cells[network.Tube].TopHead - network.Cells[network.Tube].FloorHead),
                0,
                1
            );

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

    /// <summary>Water that came in, in³, since the model began.</summary>
    public double CameIn => solver.In;

    /// <summary>Water that went out, in³.</summary>
    public double WentOut => solver.Out;

    /// <summary>Water in all spaces, in³.</summary>
    public double Stored
    {
        get
        {
            var sum = 0.0;
            foreach (var u in solver.U)
                sum += u;
            return sum;
        }
    }

    /// <summary>Pressure in a chamber at the body's centre line (the kit's: at the gauge), psi above the air.</summary>
    public double PressureIn(string chamber) => solver.Now.P[network.Named(chamber)];

    /// <summary>Part of a chamber that water fills, 0 to 1; the rest is air.</summary>
    public double Fills(string chamber) => Wet(network.Named(chamber));

    /// <summary>The chambers by name.</summary>
    public IEnumerable<string> Chambers => network.Cells.Select(c => c.Name);

    /// <summary>
    /// Water leaving to the air at a part, in³/s: a cock, a bleed, a hose's end, the tube's top, the relief, the inlet.
    /// </summary>
    public double Spills(PartId part)
    {
        var sum = 0.0;
        foreach (var element in network.Elements)
            if (element.Part == part && element.To == network.Air && element.Q > 0)
                sum += element.Q;
        return sum;
    }

    /// <summary>Water through a part, in³/s, positive with the flow.</summary>
    public double Through(PartId part)
    {
        var sum = 0.0;
        foreach (var element in network.Elements)
            if (element.Part == part)
                sum += element.Q;
        return sum;
    }

    /// <summary>
    /// How far the water has lifted a check or relief valve, or an air inlet has dropped: 0 shut to 1 fully open.
    /// </summary>
    public double Lifts(PartId part)
    {
        if (part == Parts.AirInlet)
            return InletOpening;
        foreach (var element in network.Elements)
        {
            if (element.Part != part)
                continue;
            if (element is SpringCheck check)
                return Math.Clamp(
                    (solver.Now.Seen[check.From] - solver.Now.Seen[check.To] - check.Makes.Spring) / check.Makes.Lift,
                    0,
                    1
                );
            if (element is ReliefSeat seat)
                return Math.Clamp(
                    (seat.Makes.Opens - (solver.Now.P[seat.Senses] - solver.Now.P[seat.From])) / seat.Makes.Stroke,
                    0,
                    1
                );
        }

        return 0;
    }

    /// <summary>Height of the gauge's centre, inches above the body's centre line.</summary>
    public double GaugeStands => GaugeHeight();

    /// <summary>
    /// Height that a part's water stands at when a gauge is held level with it, inches above the body's centre line.
    /// </summary>
    public double LevelOf(PartId part) =>
        part == Parts.SightTube ? Situation.Sizes.CockHeight + Situation.Sizes.TubeLength
        : part == Parts.AirInlet ? network.Cells[network.Body].Top
        : part == Parts.VentScrew ? Situation.Sizes.VentHeight
        : Situation.Sizes.CockHeight;

    /// <summary>Part of a hose that air fills now.</summary>
    public double AirIn(PartId hose) => 1 - Wet(Named(hose));

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

    // Springs from the supply on; whatever is not right comes to rest in the first seconds.
    private void FirstGuess()
    {
        var p = Situation.Supply.Psi;
        for (var i = 0; i < network.Cells.Length; i++)
        {
            var check = Array.FindIndex(network.Checks, c => c.Down == i);
            if (check >= 0)
                p = Math.Max(0, p - (check == 0 ? Situation.Springs.Cv1 : Situation.Springs.Cv2));
            var cell = network.Cells[i];
            var body = i <= network.SiteCell;
            if (!body)
                cell.Vented = true;
            solver.Now.P[i] =
                !body ? cell.FloorHead
                : i == network.SiteCell && Situation.SiteBehind.Plumbing == SitePlumbing.OwnPressure
                    ? Math.Max(p, Situation.SiteBehind.Pressure)
                : p;
        }
    }

    private void Once(double most)
    {
        Breathe();
        network.Tap.Conductance = TapOpen ? Situation.Sizes.Tap : 0;
        if (network.InletOrifice is { } door)
            door.Conductance = Situation.Sizes.Inlet * InletOpening;
        var gauge = GaugeHeight() * Sizes.PsiPerInch;
        foreach (var (link, side) in network.Hung)
        {
            link.Head = gauge * Wet(side);
            network.Cells[side].Raised = network.Cells[side].Vented ? 0 : link.Head / 2;
        }
        var h = Math.Min(step, most);
        var felt = Felt;
        while (true)
        {
            budget?.Spend();
            var solved = solver.Try(h, MainPressure(Time + (Solver.Gamma * h)), MainPressure(Time + h));
            var allowed = Tolerance + (RelativeTolerance * Math.Abs(solver.Now.P[network.Supplied]));
            if ((solved && solver.Error <= allowed && Overshoot() <= PopWithin) || h <= ShortestStep)
            {
                if (solved)
                    solver.Accept();
                // Not met in any test; time goes on all the same, and the water stays as it was for a moment.
                else
                    h = Math.Min(most, Stuck);
                var room = solved ? Math.Sqrt(allowed / Math.Max(solver.Error, 1e-12)) * 0.8 : 1;
                // A step that was only cut short by the end of the run says nothing against the next.
                if (h >= step || room < 1)
                    step = Math.Clamp(h * Math.Min(room, 3), ShortestStep, LongestStep);
                break;
            }

            h = Math.Max(ShortestStep, h / (solved && solver.Error > allowed ? 2 : 4));
            step = h;
        }

        Time += h;
        Steps++;
        needle.Move((felt + Felt) / 2, h);
        TurnInlet();
    }

    // How far the tried step falls past the inlet's opening point, psi.
    private double Overshoot() => network.Body < 0 || InletOpen ? 0 : opensAt - HeldBy(solver.Tried);

    private double HeldBy(Pressures at)
    {
        var body = at.P[network.Body] - network.Cells[network.Body].TopHead;
        // A spill-resistant inlet is held by the supply side of its check as well.
        return Situation.Rig.Has(Parts.VentScrew)
            ? Math.Max(body, at.P[network.BeforeFirst] - network.Cells[network.Body].TopHead)
            : body;
    }

    private void TurnInlet()
    {
        if (network.Body < 0)
            return;
        var held = HeldBy(solver.Now);
        if (!InletOpen && held < opensAt)
            (InletOpen, NeedleAtPop, poppedAt) = (true, needle.At, Time);
        else if (InletOpen && Time > poppedAt + Drops && held > opensAt * Situation.Sizes.InletShuts)
            InletOpen = false;
        else
            return;
        step = Math.Min(step, FirstStep);
    }

    // Where air comes and goes. A space that is shut again keeps the air that has come in; water that runs through
    // carries it off.
    private void Breathe()
    {
        for (var i = 0; i < network.Cells.Length; i++)
        {
            if (i == network.Tube)
                continue;
            var cell = network.Cells[i];
            var open =
                network.OpenToAir[i]
                || (i == network.Body && InletOpen)
                || (i == network.UnderTube && solver.U[network.Tube] < TubeEmpty);
            if (cell.Vented && !open)
                cell.Air = Math.Max(cell.StubbornAir, cell.Holds - solver.U[i]);
            else if (!open && cell.Air > cell.StubbornAir)
                cell.Air = Math.Max(
                    cell.StubbornAir,
                    cell.Air * Math.Max(0, 1 - (Leaving(i) * Math.Min(step, 0.1) / cell.Holds))
                );
            if (cell.Air < 1e-9)
                cell.Air = 0;
            cell.Vented = open;
        }
    }

    private double Leaving(int cell)
    {
        var sum = 0.0;
        foreach (var element in network.Elements)
        {
            if (element.From == cell && element.Q > 0)
                sum += element.Q;
            else if (element.To == cell && element.Q < 0)
                sum -= element.Q;
        }

        return sum;
    }

    private double Wet(int side)
    {
        var cell = network.Cells[side];
        var air = cell.Vented
            ? 1 - (solver.U[side] / cell.Holds)
            : cell.Air * Sizes.Atmosphere / Math.Max(solver.Now.P[side] + Sizes.Atmosphere, 0.3) / cell.Holds;
        return 1 - Math.Clamp(air, 0, 1);
    }

    private double GaugeHeight()
    {
        if (Rig.Lifted is { } inches)
            return (double)inches;
        return Rig.Held is { } held
            ? LevelOf(held.With) + (Situation.Kit(FaultKind.GaugeHeight) ?? 0)
            : Situation.Sizes.GaugeHangs;
    }

    // A swing without sines, whose last digits differ between machines: two parabolas.
    private double MainPressure(double at)
    {
        var supply = Situation.Supply;
        if (supply.Swing == 0 || supply.Period <= 0)
            return supply.Psi;
        var turn = (at / supply.Period) + (Situation.Seed * 0.381966);
        var x = (2 * (turn - Math.Floor(turn))) - 1;
        return Math.Max(0, supply.Psi + (supply.Swing * 4 * x * (1 - Math.Abs(x))));
    }
}
