using System.Collections.Immutable;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Core.Runs;

/// <summary>Something that a report says of the visit, and what was entered about it.</summary>
/// <param name="Id">Stable name: the step's id, or <c>found-so1</c>.</param>
/// <param name="Name">What it is, as reports name it.</param>
/// <param name="Text">What was entered; null when nothing was.</param>
/// <param name="By">The entry it comes from; null when nothing was entered.</param>
public sealed record EnteredFact(string Id, string Name, string? Text, Entry? By = null)
{
    /// <summary>Whether anything was entered.</summary>
    public bool IsEntered => Text is not null;
}

/// <summary>
/// What a run says beside its readings: who allowed it, what was looked at, how the shutoffs stood and stand. Nothing
/// is taken for granted: what nobody entered is "not entered" (handbook chapter 3).
/// </summary>
public static class EnteredFacts
{
    /// <summary>
    /// Facts in the order of the sheet: a fact for each step before and after the test, and one for what was passed
    /// over in between.
    /// </summary>
    public static ImmutableArray<EnteredFact> Collect(RunPlan plan, RunState state)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(state);
        var facts = ImmutableArray.CreateBuilder<EnteredFact>();
        foreach (var stage in plan.Sheet.WholeRun.Where(s => s.Kind == StageKind.Before))
            AddAll(stage, plan, state, facts);
        facts.Add(PassedOver(plan, state));
        foreach (var stage in plan.Sheet.WholeRun.Where(s => s.Kind == StageKind.Finish))
            AddAll(stage, plan, state, facts);
        return facts.ToImmutable();
    }

    private static void AddAll(Stage stage, RunPlan plan, RunState state, ImmutableArray<EnteredFact>.Builder facts)
    {
        foreach (var step in stage.Steps.Where(s => s.Belongs(plan.Rig, state.Stands)))
        {
            facts.Add(Confirmed(step, state));
            switch (step.Asks)
            {
                case Question.Permission:
                    var before = plan.Consent is { } consent ? $"{consent.Name}, on the owner’s page" : null;
                    facts.Add(Who("permission", "Permission given by", Matter.Permission, state, before));
                    break;
                case Question.BeforeRestoring:
                    facts.Add(Who("restoring", "Asked before restoring", Matter.Restoring, state));
                    break;
                case Question.Arrival:
                    facts.AddRange(Stood("found", "as found", state.AsFound, plan, []));
                    break;
                case Question.Leaving:
                    facts.Add(new("leave", "To be left", state.Leaving?.How.Says(), state.Leaving?.Entry));
                    break;
                case Question.Departure:
                    facts.AddRange(Stood("left", "as left", state.AsLeft, plan, [.. state.AsFound.Keys]));
                    break;
            }
        }
    }

    private static EnteredFact Confirmed(Step step, RunState state)
    {
        var done = state.Behind.LastOrDefault(b => b.Planned.Step.Id == step.Id && b.How != Passing.PassedOver);
        // Who says where the needle stood does not confirm that it stood at zero.
        var title =
            step.Asks == Question.KitZero && state.KitZero is { Reading: var zero }
                ? $"Kit looked at, its needle at {zero}"
                : step.Title;
        return new(step.Id, title, done is null ? null : "confirmed", done?.By);
    }

    // Who was asked on site; what was said before the visit stands in its place where nobody was.
    private static EnteredFact Who(string id, string name, Matter about, RunState state, string? before = null) =>
        state.Agreed.GetValueOrDefault(about) is { } agreed
            ? new(id, name, agreed.Who, agreed.Entry)
            : new(id, name, before);

    // The shutoffs always; a cock where it was found or left otherwise than shut, or was said to be.
    private static IEnumerable<EnteredFact> Stood(
        string id,
        string when,
        ImmutableSortedDictionary<string, EnteredPosition> stood,
        RunPlan plan,
        string[] also
    ) =>
        from part in ValvePositions.WrittenDownFor(plan.Rig.Body)
        where part == Parts.So1 || part == Parts.So2 || stood.ContainsKey(part.Value) || also.Contains(part.Value)
        let position = stood.GetValueOrDefault(part.Value)
        select new EnteredFact(
            $"{id}-{part}",
            $"{plan.Rig[part].Label} {when}",
            position is null ? null : Word(position.Position),
            position?.Entry
        );

    /// <summary>A position in words.</summary>
    public static string Word(ValvePosition standing) =>
        standing switch
        {
            ValvePosition.Open => "open",
            ValvePosition.Closed => "closed",
            _ => "partly open",
        };

    // A step that was passed over once and done when the test was repeated counts as done.
    private static EnteredFact PassedOver(RunPlan plan, RunState state)
    {
        var inTest = state.Behind.Where(b =>
            plan.Sheet.StageNamed(b.Planned.Stage).Kind is StageKind.Prepare or StageKind.Test
        );
        var titles = inTest
            .GroupBy(b => (b.Planned.Step.Id, b.Planned.Stage))
            .Where(g => g.Last().How == Passing.PassedOver)
            .Select(g => g.Last().Planned.Step.Title)
            .ToList();
        return new(
            "steps",
            titles.Count == 0 ? "Steps of the test" : $"Steps passed over: {string.Join("; ", titles)}",
            titles.Count == 0 ? "each confirmed" : null
        );
    }
}
