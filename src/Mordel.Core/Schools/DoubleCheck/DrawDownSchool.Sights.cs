using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.DoubleCheck;

// What may be seen while the water is drawn down, and where it leads.
public static partial class DrawDownSchool
{
    private static Sight Sinks(Setup setup, int number) =>
        Drops(number) with
        {
            Id = "sinks",
            Shows = ObservationKind.NeedleSinksBelowTwo,
            Seen = $"It sinks below {Two(setup)} by itself",
        };

    private static Sight Drops(int number) =>
        new(
            "drops",
            "The needle drops as SO1 closes",
            "SO2 leaks with the flow. "
                + (
                    number == 2
                        ? "It draws the water away behind CV2 and would fail it falsely, at 0."
                        : "CV2's spring may hold it for this test; the next one cannot be trusted."
                )
        )
        {
            Shows = ObservationKind.NeedleOffThePeg,
            Findings = [FindingKind.So2LeaksWithFlow],
            Remark = "SO2 leaks with the flow.",
            Gives = [new(TestItem.Shutoff2, false)],
            Branch =
                number == 1
                    ? []
                    :
                    [
                        new(
                            "cv2.outlet",
                            "Exercise SO2",
                            [Look("Open and close SO2 a few times, then close it firmly.")],
                            "Grit under a shutoff often washes out."
                        )
                        {
                            MustAnswer = true,
                            Sights =
                            [
                                Sight.PutRight(
                                    "shuts",
                                    "It shuts now",
                                    "Start this test again from full pressure.",
                                    "cv2.hook-up"
                                ),
                                new(
                                    "stays-open",
                                    "SO2 will not shut",
                                    "CV2 cannot be tested by this school until SO2 shuts: a return visit "
                                        + "after the repair."
                                )
                                {
                                    Shows = ObservationKind.CannotBePutRight,
                                    Remark = "CV2 could not be tested: SO2 does not shut off.",
                                    Leads = LeadsTo.NotTestable,
                                },
                            ],
                        },
                    ],
        };

    private static Sight WillNotComeDown(Setup setup, int number) =>
        new("will-not-come-down", $"It will not come down to {Two(setup)}", "SO1 leaks badly.")
        {
            Shows = ObservationKind.WillNotComeDown,
            Branch =
            [
                new(
                    $"cv{number}.exercise",
                    "Exercise SO1",
                    [Look("Open and close SO1 a few times, then close it firmly.")],
                    "Grit under a shutoff often washes out."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Sight.PutRight("shuts", "It shuts now", "Draw down again.", $"cv{number}.shut-so1"),
                        new(
                            "so1-stays-open",
                            "SO1 will not shut",
                            "The check cannot be tested until SO1 shuts: a return visit after the repair."
                        )
                        {
                            Shows = ObservationKind.CannotBePutRight,
                            Findings = [FindingKind.So1Leaks],
                            Remark = "SO1 does not shut off.",
                            Gives = [new(TestItem.Shutoff1, false)],
                            Leads = LeadsTo.NotTestable,
                        },
                    ],
                },
            ],
        };

    private static Sight CreepsUp(Setup setup, int number, PartId before, string front) =>
        new(
            "creeps-up",
            "It climbs once the low control is closed",
            "SO1 leaks a little, or SO2 lets pressure back, or water was trapped behind CV2. Opening the cock "
                + "before the check takes SO1's water away."
        )
        {
            Shows = ObservationKind.NeedleCreepsUp,
            Branch =
            [
                new(
                    $"cv{number}.tell",
                    $"Open {front}, draw down to {Two(setup)} again and watch",
                    [Open(before), .. ToTwo(setup)],
                    "What still climbs now does not come through SO1: its water leaves at the open cock."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        new("stops", $"It stays down, and {front} runs on", "It was SO1's water.")
                        {
                            Shows = ObservationKind.WaterRunsNeedleStops,
                            Findings = [FindingKind.So1Leaks],
                            Remark = "SO1 leaks a little.",
                            Gives = [new(TestItem.Shutoff1, false)],
                        },
                        new(
                            "climbs-on",
                            "It climbs on",
                            "SO2 leaks, with pressure behind it: the check is read against that water, so a low "
                                + "reading is real and a high one is not proof."
                        )
                        {
                            Shows = ObservationKind.NeedlePegged,
                            Findings = [FindingKind.So2LeaksBackPressure],
                            Remark = "SO2 leaks, back pressure.",
                            Gives = [new(TestItem.Shutoff2, false)],
                        },
                        .. number == 1
                            ? ImmutableArray.Create(
                                new Sight(
                                    "trapped",
                                    "It stopped by itself before the cock was opened",
                                    "Water trapped behind a leaking CV2 has come through and to rest. Draw down "
                                        + "again: each time less is trapped."
                                )
                                {
                                    Shows = ObservationKind.NeedleNotPegged,
                                    Leads = LeadsTo.Repeat,
                                    Again = "cv1.draw",
                                    Branch =
                                    [
                                        new(
                                            "cv1.shut-front",
                                            $"Close {front}",
                                            [Close(before)],
                                            "Nothing else is changed: SO1 stays shut."
                                        ),
                                    ],
                                }
                            )
                            :
                            [
                                new(
                                    "trapped",
                                    "It does not climb again",
                                    "Water held back between the checks had come to rest. Nothing leaks in."
                                )
                                {
                                    Shows = ObservationKind.NeedleNotPegged,
                                },
                            ],
                    ],
                },
            ],
        };

    private static FindingKind Leaks(int number) => number == 1 ? FindingKind.Cv1Leaks : FindingKind.Cv2Leaks;
}
