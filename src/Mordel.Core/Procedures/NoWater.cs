using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Procedures;

/// <summary>
/// A cock from which nothing comes: blocked, shut, or under the wrong hose. The same at every hook-up.
/// </summary>
public static class NoWater
{
    /// <summary>The gauge does not react to a hose that should be under pressure.</summary>
    /// <param name="cock">The cock under the hose, as written.</param>
    /// <param name="again">The step to repeat when it has been put right.</param>
    public static Sight InTheHose(string cock, string again) =>
        new(
            "no-water",
            "No water comes and the needle does not rise",
            $"{cock} is shut or blocked, or it is the low hose that hangs there."
        )
        {
            Shows = ObservationKind.NeedleDoesNotRise,
            Branch =
            [
                new(
                    $"{again}.look",
                    $"Look at the hose and {cock}",
                    [Look($"Is it the high hose? Is {cock} open and clear? Work it to and fro.")],
                    "One of the two, and each is soon seen."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Sight.HosesSwapped(
                            "It is the low hose that hangs there",
                            "Hook up again with the high hose.",
                            again
                        ),
                        Sight.PutRight("cleared", "It was shut or fouled: clear now", "Purge again.", again),
                        Blocked(cock),
                    ],
                },
            ],
        };

    /// <summary>A cock that should run and does not.</summary>
    public static Sight From(PartId part, string cock, string again) =>
        new(
            $"dry-{part}",
            $"No water comes from {cock}",
            $"{cock} is blocked: what the gauge shows then proves nothing."
        )
        {
            Shows = Observation.CockDry(part),
            Branch =
            [
                new(
                    $"{again}.clear",
                    $"Clear {cock}",
                    [Look($"Work {cock} to and fro; clear it with a wire.")],
                    "Debris often washes out."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        Sight.PutRight("cleared", "It is clear now", "Begin this part again.", again),
                        Blocked(cock),
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
}
