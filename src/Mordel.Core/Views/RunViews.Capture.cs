using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Views;

// What can be captured, and the watch over it.
public static partial class RunViews
{
    private static HoldView? Hold(RunPlan plan, RunState state, PlannedStep now)
    {
        if (!now.Step.Holds || plan.School.HoldSeconds == 0)
            return null;
        var hold = state.Holds.GetValueOrDefault(now.Key);
        var outcome =
            hold is not { EndedAt: not null } ? null
            : hold.Change is not { } change ? $"Watched for {hold.Seconds} s."
            : $"Moved by {ItemValue.Digits(change)} {plan.Resolution.Unit.Symbol()} in {hold.Seconds} s: "
                + $"{(change <= plan.Resolution.Amount ? "still, as far as this gauge can tell." : "not still.")}";
        if (outcome is not null && hold!.CutShort is { } reason)
            outcome += $" Cut short: {reason}.";
        return new(
            plan.School.HoldSeconds,
            hold?.StartedAt.ToString("O", CultureInfo.InvariantCulture),
            hold?.Start?.ToString(),
            [.. (hold?.Watched ?? []).Select(w => w.ToString())],
            hold?.End?.ToString(),
            hold?.EndedAt is not null,
            outcome
        );
    }

    // The number that can be typed now: this step's, or the next one's when nothing before it needs an answer.
    private static CaptureView? NextCapture(RunPlan plan, RunState state)
    {
        var next = state.Ahead.FirstOrDefault(p => p.Step.Capture is not null || p.Step.MustAnswer);
        return next is null ? null : Capture(plan, next);
    }

    internal static CaptureView? Capture(RunPlan plan, PlannedStep planned)
    {
        if (planned.Step.Capture is not { } capture)
            return null;
        var psid = plan.Resolution.Unit == DifferentialUnit.Psid;
        var (kind, unit) = capture.Item.Kind switch
        {
            ItemKind.LinePressure => ("line", psid ? "psi" : "kPa"),
            ItemKind.Length => ("length", psid ? "in" : "mm"),
            _ => ("differential", plan.Resolution.Unit.Symbol()),
        };
        return new(
            planned.Key,
            capture.Provisional ? $"{capture.Item.Name}, noted" : capture.Item.Name,
            kind,
            unit,
            plan.School.For(capture.Item)?.LimitText,
            capture.Provisional,
            ItemValue.Digits(plan.Resolution.Amount),
            capture.MayBePassed
        )
        {
            Item = capture.Item.Id,
            Needle = kind == "differential" ? Needle(plan) : null,
        };
    }

    private static EarlierView Earlier(RunPlan plan, EarlierSet set)
    {
        var verdict = plan.VerdictOn(set);
        return new(
            set.Why,
            verdict.Overall.Id(),
            [
                .. verdict
                    .Items.Where(i => i.Value is not null)
                    .Select(i => $"{i.Item.Name} {i.Value}{(i.MarginText is { } m ? $" ({m})" : "")}"),
            ]
        );
    }

    private static NeedleView Needle(RunPlan plan)
    {
        var step = plan.Resolution.Amount;
        var fast = plan.Accuracy is { } accuracy
            ? QualityCheck.FastestCaught(accuracy).In(plan.Resolution.Unit)
            : 2 * step;
        return new(step, 5 * step, fast);
    }
}
