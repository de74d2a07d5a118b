using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Runs;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Views;

/// <summary>
/// The whole school on one page: every answer it asks for, in its order, with the branch that is being followed.
/// </summary>
internal static class ExpertRows
{
    public static ImmutableArray<ExpertRow> Build(RunPlan plan, RunState state, Verdict verdict)
    {
        var rows = ImmutableArray.CreateBuilder<ExpertRow>();
        // Only the last attempt at a step is shown; what was repeated stands among the readings.
        var last = state
            .Behind.Where(b => Asks(b.Planned))
            .GroupBy(b => b.Planned.Key.Split('@')[0])
            .Select(g => g.Last())
            .Where(b => !state.Ahead.Any(a => !a.IsBranch && a.Step.Id == b.Planned.Step.Id));
        foreach (var passed in last)
        {
            var item = passed.Planned.Step.Capture?.Item;
            var judged =
                item is null || passed.Planned.Step.Capture!.Provisional
                    ? null
                    : verdict.Items.FirstOrDefault(i => i.Item == item);
            rows.Add(
                new(
                    passed.Planned.Key,
                    Title(passed.Planned),
                    "done",
                    null,
                    [],
                    Value(state, passed, item),
                    judged?.Result.Id(),
                    judged?.MarginText
                )
            );
        }

        var open = true;
        foreach (var planned in state.Ahead.Where(Asks))
        {
            // Steps without an answer before the first open one are passed over when it is answered.
            rows.Add(
                new(
                    planned.Key,
                    Title(planned),
                    open ? "now" : "ahead",
                    RunViews.Capture(plan, planned),
                    RunViews.Sights(planned.Step),
                    null,
                    null,
                    null
                )
            );
            open = open && planned.Step is { MustAnswer: false, Capture: { MayBePassed: true } };
        }

        return rows.ToImmutable();
    }

    private static bool Asks(PlannedStep planned) => planned.Step.MustAnswer || planned.Step.Capture is not null;

    private static string Title(PlannedStep planned) =>
        planned switch
        {
            { IsBranch: false, Step.Capture: { Provisional: false } capture } => capture.Item.Name,
            _ when planned.Step.Sights.FirstOrDefault(s => s.Good) is { Gives: { IsEmpty: false } gives } =>
                string.Join(", ", gives.Select(g => g.Item.Name)),
            _ => planned.Step.Title,
        };

    private static string? Value(RunState state, PassedStep passed, TestItem? item) =>
        passed switch
        {
            { Sight: { } sight } => sight.Seen,
            _ when item is not null && passed.Planned.Step.Capture!.Provisional => state
                .Held.GetValueOrDefault(item)
                ?.Reading.ToString(),
            _ when item is not null && state.Readings.TryGetValue(item, out var taken) => taken.Reading.ToString(),
            _ when item is not null && state.Given.TryGetValue(item, out var answer) => answer.Value.ToString(),
            _ => "passed",
        };
}
