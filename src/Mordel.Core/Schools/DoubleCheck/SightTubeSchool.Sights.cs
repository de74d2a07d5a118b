using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Condition;

namespace Mordel.Core.Schools.DoubleCheck;

// What may be seen at the tube, and where it leads.
public static partial class SightTubeSchool
{
    private static Sight LeftThePeg =>
        new(
            "left-the-peg",
            "The needle leaves its peg by itself",
            "SO2 leaks with the flow: water slips out to the site until both springs hold (the needle rests at "
                + "about CV1 and CV2 together)."
        )
        {
            Shows = ObservationKind.NeedleLeftThePeg,
            Findings = [FindingKind.So2LeaksWithFlow],
            Remark = "SO2 leaks with the flow.",
            Gives = [new(TestItem.Shutoff2, false)],
        };

    private static Step Refill(int number)
    {
        var down = number == 1 ? Parts.Tc3 : Parts.Tc4;
        return new(
            $"cv{number}.refill",
            "Close the tee and the cock, open SO1",
            [
                new Act.Do(new Move.Turn(Parts.BleedOff, Opening.Closed)),
                new Act.Do(new Move.Turn(down, Opening.Closed)),
                new Act.Do(new Move.Turn(Parts.So1, Opening.Full, Slowly: true)),
            ],
            "Back to full pressure, so that the test can be repeated from the purge."
        );
    }

    private static Sight LevelSinks(Compensation seeping, int number, PartId down) =>
        new(
            "level-sinks",
            "The level in the tube sinks away",
            number == 2
                ? "SO2 leaks with the flow and takes the tube's water."
                : "SO2 leaks with the flow; in this test it takes a leaking CV2 too, or an outlet more than about "
                    + "a metre below."
        )
        {
            Shows = ObservationKind.TubeSinks,
            Findings = [FindingKind.So2LeaksWithFlow],
            Remark = "SO2 leaks with the flow.",
            Gives = [new(TestItem.Shutoff2, false)],
            Branch =
            [
                new(
                    $"cv{number}.lower",
                    "Open SO1 for a moment, bring the gauge down level with the water, read",
                    [
                        new Act.Blip(
                            Parts.So1,
                            "Open SO1 for a moment and close it, so that the needle settles from above."
                        ),
                        new Act.Do(new Move.Hold(new(down))),
                    ],
                    "The tube no longer shows the level: the water stands at the cock or the body's centre. A low "
                        + "outlet may have drawn the water before the check away too."
                )
                {
                    Capture = new(seeping.Item) { OneHose = true },
                    Sights = [seeping.RunsToZero],
                },
            ],
        };

    private static Sight ZeroFromTheStart(int number, string above, PartId up, TestItem item) =>
        new(
            "zero-from-start",
            "The needle is at zero from the start",
            $"{above} is shut or blocked: the hose feels nothing."
        )
        {
            Shows = ObservationKind.ZeroFromTheStart,
            Branch =
            [
                new(
                    $"cv{number}.clear-up",
                    $"Open and clear {above}",
                    [
                        new Act.Do(new Move.Turn(up, Opening.Full)),
                        new Act.Look($"Work {above} to and fro; clear it with a wire if it is blocked."),
                    ],
                    "The hose must feel the water before the check."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Cleared(number),
                        Stays(
                            "stays",
                            ObservationKind.CannotBePutRight,
                            $"{above} stays blocked",
                            FindingKind.CockBlocked,
                            $"{above} is blocked.",
                            item
                        ),
                        Sight.HosesSwapped(
                            "It is the low hose that hangs there",
                            "Hook up again with the high hose, and purge.",
                            $"cv{number}.hook-up"
                        ),
                    ],
                },
            ],
        };

    private static Sight WillNotFall(int number, string below, PartId down, TestItem item) =>
        new(
            "will-not-fall",
            "The needle stays pegged and will not fall",
            $"{below} is blocked, or SO1 stands open or leaks badly."
        )
        {
            Shows = ObservationKind.NeedlePegged,
            Branch =
            [
                new(
                    $"cv{number}.clear-down",
                    $"Clear {below}, exercise SO1",
                    [
                        new Act.Do(new Move.Turn(down, Opening.Full)),
                        new Act.Look("Open and close SO1 a few times, then close it firmly."),
                        new Act.Do(
                            new Move.Turn(Parts.BleedOff, Opening.Full, Slowly: true),
                            "Open the bleed-off: a needle that drops now, while the tube runs on, clears SO1 "
                                + "of suspicion."
                        ),
                    ],
                    "Grit under a shutoff often washes out."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Cleared(number),
                        Stays(
                            "stays",
                            ObservationKind.CannotBePutRight,
                            $"{below} stays blocked",
                            FindingKind.CockBlocked,
                            $"{below} is blocked.",
                            item
                        ),
                        Stays(
                            "so1-stays-open",
                            ObservationKind.WaterRunsNeedleUp,
                            "SO1 will not shut",
                            FindingKind.So1Leaks,
                            "SO1 does not shut off.",
                            item
                        ),
                        Stays(
                            "so2-runs-back",
                            ObservationKind.WaterRunsBack,
                            "The needle drops and the tube runs on: it comes through SO2",
                            FindingKind.So2LeaksBackPressure,
                            "SO2 does not shut off, back pressure.",
                            item
                        ),
                    ],
                },
            ],
        };

    private static Sight Cleared(int number) =>
        Sight.PutRight("cleared", "It is clear now", "Start this test again from the purge.", $"cv{number}.fill") with
        {
            Branch = [Refill(number)],
        };

    private static Sight Stays(
        string id,
        ObservationKind shows,
        string seen,
        FindingKind finding,
        string why,
        TestItem item
    ) =>
        new(id, seen, "This assembly cannot be tested today: a return visit after the repair.")
        {
            Shows = shows,
            Findings = [finding],
            Remark = why,
            Gives =
                finding == FindingKind.So1Leaks ? [new(TestItem.Shutoff1, false)]
                : finding == FindingKind.CockBlocked ? []
                : [new(TestItem.Shutoff2, false)],
            Leads = LeadsTo.NotTestable,
            Item = item,
        };
}
