using Mordel.Core.Rigs;
using static Mordel.Core.Catalogue.BodyParts;

namespace Mordel.Core.Catalogue;

/// <summary>
/// Spill-resistant vacuum breaker: as the pressure vacuum breaker, its inlet held by the supply side as well.
/// </summary>
public static class SpillResistantBreaker
{
    /// <summary>SO1 · TC · CV · body with AI on top and vent screw · SO2.</summary>
    public static AssemblyBody Body { get; } =
        InFlowOrder(
            AssemblyTypes.SVB,
            AssemblyTypes.SVB.Name,
            ["inlet", "before-cv1", "body", "outlet"],
            Shutoff(Parts.So1),
            Cock(Parts.Tc1),
            Check(Parts.Cv1),
            Inlet,
            VentScrew,
            Shutoff(Parts.So2)
        );

    /// <summary>What is true of the type.</summary>
    public static TypeFacts Facts { get; } =
        new()
        {
            Type = AssemblyTypes.SVB,
            Title = "spill-resistant vacuum breaker",
            Spellings = ["svb", "srvb", "spvb", "sprvb", "spillresistant", "spillresistantvacuumbreaker"],
            Bodies = [Body],
            Healthy = new(3.2, 0, 0, 1.8),
            Drawn = [new(Parts.Cv1, 2.8, 4.2), new(Parts.AirInlet, 1.3, 2.2)],
            LearnersFaults =
            [
                new(Parts.Cv1),
                new(Parts.So1),
                new(Parts.So2) { Behind = LeakBehind.OpenOutlet },
                new(Parts.AirInlet, FaultKind.Hangs),
                new(Parts.AirInlet, FaultKind.StuckClosed),
                new(Parts.Cv1) { WornTo = 0.7, InExams = false },
            ],
            Placing =
                "At least 150 mm (6 in) above the highest outlet, upright, no back pressure; insects or nests "
                + "under the hood.",
            WhenCharged = "A short spill at the air inlet is normal until it seats.",
            Charted = [new("Check", TestItem.Check1), new("Inlet", TestItem.AirInletOpening)],
            ChartedLimit = TestItem.Check1,
        };
}
