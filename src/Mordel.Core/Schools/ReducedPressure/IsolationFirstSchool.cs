using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.ReducedPressure;

/// <summary>
/// Reduced pressure zone, isolation-first school, metric: both isolation valves are proved before anything is read,
/// then CV1, the relief, CV2 both ways. The kit's controls are lettered A high, B low, C vent. Source: handbook chapter
/// 2 (sequence) and chapter 4 (sights).
/// </summary>
public static class IsolationFirstSchool
{
    private static readonly PartId A = Parts.HighControl,
        B = Parts.LowControl,
        C = Parts.BypassControl;

    /// <summary>The procedure.</summary>
    public static Procedure Procedure { get; } =
        new(
            "rp-isolation-first",
            "Reduced pressure zone, isolation first",
            "Both isolation valves must be tight before anything is read. Controls: A high, B low, C vent. The low "
                + "hose moves once, the high hose twice.",
            AssemblyTypes.RP,
            [KitKind.ThreeValve, KitKind.Digital, KitKind.FiveValve],
            ["tape measure"],
            Stages
        )
        {
            Body = "three-tap",
            LettersControls = true,
            Version = 3,
        };

    private static ImmutableArray<Stage> Stages(Setup setup)
    {
        var rp = new ReliefRig(setup);
        return
        [
            new(
                "ready",
                "Flush and get ready",
                StageKind.Prepare,
                [
                    .. Measuring.Clearance(setup),
                    new(
                        "ready.so2",
                        "Upstream valve open, close the downstream valve",
                        [Open(Parts.So1, "SO1 open."), Close(Parts.So2)],
                        "From here nothing leaves toward the site."
                    )
                    {
                        Caution = "Water to the site is off from here. Close slowly: sudden closing hammers pipes.",
                    },
                    new(
                        "ready.flush",
                        "Open and close each tap",
                        [.. setup.Body.Cocks.Reverse().Select(c => Flush(c))],
                        "Blows out grit and proves each tap."
                    )
                    {
                        Caution =
                            "Water comes out, also at the relief port: eyes, electrics, floor. On a high hazard "
                            + "treat it as contaminated.",
                        Needs = [IsOpen(Parts.So1), IsClosed(Parts.So2)],
                    },
                    .. Measuring.Adapters(setup, rp.Up, rp.Zone, rp.Down),
                    .. Measuring.LinePressure(setup, "ready.line", setup.Body.SupplyCock, IsOpen(Parts.So1)),
                    new(
                        "ready.kit",
                        "A open, B and C closed",
                        [new Act.CloseKit(), Open(A, "Open A (high control).")],
                        "A keeps the high side joined to the manifold."
                    ),
                ]
            ),
            Isolation(rp),
            FirstCheck(rp),
            Opening(rp),
            Against(rp),
            WithTheFlow(rp),
        ];
    }

