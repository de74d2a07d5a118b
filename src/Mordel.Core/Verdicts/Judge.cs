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
public static class Judge
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

    private static JudgedItem JudgeItem(Subject subject, ItemRule rule, ItemValue? value, Results results)
    {
        if (value is null)
            return Moot(rule.Item, $"{rule.Item.Name} has not been taken; {subject.Profile.Name} requires it.");
        if (value is ItemValue.NotShown)
            return NotShown(rule, value);
        if (rule.Requirement == Requirement.Recorded)
            return new(
                rule.Item,
                ItemResult.Recorded,
                value,
                UnitOf(value),
                null,
                null,
                $"Written down as {value}; this profile sets no limit on it."
            );
        if (NoResult(subject.School, rule.Item, value) is { } no)
            return no;
        return value switch
        {
            ItemValue.Measured m => JudgeDifferential(rule, m, results),
            ItemValue.Clearance c => JudgeClearance(subject, rule, c),
            ItemValue.Line l => JudgeLine(rule, l),
            ItemValue.Tightness t => YesOrNo(rule.Item, value, t.Tight, "Closed tight.", "It leaks; it must be tight."),
            ItemValue.YesNo y => YesOrNo(
                rule.Item,
                value,
                y.Yes,
                "As required.",
                rule.Item == TestItem.CheckAboveInlet
                    ? "The check must hold more than the inlet needs to open."
                    : "Required, and not so."
            ),
            _ => throw new InvalidOperationException($"{rule.Item.Id} cannot be answered with {value}."),
        };
    }

    private static JudgedItem NotShown(ItemRule rule, ItemValue value) =>
        new(
            rule.Item,
            rule.Requirement == Requirement.Required ? ItemResult.Missing : ItemResult.Recorded,
            value,
            null,
            null,
            null,
            $"The test could not have shown a leak of {rule.Item.Name}: standing water proves nothing where "
                + $"nothing could run.",
            "Open a tap downstream while the body is shut in under pressure, and watch the needle."
        );

    // What was drawn down by the tester's own hand cannot come to stand well above that, unless water comes in.
    private static JudgedItem? NoResult(SchoolRules school, TestItem item, ItemValue value)
    {
        if (
            value is not ItemValue.Measured { Reading.Value: var read }
            || SchoolFacts.NoResultAbove(school.ProcedureId, item) is not { } most
        )
            return null;
        if (!read.IsAbove(most))
            return null;
        return new(
            item,
            ItemResult.Missing,
            value,
            read.Unit.Symbol(),
            null,
            null,
            $"{read} is well above the {SchoolFacts.DrawnDownTo} it was drawn down to: water comes in, and the "
                + $"number says nothing about the check.",
            "Find where the water comes from, draw down again and read again."
        );
    }

    private static JudgedItem JudgeLine(ItemRule rule, ItemValue.Line line)
    {
        var demand = (Criterion.LineAtLeast)rule.Criteria[0];
        var unit = line.Pressure.Unit;
        var limit = Tidy(demand.Limit.In(unit));
        var meets = demand.Strict ? line.Pressure.IsAbove(demand.Limit) : line.Pressure.IsAtLeast(demand.Limit);
        return new(
            rule.Item,
            meets ? ItemResult.Pass : ItemResult.Fail,
            line,
            LinePressure.Symbol(unit),
            limit,
            Tidy(line.Pressure.Amount - demand.Limit.In(unit)),
            $"{line.Pressure}, where {demand} is asked for."
        );
    }

    private static JudgedItem YesOrNo(TestItem item, ItemValue value, bool good, string yes, string no) =>
        new(item, good ? ItemResult.Pass : ItemResult.Fail, value, null, null, null, good ? yes : no);

    private static JudgedItem JudgeDifferential(ItemRule rule, ItemValue.Measured measured, Results results)
    {
        var value = measured.Reading.Value;
        (Differential Limit, bool Strict, string From)? governing = null;
        TestItem? lacking = null;
        foreach (var criterion in rule.Criteria)
        {
            (Differential Limit, bool Strict, string From)? demand = criterion switch
            {
                Criterion.AtLeast a => (a.Limit, a.Strict, $"{a.Limit}"),
                Criterion.AtLeastAbove b when results.Differential(b.Item) is { } other => (
                    other.Plus(b.Distance),
                    false,
                    $"{other} at the {Lower(b.Item)} plus {b.Distance}"
                ),
                Criterion.AtLeastAbove b => Lacks(b.Item),
                _ => null,
            };
            if (demand is { } d && (governing is not { } g || d.Limit.IsAbove(g.Limit)))
                governing = demand;
        }

        (Differential, bool, string)? Lacks(TestItem item)
        {
            lacking = item;
            return null;
        }

        var unit = value.Unit;
        var limit = governing is { } found ? Tidy(found.Limit.In(unit)) : (decimal?)null;
        var margin = governing is { } set
            ? Tidy(value.In(set.Limit.Unit) == set.Limit.Amount ? 0m : value.Amount - set.Limit.In(unit))
            : (decimal?)null;
        var meets =
            governing is not { } rules || (rules.Strict ? value.IsAbove(rules.Limit) : value.IsAtLeast(rules.Limit));
        if (meets && lacking is not null)
        {
            return new(
                rule.Item,
                ItemResult.Missing,
                measured,
                unit.Symbol(),
                limit,
                margin,
                $"{value} is written down, but its limit hangs on the {Lower(lacking)}, which has not been taken."
            );
        }

        var (bound, _, from) = governing!.Value;
        var bothUnits = bound.Unit == unit ? "" : $" ({Tidy(value.In(bound.Unit), 3)} {bound.Unit.Symbol()})";
        var limitText = from == $"{bound}" ? $"{bound}" : $"{bound} ({from})";
        var apart =
            margin == 0m
                ? "exactly at"
                : $"{ItemValue.Digits(Math.Abs(margin!.Value))} {unit.Symbol()} {(margin > 0 ? "above" : "below")}";
        return new(
            rule.Item,
            meets ? ItemResult.Pass : ItemResult.Fail,
            measured,
            unit.Symbol(),
            limit,
            margin,
            $"{value}{bothUnits} is {apart} the least allowed, {limitText}.",
            meets ? $"Below {limitText} it would fail." : $"At {limitText} or more it would pass."
        );
    }

    private static JudgedItem JudgeClearance(Subject subject, ItemRule rule, ItemValue.Clearance clearance)
    {
        var demand = (Criterion.Clearance)rule.Criteria[0];
        var byPort = subject.ReliefPort is { } port ? port.Millimetres * demand.TimesPort : 0m;
        var limit = Math.Max(demand.Floor.Millimetres, byPort);
        var per = clearance.Length.Unit == LengthUnit.Inch ? 25.4m : 1m;
        var why =
            byPort > demand.Floor.Millimetres
                ? $"{ItemValue.Digits(demand.TimesPort)} times the relief port, {subject.ReliefPort}"
                : $"{demand.Floor}";
        var meets = clearance.Length.Millimetres >= limit;
        return new(
            rule.Item,
            meets ? ItemResult.Pass : ItemResult.Fail,
            clearance,
            Length.Symbol(clearance.Length.Unit),
            Tidy(limit / per),
            Tidy((clearance.Length.Millimetres - limit) / per),
            $"{clearance.Length} against at least {why}."
        );
    }

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
