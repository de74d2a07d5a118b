using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Runs;

/// <summary>Where the needle stood with both ports open to air.</summary>
/// <param name="Entry">The entry that says so.</param>
/// <param name="Reading">Where.</param>
public sealed record ReadZero(Entry Entry, Reading Reading);

/// <summary>
/// What the gauge itself means for what was read: its height, and where it stood with both ports open to air. Questions
/// asked of the readings, never a change to them (handbook chapters 1 and 3).
/// </summary>
public static class GaugeNotes
{
    /// <summary>A sentence for each reading that hangs on the gauge's height, and one for its zero.</summary>
    public static IEnumerable<string> Of(RunPlan plan, RunState state, Verdict verdict) =>
        [.. Height(state, verdict), .. Zero(plan, state, verdict)];

    /// <summary>What its height means for one-hose readings; where it is not known, what it would mean.</summary>
    public static IEnumerable<string> Height(RunState state, Verdict verdict)
    {
        ArgumentNullException.ThrowIfNull(state);
        ArgumentNullException.ThrowIfNull(verdict);
        return verdict
            .Items.Where(i => state.Readings.TryGetValue(i.Item, out var taken) && taken.OneHose)
            .Select(i => HeightWhatIf.Explain(i, state.GaugeOffset))
            .OfType<string>();
    }

    /// <summary>What it means that the needle was off zero; empty where nobody said so.</summary>
    public static IEnumerable<string> Zero(RunPlan plan, RunState state, Verdict verdict)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(state);
        ArgumentNullException.ThrowIfNull(verdict);
        return state.KitZero is { Reading: var zero } ? [Zero(plan, state, verdict, zero)] : [];
    }

    /// <summary>
    /// By how much the gauge was seen to read high before the test: what was entered, or nothing where it was confirmed
    /// that it reads zero.
    /// </summary>
    /// <returns>In the unit of the gauge; null where nobody said anything.</returns>
    public static Differential? ZeroBefore(RunPlan plan, RunState state)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(state);
        var unit = plan.Resolution.Unit;
        if (state.KitZero is { Reading.Value: var read })
            return new(read.Unit == unit ? read.Amount : decimal.Round(read.In(unit), 4), unit);
        var confirmed = state.Behind.Any(b =>
            b.Planned.Step.Asks == Procedures.Question.KitZero && b.How == Passing.Done
        );
        return confirmed ? new(0m, unit) : null;
    }

    private static string Zero(RunPlan plan, RunState state, Verdict verdict, Reading zero)
    {
        var beyond = plan.Accuracy is { } accuracy && Math.Abs(zero.Value.In(accuracy.Unit)) > accuracy.Amount;
        var says =
            $"With both ports open to air the needle stood at {zero}"
            + (beyond ? $", beyond the gauge’s ±{plan.Accuracy}: set it, or take another kit." : ".");
        var without = Judge.Weigh(
            plan.Subject,
            KitWhatIf.Without(state.Results(), zero.Value),
            null,
            state.NotTestable,
            state.FailedBy
        );
        var otherwise = without
            .Items.Where(i => verdict.Items.FirstOrDefault(v => v.Item == i.Item) is { } was && was.Result != i.Result)
            .Select(i => $"{i.Item.Name} would be {i.Value} and read {i.Result.Id()}")
            .ToList();
        return otherwise.Count == 0 ? says : $"{says} With that taken off, {string.Join("; ", otherwise)}.";
    }
}