    private static Stage Isolation(ReliefRig rp) =>
        new(
            "isolation",
            "Isolation valves are tight",
            StageKind.Test,
            [
                new(
                    "iso.hook",
                    $"High hose on {rp[rp.Down]}, purge",
                    [
                        Put(Parts.HighHose, rp.Down),
                        Open(rp.Down),
                        Open(B, "Open B."),
                        Open(C, "Open C, until both hoses run without air."),
                        Close(B, "Close B."),
                        Close(C, "Close C."),
                    ],
                    "The gauge feels the body from behind both checks."
                )
                {
                    Needs =
                    [
                        IsOpen(Parts.So1),
                        IsClosed(Parts.So2),
                        IsOpen(A),
                        IsClosed(B),
                        IsClosed(C),
                        IsClosed(rp.Down),
                    ],
                    Sights = [NoWater.InTheHose(rp[rp.Down], "iso.hook")],
                },
                new(
                    "iso.shut",
                    "Open a tap downstream, close the upstream valve",
                    [
                        new Act.OpenTap(
                            "Open a tap downstream, so that the downstream valve has somewhere to leak to."
                        ),
                        Close(Parts.So1),
                    ],
                    "The body is shut in between two valves. A site that has come to the same pressure would hide "
                        + "a leak of the downstream one."
                )
                {
                    Watch = "The needle is high, and stays there. A weep takes a minute or two to bring it down.",
                    Needs = [IsOn(Parts.HighHose, rp.Down), IsPurged(Side.High), IsClosed(Parts.So2)],
                    Sights =
                    [
                        Leaking(
                            "falls",
                            ObservationKind.NeedleFalls,
                            "The needle falls by itself",
                            "SO2",
                            TestItem.Shutoff2,
                            FindingKind.So2LeaksWithFlow,
                            rp
                        ),
                    ],
                },
                new(
                    "iso.test",
                    "Open B until the needle has dropped, close it",
                    [
                        new Act.CloseTap("Close the tap downstream."),
                        Crack(B, "Open B a little until the needle stands at about half its scale.", Cue.NeedleAt(8m)),
                        Close(B, "Close B."),
                    ],
                    "With the pressure lowered a leak of either valve shows: in through one, out through the other."
                )
                {
                    Watch = "The needle must stand still where you left it.",
                    MustAnswer = true,
                    Holds = true,
                    Needs = [IsClosed(Parts.So1), IsClosed(Parts.So2), IsOpen(A), IsClosed(C), IsOpen(rp.Down)],
                    Sights =
                    [
                        new(
                            "settles",
                            "It rises a little by itself, then stands still",
                            "Water that a weeping check had held back has come to rest. Both valves are tight: a "
                                + "leak would go on."
                        )
                        {
                            Shows = ObservationKind.NeedleRoseByItself,
                            Gives = [new(TestItem.Shutoff1, true), new(TestItem.Shutoff2, true)],
                        },
                        new("still", "It stands still", "Both isolation valves are tight.")
                        {
                            Shows = ObservationKind.AsItShouldBe,
                            Good = true,
                            Gives = [new(TestItem.Shutoff1, true), new(TestItem.Shutoff2, true)],
                        },
                        new("rises", "The needle rises", "One of the two lets water in. The first tap tells which.")
                        {
                            Shows = ObservationKind.NeedlePegged,
                            Branch =
                            [
                                new(
                                    "iso.which",
                                    $"Open {rp[rp.Up]}: does it keep running?",
                                    [Open(rp.Up)],
                                    "What comes in through the upstream valve runs out here."
                                )
                                {
                                    MustAnswer = true,
                                    Sights =
                                    [
                                        Leaking(
                                            "runs-on",
                                            ObservationKind.WaterRunsOn,
                                            "It runs on",
                                            "SO1",
                                            TestItem.Shutoff1,
                                            FindingKind.So1Leaks,
                                            rp
                                        ),
                                        Leaking(
                                            "stops",
                                            ObservationKind.WaterStopped,
                                            "It stops",
                                            "SO2",
                                            TestItem.Shutoff2,
                                            FindingKind.So2LeaksBackPressure,
                                            rp
                                        ),
                                    ],
                                },
                            ],
                        },
                        Leaking(
                            "falls",
                            ObservationKind.NeedleFellByItself,
                            "The needle falls",
                            "SO2",
                            TestItem.Shutoff2,
                            FindingKind.So2LeaksWithFlow,
                            rp
                        ),
                    ],
                },
                .. Setup.When(
                    rp.Setup.Body.Features.Strainer || rp.Setup.Does(StepVariant.CleanStrainer),
                    new Step(
                        "iso.strainer",
                        "Open, clean and close the strainer",
                        [
                            Open(rp.Up),
                            Open(rp.Zone, $"Open {rp[rp.Zone]} too, and wait until nothing runs."),
                            Look("Open the strainer, clean the screen, close it."),
                            Close(rp.Up),
                            Close(rp.Zone),
                            Close(rp.Down, $"Close {rp[rp.Down]}: every tap is shut again."),
                        ],
                        "A clogged screen starves the test and the site."
                    )
                    {
                        Caution = "Relieve the pressure through the taps before the strainer is opened.",
                        Needs = [IsClosed(Parts.So1), IsClosed(Parts.So2)],
                    }
                ),
                new(
                    "iso.open",
                    "Open the upstream valve again",
                    [Close(rp.Up, $"{rp[rp.Up]} closed."), OpenSlowly(Parts.So1)],
                    "The next tests need supply pressure."
                )
                {
                    Needs = [IsClosed(Parts.So2)],
                },
            ]
        );

