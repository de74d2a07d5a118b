using System.Collections.Immutable;
using Mordel.Core.Catalogue;

namespace Mordel.Core.Runs;

/// <summary>A reading that came sooner than hands and water can bring it about.</summary>
/// <param name="Item">What was read.</param>
/// <param name="After">What came before it: the reading before, or null for the beginning.</param>
/// <param name="Seconds">How long after that it was entered.</param>
/// <param name="Least">How long it takes at least.</param>
public sealed record HastyReading(TestItem Item, TestItem? After, int Seconds, int Least)
{
    /// <inheritdoc/>
    public override string ToString() =>
        After is { } before
            ? $"{Item.Name} was entered {Took()} after {before.Name}; the turns between take at least {Least} s."
            : $"{Item.Name} was entered {Took()} after the run began; the turns before it take at least {Least} s.";

    private string Took() => Seconds < 1 ? "less than a second" : $"{Seconds} s";
}

/// <summary>
/// Whether a test was faster than it can be: a hand needs about a second for a turn or a coupling, and the water a
/// moment to answer. Too fast is no fault, it is a question: were the numbers entered as they were read?
/// </summary>
public static class Pace
{
    // Seconds: as little as a practised hand needs for one move; as little as a needle needs to be read.
    private const int PerMove = 1,
        PerReading = 2;

    /// <summary>The readings that came too soon, in the order taken; empty when none did.</summary>
    /// <param name="plan">What the run is made with.</param>
    /// <param name="state">Where its log leads.</param>
    /// <param name="begun">When it began: whoever enters nothing but numbers has turned the valves since then.</param>
    public static ImmutableArray<HastyReading> FindHasty(RunPlan plan, RunState state, DateTimeOffset begun)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(state);
        var hasty = ImmutableArray.CreateBuilder<HastyReading>();
        if (state.Behind.IsEmpty)
            return [];
        var first = state.Behind.Min(b => b.By.At);
        var (least, since, before) = (0, begun < first ? begun : first, (TestItem?)null);
        foreach (var passed in state.Behind)
        {
            least += PerMove * plan.Sheet.MovesOf(passed.Planned.Step).Length;
            if (
                passed.Planned.Step.Capture is not { Item: { Kind: ItemKind.Differential } item }
                || passed.By.Body is not (EntryBody.Taken or EntryBody.HoldEnded)
            )
                continue;
            if (passed.How == Passing.PassedOver)
                continue;
            least += PerReading;
            var seconds = (int)Math.Floor((passed.By.At - since).TotalSeconds);
            if (seconds < least)
                hasty.Add(new(item, before, seconds, least));
            (least, since, before) = (0, passed.By.At, item);
        }

        return hasty.ToImmutable();
    }
}
