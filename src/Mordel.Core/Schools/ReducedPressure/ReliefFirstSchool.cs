using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.ReducedPressure;

/// <summary>
/// Reduced pressure zone, relief-first school: relief opening point, CV2 against back pressure, CV1, SO2. A kit without
/// bleeds restores the zone through its bypass hose, so it reads CV1 before that hose goes to TC4. Source: handbook
/// chapter 2 (sequence) and chapter 4 (sights).
/// </summary>
public static partial class ReliefFirstSchool
{
    /// <summary>The procedure.</summary>
    public static Procedure Procedure { get; } =
        new(
            "rp-relief-first",
            "Reduced pressure zone, relief first",
            "SO1 stays open throughout. The zone is fed until the relief drips, supply pressure is put behind CV2, "
                + "CV1 is read, SO2 proved: two hoses and a bypass.",
            AssemblyTypes.RP,
            [KitKind.FiveValve, KitKind.ThreeValve, KitKind.Digital],
            ["tape measure for the air gap"],
            Stages
        )
        {
            Body = "four-cock",
            Version = 3,
        };

    private static ImmutableArray<Stage> Stages(Setup setup)
    {
        var rp = new ReliefRig(setup);
        var bleeds = setup.Rig.Kit.HasBleeds;
        return
        [
            new(
                "ready",
                "Flush and get ready",
                StageKind.Prepare,
                [
                    .. Measuring.Clearance(setup),
                    ReliefStage.Flushing(rp),
                    .. Measuring.Adapters(setup, rp.Up, rp.Zone, rp.Down),
                    new("ready.kit", "Close the kit", [new Act.CloseKit()], "Every move starts from a closed kit."),
                ]
            ),
            new(
                "apparent",
                "Hook up, purge, close SO2",
                StageKind.Prepare,
                [ReliefStage.Hoses(rp), PurgeBoth(rp), CloseOutlet(rp)]
            ),
            ReliefStage.Opening(
                rp,
                [Close(Parts.LowControl, "Close the low control; the high control stays open.")],
                "Close the low control"
            ),
            .. bleeds ? (Stage[])[BackPressure(rp), FirstCheck(rp)] : [FirstCheck(rp), BackPressure(rp)],
            .. setup.Rules.For(TestItem.Shutoff2) is null
                ? []
                : (Stage[])
                    [
                        new(
                            "shutoff-2",
                            "SO2 is tight",
                            StageKind.Test,
                            [BackPressureStage.Shutoff(rp, BackPressureStage.Remarked)]
                        ),
                    ],
            .. setup.Asks(TestItem.Check2) ? (Stage[])[WithTheFlow(rp)] : [],
            .. setup.Asks(TestItem.StaticLine)
                ? (Stage[])
                    [
                        new(
                            "line-pressure",
                            "Line pressure",
                            StageKind.Test,
                            Measuring.LinePressureAfterwards(
                                setup,
                                "line.read",
                                setup.Body.SupplyCock,
                                IsOpen(Parts.So1)
                            )
                        ),
                    ]
                : [],
        ];
    }

    private static Step PurgeBoth(ReliefRig rp) =>
        new(
            "hook.purge",
            "Purge both hoses, low side last",
            [
                Open(rp.Zone),
                new Act.LetRun(Side.Low),
                OpenSlowly(rp.Up),
                new Act.LetRun(Side.High, Also: true),
                new Act.StopRun(Side.High, Last: false),
                new Act.StopRun(Side.Low),
            ],
            "Low side last keeps the zone low while the supply side is disturbed."
        )
        {
            Watch = "The needle climbs as the high side closes and settles as the low side closes.",
            Caution = "The relief may spill: eyes, electrics, floor.",
            Needs =
            [
                IsOn(Parts.HighHose, rp.Up),
                IsOn(Parts.LowHose, rp.Zone),
                IsOpen(Parts.So1),
                IsClosed(Parts.HighControl),
                IsClosed(Parts.LowControl),
            ],
            Sights = [ReliefStage.NothingReacts(rp, "nothing-reacts"), ReliefStage.PeggedFromTheStart(rp)],
        };