    private static Sight Leaking(
        string id,
        ObservationKind shows,
        string seen,
        string valve,
        TestItem item,
        FindingKind finding,
        ReliefRig rp
    ) =>
        new(id, seen, $"{valve} leaks. It is repaired or replaced before going on.")
        {
            Shows = shows,
            Findings = [finding],
            Remark = $"{valve} leaks.",
            Gives = [new(item, false)],
            Branch =
            [
                new(
                    $"iso.mend-{(item == TestItem.Shutoff1 ? "so1" : "so2")}",
                    $"{valve} must be repaired or replaced",
                    [
                        Close(rp.Up, $"{rp[rp.Up]} closed."),
                        Look($"Repair or replace {valve}, by somebody licensed for it."),
                    ],
                    "With a leaking isolation valve the numbers lie."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        new("mended", "It is mended: begin again", "The isolation valves are proved again first.")
                        {
                            Shows = ObservationKind.PutRight,
                            Remark = $"{valve} repaired.",
                            Leads = LeadsTo.BeginAgain,
                        },
                        new("not-today", "Not today", "Close up. The assembly fails until both valves are tight.")
                        {
                            Shows = ObservationKind.CannotBePutRight,
                            Leads = LeadsTo.CloseUp,
                        },
                    ],
                },
            ],
        };

    private static Stage FirstCheck(ReliefRig rp) =>
        new(
            "check-1",
            "CV1 holds",
            StageKind.Test,
            [
                new(
                    "cv1.hook",
                    $"High hose to {rp[rp.Up]}, low hose to {rp[rp.Zone]}",
                    [
                        Close(rp.Down),
                        Open(C, "Open C: the high hose stands under pressure and is relieved."),
                        Close(C, "Close C."),
                        Put(Parts.HighHose, rp.Up, $"Move the high hose (H) to {rp[rp.Up]}."),
                        Put(Parts.LowHose, rp.Zone, $"Low hose (L) on {rp[rp.Zone]}."),
                    ],
                    "High before CV1, low in the zone behind it."
                )
                {
                    Caution = "Relieve the pressure before a coupling is undone.",
                    Needs = [IsOpen(Parts.So1), IsClosed(Parts.So2), IsClosed(rp.Up), IsClosed(rp.Zone)],
                },
                new(
                    "cv1.read",
                    "Open both, purge A, then B; slowly close B; read",
                    [
                        OpenSlowly(rp.Up),
                        Open(rp.Zone),
                        Open(A, "A open."),
                        Open(C, "Open C, until it runs without air."),
                        Close(A, "Close A."),
                        Open(B, "Open B, until it runs without air."),
                        CloseSlowly(B, "Slowly close B."),
                    ],
                    "The low side last leaves the zone low; the needle then shows CV1's spring."
                )
                {
                    Watch = "The needle must stand still.",
                    Holds = true,
                    Capture = new(TestItem.Check1),
                    Caution = "The relief may spill: eyes, electrics, floor.",
                    Needs = [.. rp.TwoHoses],
                    Sights = ReliefStage.Sinking(rp) is var s
                        ?
                        [
                            .. s.Where(x => x.Id != "zero-nothing-reacts"),
                            ReliefStage.PeggedFromTheStart(rp, "cv1.hook"),
                            Crossed(rp),
                        ]
                        : [],
                },
            ]
        );

    private static Sight Crossed(ReliefRig rp) =>
        new(
            "zero-nothing-reacts",
            "The needle sits at zero and nothing reacts",
            $"Hoses swapped, or {rp[rp.Up]} shut or blocked."
        )
        {
            Shows = ObservationKind.NeedleDrivenDown,
            Branch =
            [
                new(
                    "cv1.look",
                    $"Look at the hoses and {rp[rp.Up]}",
                    [Look($"High hose on {rp[rp.Up]}, low hose on {rp[rp.Zone]}, both open and clear?")],
                    "One of the two, and each is soon seen."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Sight.HosesSwapped("The hoses were swapped", "Hook up again and purge.", "cv1.hook"),
                        Sight.PutRight("found", "The tap was shut: open now", "Hook up again and purge.", "cv1.hook"),
                        new(
                            "stays",
                            $"{rp[rp.Up]} stays blocked",
                            "This assembly cannot be tested today: a return visit after the repair."
                        )
                        {
                            Shows = ObservationKind.CannotBePutRight,
                            Findings = [FindingKind.CockBlocked],
                            Remark = $"{rp[rp.Up]} is blocked.",
                            Leads = LeadsTo.NotTestable,
                        },
                    ],
                },
            ],
        };

    private static Stage Opening(ReliefRig rp) =>
        new(
            "relief-opening",
            "Relief valve opens",
            StageKind.Test,
            [
                new(
                    "rv.feed",
                    "C closed, A open, open B slowly, read at the first discharge",
                    [
                        Look("Dry the relief port."),
                        Close(C, "Close C."),
                        Open(A, "Open A."),
                        Crack(B, "Open B slowly.", Cue.FirstDrip),
                    ],
                    "Supply water raises the zone until the relief opens."
                )
                {
                    Watch = "At the first discharge take the number, with B still barely open.",
                    Cue = Cue.FirstDrip,
                    Caution = "Water comes out of the relief port.",
                    Capture = new(TestItem.ReliefOpening)
                    {
                        WhenLow = FindingKind.ReliefLow,
                        RemarkWhenLow = "Relief valve opens too low.",
                    },
                    Needs = [.. rp.TwoHoses, IsPurged(Side.High), IsPurged(Side.Low)],
                    Sights =
                    [
                        new(
                            "pours",
                            "It pours: B went too far",
                            "The tester's doing, not a failure. Bring the zone down and repeat."
                        )
                        {
                            Shows = ObservationKind.OwnDoing,
                            Leads = LeadsTo.Repeat,
                            Again = "cv1.read",
                        },
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
                        },
                        new(
                            "leaks-untold",
                            "It discharges while the needle stands well above its point",
                            "The relief's seat is fouled or its diaphragm torn. First make sure that CV1 is sound."
                        )
                        {
                            Shows = ObservationKind.ReliefWetFromTheStart,
                            Findings = [FindingKind.ReliefLeaks],
                            Remark = "Relief valve leaks.",
                            FailsAlone = true,
                        },
                    ],
                },
            ]
        );

    private static Stage Against(ReliefRig rp) =>
        new(
            "check-2-back-pressure",
            "CV2 holds against back pressure",
            StageKind.Test,
            [
                new(
                    "bp.hook",
                    $"Low hose from {rp[rp.Zone]} to {rp[rp.Down]}",
                    [
                        Close(rp.Up),
                        Close(rp.Zone),
                        Open(C, "Open C."),
                        Open(B, "Open B fully: both hoses are relieved."),
                        Close(A, "Close A."),
                        Close(B, "Close B."),
                        Put(Parts.LowHose, rp.Down, $"Move the low hose (L) to {rp[rp.Down]}."),
                    ],
                    "Through A and B the supply will stand behind CV2."
                )
                {
                    Needs = [.. rp.TwoHoses, IsClosed(rp.Down)],
                },
                new(
                    "bp.test",
                    $"Open {rp[rp.Up]} and {rp[rp.Down]}, purge A, then B; slowly close C",
                    [
                        OpenSlowly(rp.Up),
                        Open(rp.Down),
                        Open(A, "Open A until C runs without air."),
                        Close(A, "Close A."),
                        Open(B, "Open B until C runs without air; leave it open."),
                        CloseSlowly(C, "Slowly close C."),
                        Open(A, "Open A: only now does supply stand behind CV2."),
                    ],
                    "The needle lies near zero, since both ports feel supply, and means nothing. The relief port tells."
                )
                {
                    Watch = "Watch the relief port: dry after the first spill is tight; a continuing discharge is CV2.",
                    MustAnswer = true,
                    Holds = true,
                    Needs =
                    [
                        IsOn(Parts.HighHose, rp.Up),
                        IsOn(Parts.LowHose, rp.Down),
                        IsOpen(Parts.So1),
                        IsClosed(Parts.So2),
                        IsClosed(rp.Zone),
                    ],
                    Sights =
                    [
                        new("dry", "The relief port stays dry", "CV2 is closed tight.")
                        {
                            Shows = ObservationKind.AsItShouldBe,
                            Good = true,
                            Gives = [new(TestItem.Check2BackPressure, true)],
                        },
                        new(
                            "discharges",
                            "The relief goes on discharging",
                            "CV2 leaks: what stands behind it comes into the zone."
                        )
                        {
                            Shows = ObservationKind.ReliefRunsHarder,
                            Findings = [FindingKind.Cv2Leaks],
                            Remark = "CV2 leaks.",
                            Gives = [new(TestItem.Check2BackPressure, false)],
                        },
                    ],
                },
            ]
        );

    private static Stage WithTheFlow(ReliefRig rp) =>
        new(
            "check-2",
            "CV2 in the direction of flow",
            StageKind.Test,
            [
                new(
                    "flow.hook",
                    $"High hose from {rp[rp.Up]} to {rp[rp.Zone]}",
                    [
                        Close(rp.Up),
                        Close(rp.Down),
                        Open(C, "Open C to relieve the hoses."),
                        Close(A, "Close A."),
                        Close(B, "Close B."),
                        Put(Parts.HighHose, rp.Zone, $"Move the high hose (H) to {rp[rp.Zone]}."),
                    ],
                    "High in the zone, low behind CV2."
                )
                {
                    Caution = "Relieve the pressure before a coupling is undone.",
                    Needs = [IsOn(Parts.LowHose, rp.Down), IsClosed(rp.Zone), IsClosed(Parts.So2)],
                },
                new(
                    "flow.read",
                    "Open both, purge A, then B; close B; read",
                    [
                        Open(rp.Zone),
                        Open(rp.Down),
                        Open(A, "Open A until C runs without air."),
                        Close(A, "Close A."),
                        Open(B, "Open B until C runs without air."),
                        CloseSlowly(B, "Slowly close B."),
                        Close(C, "Close C."),
                    ],
                    "The needle shows what CV2's spring holds."
                )
                {
                    Watch = "Take the number when the needle is still.",
                    Holds = true,
                    Capture = new(TestItem.Check2),
                    Needs =
                    [
                        IsOn(Parts.HighHose, rp.Zone),
                        IsOn(Parts.LowHose, rp.Down),
                        IsOpen(Parts.So1),
                        IsClosed(Parts.So2),
                        IsOpen(C),
                    ],
                    Sights =
                    [
                        new("runs-to-zero", "The needle runs to zero", "CV2 leaks.")
                        {
                            Shows = ObservationKind.NeedleAtZero,
                            Findings = [FindingKind.Cv2Leaks],
                            Remark = "CV2 leaks.",
                            Takes = TakesValue.ZeroOnDial,
                            Item = TestItem.Check2,
                        },
                    ],
                },
            ]
        );
}
