using Mordel.Core.Rigs;
using Mordel.Core.Simulation;

namespace Mordel.Core.Training;

/// <summary>What can be seen, heard or felt to happen at a rig.</summary>
public enum RigEventKind
{
    /// <summary>An outlet is dry again.</summary>
    Dry,

    /// <summary>An outlet drips.</summary>
    Drips,

    /// <summary>It runs.</summary>
    Runs,

    /// <summary>It pours.</summary>
    Pours,

    /// <summary>The air inlet opens.</summary>
    InletOpens,

    /// <summary>The air inlet shuts.</summary>
    InletShuts,

    /// <summary>The needle comes to its upper peg.</summary>
    Pegs,

    /// <summary>The needle leaves its upper peg.</summary>
    LeavesPeg,

    /// <summary>The needle has come to rest.</summary>
    Rests,

    /// <summary>The last air has left a hose.</summary>
    AirGone,

    /// <summary>Air has come into a hose.</summary>
    AirIn,

    /// <summary>The tube's level has sunk out of sight.</summary>
    TubeEmpty,

    /// <summary>The tube stands full.</summary>
    TubeFull,

    /// <summary>Water was stopped or let go so suddenly that the pipes knock.</summary>
    Hammer,

    /// <summary>A coupling was undone with pressure behind it.</summary>
    SpraysOff,

    /// <summary>A screw was taken out with pressure behind it.</summary>
    BlowsOut,
}

/// <summary>Something that happened.</summary>
/// <param name="At">Tick.</param>
/// <param name="What">What.</param>
/// <param name="Part">Where.</param>
/// <param name="Needle">Where the needle stood, psid.</param>
/// <param name="Amount">in³/s of an outlet, psi of a pressure; 0 where there is none.</param>
public readonly record struct RigEvent(int At, RigEventKind What, PartId Part, double Needle, double Amount);

/// <summary>
/// What has happened at a rig, as somebody who sees and hears everything outside would note it. Marks, captions and the
/// spoken state are made from it.
/// </summary>
public sealed partial class EventLog
{
    /// <summary>Ticks between two looks at the needle that are kept.</summary>
    public const int Every = 6;

    // psi behind a coupling that sprays, behind a screw that flies, across a shutoff that knocks; in³/s that are
    // stopped at a blow.
    private const double Sprays = 5,
        Flies = 20,
        Knocks = 15,
        Fast = 5;
    private const int AWhile = 30,
        Suddenly = 36,
        AfterASpurt = 90;

    private readonly LiveRig rig;
    private readonly PartId[] outlets,
        hoses,
        shutoffs;
    private readonly List<RigEvent> events = [];
    private readonly List<float> needle = [];
    private readonly Dictionary<PartId, RigEventKind> streams = [];
    private readonly Dictionary<PartId, int> lessSince = [];
    private readonly HashSet<PartId> airy = [];
    private readonly Dictionary<PartId, (int Tick, double Across)> lastShut = [];
    private readonly Dictionary<PartId, (int Tick, double Flow)> lastRan = [];
    private readonly double peg;
    private (RigEvent Off, PartId From)? undone;
    private bool pegged,
        resting,
        tubeFull,
        inletOpen,
        blown;

    internal EventLog(LiveRig rig)
    {
        this.rig = rig;
        peg = rig.Water.Situation.FullScale - Perception.AtThePeg;
        var parts = rig.Water.Situation.Rig.Parts;
        outlets =
        [
            .. parts
                .Where(p =>
                    p.Kind
                        is PartKind.Cock
                            or PartKind.Hose
                            or PartKind.SightTube
                            or PartKind.BleedOff
                            or PartKind.Relief
                            or PartKind.Inlet
                            or PartKind.Screw
                            or PartKind.Bleed
                )
                .Select(p => p.Id),
        ];
        hoses = [.. parts.Where(p => p.Kind == PartKind.Hose).Select(p => p.Id)];
        shutoffs = [.. parts.Where(p => p.Kind == PartKind.Shutoff).Select(p => p.Id)];
        Recall();
    }

    /// <summary>Everything that happened.</summary>
    public IReadOnlyList<RigEvent> All => events;

    /// <summary>How an outlet runs now: <see cref="RigEventKind.Dry"/> to <see cref="RigEventKind.Pours"/>.</summary>
    public RigEventKind Stream(PartId outlet) => streams.GetValueOrDefault(outlet, RigEventKind.Dry);

