using Mordel.Core.Rules;

namespace Mordel.Core.Procedures.VacuumBreaker;

/// <summary>What an air inlet may show, the same in every school of the vacuum breakers.</summary>
internal static class InletSights
{
    public static Sight NeverMoves => new("never-moves", "The needle runs to zero and the inlet has not moved", "The inlet is stuck or its spring gone.")
    { Findings = ["inlet-stuck"], Remark = "Air inlet does not open.", Takes = TakesValue.ZeroOnDial, Item = TestItem.AirInletOpening, FailsAlone = true };

    public static Sight FullyOpen => new("fully-open", "It is fully open and moves freely", "As it should be.") { Good = true, Gives = [new(TestItem.AirInletFullyOpen, true)] };

    public static Sight Hangs => new("hangs", "It hangs, or opens only partly", "Dirt or a bent guide.")
    { Findings = ["inlet-not-full"], Remark = "Air inlet does not open fully.", Gives = [new(TestItem.AirInletFullyOpen, false)] };
}
