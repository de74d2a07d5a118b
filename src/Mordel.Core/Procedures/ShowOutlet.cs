using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Procedures;

/// <summary>
/// What shows whether SO2 is tight where standing water alone cannot: a site that has come to the same pressure hides a
/// leak (handbook chapter 3). With the body shut in under pressure a tap downstream gives the leak somewhere to go.
/// </summary>
public static class ShowOutlet
{
    /// <summary>The step, to be offered before one that starts with SO1 and SO2 shut and the needle up.</summary>
    /// <param name="opened">What the step leaves shut in: where the pressure stands.</param>
    public static Step Offer(string opened) =>
        new(
            "so2.shown",
            "Open a tap downstream and watch the needle",
            [new Act.OpenTap("Open a tap downstream, so that SO2 has somewhere to leak to.")],
            $"{opened} is shut in under pressure: with a tap open behind it, a leaking SO2 lets the needle fall."
        )
        {
            Watch =
                "A weep takes a minute or two to bring a pegged needle down. A tap opened for this is closed "
                + "before SO2 opens.",
            MustAnswer = true,
            Holds = true,
            Needs = [Condition.IsClosed(Parts.So1), Condition.IsClosed(Parts.So2)],
            Sights =
            [
                new(
                    "stands",
                    "The needle stands where it stood",
                    "SO2 is tight: with a tap open it had somewhere to leak to."
                )
                {
                    Shows = ObservationKind.AsItShouldBe,
                    Good = true,
                    Gives = [new(TestItem.Shutoff2, true)],
                    Branch = [TapClosed],
                },
                new("falls", "The needle falls", "SO2 leaks with the flow. Not a failure, a finding.")
                {
                    Shows = ObservationKind.NeedleFalls,
                    Findings = [FindingKind.So2LeaksWithFlow],
                    Remark = "SO2 leaks with the flow.",
                    Gives = [new(TestItem.Shutoff2, false)],
                    Branch =
                    [
                        new(
                            "so2.refill",
                            "Tap closed; open SO1 and close it again",
                            [new Act.CloseTap("Close the tap downstream."), OpenSlowly(Parts.So1), Close(Parts.So1)],
                            "The test goes on from full pressure."
                        )
                        {
                            Needs = [Condition.IsClosed(Parts.So2)],
                        },
                    ],
                },
                new(
                    "tap-runs-on",
                    "The tap keeps running, and the needle stands",
                    "The site has a pressure of its own: a pump, a tank, another feed. A leak of SO2 comes back by "
                        + "itself then, as water that never stops in the test that follows."
                )
                {
                    Shows = ObservationKind.TapRunsOn,
                    SitePushesBack = true,
                    Branch = [TapClosed],
                },
            ],
        };

    private static Step TapClosed =>
        new(
            "so2.tap",
            "Close the tap downstream",
            [new Act.CloseTap("Close the tap again.")],
            "The test that follows wants the site at rest; and no tap runs when SO2 opens."
        );
}
