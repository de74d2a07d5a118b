using System.Collections.Frozen;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Core.Simulation;

/// <summary>What a tester has before the eyes when a step asks "what do you see?".</summary>
/// <param name="Eyes">What was seen during the step.</param>
/// <param name="Attempt">The how manieth time it is done.</param>
/// <param name="AtTheEnd">Whether a valve was opened as far as it goes without effect.</param>
/// <param name="Crossed">Whether the hoses are on each other's cocks, which anybody sees who looks.</param>
/// <param name="Bypass">Water through the bypass hose, in³/s: felt by the hand that holds it.</param>
/// <param name="Tube">Level in the sight tube, 0 to 1; NaN without one.</param>
/// <param name="InletOpening">How far a finger feels the inlet to be open, 0 to 1.</param>
/// <param name="TeeRuns">Water from the tee, in³/s.</param>
/// <param name="TapRuns">Water from a tap downstream, in³/s.</param>
internal sealed record Scene(
    Eyes Eyes,
    int Attempt,
    bool AtTheEnd,
    bool Crossed,
    double Bypass,
    double Tube,
    double InletOpening,
    double TeeRuns,
    double TapRuns
);

/// <summary>
/// How each sight of the run sheets looks in needle and water (handbook chapter 4). The names are the sheets' own; a
/// name means the same in every school, or is given with its step. Asked in the order of the sheet; the first that is
/// so is what was seen.
/// </summary>
internal static class SightObservations
{
    // psid: what a tester calls zero, a visible change, a plain fall, near zero while it drips.
    private const double Zero = 0.12,
        Visible = 0.15,
        Plain = 0.3,
        Half = 0.5;

    private static readonly FrozenDictionary<string, Func<Scene, bool>> Looks = new Dictionary<
        string,
        Func<Scene, bool>
    >
    {
        // One hose: a check against an open outlet.
        ["left-the-peg"] = s => s.Eyes.AtFirst > 1 && s.Eyes.OffThePeg && s.Eyes.Needle > Plain,
        ["drops"] = s => s.Eyes.OffThePeg,
        ["zero-from-start"] = s => s.Eyes.AtFirst < Zero && s.Eyes.Needle < Zero,
        ["will-not-fall"] = s => s.Eyes.Pegged,
        ["never-stops"] = s => !s.Eyes.Pegged && s.Eyes.Needle >= Zero && s.Eyes.Outlet >= Eyes.SlowDrop,
        ["comes-again"] = s => s.Eyes.Outlet >= Eyes.SlowDrop,
        ["let-off/trapped"] = s => s.Eyes.Outlet < Eyes.SlowDrop,
        ["level-sinks"] = s => s.Eyes.TubeAtFirst > 0.97 && s.Tube < 0.97,
        ["runs-to-zero"] = s => Math.Abs(s.Eyes.Needle) < Zero,
        ["ai.which/slows"] = s => s.Eyes.BodySpill < 0.5 * s.Eyes.BodyAtFirst,
        ["slows"] = s => s.Eyes.Outlet < 0.8 * s.Eyes.OutletAtFirst || s.Eyes.Needle > 0.5 * s.Eyes.AtFirst,
        ["zero-at-drip"] = s => s.Eyes.Needle < Half,

        // Draw-down.
        ["will-not-come-down"] = s => s.AtTheEnd && s.Eyes.Needle > 2.2,
        ["creeps-up"] = s => s.Eyes.Needle > s.Eyes.AfterTurning + Visible || s.Eyes.Needle > 3,
        ["draw/sinks"] = s => s.Eyes.Needle < 1.8,
        ["tell/stops"] = s => s.Eyes.Outlet >= Eyes.SlowDrop && s.Eyes.Needle > 1.8 && !s.Eyes.Pegged,
        ["climbs-on"] = s => s.Eyes.Pegged,
        ["trapped"] = s => !s.Eyes.Pegged,
        ["above-two"] = s => s.Eyes.Needle > 2.5,

        // Vacuum breakers.
        ["stops-above"] = s => s.AtTheEnd && s.Eyes.Needle > Plain,
        ["tee-runs"] = s => s.AtTheEnd && s.TeeRuns > Eyes.Drop,
        // As a tap runs that something feeds, not as pipes drain: in³/s.
        ["tap-runs-on"] = s => s.TapRuns > 1,
        ["tee-dry"] = s => s.AtTheEnd,
        ["never-moves"] = s => s.Eyes.NeedleAtPop is null && s.Eyes.Needle < Zero,
        ["keeps-spilling"] = s => s.Eyes.BodySpill >= Eyes.Drop,
        ["hangs"] = s => s.InletOpening < 0.9,
        ["open-already"] = s => s.Eyes.NeedleAtPop is { } && s.Eyes.AtFirst < Plain,

        // Reduced pressure.
        ["nothing-reacts"] = s => s.Eyes.Needle < -0.5,
        ["zero-nothing-reacts"] = s => s.Eyes.Needle < -0.5,
        ["pegged"] = s => s.Eyes.Pegged,
        ["relief-runs"] = s => s.Eyes.ReliefWet && SankToTheRelief(s) && s.Eyes.DripAfter < 30,
        ["sinks-slowly"] = s => s.Eyes.ReliefWet && SankToTheRelief(s),
        ["zero-and-dry"] = s => !s.Eyes.ReliefWet && Math.Abs(s.Eyes.Needle) < Plain,
        ["rv.feed/leaks-untold"] = s => s.Eyes.ReliefWetAtFirst,
        ["leaks-untold"] = s => s.Eyes.ReliefWetAtFirst && s.Eyes.ReliefWet && !SankToTheRelief(s),
        ["cannot-be-reached"] = s => s.AtTheEnd && s.Eyes.NeedleAtDrip is null && s.Eyes.Needle > Plain,
        ["nothing-drips"] = s => s.Eyes.NeedleAtDrip is null && s.Eyes.Needle < Plain,
        ["sinks"] = s => s.Eyes.ReliefWet && s.Eyes.AtFirst - s.Eyes.Needle > Plain,
        ["takes-all"] = s => s.Bypass > 0.02 && s.Eyes.AtFirst - s.Eyes.Needle > 1.5,
        ["low-and-runs"] = s => s.Bypass > 0.02 && s.Eyes.AtFirst - s.Eyes.Needle <= 1.5,
        ["high"] = s => s.Eyes.Needle > s.Eyes.AtFirst + Visible,
        ["rests-above"] = s => s.Bypass <= 0.02 && s.Eyes.AtFirst - s.Eyes.Needle > 2 * Plain,
        ["runs-down"] = s => s.Eyes.ReliefWet && !s.Eyes.ReliefWetAtFirst,
        ["climbs"] = s => s.Eyes.Needle > s.Eyes.AtFirst + Plain,
        ["ai.shut/falls"] = s => s.Eyes.LeftThePeg,
        ["iso.test/falls"] = s => s.Eyes.AfterTurning - s.Eyes.Needle > Plain,
        ["iso.test/rises"] = s => s.Eyes.Pegged,
        ["settles"] = s => !s.Eyes.Pegged && s.Eyes.Needle - s.Eyes.AfterTurning > Plain,
        ["falls"] = s => s.Eyes.AtFirst - s.Eyes.Needle > Plain || s.Eyes.Needle < 0.5 * s.Eyes.AtFirst,
        ["runs-on"] = s => s.Eyes.Outlet + s.Eyes.BodySpill >= Eyes.SlowDrop,
        ["stops"] = s => s.Eyes.Outlet < Eyes.SlowDrop,
        ["discharges"] = s => s.Eyes.ReliefRuns >= Eyes.SlowDrop && s.Eyes.ReliefRuns > 1.3 * s.Eyes.ReliefAtFirst,
        ["false-zero"] = s => s.Eyes.Needle < -Zero,

        // Hook-up, and what a look or a hand at the valve tells.
        ["no-water"] = s => s.Eyes.Needle < Zero,
        ["swapped"] = s => s.Crossed,
        ["so1-stays-open"] = s => s.Eyes.Outlet >= Eyes.Drop && s.Eyes.Needle > Plain,
        ["so2-runs-back"] = s => s.Eyes.Outlet >= Eyes.Drop,
    }.ToFrozenDictionary();

