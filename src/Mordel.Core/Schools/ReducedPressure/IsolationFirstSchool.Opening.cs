using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.ReducedPressure;

// The relief's point, and CV2 from both sides.
public static partial class IsolationFirstSchool
{
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
