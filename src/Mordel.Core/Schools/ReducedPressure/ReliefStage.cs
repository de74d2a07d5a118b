using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.ReducedPressure;

/// <summary>The cocks of an RP by what they feel, on a four-cock or a three-tap body.</summary>
/// <param name="Setup">What the sheet is written for.</param>
public sealed record ReliefRig(Setup Setup)
{
    /// <summary>Before CV1: TC2 or T1.</summary>
    public PartId Up => Setup.Body.Cocks[0];

    /// <summary>In the zone: TC3 or T2.</summary>
    public PartId Zone => Setup.Body.Cocks[1];

    /// <summary>Behind CV2: TC4 or T3.</summary>
    public PartId Down => Setup.Body.Cocks[2];

    /// <summary>A part's label.</summary>
    public string this[PartId part] => Setup[part];

    /// <summary>High hose before CV1, low hose in the zone, SO2 shut.</summary>
    public Condition[] TwoHoses =>
        [IsOn(Parts.HighHose, Up), IsOn(Parts.LowHose, Zone), IsOpen(Parts.So1), IsClosed(Parts.So2)];
}

/// <summary>
/// What the relief-first and the check-first school share: hooking up, flushing, the relief's opening, and what may be
/// seen there.
/// </summary>
public static partial class ReliefStage
{
    /// <summary>Flushing in the order that keeps the zone low.</summary>
    public static Step Flushing(ReliefRig rp) =>
        new(
            "ready.flush",
            $"Flush the cocks, {rp[rp.Down]} first",
            rp.Setup.Does(StepVariant.FlushDownAndUp)
                ?
                [
                    .. rp.Setup.Body.AllCocks.Reverse().Select(c => Open(c)),
                    .. rp.Setup.Body.AllCocks.Select(c => Close(c)),
                ]
                :
                [
                    Open(rp.Down, $"Open {rp[rp.Down]} and leave it running."),
                    .. rp.Setup.Body.AllCocks.Where(c => c != rp.Down).Select(c => Flush(c)),
                    Close(rp.Down, $"Close {rp[rp.Down]}."),
                ],
            $"With {rp[rp.Down]} running both checks stay open and the zone stays low, so the relief keeps shut."
        )
        {
            Caution =
                "Water comes out under pressure, also at the relief port: eyes, electrics, floor. On a high hazard "
                + "treat it as contaminated.",
            Needs = [IsOpen(Parts.So1)],
            Sights =
            [
                NoWater.From(rp.Down, rp[rp.Down], "ready.flush"),
                new(
                    "dumps",
                    "The relief dumps while flushing",
                    $"{rp[rp.Up]} was drawn with nothing running at {rp[rp.Down]}, or the supply is thin. Nothing "
                        + $"is wrong with the valve: flush again, {rp[rp.Down]} first."
                )
                {
                    Shows = ObservationKind.OwnDoing,
                    Leads = LeadsTo.Repeat,
                    Again = "ready.flush",
                },
            ],
        };

    /// <summary>High to the first cock, low to the zone.</summary>
    public static Step Hoses(ReliefRig rp) =>
        new(
            "hook.hoses",
            $"High hose on {rp[rp.Up]}, low hose on {rp[rp.Zone]}",
            [
                Put(Parts.HighHose, rp.Up),
                Put(Parts.LowHose, rp.Zone),
                Look($"The bypass hose (B) lies ready, loose, at {rp[rp.Down]}."),
            ],
            "The gauge then reads what CV1 holds. Swapped, the needle sits at zero and nothing works."
        )
        {
            Needs = [IsClosed(rp.Up), IsClosed(rp.Zone), IsClosed(rp.Down)],
        };

    /// <summary>The relief's opening point.</summary>
    public static Stage Opening(ReliefRig rp, ImmutableArray<Act> afterwards, string afterTitle) =>
        new(
            "relief-opening",
            "Relief valve opens",
            StageKind.Test,
            [
                new(
                    "rv.dry",
                    "Dry the relief port",
                    [Look("Dry the port with a cloth.")],
                    "An old drop must not be taken for the first."
                )
                {
                    Needs = [.. rp.TwoHoses, IsPurged(Side.High), IsPurged(Side.Low)],
                },
                new(
                    "rv.feed",
                    "Feed the zone slowly, read at the first drip",
                    [new Act.FeedZone()],
                    "Supply water raises the zone until the relief opens. Opened wide, the flow through the hoses "
                        + "makes the needle read low."
                )
                {
                    Watch =
                        "The needle falls and seems to quicken: throttle it. At the first drip take the number, "
                        + "with the low control still barely open.",
                    Caution = "Water comes out of the relief port.",
                    Capture = new(TestItem.ReliefOpening)
                    {
                        WhenLow = FindingKind.ReliefLow,
                        RemarkWhenLow = "Relief valve opens too low.",
                    },
                    Cue = Cue.FirstDrip,
                    Needs = [.. rp.TwoHoses, IsPurged(Side.High), IsPurged(Side.Low), IsOff(Parts.BypassHose)],
                    Sights =
                    [
                        Pours(rp),
                        LeaksUntold with
                        {
                            Shows = ObservationKind.ReliefWetFromTheStart,
                        },
                        CannotBeReached(rp),
                        NothingDrips,
                        NothingReacts(rp, "zero-nothing-reacts"),
                    ],
                },
                new("rv.stop", afterTitle, afterwards, "The feed must not go on into the next test.")
                {
                    Needs = rp.TwoHoses is var n ? [.. n] : [],
                },
            ]
        );

    private static Step ReadTheRest =>
        new(
            "hook.relief-point",
            "Read the needle while the relief drips",
            [Look("Wait until the needle is still and the relief drips; take that number.")],
            "The leaking check feeds the zone for you: this is the relief's opening point."
        )
        {
            Capture = new(TestItem.ReliefOpening)
            {
                WhenLow = FindingKind.ReliefLow,
                RemarkWhenLow = "Relief valve opens too low.",
            },
        };

    private static Step RestOfCheck =>
        new(
            "hook.check-rest",
            "Write down what CV1 holds",
            [Look("The needle at rest is all that CV1 holds.")],
            "The number goes on the report, though it fails."
        )
        {
            Capture = new(TestItem.Check1),
        };
}
