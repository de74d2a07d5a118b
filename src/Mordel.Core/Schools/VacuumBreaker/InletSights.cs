using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;

namespace Mordel.Core.Schools.VacuumBreaker;

/// <summary>What an air inlet may show, the same in every school of the vacuum breakers.</summary>
internal static class InletSights
{
    public static Sight NeverMoves =>
        new(
            "never-moves",
            "The needle runs to zero and the inlet has not moved",
            "The inlet is stuck or its spring gone."
        )
        {
            Shows = ObservationKind.InletNeverMoved,
            Findings = [FindingKind.InletStuck],
            Remark = "Air inlet does not open.",
            Takes = TakesValue.ZeroOnDial,
            Item = TestItem.AirInletOpening,
            FailsAlone = true,
            Gives = [new(TestItem.AirInletFullyOpen, false)],
            Skips = ["ai.drain", "ai.full"],
        };

    /// <summary>More comes in through SO1 than the bleed can take.</summary>
    public static Sight StopsAbove =>
        new(
            "stops-above",
            "The needle stops above the inlet's point, however far the bleed is opened",
            "SO1 lets in more than the bleed lets out: nothing can be read until it shuts."
        )
        {
            Shows = ObservationKind.NeedleStopsAbove,
            Findings = [FindingKind.So1Leaks],
            Remark = "SO1 does not shut off.",
            Gives = [new(TestItem.Shutoff1, false)],
            Leads = LeadsTo.NotTestable,
        };

    public static Sight FullyOpen =>
        new("fully-open", "It is fully open and moves freely", "As it should be.")
        {
            Shows = ObservationKind.AsItShouldBe,
            Good = true,
            Gives = [new(TestItem.AirInletFullyOpen, true)],
        };

    public static Sight Hangs =>
        new("hangs", "It hangs, or opens only partly", "Dirt or a bent guide.")
        {
            Shows = ObservationKind.InletHangs,
            Findings = [FindingKind.InletNotFull],
            Remark = "Air inlet does not open fully.",
            Gives = [new(TestItem.AirInletFullyOpen, false)],
        };
}
