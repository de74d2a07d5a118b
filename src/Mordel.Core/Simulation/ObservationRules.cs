using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using static Mordel.Core.Catalogue.ObservationKind;
using static Mordel.Core.Simulation.Perception;

namespace Mordel.Core.Simulation;

/// <summary>What a tester has before the eyes when a step asks "what do you see?".</summary>
/// <param name="Eyes">What was seen during the step.</param>
/// <param name="AtTheEnd">Whether a valve was opened as far as it goes without effect.</param>
/// <param name="Crossed">Whether the hoses are on each other's cocks, which anybody sees who looks.</param>
/// <param name="Bypass">Water through the bypass hose, in³/s: felt by the hand that holds it.</param>
/// <param name="Tube">Level in the sight tube, 0 to 1; NaN without one.</param>
/// <param name="InletOpening">How far a finger feels the inlet to be open, 0 to 1.</param>
/// <param name="TeeRuns">Water from the tee, in³/s.</param>
/// <param name="TapRuns">Water from a tap downstream, in³/s.</param>
internal sealed record Scene(
    Eyes Eyes,
    bool AtTheEnd,
    bool Crossed,
    double Bypass,
    double Tube,
    double InletOpening,
    double TeeRuns,
    double TapRuns
);

/// <summary>
/// How each observation looks in needle and water (handbook chapter 4). A sheet's sights are asked in its order; the
/// first that is so is what was seen.
/// </summary>
internal static class ObservationRules
{
    /// <summary>What is seen at a step; null where nothing must be answered and all is as it should be.</summary>
    /// <exception cref="InvalidOperationException">The step must be answered, and none of its sights is so.</exception>
    public static Sight? Find(Step step, Scene scene)
    {
        foreach (var sight in step.Sights)
            if (IsSo(sight.Shows, scene))
                return sight;
        if (!step.MustAnswer)
            return null;
        return step.Sights.FirstOrDefault(s => s.Shows.IsGood)
            ?? step.Sights.FirstOrDefault(s => s.Shows.Kind == CannotBePutRight)
            ?? throw new InvalidOperationException($"{step.Id}: none of its sights is what is to be seen.");
    }

    /// <summary>Whether the tester waits for a pegged needle to be pulled off: an observation that needs it.</summary>
    public static bool NeedsThePegWatched(Observation observation) =>
        observation.Kind
            is NeedleLeftThePeg
                or NeedleOffThePeg
                or NeedleEverLeftThePeg
                or NeedleFalls
                or NeedleFellByItself;

