using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Runs;

/// <summary>What a run is made with; fixed when it begins.</summary>
/// <param name="Procedure">The school.</param>
/// <param name="Rig">Assembly and kit.</param>
/// <param name="Profile">The rules in force on that day.</param>
/// <param name="Accuracy">The kit's accuracy; null where not known.</param>
/// <param name="Resolution">The smallest step of the kit's gauge.</param>
/// <param name="FullScale">The end of the kit's scale.</param>
public sealed record RunPlan(
    Procedure Procedure, Rig Rig, Profile Profile, Differential? Accuracy, Differential Resolution, Differential FullScale)
{
    /// <summary>The profile's rules for this school.</summary>
    /// <exception cref="InvalidOperationException">The profile does not have the school.</exception>
    public SchoolRules School => Profile.School(Procedure.Id)
        ?? throw new InvalidOperationException($"{Profile.Id} has no rules for {Procedure.Id}.");

    /// <summary>What a verdict on this run is about.</summary>
    public Subject Subject => new(Rig.Body.Type, School, Profile, Accuracy, FullScale, ReliefPort);

    /// <summary>The verdict on a state of this run.</summary>
    public Verdict VerdictOn(RunState state, Results? previous = null)
    {
        ArgumentNullException.ThrowIfNull(state);
        return Judge.Weigh(Subject, state.Results(), previous, state.NotTestable, state.FailedBy);
    }

    /// <summary>The verdict on a set of answers from before a repair.</summary>
    public Verdict VerdictOn(EarlierSet set)
    {
        ArgumentNullException.ThrowIfNull(set);
        return Judge.Weigh(Subject, set.Results, null, null, [.. set.Findings.Where(f => f.Fails && f.Remark is not null).Select(f => f.Remark!)]);
    }

    /// <summary>Diameter of the relief port, where it is known.</summary>
    public Length? ReliefPort { get; init; }

    /// <summary>The run sheet, written for this assembly, kit and profile.</summary>
    public RunSheet Sheet => field ??= Procedure.For(new(Rig, School));

    /// <summary>Every verdict item the procedure itself takes, in its order.</summary>
    public IEnumerable<(string Step, TestItem Item)> Captures => Sheet.Steps.Select(s => s.Step)
        .Where(s => s.Capture is { Provisional: false }).Select(s => (s.Id, s.Capture!.Item));
}