    private static Step CloseOutlet(ReliefRig rp) =>
        new(
            "hook.so2",
            "Close SO2, restore the zone once, note the apparent reading",
            [
                Close(Parts.So2),
                new Act.RestoreZone(),
                Look("With pressure behind a leaking CV2 the needle before that would be false."),
            ],
            "Not a result: it shows that testing is possible. With no flow only CV1's spring keeps the two sides apart."
        )
        {
            Watch =
                "The needle must stand still. Steady proves little while water is used or SO2 leaks: a steady flow "
                + "hides a leaking CV1.",
            Caution = "Water to the site is off from here. Close slowly: sudden closing hammers pipes.",
            Capture = new(TestItem.Apparent) { MustMeetToGoOn = true },
            Needs =
            [
                IsOn(Parts.HighHose, rp.Up),
                IsOn(Parts.LowHose, rp.Zone),
                IsPurged(Side.High),
                IsPurged(Side.Low),
            ],
            Sights = ReliefStage.Sinking(rp),
        };

    private static Stage BackPressure(ReliefRig rp) =>
        new(
            "check-2-back-pressure",
            "CV2 holds against back pressure",
            StageKind.Test,
            [
                new(
                    "bp.hook",
                    $"Purge the bypass hose, tighten it on {rp[rp.Down]}",
                    [
                        Open(Parts.HighControl, "High control open."),
                        .. rp.Setup.Does(StepVariant.BleedBypassAtCock)
                            ? (Act[])
                                [
                                    Look($"Hang the bypass hose (B) loose on {rp[rp.Down]}."),
                                    Crack(
                                        Parts.BypassControl,
                                        "Crack the bypass control until water without air comes from the "
                                            + "loose coupling."
                                    ),
                                ]
                            : [Crack(Parts.BypassControl, "Crack the bypass control until its hose runs without air.")],
                        Put(Parts.BypassHose, rp.Down, $"Tighten the bypass hose (B) on {rp[rp.Down]}."),
                        Close(Parts.BypassControl),
                    ],
                    "The bypass hose will carry supply pressure behind CV2; air in it would give way."
                )
                {
                    Needs = [.. rp.TwoHoses, IsClosed(rp.Down), IsClosed(Parts.LowControl)],
                },
                .. Setup.When(
                    rp.Setup.Rig.Kit.HasBleeds,
                    new Step(
                        "bp.restore",
                        "Restore the zone",
                        [new Act.RestoreZone()],
                        "The needle is back up: there is something to lose."
                    )
                    {
                        Needs = [.. rp.TwoHoses, IsClosed(Parts.BypassControl), IsClosed(Parts.LowControl)],
                    }
                ),
                BackPressureStage.Test(rp, "bp.hook"),
            ]
        );

    private static Stage FirstCheck(ReliefRig rp) =>
        new(
            "check-1",
            "CV1 holds",
            StageKind.Test,
            [
                new(
                    "cv1.read",
                    "Restore the zone once more, read CV1",
                    [new Act.RestoreZone(), Look("Let the needle settle.")],
                    "With no flow the needle shows what CV1's spring holds. Less the relief opening point it "
                        + "is the buffer."
                )
                {
                    Watch = "The needle must stand still. If SO2 takes much water, shut the bypass too.",
                    Capture = new(TestItem.Check1),
                    Holds = true,
                    Needs = [.. rp.TwoHoses, IsPurged(Side.High), IsPurged(Side.Low), IsClosed(Parts.LowControl)],
                    Sights =
                    [
                        new(
                            "runs-down",
                            "It will not stay up: the needle sinks",
                            "CV1 leaks into the zone. Read where it comes to rest."
                        )
                        {
                            Shows = ObservationKind.ReliefBeganToRun,
                            Findings = [FindingKind.Cv1Leaks],
                            Remark = "CV1 leaks.",
                            Branch =
                            [
                                new(
                                    "cv1.rest",
                                    "Read where it comes to rest",
                                    [Look("Wait until the needle is still.")],
                                    "The number goes on the report, though it fails."
                                )
                                {
                                    Capture = new(TestItem.Check1),
                                },
                            ],
                        },
                    ],
                },
            ]
        );
}