    /// <summary>Whether a hose holds air that a reading would feel.</summary>
    public bool HasAir(PartId hose) => airy.Contains(hose);

    /// <summary>Where the needle stood at a tick, psid.</summary>
    public double NeedleAt(int tick) =>
        needle.Count == 0 ? rig.Water.Needle : needle[Math.Clamp(tick / Every, 0, needle.Count - 1)];

    /// <summary>How fast it went before a tick, psid/s; negative while it fell.</summary>
    public double Rate(int tick, int over = Recording.PerSecond / 2) =>
        (NeedleAt(tick) - NeedleAt(tick - over)) * Recording.PerSecond / over;

    /// <summary>The last time that something happened at a part, before a tick; null when it never did.</summary>
    public RigEvent? Last(RigEventKind what, PartId part, int before = int.MaxValue)
    {
        for (var i = events.Count - 1; i >= 0; i--)
            if (events[i].At <= before && events[i].What == what && events[i].Part == part)
                return events[i];
        return null;
    }

    internal (RigEvent Off, PartId From)? Before(BenchAction action)
    {
        var item = action switch
        {
            BenchAction.TakeOff o => o.Item,
            BenchAction.Connect c => c.Item,
            _ => default,
        };
        var state = rig.Rig;
        if (
            item == default
            || !state.Connections.TryGetValue(item, out var on)
            || (action is BenchAction.Connect { To: var to } && to == on)
        )
            return null;
        var behind = state.Rig[item].Kind == PartKind.Hose ? state.Rig.At(new(item, "kit"))!.Id : rig.Feels(item) ?? "";
        // The schools let off what stands behind CV2 through the bypass hose, its control shut.
        if (behind.Length == 0 || (item == Parts.BypassHose && !state[Parts.BypassControl].IsOpen))
            return null;
        var pressure = rig.Water.PressureIn(behind);
        return pressure > Sprays ? (new(rig.Tick, RigEventKind.SpraysOff, item, rig.Water.Needle, pressure), on) : null;
    }

    internal void Watch((RigEvent Off, PartId From) coupling) => undone = coupling;

    internal void Look()
    {
        if (rig.Tick % Every == 0)
        {
            var at = rig.Tick / Every;
            while (needle.Count <= at)
                needle.Add((float)rig.Water.Needle);
            needle[at] = (float)rig.Water.Needle;
            LookAtNeedle();
        }

        LookAtCoupling();
        foreach (var outlet in outlets)
            LookAtOutlet(outlet);
        foreach (var hose in hoses)
            LookIntoHose(hose);
        foreach (var shutoff in shutoffs)
            FeelForKnocks(shutoff);
        LookAtTube();
        LookForBlowing();
        if (rig.Water.InletOpen != inletOpen)
        {
            inletOpen = rig.Water.InletOpen;
            events.Add(
                new(
                    rig.Tick,
                    inletOpen ? RigEventKind.InletOpens : RigEventKind.InletShuts,
                    Parts.AirInlet,
                    inletOpen ? rig.Water.NeedleAtPop : rig.Water.Needle,
                    0
                )
            );
        }
    }

    internal void Forget(int tick)
    {
        events.RemoveAll(e => e.At > tick);
        if (needle.Count > (tick / Every) + 1)
            needle.RemoveRange((tick / Every) + 1, needle.Count - (tick / Every) - 1);
        Recall();
    }

    // How things stand, from what was noted and what the water is now.
    private void Recall()
    {
        streams.Clear();
        lessSince.Clear();
        airy.Clear();
        lastShut.Clear();
        lastRan.Clear();
        foreach (var e in events.Where(e => e.What <= RigEventKind.Pours))
            streams[e.Part] = e.What;
        foreach (var hose in hoses)
            if (rig.Water.AirIn(hose) > Perception.AirFelt)
                airy.Add(hose);
        undone = null;
        (pegged, resting, inletOpen, blown) = (rig.Water.Needle > peg, false, rig.Water.InletOpen, false);
        tubeFull = rig.Water.TubeLevel > Perception.TubeFull;
    }

    private void Add(RigEventKind what, PartId part, double amount = 0) =>
        events.Add(new(rig.Tick, what, part, rig.Water.Needle, amount));
}
