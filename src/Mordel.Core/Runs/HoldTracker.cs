using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Runs;

/// <summary>
/// The watches over a still needle in a run that is being played. Each answer is a reason why not, or null.
/// </summary>
internal sealed class HoldTracker(RunPlan plan)
{
    public Dictionary<string, HoldState> Holds { get; } = [];

    public string? Start(PlannedStep step, Entry entry, Reading? reading)
    {
        if (!step.Step.Holds)
            return "Nothing is watched at this step.";
        Holds[step.Key] = new(step.Key, entry.At, reading);
        return null;
    }

    public string? Look(string key, Reading reading)
    {
        if (Running(key) is not { } hold)
            return "Nothing is being watched there.";
        Holds[key] = hold with { Watched = hold.Watched.Add(reading) };
        return null;
    }

    public string? End(string key, Entry entry, EntryBody.HoldEnded ended)
    {
        if (Running(key) is not { } hold)
            return "Nothing is being watched there.";
        var done = hold with { End = ended.Reading, EndedAt = entry.At, CutShort = ended.Reason };
        if (done.Seconds < plan.School.HoldSeconds && string.IsNullOrWhiteSpace(ended.Reason))
            return $"{done.Seconds} of {plan.School.HoldSeconds} s: say why it is cut short.";
        Holds[key] = done;
        return null;
    }

    /// <summary>
    /// Why a still needle does not count yet: a watch that the profile asks for was not kept, or the needle moved.
    /// </summary>
    public string? Wanting(PlannedStep step, bool mustBeStill)
    {
        if (!step.Step.Holds || plan.School.HoldSeconds == 0)
            return null;
        if (Holds.GetValueOrDefault(step.Key) is not { EndedAt: not null } hold)
            return $"{plan.Profile.Name} wants the needle watched for {plan.School.HoldSeconds} s first.";
        return !mustBeStill || hold.Change is not { } change || change <= plan.Resolution.Amount
            ? null
            : $"The needle moved by {ItemValue.Digits(change)} {plan.Resolution.Unit.Symbol()} while it was "
                + $"watched: that is not still.";
    }

    /// <summary>Whether numbers at both ends say that the needle stood still, as far as the gauge can tell.</summary>
    public bool StoodStill(string key) =>
        Holds.GetValueOrDefault(key) is { EndedAt: not null, Change: { } change } && change <= plan.Resolution.Amount;

    private HoldState? Running(string key) => Holds.GetValueOrDefault(key) is { EndedAt: null } hold ? hold : null;
}