    /// <summary>
    /// Whether an observation is so. What is good or for the tester to decide is never seen by itself.
    /// </summary>
    public static bool IsSo(Observation observation, Scene scene)
    {
        var (eyes, needle) = (scene.Eyes, scene.Eyes.Needle);
        return observation.Kind switch
        {
            NotKept or AsItShouldBe or OwnDoing or PutRight or CannotBePutRight or HeardDownstream => false,
            HosesCrossed => scene.Crossed,
            CockDry => !eyes.HasRun(observation.Of!.Value),

            // The needle.
            NeedleLeftThePeg => eyes.AtFirst > 1 && eyes.OffThePeg && needle > Plain,
            NeedleOffThePeg => eyes.OffThePeg,
            NeedleEverLeftThePeg => eyes.LeftThePeg,
            NeedlePegged => eyes.Pegged,
            NeedleNotPegged => !eyes.Pegged,
            ZeroFromTheStart => eyes.AtFirst < Zero && needle < Zero,
            NeedleAtZero => Math.Abs(needle) < Zero,
            NeedleNearZero => needle < NearZero,
            NeedleDoesNotRise => needle < Zero,
            NeedleUnderZero => needle < -Zero,
            NeedleDrivenDown => needle < -NearZero,
            NeedleFalls => eyes.AtFirst - needle > Plain || needle < 0.5 * eyes.AtFirst,
            NeedleFellByItself => eyes.AfterTurning - needle > Plain,
            NeedleRoseByItself => !eyes.Pegged && needle - eyes.AfterTurning > Plain,
            NeedleClimbs => needle > eyes.AtFirst + Plain,
            NeedleALittleHigh => needle > eyes.AtFirst + Visible,
            NeedleRestsLower => scene.Bypass <= FeltInTheHose && eyes.AtFirst - needle > 2 * Plain,
            WillNotComeDown => scene.AtTheEnd && needle > 2.2,
            NeedleCreepsUp => needle > eyes.AfterTurning + Visible || needle > 3,
            NeedleSinksBelowTwo => needle < 1.8,
            NeedleAboveTwo => needle > 2.5,

            // Water where a check's leaves.
            WaterNeverStops => !eyes.Pegged && needle >= Zero && eyes.Outlet >= SlowDrop,
            WaterComesAgain => eyes.Outlet >= SlowDrop,
            WaterStopped => eyes.Outlet < SlowDrop,
            WaterRunsOn => eyes.Outlet + eyes.BodySpill >= SlowDrop,
            WaterRunsNeedleStops => eyes.Outlet >= SlowDrop && needle > 1.8 && !eyes.Pegged,
            WaterRunsNeedleUp => eyes.Outlet >= Drop && needle > Plain,
            WaterRunsBack => eyes.Outlet >= Drop,
            OutletSlows => eyes.Outlet < 0.8 * eyes.OutletAtFirst || needle > 0.5 * eyes.AtFirst,
            SpillSlows => eyes.BodySpill < 0.5 * eyes.BodyAtFirst,
            TubeSinks => eyes.TubeAtFirst > TubeFull && scene.Tube < TubeFull,

            // Vacuum breakers.
            NeedleStopsAbove => scene.AtTheEnd && needle > Plain,
            TeeRuns => scene.AtTheEnd && scene.TeeRuns > Drop,
            TeeDry => scene.AtTheEnd,
            TapRunsOn => scene.TapRuns > FedTap,
            InletNeverMoved => eyes.NeedleAtPop is null && needle < Zero,
            InletHangs => scene.InletOpening < InletFull,
            InletOpenedBefore => eyes.NeedleAtPop is not null && eyes.AtFirst < Plain,
            BodyKeepsSpilling => eyes.BodySpill >= Drop,

            // Reduced pressure.
            ReliefRunsAtOnce => eyes.ReliefWet && SankToTheRelief(eyes) && eyes.DripAfter < Glance,
            ReliefRunsLater => eyes.ReliefWet && SankToTheRelief(eyes),
            ReliefWetFromTheStart => eyes.ReliefWetAtFirst,
            ReliefRunsNeedleStands => eyes.ReliefWetAtFirst && eyes.ReliefWet && !SankToTheRelief(eyes),
            ReliefBeganToRun => eyes.ReliefWet && !eyes.ReliefWetAtFirst,
            ReliefRunsHarder => eyes.ReliefRuns >= SlowDrop && eyes.ReliefRuns > 1.3 * eyes.ReliefAtFirst,
            NeedleSinksReliefRuns => eyes.ReliefWet && eyes.AtFirst - needle > Plain,
            ZeroAndReliefDry => !eyes.ReliefWet && Math.Abs(needle) < Plain,
            OpeningNotReached => scene.AtTheEnd && eyes.NeedleAtDrip is null && needle > Plain,
            NothingDripsToZero => eyes.NeedleAtDrip is null && needle < Plain,
            BypassTakesAll => scene.Bypass > FeltInTheHose && eyes.AtFirst - needle > 1.5,
            BypassRunsNeedleLow => scene.Bypass > FeltInTheHose && eyes.AtFirst - needle <= 1.5,
            _ => throw new InvalidOperationException($"{observation.Kind}: nobody has said how that looks."),
        };
    }

    // CV1's leak brings the needle down to the relief's point; a relief that leaks by itself leaves it at CV1's spring.
    private static bool SankToTheRelief(Eyes eyes) => eyes.AfterTurning - eyes.Needle > 0.5 || eyes.Needle < 5;
}
