using Mordel.Core.Rigs;
using static Mordel.Core.Catalogue.BodyParts;

namespace Mordel.Core.Catalogue;

/// <summary>Double check assembly: two checks, and nothing that shows when they fail.</summary>
public static class DoubleCheck
{
    /// <summary>TC1 · SO1 · TC2 · CV1 · TC3 · CV2 · TC4 · SO2.</summary>
    public static AssemblyBody Body { get; } =
        InFlowOrder(
            AssemblyTypes.DC,
            AssemblyTypes.DC.Name,
            ["inlet", "before-cv1", "between-checks", "behind-cv2", "outlet"],
            Cock(Parts.Tc1),
            Shutoff(Parts.So1),
            Cock(Parts.Tc2),
            Check(Parts.Cv1),
            Cock(Parts.Tc3),
            Check(Parts.Cv2),
            Cock(Parts.Tc4),
            Shutoff(Parts.So2)
        );

    /// <summary>What is true of the type.</summary>
    public static TypeFacts Facts { get; } =
        new()
        {
            Type = AssemblyTypes.DC,
            Title = "double check",
            Spellings = ["dc", "dcv", "dcva", "dca", "doublecheck", "doublecheckvalve", "doublecheckassembly"],
            Bodies = [Body],
            Healthy = new(2.1, 1.8, 0, 0),
            Drawn = [new(Parts.Cv1, 1.4, 3.2), new(Parts.Cv2, 1.3, 2.8)],
            LearnersFaults =
            [
                new(Parts.Cv1),
                new(Parts.Cv2),
                new(Parts.So1),
                new(Parts.So2) { Behind = LeakBehind.OpenOutlet },
                new(Parts.So2) { Behind = LeakBehind.Pressure },
                new(Parts.Cv1) { WornTo = 0.7, InExams = false },
                new(Parts.Cv2) { WornTo = 0.8, InExams = false },
            ],
            Placing = "Never on a high hazard.",
            WhenCharged = "Look for leaks at body and cocks.",
            Charted = [new("CV1", TestItem.Check1), new("CV2", TestItem.Check2)],
            ChartedLimit = TestItem.Check1,
            NeverOnHighHazard = "A double check may not stand on a high hazard.",
        };
}
