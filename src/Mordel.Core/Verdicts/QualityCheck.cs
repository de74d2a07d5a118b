using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Units;

namespace Mordel.Core.Verdicts;

/// <summary>
/// What a careful tester weighs beside the limits (handbook chapter 3, second half; codes from the formats). It never
/// changes a result.
/// </summary>
public static class QualityCheck
{
    /// <summary>Seconds between seeing a value and catching it (handbook chapter 2).</summary>
    public const decimal ReactionSeconds = 0.5m;

    /// <summary>The warnings on a set of results.</summary>
    public static ImmutableArray<QualityWarning> Warn(
        Subject subject,
        Results results,
        IReadOnlyCollection<JudgedItem> items,
        Results? previous
    )
    {
        ArgumentNullException.ThrowIfNull(subject);
        ArgumentNullException.ThrowIfNull(results);
        ArgumentNullException.ThrowIfNull(items);
        var warnings = ImmutableArray.CreateBuilder<QualityWarning>();
        foreach (var item in items)
            AddNearLimit(subject, item, warnings);
        foreach (var item in TestItem.All)
        {
            // What follows from other readings is no reading of its own.
            if (item != TestItem.ReliefBuffer && results[item] is ItemValue.Measured m)
                AddReading(subject, item, m.Reading, warnings);
        }

        var check = results.Differential(TestItem.Check1);
        if (
            subject.Type.Facts().Has(Parts.Relief)
            && check is { } c
            && results.Differential(TestItem.ReliefOpening) is { } relief
            && !c.IsAbove(relief)
        )
            warnings.Add(
                new(
                    "check-not-above-relief",
                    TestItem.Check1,
                    "CV1 stands at or below the relief opening point: the relief would discharge all the time. "
                        + "Were the two readings swapped?"
                )
            );
        AddNarrowBuffer(subject, results, items, warnings);
        if (
            subject.Type.Facts().SupplySideHoldsInlet
            && check is { } s
            && results.Differential(TestItem.AirInletOpening) is { } inlet
            && inlet.IsAtLeast(s)
        )
            warnings.Add(
                new(
                    "inlet-above-check",
                    TestItem.AirInletOpening,
                    "The inlet opens at or above what the check holds: it would spill in service."
                )
            );
        if (previous is not null && SameDigits(results, previous))
            warnings.Add(
                new(
                    "same-as-last-time",
                    null,
                    "Every reading equals the test before, to the digit. Springs seldom do that: were these read today?"
                )
            );
        return warnings.ToImmutable();
    }

    private static void AddNearLimit(Subject subject, JudgedItem item, ImmutableArray<QualityWarning>.Builder warnings)
    {
        if (
            subject.Accuracy is not { } accuracy
            || item.Margin is not { } margin
            || item.Value is not ItemValue.Measured m
        )
            return;
        var unit = m.Reading.Value.Unit;
        if (!accuracy.IsAtLeast(new(Math.Abs(margin), unit)))
            return;
        var by =
            margin == 0m
                ? "exactly at the limit"
                : $"{(margin > 0 ? "above" : "below")} the limit by {ItemValue.Digits(Math.Abs(margin))} "
                    + $"{unit.Symbol()}";
        warnings.Add(
            new("within-accuracy", item.Item, $"{item.Item.Name} is {by}; the gauge is good to {accuracy}. Repeat it.")
        );
    }

    // Where the profile sets no limit on the buffer, nothing else says that the two readings cannot be told apart.
    private static void AddNarrowBuffer(
        Subject subject,
        Results results,
        IReadOnlyCollection<JudgedItem> items,
        ImmutableArray<QualityWarning>.Builder warnings
    )
    {
        if (!subject.Type.Facts().Has(Parts.Relief) || subject.Accuracy is not { } accuracy)
            return;
        if (
            results.Differential(TestItem.Check1) is not { } check
            || results.Differential(TestItem.ReliefOpening) is not { } relief
        )
            return;
        if (items.Any(i => i.Item == TestItem.ReliefBuffer && i.Margin is not null))
            return;
        var buffer = check.MinusIn(check.Unit, relief);
        if (!accuracy.IsAtLeast(buffer with { Amount = Math.Abs(buffer.Amount) }))
            return;
        warnings.Add(
            new(
                "within-accuracy",
                TestItem.ReliefBuffer,
                $"CV1 stands above the relief opening point by {buffer}; the gauge is good to {accuracy}, so the "
                    + $"two can hardly be told apart. Repeat both."
            )
        );
    }

    private static void AddReading(
        Subject subject,
        TestItem item,
        Reading reading,
        ImmutableArray<QualityWarning>.Builder warnings
    )
    {
        var value = reading.Value;
        if (value.Amount == 0m)
            warnings.Add(
                new(
                    "zero-reading",
                    item,
                    $"{item.Name} reads exactly zero. Is the right cock open, and the hose on it?"
                )
            );
        var fullScale = subject.FullScale
            ?? (value.Unit == DifferentialUnit.Psid ? Differential.Psid(15m) : Differential.Kpa(100m));
        if (value.IsAtLeast(fullScale))
            warnings.Add(
                new(
                    "at-full-scale",
                    item,
                    $"{item.Name} is at the gauge's full scale: a pegged needle says only \"more than {fullScale}\"."
                )
            );
        if (
            item.Plausible(subject.Type) is { } range
            && !Within(value, range)
            && Within(value with { Unit = value.Unit.Other() }, range)
        )
            warnings.Add(
                new(
                    "unit-suspect",
                    item,
                    $"{value} is not a likely {item.Name}, but {value with { Unit = value.Unit.Other() }} would "
                        + $"be. Check the unit."
                )
            );
        if (
            subject.Accuracy is { } accuracy
            && reading.Speed is { } speed
            && (speed with { Amount = Math.Abs(speed.Amount) }).IsAbove(FastestCaught(accuracy))
        )
            warnings.Add(
                new(
                    "too-fast",
                    item,
                    $"The needle moved at {speed} a second when {item.Name} was caught. Come up on it more "
                        + $"slowly and repeat."
                )
            );
    }

    /// <summary>
    /// The fastest needle, a second, that is caught well enough: within the reaction of a hand it moves by half of what
    /// the gauge is good to (handbook chapter 2, "What makes a reading good").
    /// </summary>
    /// <param name="accuracy">What the gauge is good to.</param>
    public static Differential FastestCaught(Differential accuracy) =>
        accuracy with
        {
            Amount = accuracy.Amount / 2m / ReactionSeconds,
        };

    private static bool Within(Differential value, (decimal Low, decimal High) psid) =>
        value.IsAtLeast(Differential.Psid(psid.Low)) && !value.IsAbove(Differential.Psid(psid.High));

    private static bool SameDigits(Results now, Results before)
    {
        var readings = now.Values.Where(v => v.Value is ItemValue.Measured && v.Key != TestItem.ReliefBuffer).ToList();
        return readings.Count > 0
            && readings.All(r => before.Differential(r.Key) == ((ItemValue.Measured)r.Value).Reading.Value);
    }
}
