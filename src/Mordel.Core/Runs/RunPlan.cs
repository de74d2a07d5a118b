using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Runs;

/// <summary>What a run is made with; fixed when it begins.</summary>
/// <param name="Sheet">The run sheet, written out for assembly, kit and profile.</param>
/// <param name="Profile">The rules in force on that day.</param>
/// <param name="Accuracy">The kit's accuracy; null where not known.</param>
/// <param name="Resolution">The smallest step of the kit's gauge.</param>
/// <param name="FullScale">The end of the kit's scale.</param>
public sealed record RunPlan(
    RunSheet Sheet,
    Profile Profile,
    Differential? Accuracy,
    Differential Resolution,
    Differential FullScale
)
{
    /// <summary>A run by a school as it is today.</summary>
    /// <exception cref="ArgumentException">The profile does not have the school.</exception>
    public RunPlan(
        Procedure procedure,
        Rig rig,
        Profile profile,
        Differential? accuracy,
        Differential resolution,
        Differential fullScale
    )
        : this(Written(procedure, rig, profile), profile, accuracy, resolution, fullScale) { }

    /// <summary>The school.</summary>
    public ProcedureHead Procedure => Sheet.Procedure;

    /// <summary>Assembly and kit.</summary>
    public Rig Rig => Sheet.Rig;

    /// <summary>The profile's rules for this school.</summary>
    public SchoolRules School => Sheet.Rules;

    /// <summary>Diameter of the relief port, where it is known.</summary>
    public Length? ReliefPort { get; init; }

    /// <summary>A permission that was given before the visit; null where there is none.</summary>
    public GivenConsent? Consent { get; init; }

    /// <summary>How the line is most likely left; null where that is not known.</summary>
    public Leaving? UsualLeaving { get; init; }

    /// <summary>What a verdict on this run is about.</summary>
    public Subject Subject => new(Rig.Body.Type, School, Profile, Accuracy, FullScale, ReliefPort);

    /// <summary>Every verdict item the procedure itself takes, in its order.</summary>
    public IEnumerable<(string Step, TestItem Item)> Captures =>
        Sheet
            .Steps.Select(s => s.Step)
            .Where(s => s.Capture is { Provisional: false })
            .Select(s => (s.Id, s.Capture!.Item));

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
        return Judge.Weigh(
            Subject,
            set.Results,
            null,
            null,
            [.. set.Findings.Where(f => f.Fails && f.Remark is not null).Select(f => f.Remark!)]
        );
    }

    private static RunSheet Written(Procedure procedure, Rig rig, Profile profile)
    {
        ArgumentNullException.ThrowIfNull(procedure);
        ArgumentNullException.ThrowIfNull(profile);
        var rules = profile.School(procedure.Id)
            ?? throw new ArgumentException($"{profile.Id} has no rules for {procedure.Id}.", nameof(profile));
        return procedure.For(new(rig, rules));
    }
}
