using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Procedures;

/// <summary>
/// A line that does not stand in service is made ready first: one found shut or drained is charged (cocks closed, SO2
/// closed, SO1 slowly, listening), one found half open is opened (handbook chapter 2). The end leaves each valve as it
/// was found.
/// </summary>
public static class Charging
{
    /// <summary>Steps before the school's own, each only for a line that was found so.</summary>
    public static ImmutableArray<Step> Steps(Setup setup)
    {
        ArgumentNullException.ThrowIfNull(setup);
        PartId[] drains = [.. ValvePositions.Drains(setup.Body)];
        PositionCondition shut = new([Parts.So1], [ValvePosition.Closed]),
            partly = new([Parts.So1], [ValvePosition.Partly]),
            running = new([Parts.So1], [ValvePosition.Open, ValvePosition.Partly]);
        return
        [
            new(
                "charge.line",
                "Charge the line: cocks closed, SO2 closed, SO1 slowly",
                [
                    new Act.CloseCocks(),
                    Close(Parts.So2),
                    OpenSlowly(Parts.So1, "Open SO1 slowly, listening for water that runs off downstream."),
                ],
                "A line that was shut may be open somewhere: a winter plug may still be out."
            )
            {
                OnlyIf = [shut],
                Watch = $"Does it fall silent once the body is full? {setup.Body.Type.Facts().WhenCharged}",
                Caution = "Nobody may be working downstream. Slowly: air in the line hammers.",
                Sights = [RunsOff],
            },
            new(
                "charge.open",
                "Open SO1 fully",
                [OpenSlowly(Parts.So1)],
                "A throttled SO1 starves the test; it goes back to where it was at the end."
            )
            {
                OnlyIf = [partly],
            },
            new(
                "charge.cocks",
                "Close what was found open on the body",
                [new Act.CloseCocks()],
                "The test starts with every cock shut; at the end each stands as it was found."
            )
            {
                OnlyIf = [running, new([.. drains], [ValvePosition.Open, ValvePosition.Partly])],
            },
        ];
    }

    private static Sight RunsOff =>
        new(
            "runs-off",
            "Water runs off downstream",
            "SO2 lets it through to a pipe that stands open: a plug may be out, or somebody may have opened it."
        )
        {
            Shows = ObservationKind.HeardDownstream,
            Branch =
            [
                new(
                    "charge.find",
                    "Close SO1 again, find where it runs",
                    [Close(Parts.So1), Look("Find the open end, or work SO2 to and fro and close it firmly.")],
                    "Water let into an open pipe floods it."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Sight.PutRight("found", "Found and closed", "Charge the line again.", "charge.line"),
                        new("stays", "It stays open", "Not testable today: a return visit when the line is whole.")
                        {
                            Shows = ObservationKind.CannotBePutRight,
                            Remark = "The line could not be charged: it stands open downstream.",
                            Leads = LeadsTo.NotTestable,
                        },
                    ],
                },
            ],
        };
}
