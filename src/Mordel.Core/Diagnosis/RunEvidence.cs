using System.Collections.Immutable;
using Mordel.Core.Runs;

namespace Mordel.Core.Diagnosis;

/// <summary>What a run has seen and read, as evidence.</summary>
public static class RunEvidence
{
    /// <summary>What was observed in a run so far, in the order of its steps; numbers come last.</summary>
    /// <param name="plan">The run's plan.</param>
    /// <param name="state">Where it stands.</param>
    public static ImmutableArray<Observed> Observations(RunPlan plan, RunState state)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(state);
        var observed = ImmutableArray.CreateBuilder<Observed>();
        foreach (var passed in state.Behind)
        {
            var key = passed.Planned.Path;
            var sight = passed.Sight?.Id
                ?? (passed.How == Passing.Done && !passed.Planned.Step.Sights.IsEmpty ? Observed.SightMet.None : null);
            if (sight is not null && !observed.Exists(key, sight))
                observed.Add(new Observed.SightMet(key, sight) { Place = key });
        }

        // A sheet that ended early says so by the first step that it did not come to.
        if (state.Current is null)
            foreach (var (_, step) in plan.Sheet.Steps)
                if (
                    (step.MustAnswer || step.Capture is not null) && state.Behind.All(b => b.Planned.Step.Id != step.Id)
                )
                {
                    observed.Add(new Observed.SightMet(step.Id, Observed.SightMet.NotReached) { Place = step.Id });
                    break;
                }

        observed.AddRange(Observed.ItemRead.All(state.Results(), ""));
        return observed.ToImmutable();
    }

    /// <summary>A run as evidence.</summary>
    public static Evidence Of(RunPlan plan, RunState state)
    {
        ArgumentNullException.ThrowIfNull(plan);
        return new(plan.Rig.Body, Observations(plan, state)) { Procedure = plan.Procedure.Id };
    }

    private static bool Exists(this ImmutableArray<Observed>.Builder all, string key, string sight) =>
        all.Any(o => o is Observed.SightMet met && met.Step == key && met.Sight == sight);
}
