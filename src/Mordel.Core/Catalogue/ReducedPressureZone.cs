using Mordel.Core.Rigs;
using static Mordel.Core.Catalogue.BodyParts;

namespace Mordel.Core.Catalogue;

/// <summary>Reduced pressure zone assembly: two checks, and between them a zone that a relief valve empties.</summary>
public static class ReducedPressureZone
{
    private static readonly string[] Chambers = ["inlet", "before-cv1", "zone", "behind-cv2", "outlet"];

    /// <summary>TC1 · SO1 · TC2 · CV1 · zone with TC3 and RV · CV2 · TC4 · SO2.</summary>
    public static AssemblyBody FourCock { get; } =
        InFlowOrder(
            AssemblyTypes.RP,
            "four-cock",
            Chambers,
            Cock(Parts.Tc1),
            Shutoff(Parts.So1),
            Cock(Parts.Tc2),
            Check(Parts.Cv1),
            Cock(Parts.Tc3),
            Relief,
            Check(Parts.Cv2),
            Cock(Parts.Tc4),
            Shutoff(Parts.So2)
        );

    /// <summary>SO1 · T1 · CV1 · zone with T2 and RV · CV2 · T3 · SO2.</summary>
    public static AssemblyBody ThreeTap { get; } =
        InFlowOrder(
            AssemblyTypes.RP,
            "three-tap",
            Chambers,
            Shutoff(Parts.So1),
            Cock(Parts.T1),
            Check(Parts.Cv1),
            Cock(Parts.T2),
            Relief,
            Check(Parts.Cv2),
            Cock(Parts.T3),
            Shutoff(Parts.So2)
        );

    /// <summary>What is true of the type.</summary>
    public static TypeFacts Facts { get; } =
        new()
        {
            Type = AssemblyTypes.RP,
            Title = "reduced pressure zone",
            Spellings = ["rp", "rpz", "rpp", "rpa", "rpba", "rpbp", "reducedpressure", "reducedpressurezone"],
            Bodies = [FourCock, ThreeTap],
            Healthy = new(7.6, 1.8, 2.6, 0),
            Drawn = [new(Parts.Cv1, 6.4, 9), new(Parts.Cv2, 1.4, 2.3), new(Parts.Relief, 2.3, 3)],
            LearnersFaults =
            [
                new(Parts.Cv1),
                new(Parts.Cv2),
                new(Parts.So2) { Behind = LeakBehind.OpenOutlet },
                new(Parts.Relief) { WornTo = 1.3 },
                new(Parts.Cv1) { WornTo = 4.4, InExams = false },
                new(Parts.Cv2) { WornTo = 0.8, InExams = false },
                new(Parts.Relief, FaultKind.StuckClosed) { InExams = false },
            ],
            PlausibleFirstCheck = (3m, 13m),
            FirstCheckAboveRelief = 3,
            Placing = "Relief port clear above ground and flood level, stains under it, nothing fitted to it.",
            WhenCharged = "A short spit at the relief port is normal.",
            Charted = [new("CV1", TestItem.Check1), new("Relief", TestItem.ReliefOpening)],
            ChartedLimit = TestItem.ReliefOpening,
            NeedsThreeHoses = "an RP test joins two hoses and needs a bypass hose, which this kit has not",
        };
}