    // What a tester cannot mend today.
    private static readonly string[] Stays = ["stays", "so1-stays-open", "stays-open", "not-today"];

    /// <summary>What is seen at a step; null when it is nothing but what should be.</summary>
    public static Sight? At(Step step, Scene scene)
    {
        foreach (var sight in step.Sights)
        {
            if (sight.Good)
                continue;
            if (Dry(sight, scene) || (Look(step, sight) is { } look && look(scene)))
                return sight;
        }

        return step.MustAnswer
            ? step.Sights.FirstOrDefault(s => s.Good)
                ?? step.Sights.FirstOrDefault(s => Stays.Contains(s.Id))
                ?? step.Sights[0]
            : null;
    }

    // By the step's own name, by its name within any test of a check, or wherever it is asked.
    private static Func<Scene, bool>? Look(Step step, Sight sight) =>
        Looks.GetValueOrDefault($"{step.Id}/{sight.Id}")
        ?? Looks.GetValueOrDefault($"{step.Id[(step.Id.IndexOf('.', StringComparison.Ordinal) + 1)..]}/{sight.Id}")
        ?? Looks.GetValueOrDefault(sight.Id);

    private static bool Dry(Sight sight, Scene scene) =>
        sight.Id.StartsWith("dry-", StringComparison.Ordinal) && !scene.Eyes.HasRun(new(sight.Id[4..]));

    // CV1's leak brings the needle down to the relief's point; a relief that leaks by itself leaves it up at CV1's
    // spring.
    private static bool SankToTheRelief(Scene s) => s.Eyes.AfterTurning - s.Eyes.Needle > 0.5 || s.Eyes.Needle < 5;
}
