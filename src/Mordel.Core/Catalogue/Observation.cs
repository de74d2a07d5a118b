using Mordel.Core.Rigs;

namespace Mordel.Core.Catalogue;

/// <summary>
/// What is to be seen, heard or felt when somebody asks "what do you see?": a closed set. A sight of a run sheet
/// carries one; the simulated tester's eyes, the bench's guide, marking and whatever predicts a sight mean the same by
/// it. From which needle and which water on it counts stands in one place, with the simulation's perception.
/// </summary>
public enum ObservationKind
{
    /// <summary>Read from a kept sheet, which says the sight in words alone.</summary>
    NotKept,

    /// <summary>Nothing but what should be.</summary>
    AsItShouldBe,

    /// <summary>What is the tester's own doing, or a judgement that a careful one never has to make.</summary>
    OwnDoing,

    /// <summary>What was in the way has been put right.</summary>
    PutRight,

    /// <summary>It cannot be put right today.</summary>
    CannotBePutRight,

    /// <summary>Water is heard running off somewhere downstream.</summary>
    HeardDownstream,

    /// <summary>Somebody looks at the hoses, and they are on each other's cocks.</summary>
    HosesCrossed,

    /// <summary>A cock that should have run has not.</summary>
    CockDry,

    /// <summary>The needle has left its peg by itself, and rests.</summary>
    NeedleLeftThePeg,

    /// <summary>The needle stands visibly off its peg.</summary>
    NeedleOffThePeg,

    /// <summary>The needle has left its peg at any moment of the step.</summary>
    NeedleEverLeftThePeg,

    /// <summary>The needle lies at its peg.</summary>
    NeedlePegged,

    /// <summary>The needle does not lie at its peg.</summary>
    NeedleNotPegged,

    /// <summary>The needle stands at zero, and stood there when the step began.</summary>
    ZeroFromTheStart,

    /// <summary>The needle stands at zero.</summary>
    NeedleAtZero,

    /// <summary>The needle stands near zero while it only drips.</summary>
    NeedleNearZero,

    /// <summary>The needle has not risen to a hose that should be under pressure.</summary>
    NeedleDoesNotRise,

    /// <summary>The needle stands a little under zero.</summary>
    NeedleUnderZero,

    /// <summary>The needle is driven down, well under zero.</summary>
    NeedleDrivenDown,

    /// <summary>The needle falls.</summary>
    NeedleFalls,

    /// <summary>The needle has fallen since the hands were taken off.</summary>
    NeedleFellByItself,

    /// <summary>The needle has risen since the hands were taken off, and rests below its peg.</summary>
    NeedleRoseByItself,

    /// <summary>The needle climbs plainly.</summary>
    NeedleClimbs,

    /// <summary>The needle stands a little higher than at first.</summary>
    NeedleALittleHigh,

    /// <summary>The needle has come to rest lower, nothing runs from the bypass hose.</summary>
    NeedleRestsLower,

    /// <summary>The needle cannot be brought down to two.</summary>
    WillNotComeDown,

    /// <summary>The needle creeps up after it was drawn down.</summary>
    NeedleCreepsUp,

    /// <summary>The needle sinks below the two it was drawn down to.</summary>
    NeedleSinksBelowTwo,

    /// <summary>The needle stands clearly above the two it was drawn down to.</summary>
    NeedleAboveTwo,

    /// <summary>The needle rests, and the water never stops.</summary>
    WaterNeverStops,

    /// <summary>The water that was let off comes again.</summary>
    WaterComesAgain,

    /// <summary>The water has stopped.</summary>
    WaterStopped,

    /// <summary>The water runs on.</summary>
    WaterRunsOn,

    /// <summary>The water runs and the needle stands still, between two and its peg.</summary>
    WaterRunsNeedleStops,

    /// <summary>The water runs and the needle stays up.</summary>
    WaterRunsNeedleUp,

    /// <summary>The water runs back out of the opened space.</summary>
    WaterRunsBack,

    /// <summary>The water at the outlet slows, or the needle keeps up.</summary>
    OutletSlows,

    /// <summary>What a vacuum breaker's body spills slows.</summary>
    SpillSlows,

    /// <summary>The level in the sight tube sinks away.</summary>
    TubeSinks,

    /// <summary>The needle stops above the inlet's point though the bleed is fully open.</summary>
    NeedleStopsAbove,

    /// <summary>The tee is fully open and runs.</summary>
    TeeRuns,

    /// <summary>The tee is fully open and changes nothing.</summary>
    TeeDry,

    /// <summary>A tap downstream runs as something feeds it.</summary>
    TapRunsOn,

    /// <summary>The air inlet has not moved though the needle is down.</summary>
    InletNeverMoved,

    /// <summary>The air inlet is open only partly.</summary>
    InletHangs,

    /// <summary>The air inlet had opened before the step.</summary>
    InletOpenedBefore,

    /// <summary>A vacuum breaker's body keeps spilling.</summary>
    BodyKeepsSpilling,

    /// <summary>The relief runs within half a minute, the needle has sunk to its point.</summary>
    ReliefRunsAtOnce,

    /// <summary>The relief runs after a while, the needle has sunk to its point.</summary>
    ReliefRunsLater,

    /// <summary>The relief was wet when the step began.</summary>
    ReliefWetFromTheStart,

    /// <summary>The relief was wet and runs, the needle stands where CV1 holds it.</summary>
    ReliefRunsNeedleStands,

    /// <summary>The relief has begun to run.</summary>
    ReliefBeganToRun,

    /// <summary>The relief runs, and harder than at first.</summary>
    ReliefRunsHarder,

    /// <summary>The needle sinks and the relief runs.</summary>
    NeedleSinksReliefRuns,

    /// <summary>The needle is at zero and the relief is dry.</summary>
    ZeroAndReliefDry,

    /// <summary>However much the zone is fed, the needle stands and nothing drips.</summary>
    OpeningNotReached,

    /// <summary>The needle has run down and nothing has dripped.</summary>
    NothingDripsToZero,

    /// <summary>The bypass hose runs and the needle is far down.</summary>
    BypassTakesAll,

    /// <summary>The bypass hose runs and the needle is a little low.</summary>
    BypassRunsNeedleLow,
}

/// <summary>An observation, where it is one of a part with the part.</summary>
/// <param name="Kind">What is observed.</param>
/// <param name="Of">The part; null where the kind says all.</param>
public readonly record struct Observation(ObservationKind Kind, PartId? Of = null)
{
    /// <summary>A cock that should have run has not.</summary>
    /// <param name="part">The cock.</param>
    public static Observation CockDry(PartId part) => new(ObservationKind.CockDry, part);

    /// <summary>An observation that needs no part.</summary>
    public static implicit operator Observation(ObservationKind kind) => new(kind);

    /// <summary>Whether it says that all is well; it is given as the answer where nothing else shows.</summary>
    public bool IsGood => Kind == ObservationKind.AsItShouldBe;
}
