using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Units;

namespace Mordel.Core.Verdicts;

/// <summary>What a verdict is about.</summary>
/// <param name="Type">The assembly's type.</param>
/// <param name="School">The school's rules.</param>
/// <param name="Profile">The profile they come from.</param>
/// <param name="Accuracy">The kit's accuracy, either side; null where not known.</param>
/// <param name="FullScale">The kit's range; null for the usual one.</param>
/// <param name="ReliefPort">Diameter of the relief port; null where not known.</param>
public sealed record Subject(
    AssemblyType Type,
    SchoolRules School,
    Profile Profile,
    Differential? Accuracy = null,
    Differential? FullScale = null,
    Length? ReliefPort = null
);

/// <summary>Judges results by a profile's rules (handbook chapter 3). Comparison is exact in decimal.</summary>
public static partial class Judge
{
    /// <summary>
    /// Counts up whenever the same answers under the same rules would be judged, or worded, otherwise than before.
    /// </summary>
    public const int Version = 2;

    /// <summary>The verdict on a set of results.</summary>
    /// <param name="subject">Assembly, rules, kit.</param>
    /// <param name="results">The answers.</param>
    /// <param name="previous">The answers of the test before; null where there was none.</param>
    /// <param name="notTestable">Why the test could not be made; null when it could.</param>
    /// <param name="failedBy">Findings that fail the assembly whatever the numbers say, as sentences.</param>
    public static Verdict Weigh(
        Subject subject,
        Results results,
        Results? previous = null,
        string? notTestable = null,
        IReadOnlyCollection<string>? failedBy = null
    )
    {
        ArgumentNullException.ThrowIfNull(subject);
        ArgumentNullException.ThrowIfNull(results);
        results = WithDerived(subject.School, results);
        var isStatic =
            results[TestItem.Static] is not ItemValue.YesNo { Yes: false }
            || subject.School.For(TestItem.Static) is null;
        var voidedBy = subject.School.VoidsTheRest.FirstOrDefault(i =>
            results[i] is ItemValue.Tightness { Tight: false }
        );
        var items = ImmutableArray.CreateBuilder<JudgedItem>();
        foreach (var rule in subject.School.Items)
        {
            var value = results[rule.Item];
            if (value is null && rule.Requirement != Requirement.Required)
                continue;
            items.Add(
                (isStatic, voidedBy) switch
                {
                    (false, _) when rule.Item != TestItem.Static && rule.Requirement == Requirement.Required => Moot(
                        rule.Item,
                        "The assembly could not become static, so this reading says nothing."
                    ),
                    (_, { } by)
                        when !subject.School.VoidsTheRest.Contains(rule.Item)
                            && rule.Requirement == Requirement.Required => Moot(
                        rule.Item,
                        $"{by.Name} leaks: mend it and begin the whole test again."
                    ),
                    _ => JudgeItem(subject, rule, value, results),
                }
            );
        }

        // What the school does not ask for is still written down.
        foreach (var item in TestItem.All.Where(i => subject.School.For(i) is null && results[i] is not null))
            items.Add(JudgeItem(subject, new(item, Requirement.Recorded), results[item], results));
        var overall = Overall(items, isStatic && notTestable is null);
        var found = failedBy is { Count: > 0 } && overall != Verdicts.Overall.NotTestable;
        if (found)
            overall = Verdicts.Overall.Fail;
        var reason = found
            ? $"{string.Join(" ", failedBy!)}"
                + (
                    items.Any(i => i.Result == ItemResult.Fail)
                        ? $" {Reason(overall, items, notTestable, isStatic)}"
                        : " That fails the assembly by itself."
                )
            : Reason(overall, items, notTestable, isStatic);
        return new(
            overall,
            reason,
            items.ToImmutable(),
            QualityCheck.Warn(subject, results, items, previous),
            Notes(subject)
        );
    }

    /// <summary>
    /// The results with what follows from them: the buffer of an RP, and whether an SVB's check is above its inlet.
    /// </summary>
    public static Results WithDerived(SchoolRules school, Results results)
    {
        if (
            school.For(TestItem.ReliefBuffer) is not null
            && results.Differential(TestItem.Check1) is { } check
            && results.Differential(TestItem.ReliefOpening) is { } relief
        )
        {
            results = results.With(
                TestItem.ReliefBuffer,
                new ItemValue.Measured(new Reading(check.MinusIn(check.Unit, relief)))
            );
        }

        if (
            school.For(TestItem.CheckAboveInlet) is not null
            && results.Differential(TestItem.Check1) is { } above
            && results.Differential(TestItem.AirInletOpening) is { } inlet
        )
        {
            results = results.With(TestItem.CheckAboveInlet, new ItemValue.YesNo(above.IsAbove(inlet)));
        }

        return results;
    }

    private static JudgedItem Moot(TestItem item, string why) =>
        new(item, ItemResult.Missing, null, null, null, null, why);

    private static Overall Overall(IEnumerable<JudgedItem> items, bool testable)
    {
        if (!testable)
            return Verdicts.Overall.NotTestable;
        var seen = items.Select(i => i.Result).ToHashSet();
        return seen.Contains(ItemResult.Fail) ? Verdicts.Overall.Fail
            : seen.Contains(ItemResult.Missing) || seen.Count == 0 ? Verdicts.Overall.Incomplete
            : Verdicts.Overall.Pass;
    }

    private static string Reason(Overall overall, IEnumerable<JudgedItem> items, string? notTestable, bool isStatic)
    {
        string Names(ItemResult result) =>
            string.Join(" and ", items.Where(i => i.Result == result).Select(i => i.Item.Name));
        return overall switch
        {
            Verdicts.Overall.Pass => "Every required item meets its limit.",
            Verdicts.Overall.Fail =>
                $"{Names(ItemResult.Fail)} {(items.Count(i => i.Result == ItemResult.Fail) == 1 ? "does" : "do")} "
                    + $"not meet the limit. One failed item fails the assembly.",
            Verdicts.Overall.Incomplete => $"Not taken yet: {Names(ItemResult.Missing)}.",
            _ => notTestable ?? (isStatic ? "The test could not be made." : "The assembly could not become static."),
        };
    }

    private static ImmutableArray<string> Notes(Subject subject) =>
        SchoolFacts.Note(subject.School.ProcedureId) is { } note ? [note] : [];

    private static string? UnitOf(ItemValue value) =>
        value switch
        {
            ItemValue.Measured m => m.Reading.Value.Unit.Symbol(),
            ItemValue.Line l => LinePressure.Symbol(l.Pressure.Unit),
            ItemValue.Clearance c => Length.Symbol(c.Length.Unit),
            _ => null,
        };

    private static string Lower(TestItem item) => char.ToLowerInvariant(item.Name[0]) + item.Name[1..];

    // Shown numbers only: the comparison itself is never rounded. Written digits are kept; converted ones get at most
    // six.
    private static decimal Tidy(decimal amount, int places = 6) =>
        amount.Scale <= places ? amount : decimal.Round(amount, places).Normal();

    private static decimal Normal(this decimal amount) => amount / 1.0000000000000000000000000000m;
}
