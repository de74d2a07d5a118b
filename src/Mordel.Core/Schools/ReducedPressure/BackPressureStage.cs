using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.ReducedPressure;

/// <summary>
/// CV2 against back pressure through the bypass hose, and SO2 by closing the first cock: as the relief-first and the
/// check-first school do it.
/// </summary>
public static class BackPressureStage
{
    /// <summary>Supply pressure is put behind CV2; the needle must hold.</summary>
    /// <param name="rp">The cocks by what they feel.</param>
    /// <param name="again">The step to repeat from when the first needle was false.</param>
    /// <param name="cockLast">Whether the school opens the cock last, watching, with the bypass open already.</param>
    public static Step Test(ReliefRig rp, string again, bool cockLast = false) =>
        new(
            "bp.test",
            cockLast
                ? $"Bypass control open, open {rp[rp.Down]} while watching"
                : $"Open {rp[rp.Down]}, bypass control fully open",
            cockLast
                ?
                [
                    Open(Parts.BypassControl, "Open the bypass control fully and leave it open."),
                    OpenSlowly(rp.Down, $"Open {rp[rp.Down]} slowly, watching the needle."),
                ]
                : [Open(rp.Down), Open(Parts.BypassControl, "Open the bypass control fully and leave it open.")],
            "Supply pressure now stands behind CV2. If it leaks, that pressure comes into the zone and the needle "
                + "sinks to the relief's point."
        )
        {
            Watch =
                "A small first drop is the disc being squeezed. Then the needle must hold. The relief may spill "
                + "while the hose was purged: its result is already written.",
            MustAnswer = true,
            Holds = true,
            Needs =
            [
                .. rp.TwoHoses,
                IsOn(Parts.BypassHose, rp.Down),
                IsOpen(Parts.HighControl),
                IsClosed(Parts.LowControl),
            ],
            Sights =
            [
                new("holds", "After the first drop the needle holds", "CV2 is closed tight.")
                {
                    Shows = ObservationKind.AsItShouldBe,
                    Good = true,
                    Gives = [new(TestItem.Check2BackPressure, true)],
                },
                new(
                    "sinks",
                    "The needle sinks to the relief's point and the relief drips",
                    "CV2 leaks: what stands behind it comes into the zone."
                )
                {
                    Shows = ObservationKind.NeedleSinksReliefRuns,
                    Findings = [FindingKind.Cv2Leaks],
                    Remark = "CV2 leaks.",
                    Gives = [new(TestItem.Check2BackPressure, false)],
                    Skips = ["so2.test"],
                    Branch =
                    [
                        new(
                            "bp.relieve",
                            $"Shut the bypass, relieve {rp[rp.Down]}",
                            [
                                Close(Parts.BypassControl),
                                TakeOff(
                                    Parts.BypassHose,
                                    $"Take the bypass hose off {rp[rp.Down]}: what stands behind CV2 runs out."
                                ),
                                Close(rp.Down),
                            ],
                            "Otherwise the leak falsifies CV1. SO2 cannot be judged over a leaking CV2."
                        )
                        {
                            Caution = "The hose is under pressure: loosen it slowly.",
                        },
                    ],
                },
                new(
                    "rests-above",
                    "The needle sinks and comes to rest above the relief's point",
                    rp.Setup.Rules.RestAboveReliefIsTight
                        ? "This profile accepts it as tight."
                        : "This profile wants a still needle after the first drop: CV2 does not count as tight."
                )
                {
                    Shows = ObservationKind.NeedleRestsLower,
                    Gives = [new(TestItem.Check2BackPressure, rp.Setup.Rules.RestAboveReliefIsTight)],
                    Findings = rp.Setup.Rules.RestAboveReliefIsTight ? [] : [FindingKind.Cv2Leaks],
                    Remark = "CV2 against back pressure: the needle came to rest above the relief opening point.",
                },
                new(
                    "low-and-runs",
                    "The needle stands a little low and still, the bypass hose runs",
                    "SO2 leaks with the flow; the bypass makes up for it, so CV2 was tested."
                )
                {
                    Shows = ObservationKind.BypassRunsNeedleLow,
                    Gives = [new(TestItem.Check2BackPressure, true), new(TestItem.Shutoff2, false)],
                    Findings = [FindingKind.So2LeaksWithFlow],
                    Remark = "SO2 leaks with the flow.",
                },
                new(
                    "takes-all",
                    "SO2 takes more than the bypass gives",
                    "The space behind CV2 never reaches the zone's pressure: a still needle proves nothing here. "
                        + "CV2 stays unproved until SO2 shuts."
                )
                {
                    Shows = ObservationKind.BypassTakesAll,
                    Gives = [new(TestItem.Shutoff2, false)],
                    Findings = [FindingKind.So2LeaksWithFlow],
                    Remark = "SO2 leaks too much to prove CV2 against back pressure.",
                    Skips = ["so2.test"],
                },
                new(
                    "high",
                    "The needle stands a little high",
                    "SO2 leaks from a site above supply; that pressure stood behind CV2 and was held."
                )
                {
                    Shows = ObservationKind.NeedleALittleHigh,
                    Gives = [new(TestItem.Check2BackPressure, true), new(TestItem.Shutoff2, false)],
                    Findings = [FindingKind.So2LeaksBackPressure],
                    Remark = "SO2 leaks, back pressure.",
                },
                new(
                    "first-needle-false",
                    "The needle was off before the bypass was opened",
                    "Pressure behind CV2 stood there since SO2 was shut. Restore the zone once, then "
                        + "believe the needle."
                )
                {
                    Shows = ObservationKind.OwnDoing,
                    Leads = LeadsTo.Repeat,
                    Again = again,
                },
            ],
        };

