using System.Collections.Immutable;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Runs;

// How a run goes back, or begins again.
public partial class Replay
{
    // A taking-back can itself be taken back; later ones decide first.
    private HashSet<EntryId> Retracted(RunLog log)
    {
        var gone = new HashSet<EntryId>();
        if (!log.Entries.Any(e => e.Body is EntryBody.TookBack))
            return gone;
        var known = log.Entries.Select(e => e.Id).ToHashSet();
        foreach (var entry in log.Entries.Reverse())
        {
            if (entry.Body is not EntryBody.TookBack back || gone.Contains(entry.Id))
                continue;
            if (known.Contains(back.Of) && back.Of != entry.Id)
                gone.Add(back.Of);
            else
                setAside.Add(new(entry, "The entry it takes back is not in this run."));
        }

        return gone;
    }

    private void GoBack(Entry entry, string stepId)
    {
        if (
            !rigAt.ContainsKey(stepId) || !agenda.Behind.Exists(b => !b.Planned.IsBranch && b.Planned.Step.Id == stepId)
        )
        {
            Aside(entry, "There is nothing to go back to: that step has not been reached.");
            return;
        }

        Requeue(stepId, 0);
    }

    // Puts the sequence from a step on in front again and the rig back to where that step found it; numbers taken since
    // are kept as repeated.
    private void Requeue(string stepId, int keep)
    {
        if (!rigAt.ContainsKey(stepId))
            stepId = plan.Sheet.Steps[0].Step.Id;
        var target = rigAt[stepId];
        var after = agenda
            .Ahead.Take(keep)
            .SelectMany(b => plan.Sheet.MovesOf(b.Step))
            .Aggregate(rig, (state, move) => state.Apply(move).State);
        var (stage, _) = plan.Sheet.Steps[plan.Sheet.At(stepId)];
        // With couplings moved meanwhile, the test is taken from its hook-up.
        if (Restoring.MovesCouplings(after, target))
            (stepId, target) = (agenda.FirstOf(stage).Id, rigAt.GetValueOrDefault(agenda.FirstOf(stage).Id, target));
        var at = plan.Sheet.At(stepId);
        // A whole test that begins again forgets what was shown beside the sequence too.
        var all = at <= plan.Sheet.At(plan.Sheet.FirstStep);
        book.Forget(root => plan.Sheet.At(root) is var place && (place >= at || (all && place < 0)));
        if (all)
            (inletPassedOver, outletConfirmed, sitePushesBack) = (false, false, false);
        (notTestable, paused) = (null, null);
        agenda.From(stepId, keep);
        var first = plan.Sheet.Steps[plan.Sheet.At(stepId)].Step;
        // A branch that sets the rig back itself is believed when it leaves what the step needs; the outlet stays shut
        // where nothing wants it open.
        if (keep > 0 && Suits(first, after))
            return;
        if (!after[Parts.So2].IsOpen && target[Parts.So2].IsOpen && OutletMayStayShut(stepId))
            target = target with { Openings = target.Openings.SetItem(Parts.So2, Opening.Closed) };
        var sketch = water.After(RigsSoFar);
        Side[] airy =
        [
            .. new[] { Side.High, Side.Low }.Where(s =>
                Condition.IsPurged(s) is var dry && first.Needs.Contains(dry) && !dry.Holds(after, sketch)
            ),
        ];
        var acts = Restoring.Acts(after, target, airy);
        if (!acts.IsEmpty)
            agenda.InFront($"{stepId}/again/rig.back", Restoring.Step("rig.back", acts), stage.Id, keep);
    }

    // Until a step turns SO2 itself, none may need it open.
    private bool OutletMayStayShut(string from)
    {
        foreach (var (_, step) in plan.Sheet.Steps.Skip(plan.Sheet.At(from)))
        {
            if (step.Needs.Contains(Condition.IsOpen(Parts.So2)))
                return false;
            if (plan.Sheet.MovesOf(step).Any(m => m is Move.Turn { Part: var part } && part == Parts.So2))
                return true;
        }

        return true;
    }

    private static bool Suits(Step step, RigState state)
    {
        var purged = WaterSketch.Nothing with { Purged = ["high-side", "low-side"] };
        return step.Needs.All(need => need.Holds(state, purged));
    }

    private void BeginAgain(Entry entry, string why, int keep)
    {
        Keep(entry, why);
        Requeue(plan.Sheet.FirstStep, keep);
    }

    private void Resume(Entry entry)
    {
        if (book.Readings.Count + book.Given.Count > 0)
            Keep(entry, $"Broken off: {paused}");
        // Another visit: who agreed and how things stood then says nothing about today.
        agreed.Clear();
        found.Clear();
        left.Clear();
        Arrive();
        Requeue(plan.Sheet.Steps[0].Step.Id, 0);
    }
}
