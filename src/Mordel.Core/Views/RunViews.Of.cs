using Mordel.Core.Catalogue;
using Mordel.Core.Runs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Views;

// From a run's setup, and of a number before it is taken.
public static partial class RunViews
{
    /// <summary>The view of a run by its setup: the same on a server and on a device.</summary>
    /// <param name="setup">What the run is made with.</param>
    /// <param name="log">Its log.</param>
    /// <param name="isSealed">Whether it has been signed.</param>
    /// <param name="played">The log played already; null where it is not.</param>
    public static RunView Of(RunSetup setup, RunLog log, bool isSealed, RunState? played = null)
    {
        ArgumentNullException.ThrowIfNull(setup);
        var contact = setup.Consent?.Name ?? PlaceFacts.NameIn(setup.Place.Contact);
        return Build(setup.Plan, log, setup.Assembly.Flow, isSealed, contact, played);
    }

    /// <summary>A number as it would stand if it were taken now.</summary>
    /// <param name="plan">What the run is made with.</param>
    /// <param name="state">Where its log leads.</param>
    /// <param name="key">The step that asks for it.</param>
    /// <param name="reading">The number.</param>
    public static WeighedView? Weigh(RunPlan plan, RunState state, string key, Reading reading)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(state);
        if (
            state.Ahead.FirstOrDefault(p => p.Key == key)?.Step.Capture
            is not { Item.Kind: ItemKind.Differential } capture
        )
            return null;
        var verdict = Judge.Weigh(plan.Subject, state.Results().With(capture.Item, new ItemValue.Measured(reading)));
        var judged = verdict.Items.FirstOrDefault(i => i.Item == capture.Item);
        return judged is null
            ? null
            : new(
                judged.Result.Id(),
                judged.MarginText,
                judged.Why,
                [.. verdict.Warnings.Where(w => w.Item == capture.Item).Select(w => w.Text)]
            )
            {
                Rounded = RunSession.Rounded(plan, reading.Value.Amount),
            };
    }
}