    /// <summary>SO2, by shutting the cock under the high hose.</summary>
    public static Step Shutoff(ReliefRig rp, ImmutableArray<Sight> leaking) =>
        new(
            "so2.test",
            $"Close {rp[rp.Up]}, touch nothing else",
            [Close(rp.Up), new Act.OpenTap("Open a tap downstream, so that there is somewhere to leak to.")],
            $"The high hose now feels only what stands behind CV2, through the bypass: if SO2 leaks, that goes."
        )
        {
            Watch = "A slight first drop, then still: tight. A closed, charged site can make a leaking SO2 look tight.",
            MustAnswer = true,
            Holds = true,
            Needs =
            [
                IsOn(Parts.BypassHose, rp.Down),
                IsOpen(rp.Down),
                IsOpen(Parts.BypassControl),
                IsOpen(Parts.HighControl),
                IsClosed(Parts.LowControl),
                IsClosed(Parts.So2),
                IsOpen(rp.Up),
            ],
            Sights =
            [
                new("still", "The needle stands still", "SO2 is tight.")
                {
                    Shows = ObservationKind.AsItShouldBe,
                    Good = true,
                    Gives = [new(TestItem.Shutoff2, true)],
                },
                .. leaking,
            ],
        };

    /// <summary>SO2's leaks as findings to remark on, where the school goes on with them.</summary>
    public static ImmutableArray<Sight> Remarked =>
        [
            new("falls", "The needle falls, through zero", "SO2 leaks with the flow. It is valid because CV2 has held.")
            {
                Shows = ObservationKind.NeedleFalls,
                Gives = [new(TestItem.Shutoff2, false)],
                Findings = [FindingKind.So2LeaksWithFlow],
                Remark = "SO2 leaks with the flow.",
            },
            new("climbs", "The needle climbs", "SO2 leaks from a site above supply: CV2 has just been proved.")
            {
                Shows = ObservationKind.NeedleClimbs,
                Gives = [new(TestItem.Shutoff2, false)],
                Findings = [FindingKind.So2LeaksBackPressure],
                Remark = "SO2 leaks, back pressure.",
            },
        ];
}
