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
public static class ReliefStage
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

    private static Sight Pours(ReliefRig rp) =>
        new(
            "pours",
            "It pours: the low control went too far",
            "The tester's doing, not a failure. Shut the feed, restore the zone, dry the port and repeat."
        )
        {
            Shows = ObservationKind.OwnDoing,
            Leads = LeadsTo.Repeat,
            Again = "rv.dry",
            Branch =
            [
                new(
                    "rv.again",
                    "Close the low control, restore the zone",
                    [Close(Parts.LowControl), new Act.RestoreZone(rp.Down)],
                    "The zone must be low again before the relief can be raised to its point."
                ),
            ],
        };

    private static Sight CannotBeReached(ReliefRig rp) =>
        new(
            "cannot-be-reached",
            "The needle stays high and steady however much is fed",
            "SO2 leaks with the flow and carries the water away."
        )
        {
            Shows = ObservationKind.OpeningNotReached,
            Findings = [FindingKind.So2LeaksWithFlow],
            Remark = "SO2 leaks with the flow.",
            Gives = [new(TestItem.Shutoff2, false)],
            Branch =
            [
                new(
                    "rv.exercise",
                    "Work SO2 to and fro, then close it firmly",
                    [Close(Parts.LowControl), Look("Open and close SO2 a few times."), Close(Parts.So2)],
                    "Grit under a shutoff often washes out."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Sight.PutRight("shuts", "It shuts now", "Restore the zone and try again.", "rv.dry") with
                        {
                            Branch =
                            [
                                new(
                                    "rv.restore",
                                    "Restore the zone",
                                    [new Act.RestoreZone(rp.Down)],
                                    "Back to where the feed began."
                                ),
                            ],
                        },
                        new(
                            "stays-open",
                            "SO2 will not shut",
                            "The relief cannot be brought to its point until SO2 shuts: a return visit "
                                + "after the repair."
                        )
                        {
                            Shows = ObservationKind.CannotBePutRight,
                            Remark = "SO2 does not shut off.",
                            Leads = LeadsTo.NotTestable,
                        },
                    ],
                },
            ],
        };

    private static Sight NothingDrips =>
        new(
            "nothing-drips",
            "The needle runs down to zero and nothing drips",
            "The relief does not open: spring, diaphragm or sensing passage."
        )
        {
            Shows = ObservationKind.NothingDripsToZero,
            Findings = [FindingKind.ReliefStuck],
            Remark = "Relief valve does not open.",
            Takes = TakesValue.ZeroOnDial,
            Item = TestItem.ReliefOpening,
            FailsAlone = true,
        };

    private static Sight LeaksUntold =>
        new(
            "leaks-untold",
            "It discharges while the needle stands well above its point",
            "The relief's seat is fouled or its diaphragm torn: it leaks without being told to. Its opening cannot "
                + "be read; first make sure that CV1 is sound."
        )
        {
            Shows = ObservationKind.ReliefRunsNeedleStands,
            Findings = [FindingKind.ReliefLeaks],
            Remark = "Relief valve leaks.",
            FailsAlone = true,
        };

    /// <summary>The needle sits at zero and nothing reacts.</summary>
    public static Sight NothingReacts(ReliefRig rp, string id) =>
        new(
            id,
            "The needle sits at zero and nothing reacts",
            $"Hoses swapped, {rp[rp.Up]} shut or blocked, or SO1 shut."
        )
        {
            Shows = ObservationKind.NeedleDrivenDown,
            Branch =
            [
                new(
                    "hook.clear-up",
                    $"Look at the hoses, {rp[rp.Up]} and SO1",
                    [
                        Look(
                            $"Is the high hose on {rp[rp.Up]} and the low hose on {rp[rp.Zone]}? Is {rp[rp.Up]} "
                                + $"open and clear? Is SO1 open?"
                        ),
                    ],
                    "One of three, and each is soon seen."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Sight.HosesSwapped("The hoses were swapped", "Hook up again and purge.", "hook.hoses"),
                        Sight.PutRight(
                            "cleared",
                            $"{rp[rp.Up]} or SO1 was shut: open now",
                            "Purge again.",
                            "hook.hoses"
                        ),
                        Blocked(rp[rp.Up]),
                    ],
                },
            ],
        };

    /// <summary>The needle is pegged and stays there.</summary>
    public static Sight PeggedFromTheStart(ReliefRig rp, string again = "hook.hoses") =>
        new(
            "pegged",
            "The needle is pegged from the start",
            $"{rp[rp.Zone]} shut or blocked, or air on the low side that was not purged."
        )
        {
            Shows = ObservationKind.NeedlePegged,
            Branch =
            [
                new(
                    "hook.clear-low",
                    $"Open and clear {rp[rp.Zone]}, purge the low side",
                    [Look($"Work {rp[rp.Zone]} to and fro; purge the low side again.")],
                    "The low port must feel the zone."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Sight.PutRight("cleared", "It is clear now", "Purge again.", again),
                        Blocked(rp[rp.Zone]),
                    ],
                },
            ],
        };

    private static Sight Blocked(string cock) =>
        new("stays", $"{cock} stays blocked", "This assembly cannot be tested today: a return visit after the repair.")
        {
            Shows = ObservationKind.CannotBePutRight,
            Findings = [FindingKind.CockBlocked],
            Remark = $"{cock} is blocked.",
            Leads = LeadsTo.NotTestable,
        };

    /// <summary>What a needle tells that will not stand still with SO2 closed.</summary>
    public static ImmutableArray<Sight> Sinking(ReliefRig rp) =>
        [
            new(
                "relief-runs",
                "The needle sinks and the relief runs",
                "CV1 leaks, the commonest fault: the zone fills until the relief lets go. What the needle shows "
                    + "then is the relief's point, and all that CV1 holds."
            )
            {
                Shows = ObservationKind.ReliefRunsAtOnce,
                Findings = [FindingKind.Cv1Leaks],
                Remark = "CV1 leaks.",
                Branch = [ReadTheRest, RestOfCheck],
                Leads = LeadsTo.CloseUp,
            },
            new(
                "sinks-slowly",
                "The needle sinks, no discharge yet",
                "CV1 leaks slowly: a weep takes a minute or two to reach the relief's point. Wait for the drip."
            )
            {
                Shows = ObservationKind.ReliefRunsLater,
                Findings = [FindingKind.Cv1Leaks],
                Remark = "CV1 leaks slowly.",
                Branch = [ReadTheRest, RestOfCheck],
                Leads = LeadsTo.CloseUp,
            },
            new(
                "zero-and-dry",
                "The needle sinks to zero and nothing drips",
                "CV1 leaks and the relief is stuck: nothing protects the main. Out of service."
            )
            {
                Shows = ObservationKind.ZeroAndReliefDry,
                Findings = [FindingKind.Cv1Leaks, FindingKind.ReliefStuck],
                Remark = "CV1 leaks and the relief valve does not open: dangerous, out of service.",
                FailsAlone = true,
                Takes = TakesValue.ZeroOnDial,
                Item = TestItem.ReliefOpening,
                Branch = [RestOfCheck],
                Leads = LeadsTo.CloseUp,
            },
            LeaksUntold,
            NothingReacts(rp, "zero-nothing-reacts"),
        ];

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
