using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.VacuumBreaker;

/// <summary>
/// Spill-resistant vacuum breaker, check-first school: the check by the vent screw, then the inlet by the bleed; the
/// check must hold more than the inlet needs. Source: handbook chapter 2 (sequence) and chapter 4 (sights).
/// </summary>
public static class SpillCheckFirstSchool
{
    /// <summary>The procedure.</summary>
    public static Procedure Procedure { get; } =
        new(
            "svb-check-first",
            "Spill-resistant vacuum breaker, check first",
            "One hose on the only cock. The vent screw opens the body behind the check; the bleed then lowers the "
                + "supply side until the inlet opens.",
            AssemblyTypes.SVB,
            [KitKind.FiveValve, KitKind.TwoValve, KitKind.ThreeValve, KitKind.Digital],
            [],
            setup =>
                [
                    new(
                        "ready",
                        "Hood off, flush, get ready",
                        StageKind.Prepare,
                        [
                            new(
                                "ready.hood",
                                "Hood off, look into the inlet",
                                [Look("Take the hood off and look into the inlet.")],
                                "Insects, nests and dirt live under the hood."
                            ),
                            new(
                                "ready.flush",
                                "Flush the cock and the vent",
                                [
                                    Flush(
                                        Parts.Tc1,
                                        "Open the cock, let it run, close it; through a hose where water would harm."
                                    ),
                                    Flush(
                                        Parts.VentScrew,
                                        "Back the vent screw off about one turn, let it run, close it."
                                    ),
                                ],
                                "Blows out grit and proves both."
                            )
                            {
                                Needs = [IsOpen(Parts.So1)],
                            },
                            .. Measuring.LinePressure(setup, "ready.line", Parts.Tc1, IsOpen(Parts.So1)),
                            .. Measuring.Adapters(setup, Parts.Tc1),
                            new(
                                "ready.hose",
                                "High hose on the cock, purge, gauge level with the assembly",
                                [
                                    new Act.CloseKit(),
                                    Put(Parts.HighHose, Parts.Tc1),
                                    Open(Parts.Tc1),
                                    new Act.Purge(Side.High),
                                    LevelWith(Parts.VentScrew, "Hold the gauge's centre level with the vent."),
                                ],
                                "With one hose every inch of height counts."
                            )
                            {
                                Needs = [IsClosed(Parts.Tc1), IsOpen(Parts.So1)],
                                Sights = [NoWater.InTheHose("the test cock", "ready.hose")],
                            },
                            new(
                                "ready.shut",
                                "Close SO2, fill the well, close SO1",
                                [Close(Parts.So2), Look(Well(setup.Rig.Kit)), Close(Parts.So1)],
                                "The water is shut in; nothing moves until the screw is turned."
                            )
                            {
                                Caution =
                                    "Water to the site is off from here. Close slowly: sudden closing hammers pipes.",
                                Needs =
                                [
                                    IsOn(Parts.HighHose, Parts.Tc1),
                                    IsPurged(Side.High),
                                    IsHeldAt(Parts.VentScrew),
                                ],
                                Sights =
                                [
                                    new(
                                        "falls",
                                        "The needle falls by itself",
                                        "Water is used, or SO2 leaks with the flow. It comes to rest at the "
                                            + "check's spring; go on."
                                    )
                                    {
                                        Shows = ObservationKind.NeedleFalls,
                                        Findings = [FindingKind.So2LeaksWithFlow],
                                        Remark = "SO2 leaks with the flow.",
                                        Gives = [new(TestItem.Shutoff2, false)],
                                    },
                                ],
                            },
                        ]
                    ),
                    new(
                        "check-1",
                        "The check holds",
                        StageKind.Test,
                        [
                            new(
                                "cv1.read",
                                "Loosen the vent screw, take it out, read the check",
                                [
                                    Crack(
                                        Parts.VentScrew,
                                        "Loosen the vent screw so that the pressure falls gently.",
                                        Cue.NeedleAt(10m)
                                    ),
                                    Open(
                                        Parts.VentScrew,
                                        $"Near {setup.Figure(10, 70)} take it right out; a line-pressure gauge "
                                            + $"shows what still stands behind it."
                                    ),
                                ],
                                "With the body open to air, the check's spring alone holds the water before it."
                            )
                            {
                                Watch = "When the vent stops dripping and the needle is still, take the number.",
                                Holds = true,
                                Capture = new(TestItem.Check1) { OneHose = true },
                                Offers = [ShowOutlet.Offer("The body")],
                                Needs =
                                [
                                    IsClosed(Parts.So1),
                                    IsClosed(Parts.So2),
                                    IsHeldAt(Parts.VentScrew),
                                    IsOn(Parts.HighHose, Parts.Tc1),
                                    IsOpen(Parts.Tc1),
                                ],
                                Sights = [Seeping.NeverStops, Seeping.RunsToZero],
                            },
                        ]
                    ),
                    new(
                        "air-inlet-opening",
                        "Air inlet opens",
                        StageKind.Test,
                        [
                            new(
                                "ai.read",
                                "Crack the bleed, read when water runs from the vent",
                                [new Act.LowerPressure(Opening.QuarterTurn)],
                                "The inlet is held shut by the supply side of the check as well; lowered far "
                                    + "enough, it opens."
                            )
                            {
                                Watch =
                                    "As the needle falls watch the vent opening; take the number when water begins "
                                    + "to run from it.",
                                Cue = Cue.Pop,
                                Capture = new(TestItem.AirInletOpening) { OneHose = true },
                                Needs =
                                [
                                    IsOpen(Parts.VentScrew),
                                    IsClosed(Parts.So1),
                                    IsOn(Parts.HighHose, Parts.Tc1),
                                    IsOpen(Parts.Tc1),
                                ],
                                Sights =
                                [
                                    InletSights.NeverMoves,
                                    InletSights.StopsAbove,
                                    new(
                                        "open-already",
                                        "It opened by itself during the check test",
                                        "A leaking check lets the supply side run down, and the inlet opens with "
                                            + "it: there is no number of its own until the check is mended."
                                    )
                                    {
                                        Shows = ObservationKind.InletOpenedBefore,
                                        Remark = "Air inlet opened as the leaking check ran down; not read.",
                                    },
                                ],
                            },
                            new(
                                "ai.leave",
                                "Screw in, cock closed, SO1 open",
                                [
                                    new Act.LowerPressure(Opening.Closed),
                                    Close(Parts.VentScrew, "Put the vent screw back in."),
                                    Close(Parts.Tc1),
                                    OpenSlowly(Parts.So1),
                                ],
                                "The body is under pressure again before the hose comes off."
                            )
                            {
                                Needs = [IsClosed(Parts.So2)],
                            },
                        ]
                    ),
                ]
        )
        {
            StillWaterShowsSo1 = true,
            Version = 3,
        };

    private static string Well(Kit kit) =>
        "Fill the well above the closed inlet, if you like, so that its opening is easier to see: "
        + (
            kit.HasBleeds
                ? "lead the drain tube there and crack the high bleed."
                : "lead the bypass hose there and crack the high control with the bypass control open; close both."
        );

    private static Compensation Seeping =>
        new(
            "cv1",
            "The check",
            TestItem.Check1,
            "the vent",
            "cock's bleed",
            new Act.LowerPressure(Opening.QuarterTurn),
            new Act.LowerPressure(Opening.Closed),
            "ready.shut"
        )
        {
            AfterFalls =
            [
                new(
                    "cv1.refill",
                    "Screw in, SO1 open and shut, screw out",
                    [Close(Parts.VentScrew), OpenSlowly(Parts.So1), Close(Parts.So1), OpenSlowly(Parts.VentScrew)],
                    "The bleed has emptied the side before the check; the inlet's test needs it full."
                ),
            ],
        };
}
