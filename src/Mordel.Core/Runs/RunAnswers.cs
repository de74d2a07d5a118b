using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rules;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Runs;

/// <summary>What has been read, answered and found in a run that is being played.</summary>
internal sealed class RunAnswers(RunPlan plan)
{
    public Dictionary<TestItem, TakenReading> Readings { get; } = [];
    public Dictionary<TestItem, TakenReading> Held { get; } = [];
    public Dictionary<TestItem, GivenAnswer> Given { get; } = [];
    public Dictionary<EntryId, EntryBody.Corrected> Corrections { get; } = [];
    public Dictionary<string, (Reading Reading, DateTimeOffset At)> Glimpses { get; } = [];
    public List<(TestItem, TakenReading)> Repeated { get; } = [];
    public List<Finding> Findings { get; } = [];

    public bool Has(Capture capture) =>
        capture.Provisional
            ? Held.ContainsKey(capture.Item)
            : Readings.ContainsKey(capture.Item) || Given.ContainsKey(capture.Item);

    /// <summary>Writes a number down; says whether the test can go on with it.</summary>
    public bool Take(Entry entry, PlannedStep step, Capture capture, Reading reading)
    {
        if (
            Glimpses.TryGetValue(step.Key, out var seen)
            && reading.Speed is null
            && (entry.At - seen.At).TotalSeconds is >= 0.2 and <= 600 and var seconds
        )
            reading = reading with
            {
                Speed = new(
                    decimal.Round(
                        Math.Abs(reading.Value.Amount - seen.Reading.Value.In(reading.Value.Unit)) / (decimal)seconds,
                        4
                    ),
                    reading.Value.Unit
                ),
            };
        var root = StepQueue.Root(step.Key);
        var counted = Corrections.TryGetValue(entry.Id, out var c)
            ? new TakenReading(entry, c.Reading, reading, c.Reason)
            : new TakenReading(entry, reading);
        counted = counted with
        {
            Root = root,
            OneHose = capture.OneHose,
            From = step.IsBranch && !capture.Provisional ? step.Step.Title : null,
        };
        (capture.Provisional ? Held : Readings)[capture.Item] = counted;
        if (Meets(capture.Item, counted.Reading.Value))
            return true;
        if (capture.WhenLow is { } low)
            Findings.Add(new(low, capture.RemarkWhenLow, entry, null, root));
        if (!capture.MustMeetToGoOn)
            return true;
        Findings.Add(new(null, $"{capture.Item.Name} below its limit: the test ended there.", entry, null, root));
        return false;
    }

    /// <summary>What a sight gives by itself.</summary>
    public void See(Entry entry, PlannedStep step, Sight sight)
    {
        var root = StepQueue.Root(step.Key);
        foreach (var id in sight.Findings.DefaultIfEmpty(null!))
            if (id is not null || sight.Remark is not null)
                Findings.Add(new(id, sight.Remark, entry, null, root, sight.FailsAlone));
        foreach (var answer in sight.Gives)
            Given[answer.Item] = new(
                answer.Item.Kind == ItemKind.TightOrLeaks
                    ? new ItemValue.Tightness(answer.Good)
                    : new ItemValue.YesNo(answer.Good),
                entry,
                root
            );
        if (sight.Item is not { } item || sight.Takes == TakesValue.Nothing)
            return;
        var zero = new Reading(new(0m * plan.Resolution.Amount, plan.Resolution.Unit), plan.Resolution);
        var noted = Held.GetValueOrDefault(item);
        if ((sight.Takes == TakesValue.ZeroOnDial ? zero : noted?.Reading) is not { } reading)
            return;
        var taken = Corrections.TryGetValue(entry.Id, out var c)
            ? new TakenReading(entry, c.Reading, reading, c.Reason, sight.Seen)
            : new(
                entry,
                reading,
                sight.Takes == TakesValue.NumberHeld ? noted?.First : null,
                sight.Takes == TakesValue.NumberHeld ? noted?.Reason : null,
                sight.Seen
            );
        Readings[item] = taken with { Root = root, OneHose = sight.Takes == TakesValue.NumberHeld };
    }

    /// <summary>Takes out what belongs to steps that are done again; numbers are kept as repeated.</summary>
    public void Forget(Func<string, bool> belongs)
    {
        Findings.RemoveAll(f => f.Root is { } root && belongs(root));
        foreach (var (item, taken) in Readings.Where(r => belongs(r.Value.Root)).ToList())
        {
            Readings.Remove(item);
            Repeated.Add((item, taken));
        }

        foreach (var item in Held.Where(h => belongs(h.Value.Root)).Select(h => h.Key).ToList())
            Held.Remove(item);
        foreach (var item in Given.Where(a => belongs(a.Value.Root)).Select(a => a.Key).ToList())
            Given.Remove(item);
    }

    private bool Meets(TestItem item, Differential value) =>
        plan.School.For(item)
            ?.Criteria.OfType<Criterion.AtLeast>()
            .All(a => a.Strict ? value.IsAbove(a.Limit) : value.IsAtLeast(a.Limit))
        ?? true;
}
