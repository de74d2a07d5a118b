using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.ReducedPressure;

// The first stage: the outlet is shut and proved.
public static partial class IsolationFirstSchool
{
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
}
