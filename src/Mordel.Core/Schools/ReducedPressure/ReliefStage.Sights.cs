using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.ReducedPressure;

// What may be seen while the relief is brought to open, and where it leads.
public static partial class ReliefStage
{
    private static Sight Pours(ReliefRig rp) =>
        new(
            "pours",
            "It pours: the low control went too far",
            "The tester's doing, not a failure. Shut the feed, restore the zone, dry the port and repeat."
        )
        {
            Shows = ObservationKind.OwnDoing,
            Leads = LeadsTo.Repeat,
            Again = "rv.dry",
            Branch =
            [
                new(
                    "rv.again",
                    "Close the low control, restore the zone",
                    [Close(Parts.LowControl), new Act.RestoreZone(rp.Down)],
                    "The zone must be low again before the relief can be raised to its point."
                ),
            ],
        };

    private static Sight CannotBeReached(ReliefRig rp) =>
        new(
            "cannot-be-reached",
            "The needle stays high and steady however much is fed",
            "SO2 leaks with the flow and carries the water away."
        )
        {
            Shows = ObservationKind.OpeningNotReached,
            Findings = [FindingKind.So2LeaksWithFlow],
            Remark = "SO2 leaks with the flow.",
            Gives = [new(TestItem.Shutoff2, false)],
            Branch =
            [
                new(
                    "rv.exercise",
                    "Work SO2 to and fro, then close it firmly",
                    [Close(Parts.LowControl), Look("Open and close SO2 a few times."), Close(Parts.So2)],
                    "Grit under a shutoff often washes out."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Sight.PutRight("shuts", "It shuts now", "Restore the zone and try again.", "rv.dry") with
                        {
                            Branch =
                            [
                                new(
                                    "rv.restore",
                                    "Restore the zone",
                                    [new Act.RestoreZone(rp.Down)],
                                    "Back to where the feed began."
                                ),
                            ],
                        },
                        new(
                            "stays-open",
                            "SO2 will not shut",
                            "The relief cannot be brought to its point until SO2 shuts: a return visit "
                                + "after the repair."
                        )
                        {
                            Shows = ObservationKind.CannotBePutRight,
                            Remark = "SO2 does not shut off.",
                            Leads = LeadsTo.NotTestable,
                        },
                    ],
                },
            ],
        };

    private static Sight NothingDrips =>
        new(
            "nothing-drips",
            "The needle runs down to zero and nothing drips",
            "The relief does not open: spring, diaphragm or sensing passage."
        )
        {
            Shows = ObservationKind.NothingDripsToZero,
            Findings = [FindingKind.ReliefStuck],
            Remark = "Relief valve does not open.",
            Takes = TakesValue.ZeroOnDial,
            Item = TestItem.ReliefOpening,
            FailsAlone = true,
        };

    private static Sight LeaksUntold =>
        new(
            "leaks-untold",
            "It discharges while the needle stands well above its point",
            "The relief's seat is fouled or its diaphragm torn: it leaks without being told to. Its opening cannot "
                + "be read; first make sure that CV1 is sound."
        )
        {
            Shows = ObservationKind.ReliefRunsNeedleStands,
            Findings = [FindingKind.ReliefLeaks],
            Remark = "Relief valve leaks.",
            FailsAlone = true,
        };

    /// <summary>The needle sits at zero and nothing reacts.</summary>
    public static Sight NothingReacts(ReliefRig rp, string id) =>
        new(
            id,
            "The needle sits at zero and nothing reacts",
            $"Hoses swapped, {rp[rp.Up]} shut or blocked, or SO1 shut."
        )
        {
            Shows = ObservationKind.NeedleDrivenDown,
            Branch =
            [
                new(
                    "hook.clear-up",
                    $"Look at the hoses, {rp[rp.Up]} and SO1",
                    [
                        Look(
                            $"Is the high hose on {rp[rp.Up]} and the low hose on {rp[rp.Zone]}? Is {rp[rp.Up]} "
                                + $"open and clear? Is SO1 open?"
                        ),
                    ],
                    "One of three, and each is soon seen."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Sight.HosesSwapped("The hoses were swapped", "Hook up again and purge.", "hook.hoses"),
                        Sight.PutRight(
                            "cleared",
                            $"{rp[rp.Up]} or SO1 was shut: open now",
                            "Purge again.",
                            "hook.hoses"
                        ),
                        Blocked(rp[rp.Up]),
                    ],
                },
            ],
        };

    /// <summary>The needle is pegged and stays there.</summary>
    public static Sight PeggedFromTheStart(ReliefRig rp, string again = "hook.hoses") =>
        new(
            "pegged",
            "The needle is pegged from the start",
            $"{rp[rp.Zone]} shut or blocked, or air on the low side that was not purged."
        )
        {
            Shows = ObservationKind.NeedlePegged,
            Branch =
            [
                new(
                    "hook.clear-low",
                    $"Open and clear {rp[rp.Zone]}, purge the low side",
                    [Look($"Work {rp[rp.Zone]} to and fro; purge the low side again.")],
                    "The low port must feel the zone."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Sight.PutRight("cleared", "It is clear now", "Purge again.", again),
                        Blocked(rp[rp.Zone]),
                    ],
                },
            ],
        };

    private static Sight Blocked(string cock) =>
        new("stays", $"{cock} stays blocked", "This assembly cannot be tested today: a return visit after the repair.")
        {
            Shows = ObservationKind.CannotBePutRight,
            Findings = [FindingKind.CockBlocked],
            Remark = $"{cock} is blocked.",
            Leads = LeadsTo.NotTestable,
        };

    /// <summary>What a needle tells that will not stand still with SO2 closed.</summary>
    public static ImmutableArray<Sight> Sinking(ReliefRig rp) =>
        [
            new(
                "relief-runs",
                "The needle sinks and the relief runs",
                "CV1 leaks, the commonest fault: the zone fills until the relief lets go. What the needle shows "
                    + "then is the relief's point, and all that CV1 holds."
            )
            {
                Shows = ObservationKind.ReliefRunsAtOnce,
                Findings = [FindingKind.Cv1Leaks],
                Remark = "CV1 leaks.",
                Branch = [ReadTheRest, RestOfCheck],
                Leads = LeadsTo.CloseUp,
            },
            new(
                "sinks-slowly",
                "The needle sinks, no discharge yet",
                "CV1 leaks slowly: a weep takes a minute or two to reach the relief's point. Wait for the drip."
            )
            {
                Shows = ObservationKind.ReliefRunsLater,
                Findings = [FindingKind.Cv1Leaks],
                Remark = "CV1 leaks slowly.",
                Branch = [ReadTheRest, RestOfCheck],
                Leads = LeadsTo.CloseUp,
            },
            new(
                "zero-and-dry",
                "The needle sinks to zero and nothing drips",
                "CV1 leaks and the relief is stuck: nothing protects the main. Out of service."
            )
            {
                Shows = ObservationKind.ZeroAndReliefDry,
                Findings = [FindingKind.Cv1Leaks, FindingKind.ReliefStuck],
                Remark = "CV1 leaks and the relief valve does not open: dangerous, out of service.",
                FailsAlone = true,
                Takes = TakesValue.ZeroOnDial,
                Item = TestItem.ReliefOpening,
                Branch = [RestOfCheck],
                Leads = LeadsTo.CloseUp,
            },
            LeaksUntold,
            NothingReacts(rp, "zero-nothing-reacts"),
        ];
}
