using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.ReducedPressure;

/// <summary>
/// Reduced pressure zone, check-first school: CV1 is read at once and must hold enough to go on; a leaking SO2 voids
/// everything and the test begins again after the repair. Source: handbook chapter 2 (sequence), chapter 3 (voiding)
/// and chapter 4 (sights).
/// </summary>
public static class CheckFirstSchool
{
    /// <summary>The procedure.</summary>
    public static Procedure Procedure { get; } =
        new(
            "rp-check-first",
            "Reduced pressure zone, check first",
            "CV1 is read at once, then the relief's opening, CV2 against back pressure, and SO2, which must be "
                + "tight: if it leaks, all begins again after the repair.",
            AssemblyTypes.RP,
            [KitKind.ThreeValve, KitKind.FiveValve, KitKind.Digital],
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
                    .. Measuring.LinePressure(setup, "ready.line", setup.Body.SupplyCock, IsOpen(Parts.So1)),
                    new(
                        "ready.so2",
                        "SO1 fully open, close SO2, close the kit",
                        [Open(Parts.So1, "SO1 fully open."), Close(Parts.So2), new Act.CloseKit()],
                        "With no flow only CV1's spring keeps the two sides apart."
                    )
                    {
                        Caution = "Water to the site is off from here. Close slowly: sudden closing hammers pipes.",
                    },
                    ReliefStage.Hoses(rp),
                    new(
                        "hook.purge",
                        "Open both cocks, purge high, then low",
                        [OpenSlowly(rp.Up), Open(rp.Zone), new Act.Purge(Side.High), new Act.Purge(Side.Low)],
                        "Purging the low side last leaves the zone low."
                    )
                    {
                        Caution = "The relief may spill: eyes, electrics, floor.",
                        Needs =
                        [
                            IsOn(Parts.HighHose, rp.Up),
                            IsOn(Parts.LowHose, rp.Zone),
                            IsOpen(Parts.So1),
                            IsClosed(Parts.So2),
                        ],
                        Sights = [ReliefStage.NothingReacts(rp, "nothing-reacts"), ReliefStage.PeggedFromTheStart(rp)],
                    },
                ]
            ),
            new(
                "check-1",
                "CV1 holds",
                StageKind.Test,
                [
                    new(
                        "cv1.read",
                        "Read CV1",
                        [Look("Let the needle settle.")],
                        "It must hold enough to go on; what comes after leans on it."
                    )
                    {
                        Watch = "The needle must stand still.",
                        Holds = true,
                        Capture = new(TestItem.Check1) { MustMeetToGoOn = true },
                        Needs = [.. rp.TwoHoses, IsPurged(Side.High), IsPurged(Side.Low)],
                        Sights = ReliefStage.Sinking(rp),
                    },
                ]
            ),
            ReliefStage.Opening(rp, [Close(Parts.HighControl), Close(Parts.LowControl)], "Close high and low"),
            new(
                "check-2-back-pressure",
                "CV2 holds against back pressure",
                StageKind.Test,
                [
                    new(
                        "bp.restore",
                        "Purge high, then low",
                        [new Act.Purge(Side.High), new Act.Purge(Side.Low)],
                        "This restores the zone: the needle is back up."
                    )
                    {
                        Needs =
                        [
                            .. rp.TwoHoses,
                            IsOff(Parts.BypassHose),
                            IsClosed(Parts.HighControl),
                            IsClosed(Parts.LowControl),
                        ],
                    },
                    new(
                        "bp.hook",
                        $"Bypass hose to {rp[rp.Down]}, high control open",
                        [
                            // A kit with bleeds has not purged through its bypass hose.
                            .. setup.Rig.Kit.HasBleeds
                                ? (Act[])
                                    [
                                        Open(Parts.HighControl, "High control open."),
                                        Crack(
                                            Parts.BypassControl,
                                            "Crack the bypass control until its hose runs without air."
                                        ),
                                    ]
                                : [],
                            Put(
                                Parts.BypassHose,
                                rp.Down,
                                setup.Rig.Kit.HasBleeds
                                    ? $"Connect the bypass hose (B) to {rp[rp.Down]}."
                                    : $"Connect the bypass hose (B), full of water from the purge, to {rp[rp.Down]}."
                            ),
                            .. setup.Rig.Kit.HasBleeds
                                ? (Act[])[Close(Parts.BypassControl)]
                                : [Open(Parts.HighControl, "High control open.")],
                        ],
                        "It will carry supply pressure behind CV2."
                    )
                    {
                        Needs = [.. rp.TwoHoses, IsClosed(rp.Down), IsClosed(Parts.LowControl)],
                    },
                    BackPressureStage.Test(rp, "bp.restore", cockLast: true),
                ]
            ),
            new("shutoff-2", "SO2 is tight", StageKind.Test, [BackPressureStage.Shutoff(rp, Leaking)]),
        ];
    }

    private static ImmutableArray<Sight> Leaking =>
        [
            Leaks(
                "falls",
                ObservationKind.NeedleFalls,
                "The needle falls, through zero",
                "with the flow",
                FindingKind.So2LeaksWithFlow
            ),
            Leaks(
                "climbs",
                ObservationKind.NeedleClimbs,
                "The needle climbs",
                "back pressure",
                FindingKind.So2LeaksBackPressure
            ),
        ];

    private static Sight Leaks(string id, ObservationKind shows, string seen, string how, FindingKind finding) =>
        new(id, seen, "SO2 leaks. In this school that voids what was read before.")
        {
            Shows = shows,
            Findings = [finding],
            Remark = $"SO2 leaks, {how}.",
            Gives = [new(TestItem.Shutoff2, false)],
            Branch =
            [
                new(
                    "so2.mend",
                    "SO2 must be repaired or replaced",
                    [Look("Repair or replace SO2, by somebody licensed for it.")],
                    "A leaking SO2 lets the numbers lie."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        new(
                            "mended",
                            "It is mended: begin the whole test again",
                            "What was read before stays on the report as the set before the repair."
                        )
                        {
                            Shows = ObservationKind.PutRight,
                            Remark = "SO2 repaired; the whole test was begun again.",
                            Leads = LeadsTo.BeginAgain,
                        },
                        new("not-today", "Not today", "Close up. The assembly fails until SO2 is tight.")
                        {
                            Shows = ObservationKind.CannotBePutRight,
                            Leads = LeadsTo.CloseUp,
                        },
                    ],
                },
            ],
        };
}
