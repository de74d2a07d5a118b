using Mordel.Core.Catalogue;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Serialization;

/// <summary>Reads a verdict that was written as <c>mordel.verdict/1</c> and kept.</summary>
public static class VerdictReader
{
    /// <summary>Reads it; errors go to the node's list.</summary>
    public static Verdict? Read(Node node)
    {
        var before = node.ErrorCount;
        if (!node.IsObject())
            return null;
        node.Format(VerdictFormat.Name);
        var overall = node.Required("overall")
            ?.ValueOf<Overall>(
                t => Enum.GetValues<Overall>().Cast<Overall?>().FirstOrDefault(o => o!.Value.Id() == t),
                "an outcome"
            );
        var reason = node.Required("reason")?.Text(10_000);
        var items = (node.Required("items")?.Elements() ?? []).Select(Item).ToList();
        var warnings = (node.Required("warnings")?.Elements() ?? []).Select(Warning).ToList();
        var notes = (node.Optional("notes")?.Elements() ?? []).Select(n => n.Text(10_000)).OfType<string>().ToList();
        if (node.ErrorCount > before || items.Exists(i => i is null) || warnings.Exists(w => w is null))
            return null;
        return new(
            overall!.Value,
            reason!,
            [.. items.OfType<JudgedItem>()],
            [.. warnings.OfType<QualityWarning>()],
            [.. notes]
        );
    }

    private static JudgedItem? Item(Node node)
    {
        if (!node.IsObject())
            return null;
        var item = node.Required("item")?.OneOf(TestItem.Named, "an item");
        var result = node.Required("result")
            ?.ValueOf<ItemResult>(
                t => Enum.GetValues<ItemResult>().Cast<ItemResult?>().FirstOrDefault(r => r!.Value.Id() == t),
                "a result"
            );
        var why = node.Required("why")?.Text(10_000);
        if (item is null || result is not { } known || why is null)
            return null;
        var unit = node.Optional("unit")?.Text(20);
        return new(
            item,
            known,
            node.Optional("value") is { } value ? Value(value, item, unit) : null,
            unit,
            node.Optional("limit")?.Number(longest: 60),
            node.Optional("margin")?.Number(longest: 60),
            why,
            node.Optional("wouldChange")?.Text(10_000)
        );
    }

    // A number stands without its unit there, which stands beside it.
    private static ItemValue? Value(Node node, TestItem item, string? unit)
    {
        if (node.LooksLikeString || item.Kind is ItemKind.TrueOrFalse or ItemKind.TightOrLeaks)
            return node.Value(item);
        if (node.Number(longest: 60) is not { } amount)
            return null;
        ItemValue? value = item.Kind switch
        {
            ItemKind.Differential
                when DifferentialUnits.Parse(unit) is { } u && Math.Abs(amount) <= 2 * Differential.Largest =>
                ItemValue.Of(amount, u),
            ItemKind.LinePressure
                when LinePressure.ParseUnit(unit) is { } u && amount >= 0 && amount <= LinePressure.Largest(u) =>
                new ItemValue.Line(new(amount, u)),
            ItemKind.Length when Length.ParseUnit(unit) is { } u && Math.Abs(amount) <= Length.Largest =>
                new ItemValue.Clearance(new(amount, u)),
            _ => null,
        };
        if (value is null)
            node.Wrong("is no value of this item");
        return value;
    }

    private static QualityWarning? Warning(Node node)
    {
        if (!node.IsObject())
            return null;
        var (code, text) = (node.Required("code")?.Text(60), node.Required("text")?.Text(10_000));
        var item = node.Optional("item")?.OneOf(TestItem.Named, "an item");
        return code is null || text is null ? null : new(code, item, text);
    }
}
