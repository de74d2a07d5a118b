using Mordel.Core.Rigs;
using static Mordel.Core.Catalogue.BodyParts;

namespace Mordel.Core.Catalogue;

/// <summary>Pressure vacuum breaker: a check, and behind it a body into which an inlet lets air.</summary>
public static class PressureVacuumBreaker
{
    /// <summary>SO1 · TC1 · CV · body with AI on top · TC2 · SO2.</summary>
    public static AssemblyBody Body { get; } =
        InFlowOrder(
            AssemblyTypes.PVB,
            AssemblyTypes.PVB.Name,
            ["inlet", "before-cv1", "body", "outlet"],
            Shutoff(Parts.So1),
            Cock(Parts.Tc1),
            Check(Parts.Cv1),
            Inlet,
            Cock(Parts.Tc2),
            Shutoff(Parts.So2)
        );

    /// <summary>What is true of the type.</summary>
    public static TypeFacts Facts { get; } =
        new()
        {
            Type = AssemblyTypes.PVB,
            Title = "pressure vacuum breaker",
            Spellings = ["pvb", "pvba", "pressurevacuumbreaker", "pressurebreaker"],
            Bodies = [Body],
            Healthy = new(1.6, 0, 0, 1.7),
            Drawn = [new(Parts.Cv1, 1.3, 1.9), new(Parts.AirInlet, 1.3, 2.4)],
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
                "At least 300 mm (12 in) above the highest outlet, upright, where a spill does no harm and no back "
                + "pressure can come.",
            WhenCharged = "A short spill at the air inlet is normal until it seats.",
            Charted = [new("Check", TestItem.Check1), new("Inlet", TestItem.AirInletOpening)],
            ChartedLimit = TestItem.Check1,
            OftenFeedsOpenOutlets = true,
        };
}
