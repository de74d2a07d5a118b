using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;
using static Mordel.Core.Schools.VacuumBreaker.InletSights;

namespace Mordel.Core.Schools.VacuumBreaker;

/// <summary>
/// Pressure vacuum breaker, inlet-first school: the air inlet's opening on the way down, then the check, with one hose.
/// Source: handbook chapter 2 (sequence) and chapter 4 (sights).
/// </summary>
public static partial class InletFirstSchool
{
    /// <summary>The procedure.</summary>
    public static Procedure Procedure { get; } =
        new(
            "pvb-inlet-first",
            "Pressure vacuum breaker, inlet first",
            "The body's pressure is lowered until the air inlet pops; the body is drained; then the check holds "
                + "the water before it against air. One hose, gauge at the right height.",
            AssemblyTypes.PVB,
            [KitKind.FiveValve, KitKind.ThreeValve, KitKind.Digital, KitKind.TwoValve],
            ["bleed-off tee"],
            setup =>
                [
                    new(
                        "ready",
                        "Canopy off, flush, get ready",
                        StageKind.Prepare,
                        [
                            new(
                                "ready.canopy",
                                "Canopy off, seat and float looked at",
                                [Look("Take the canopy off; look at seat and float.")],
                                "Insects, nests and dirt live under the canopy."
                            )
                            {
                                Caution = "It can spill: not over anything that water would harm.",
                            },
                            new(
                                "ready.flush",
                                "Flush TC1 and TC2",
                                [Flush(Parts.Tc1), Flush(Parts.Tc2)],
                                "Blows out grit and proves each cock."
                            )
                            {
                                Needs = [IsOpen(Parts.So1)],
                            },
                            .. Measuring.Adapters(setup, Parts.Tc1, Parts.Tc2),
                            new(
                                "ready.hoses",
                                "Tee on TC1, high hose on TC2, purge",
                                [
                                    new Act.CloseKit(),
                                    Put(Parts.BleedOff, Parts.Tc1, "Bleed-off tee on TC1, closed."),
                                    Put(Parts.HighHose, Parts.Tc2),
                                    Open(Parts.Tc2),
                                    new Act.Purge(Side.High),
                                ],
                                "The gauge feels the body; the tee waits in case SO1 leaks."
                            )
                            {
                                Needs = [IsClosed(Parts.Tc1), IsClosed(Parts.Tc2), IsOpen(Parts.So1)],
                                Sights = [NoWater.InTheHose("TC2", "ready.hoses")],
                            },
                        ]
                    ),
                    Inlet(setup),
                    Check(setup),
                    .. setup.Asks(TestItem.StaticLine)
                        ? (Stage[])
                            [
                                new(
                                    "line-pressure",
                                    "Line pressure",
                                    StageKind.Test,
                                    [
                                        Measuring.LinePressureInPlace(
                                            setup,
                                            "line.read",
                                            Parts.Tc1,
                                            IsOpen(Parts.So1),
                                            IsClosed(Parts.Tc2)
                                        ),
                                    ]
                                ),
                            ]
                        : [],
                ]
        )
        {
            StillWaterShowsSo1 = true,
            Version = 3,
        };

    private static Stage Check(Setup setup)
    {
        var level = setup.Does(StepVariant.LevelWithCheck) ? Parts.Cv1 : Parts.Tc2;
        var seeping = new Compensation(
            "cv1",
            "The check",
            TestItem.Check1,
            "TC2",
            "bleed-off",
            Crack(Parts.BleedOff),
            Close(Parts.BleedOff),
            "cv1.shut"
        )
        {
            Refill =
            [
                new(
                    "cv1.refill",
                    "Close the tee and TC2, open SO1",
                    [Close(Parts.BleedOff), Close(Parts.Tc2), OpenSlowly(Parts.So1)],
                    "Back to full pressure, so that the test can be repeated."
                ),
            ],
        };
        return new(
            "check-1",
            "The check holds",
            StageKind.Test,
            [
                new(
                    "cv1.hook",
                    "Open SO1, hose to the tee on TC1, purge",
                    [
                        TakeOff(Parts.HighHose, "Take the high hose (H) off TC2."),
                        Put(Parts.HighHose, Parts.BleedOff, "High hose on the tee at TC1."),
                        OpenSlowly(Parts.So1, "Open SO1 slowly; SO2 stays shut."),
                        Open(Parts.Tc1),
                        new Act.Purge(Side.High),
                    ],
                    "The gauge now feels the water before the check."
                )
                {
                    Sights = [NoWater.InTheHose("TC1", "cv1.hook")],
                    Needs =
                    [
                        IsClosed(Parts.Tc1),
                        IsClosed(Parts.Tc2),
                        IsClosed(Parts.So2),
                        IsOn(Parts.BleedOff, Parts.Tc1),
                        IsClosed(Parts.BleedOff),
                    ],
                },
                new(
                    "cv1.shut",
                    $"Gauge level with {(level == Parts.Cv1 ? "the check" : setup[level])}, close SO1",
                    [
                        LevelWith(level, level == Parts.Cv1 ? "Hold the gauge's centre level with the check." : null),
                        Close(Parts.So1),
                    ],
                    "The water before the check can only leave through it."
                )
                {
                    Sights =
                    [
                        new(
                            "falls",
                            "The needle falls as soon as SO1 is shut",
                            "SO2 leaks with the flow. Go on: it settles at what the check holds."
                        )
                        {
                            Shows = ObservationKind.NeedleFalls,
                            Findings = [FindingKind.So2LeaksWithFlow],
                            Remark = "SO2 leaks with the flow.",
                            Gives = [new(TestItem.Shutoff2, false)],
                        },
                    ],
                    Needs =
                    [
                        IsOn(Parts.HighHose, Parts.BleedOff),
                        IsOpen(Parts.Tc1),
                        IsPurged(Side.High),
                        IsOpen(Parts.So1),
                        IsClosed(Parts.So2),
                        IsClosed(Parts.BleedOff),
                        IsClosed(Parts.Tc2),
                    ],
                },
                new(
                    "cv1.read",
                    "Open TC2, read the check",
                    [OpenSlowly(Parts.Tc2)],
                    "When the body stands still, only the check's spring holds the water before it."
                )
                {
                    Watch = "When it has stopped running, or only drips, and the needle is still, take the number.",
                    Holds = true,
                    Capture = new(TestItem.Check1) { OneHose = true },
                    Needs =
                    [
                        IsClosed(Parts.So1),
                        IsClosed(Parts.So2),
                        IsHeldAt(level),
                        IsOn(Parts.HighHose, Parts.BleedOff),
                        IsOpen(Parts.Tc1),
                    ],
                    Sights = [seeping.NeverStops, seeping.RunsToZero],
                },
                new(
                    "cv1.leave",
                    "Close both cocks, open SO1",
                    [Close(Parts.Tc1), Close(Parts.Tc2), OpenSlowly(Parts.So1)],
                    "The body is under pressure again before anything is taken off."
                )
                {
                    Needs = [IsClosed(Parts.BleedOff)],
                },
            ]
        );
    }
}
