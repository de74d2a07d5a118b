using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.ReducedPressure;

/// <summary>
/// Reduced pressure zone, isolation-first school, metric: both isolation valves are proved before anything is read,
/// then CV1, the relief, CV2 both ways. The kit's controls are lettered A high, B low, C vent. Source: handbook chapter
/// 2 (sequence) and chapter 4 (sights).
/// </summary>
public static partial class IsolationFirstSchool
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
            Version = 4,
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
}
