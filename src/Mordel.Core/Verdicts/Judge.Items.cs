using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rules;
using Mordel.Core.Units;

namespace Mordel.Core.Verdicts;

// How one item is judged.
public static partial class Judge
{
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
}
