using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Runs;

// What an entry does at a step.
public partial class Replay
{
    private bool Stands(PartId part) => ValvePositions.WrittenDownFor(plan.Rig.Body).Contains(part);

    private LinePositions Line => new(Found, ToLeave);

    private ValvePosition? Found(PartId part) =>
        found.TryGetValue(part.Value, out var position) ? position.Position : null;

    private ValvePosition? ToLeave(PartId part) =>
        leave switch
        {
            { How: Leaving.InService } => plan.Rig[part].Normal.AsPosition(),
            { How: Leaving.Drained } => ValvePositions.WhenDrained(plan.Rig.Body, part),
            _ => Found(part),
        };

    // The line stands as it was found until something is turned; steps that hang on it come in or drop out.
    private void Arrive()
    {
        if (!plan.Sheet.GoesByArrival)
            return;
        agenda.Entered(Line);
        if (passed.Count > 0)
            return;
        start = rig = found.Aggregate(plan.Rig.InService(), (state, f) =>
            state with
            {
                Openings = state.Openings.SetItem(new(f.Key), f.Value.Position.AsOpening()),
            }
        );
        foreach (var reached in rigAt.Keys)
            rigAt[reached] = rig;
    }

    // The step named by a key, brought to the front: steps of the sequence before it are passed over, as a tester who
    // knows it does.
    private PlannedStep? Reach(Entry entry, string key)
    {
        var at = agenda.Ahead.FindIndex(p => p.Key == key);
        if (at < 0)
        {
            Aside(
                entry,
                agenda.Behind.Exists(b => b.Planned.Key == key)
                    ? "That step was already behind when this came in; what was entered first stands."
                    : "This run has no such step."
            );
            return null;
        }

        for (var i = 0; i < at; i++)
        {
            if (agenda.Ahead[i].Step is not ({ MustAnswer: true } or { Capture: { MayBePassed: false } }))
                continue;
            Aside(entry, $"\"{agenda.Ahead[i].Step.Title}\" comes first: it needs an answer.");
            return null;
        }

        for (var i = 0; i < at; i++)
            Leave(entry, agenda.Ahead[0], Passing.PassedOver);
        return agenda.Ahead[0];
    }

    private void Leave(Entry entry, PlannedStep step, Passing how, Sight? sight = null)
    {
        agenda.Ahead.Remove(step);
        agenda.Behind.Add(new(step, how, entry, sight));
        if (!step.IsBranch)
            rigAt.TryAdd(step.Step.Id, rig);
        var moves = plan.Sheet.MovesOf(step.Step);
        inletPassedOver |= how == Passing.PassedOver && Shuts(moves, Parts.So1);
        outletConfirmed |= how != Passing.PassedOver && Shuts(moves, Parts.So2);
        Perform(moves);
    }

    private static bool Shuts(ImmutableArray<Move> moves, PartId valve) =>
        moves.Any(m => m is Move.Turn { To.IsOpen: false, Part: var part } && part == valve);

    private void Perform(ImmutableArray<Move> moves)
    {
        foreach (var move in moves)
        {
            rig = rig.Apply(move).State;
            passed.Add(rig);
        }
    }

    private void Take(Entry entry, PlannedStep step, Reading reading)
    {
        if (step.Step.Capture is not { Item.Kind: ItemKind.Differential } capture)
        {
            Aside(entry, "This step asks for no differential.");
            return;
        }

        if (!Try(entry, watches.Wanting(step, mustBeStill: false)))
            return;
        var goesOn = book.Take(entry, step, capture, reading);
        Leave(entry, step, Passing.Done);
        if (!goesOn)
            agenda.CloseUp(0);
    }

    private void Answer(Entry entry, PlannedStep step, EntryBody.Answered answer)
    {
        if (
            step.Step.Capture is not { } capture
            || capture.Item != answer.Item
            || !capture.Item.Takes(answer.Value)
            || answer.Value is ItemValue.Measured
        )
        {
            Aside(entry, "This step asks for another kind of answer.");
            return;
        }

        book.Given[capture.Item] = new(answer.Value, entry, StepQueue.Root(step.Key));
        Leave(entry, step, Passing.Done);
    }

    // Where the watched number is itself the result, it is now taken; where stillness is, a needle that stood still has
    // decided.
    private void Decide(Entry entry, PlannedStep step, Reading? end)
    {
        if (end is { } reading && step.Step.Capture?.Item.Kind == ItemKind.Differential)
            Take(entry, step, reading);
        else if (
            watches.StoodStill(step.Key)
            && step.Step.Sights.FirstOrDefault(s => s.Good) is { } good
            && step.Step.MustAnswer
        )
            See(entry, step, good);
    }

    private void See(Entry entry, PlannedStep step, Sight sight)
    {
        book.See(entry, step, sight);
        sitePushesBack |= sight.SitePushesBack;
        Leave(entry, step, Passing.LeftBySight, sight);
        agenda.Branch(step, sight);
        agenda.Ahead.RemoveAll(p => sight.Skips.Contains(p.Step.Id));
        switch (sight.Leads)
        {
            case LeadsTo.NotTestable:
                Stop(sight.Remark ?? sight.Means);
                break;
            case LeadsTo.CloseUp:
                agenda.CloseUp(sight.Branch.Length);
                break;
            case LeadsTo.Repeat:
                Requeue(sight.Again!, sight.Branch.Length);
                break;
            case LeadsTo.BeginAgain:
                BeginAgain(entry, sight.Remark ?? sight.Seen, sight.Branch.Length);
                break;
        }
    }
}
