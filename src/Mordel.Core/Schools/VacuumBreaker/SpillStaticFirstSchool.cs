using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.VacuumBreaker;

/// <summary>
/// Spill-resistant vacuum breaker, static-first school: nothing is read before the water stands still; then the check,
/// then the inlet, each from full pressure. Source: handbook chapter 2 (sequence) and chapter 4 (sights).
/// </summary>
public static class SpillStaticFirstSchool
{
    /// <summary>The procedure.</summary>
    public static Procedure Procedure { get; } =
        new(
            "svb-static-first",
            "Spill-resistant vacuum breaker, static first",
            "First the water must stand still. Then the check by the vent screw, and from full pressure again the "
                + "inlet by the high control.",
            AssemblyTypes.SVB,
            [KitKind.ThreeValve, KitKind.Digital, KitKind.FiveValve],
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
                                    Flush(Parts.Tc1),
                                    Flush(Parts.VentScrew, "Back the vent screw off, let it run, close it."),
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
                                "High hose on the cock, purge by the high control",
                                [
                                    new Act.CloseKit(),
                                    Put(Parts.HighHose, Parts.Tc1),
                                    Look("Lead the loose hoses into the bucket."),
                                    Look("Wrap the low hose so that its open end is level with the gauge's centre."),
                                    Open(Parts.Tc1),
                                    Open(Parts.BypassControl, "Open the vent control (bypass)."),
                                    Open(
                                        Parts.HighControl,
                                        "Open the high control until the bypass hose runs without air."
                                    ),
                                    Close(Parts.HighControl),
                                ],
                                "A low hose full of water must end level with the gauge, or its water would count."
                            )
                            {
                                Sights = [NoWater.InTheHose("the test cock", "ready.hose")],
                                Needs = [IsClosed(Parts.Tc1), IsOpen(Parts.So1)],
                            },
                        ]
                    ),
                    new(
                        "static",
                        "The water stands still",
                        StageKind.Test,
                        [
                            new(
                                "static.so2",
                                "Close SO2, gauge level with the vent screw",
                                [Close(Parts.So2), LevelWith(Parts.VentScrew)],
                                "From here nothing may leave toward the site."
                            )
                            {
                                Caution =
                                    "Water to the site is off from here. Close slowly: sudden closing hammers pipes.",
                                Needs = [IsOn(Parts.HighHose, Parts.Tc1), IsOpen(Parts.Tc1), IsPurged(Side.High)],
                            },
                            new(
                                "static.so1",
                                "Close SO1 while watching",
                                [Close(Parts.So1)],
                                "If the needle moves, water is being used or SO2 leaks, and no reading means anything."
                            )
                            {
                                MustAnswer = true,
                                Holds = true,
                                Watch = "Does the needle stand still?",
                                Needs =
                                [
                                    IsClosed(Parts.So2),
                                    IsHeldAt(Parts.VentScrew),
                                    IsOpen(Parts.BypassControl),
                                    IsClosed(Parts.HighControl),
                                ],
                                Sights =
                                [
                                    new("still", "It stands still", "No flow: the test can go on.")
                                    {
                                        Shows = ObservationKind.AsItShouldBe,
                                        Good = true,
                                        Gives = [new(TestItem.Static, true)],
                                    },
                                    new(
                                        "falls",
                                        "It falls",
                                        "Water is being used, or SO2 leaks. Find the use, or make SO2 shut."
                                    )
                                    {
                                        Shows = ObservationKind.NeedleFalls,
                                        Branch =
                                        [
                                            new(
                                                "static.find",
                                                "Find what takes the water",
                                                [Look("Ask who draws water; work SO2 to and fro.")],
                                                "No test until it is static."
                                            )
                                            {
                                                MustAnswer = true,
                                                Sights =
                                                [
                                                    Sight.PutRight(
                                                        "found",
                                                        "Found and stopped",
                                                        "Try again.",
                                                        "static.so1"
                                                    ),
                                                    new(
                                                        "stays",
                                                        "It cannot be made static",
                                                        "Not testable today: a return visit."
                                                    )
                                                    {
                                                        Shows = ObservationKind.CannotBePutRight,
                                                        Findings = [FindingKind.NotStatic],
                                                        Remark = "The assembly could not be made static.",
                                                        Gives = [new(TestItem.Static, false)],
                                                        Leads = LeadsTo.NotTestable,
                                                    },
                                                ],
                                            },
                                        ],
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
                                "Open the vent screw until water runs, read when it stops",
                                [OpenSlowly(Parts.VentScrew)],
                                "With the body open to air, the check's spring alone holds the water before it."
                            )
                            {
                                Watch = "When the water stops and the needle is still, take the number.",
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
                            new(
                                "cv1.leave",
                                "Close the vent screw",
                                [Close(Parts.VentScrew)],
                                "The body can be filled again."
                            ),
                        ]
                    ),
                    new(
                        "air-inlet-opening",
                        "Air inlet opens",
                        StageKind.Test,
                        [
                            new(
                                "ai.fill",
                                "SO1 open, gauge level with the air inlet, SO1 closed",
                                [OpenSlowly(Parts.So1), LevelWith(Parts.AirInlet), Close(Parts.So1)],
                                "The second reading starts from full pressure too."
                            )
                            {
                                Watch = "The needle pegs.",
                                Needs = [IsClosed(Parts.VentScrew), IsClosed(Parts.So2), IsClosed(Parts.HighControl)],
                            },
                            new(
                                "ai.read",
                                "Screw open until water runs, high control a quarter turn, read",
                                [
                                    OpenSlowly(Parts.VentScrew),
                                    Open(Parts.BypassControl, "Vent control (bypass) open."),
                                    Crack(Parts.HighControl, "Open the high control a quarter turn.", Cue.Pop),
                                ],
                                "The falling pressure lets the inlet's spring open it."
                            )
                            {
                                Watch =
                                    "It must open before the needle reaches the limit; take the number as it opens.",
                                Cue = Cue.Pop,
                                Capture = new(TestItem.AirInletOpening) { OneHose = true },
                                Needs =
                                [
                                    IsClosed(Parts.So1),
                                    IsClosed(Parts.So2),
                                    IsHeldAt(Parts.AirInlet),
                                    IsOn(Parts.HighHose, Parts.Tc1),
                                ],
                                Sights = [InletSights.NeverMoves, InletSights.StopsAbove],
                            },
                            new(
                                "ai.full",
                                "See that it opened fully",
                                [Look("Look into the inlet; feel that it does not stick.")],
                                "An inlet that only cracks lets too little air in."
                            )
                            {
                                MustAnswer = true,
                                Sights = [InletSights.FullyOpen, InletSights.Hangs],
                            },
                            new(
                                "ai.leave",
                                "Screw in, kit and cock closed, SO1 open",
                                [
                                    Close(Parts.HighControl),
                                    Close(Parts.BypassControl),
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

    private static Compensation Seeping =>
        new(
            "cv1",
            "The check",
            TestItem.Check1,
            "the vent",
            "cock's bleed",
            Crack(Parts.HighControl),
            Close(Parts.HighControl),
            "static.so1"
        );
}
