using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Views;

// What is asked.
public static partial class RunViews
{
    private static AskView? Ask(Question question, RunPlan plan, RunState state, string? contact) =>
        question switch
        {
            Question.Permission => Agreement(
                "permission",
                state.Agreed.GetValueOrDefault(Matter.Permission),
                contact,
                "agreed"
            ),
            Question.BeforeRestoring => Agreement(
                "restoring",
                state.Agreed.GetValueOrDefault(Matter.Restoring),
                contact,
                "was asked"
            ),
            Question.Arrival => Stands("as-found", plan, state.AsFound, state, part =>
                plan.Rig[part].Normal.AsPosition()
            ),
            Question.Departure => Stands("as-left", plan, state.AsLeft, state, AtTheEnd(plan, state)),
            Question.Leaving => new(
                "leave",
                state.Leaving?.How.Says(),
                plan.UsualLeaving is { } usual ? $"Left {usual.Says()}" : null,
                null,
                []
            )
            {
                Chosen = (state.Leaving?.How ?? plan.UsualLeaving)?.Name(),
            },
            Question.Identity => new(
                "identity",
                state.Serial is { } other ? $"{other.Serial} is on the plate" : null,
                null,
                null,
                []
            ),
            Question.KitZero => new(
                "kit-zero",
                state.KitZero is { Reading: var zero } ? $"stands at {zero}" : null,
                null,
                null,
                []
            )
            {
                Chosen = plan.Resolution.Unit.Symbol(),
            },
            _ => null,
        };

    private static AskView Agreement(string kind, AgreedWith? agreed, string? contact, string says) =>
        new(kind, agreed?.Who, string.IsNullOrWhiteSpace(contact) ? null : $"{contact} {says}", contact, []);

    private static AskView Stands(
        string kind,
        RunPlan plan,
        ImmutableSortedDictionary<string, EnteredPosition> entered,
        RunState state,
        Func<PartId, ValvePosition> likely
    )
    {
        var valves = ValvePositions.WrittenDownFor(plan.Rig.Body).ToImmutableArray();
        string Said(PartId part, ValvePosition standing) => $"{plan.Rig[part].Label} {EnteredFacts.Word(standing)}";
        var said = valves
            .Where(v => entered.ContainsKey(v.Value))
            .Select(v => Said(v, entered[v.Value].Position))
            .ToList();
        bool Matters(PartId part) => part == Parts.So1 || part == Parts.So2 || state.AsFound.ContainsKey(part.Value);
        var inService = valves.All(v => likely(v) == plan.Rig[v].Normal.AsPosition());
        var offer = inService
            ? "Both open"
            : string.Join(
                ", ",
                valves.Where(v => Matters(v) || likely(v) != ValvePosition.Closed).Select(v => Said(v, likely(v)))
            );
        return new(
            kind,
            said.Count == 0 ? null : string.Join(", ", said),
            offer,
            null,
            [
                .. valves.Select(v => new ValveView(
                    v.Value,
                    plan.Rig[v].Label,
                    EntryFormat.Name(likely(v)),
                    EntryFormat.Name(entered.TryGetValue(v.Value, out var p) ? p.Position : likely(v)),
                    Matters(v),
                    EntryFormat.Name(ValvePositions.WhenDrained(plan.Rig.Body, v))
                )),
            ]
        );
    }

    // How the valves stand when the steps that are left have been done.
    private static Func<PartId, ValvePosition> AtTheEnd(RunPlan plan, RunState state)
    {
        var rig = state
            .Ahead.SelectMany(p => plan.Sheet.MovesOf(p.Step))
            .Aggregate(state.Rig, (rig, move) => rig.Apply(move).State);
        return part => rig[part].AsPosition();
    }
}
