using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.ReducedPressure;

// CV2 with the flow.
public static partial class ReliefFirstSchool
{
    private static Stage WithTheFlow(ReliefRig rp) =>
        new(
            "check-2",
            "CV2 in the direction of flow",
            StageKind.Test,
            [
                new(
                    "flow.move",
                    $"High hose to {rp[rp.Zone]}, low hose to {rp[rp.Down]}",
                    [
                        Close(rp.Up),
                        Close(rp.Zone),
                        Close(rp.Down),
                        new Act.RelieveHoses(),
                        TakeOff(Parts.BypassHose),
                        TakeOff(Parts.LowHose, "Low hose off, kept in the hand."),
                        Put(Parts.HighHose, rp.Zone),
                        Put(Parts.LowHose, rp.Down),
                        new Act.CloseKit(),
                    ],
                    "In that order of hands they are not swapped."
                )
                {
                    Caution = "Relieve the pressure before a coupling is undone.",
                    Needs = [IsOpen(Parts.So1), IsClosed(Parts.So2)],
                },
                new(
                    "flow.read",
                    "Purge, low side last, read CV2",
                    [
                        Open(rp.Down),
                        new Act.LetRun(Side.Low),
                        Open(rp.Zone),
                        new Act.LetRun(Side.High, Also: true),
                        new Act.StopRun(Side.High, Last: false),
                        new Act.StopRun(Side.Low),
                    ],
                    "CV2's spring holds the zone above the space behind it."
                )
                {
                    Watch = "Take the number when the needle is still.",
                    Capture = new(TestItem.Check2)
                    {
                        MayBePassed = rp.Setup.Rules.For(TestItem.Check2)?.Requirement != Requirement.Required,
                    },
                    Holds = true,
                    Needs =
                    [
                        IsOn(Parts.HighHose, rp.Zone),
                        IsOn(Parts.LowHose, rp.Down),
                        IsClosed(Parts.So2),
                        IsOpen(Parts.So1),
                    ],
                    Sights =
                    [
                        new(
                            "false-zero",
                            "It reads zero and pressure comes back past SO2",
                            "A finding on SO2, not on CV2: what comes back past SO2 lifts the space behind CV2."
                        )
                        {
                            Shows = ObservationKind.NeedleUnderZero,
                            Findings = [FindingKind.So2LeaksBackPressure],
                            Remark = "SO2 leaks, back pressure; CV2 could not be read with the flow.",
                            Gives = [new(TestItem.Shutoff2, false)],
                        },
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
