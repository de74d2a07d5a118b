using Mordel.Core.Catalogue;
using Mordel.Core.Collections;

namespace Mordel.Core.Verdicts;

/// <summary>The outcome of a whole test.</summary>
public enum Overall
{
    /// <summary>Every required item passes.</summary>
    Pass,

    /// <summary>A required item fails.</summary>
    Fail,

    /// <summary>A required item is neither.</summary>
    Incomplete,

    /// <summary>The test could not be made; neither pass nor fail.</summary>
    NotTestable,
}

/// <summary>The outcome of one item.</summary>
public enum ItemResult
{
    /// <summary>Meets its limit.</summary>
    Pass,

    /// <summary>Does not.</summary>
    Fail,

    /// <summary>Required and not there, or made moot by something else.</summary>
    Missing,

    /// <summary>Written down, not judged.</summary>
    Recorded,
}

/// <summary>One item, judged.</summary>
/// <param name="Item">Which.</param>
/// <param name="Result">How it came out.</param>
/// <param name="Value">The answer as given; null when missing.</param>
/// <param name="Unit">Unit of limit and margin, which is the value's own; null where there is no number.</param>
/// <param name="Limit">The governing limit; null where none applies.</param>
/// <param name="Margin">Value minus limit: negative fails.</param>
/// <param name="Why">One sentence.</param>
/// <param name="WouldChange">What would change it; null where nothing would.</param>
public sealed record JudgedItem(
    TestItem Item,
    ItemResult Result,
    ItemValue? Value,
    string? Unit,
    decimal? Limit,
    decimal? Margin,
    string Why,
    string? WouldChange = null
)
{
    /// <summary>The margin with sign and unit, such as <c>+1.1 psid</c>; null where there is none.</summary>
    public string? MarginText
    {
        get
        {
            if (Margin is not { } margin)
                return null;
            // A converted limit has more digits than anybody reads.
            var size = Math.Abs(margin).Scale > 3 ? decimal.Round(Math.Abs(margin), 2) : Math.Abs(margin);
            return $"{(margin < 0 ? "−" : "+")}{ItemValue.Digits(size)} {Unit}";
        }
    }
}

/// <summary>Something a careful tester weighs; never changes a result.</summary>
/// <param name="Code">Stable code: <c>within-accuracy</c> …</param>
/// <param name="Item">Which item; null when it is about the whole set.</param>
/// <param name="Text">One or two sentences.</param>
public sealed record QualityWarning(string Code, TestItem? Item, string Text);

/// <summary>An explained judgement.</summary>
/// <param name="Overall">The outcome.</param>
/// <param name="Reason">The outcome in a sentence.</param>
/// <param name="Items">Item by item.</param>
/// <param name="Warnings">Quality of the readings.</param>
/// <param name="Notes">What this school's numbers cannot say.</param>
public sealed record Verdict(
    Overall Overall,
    string Reason,
    EquatableArray<JudgedItem> Items,
    EquatableArray<QualityWarning> Warnings,
    EquatableArray<string> Notes
)
{
    /// <summary>What was read and seen, as it was judged.</summary>
    public Results Results =>
        Items
            .Where(i => i.Value is not null)
            .Aggregate(Results.None, (results, item) => results.With(item.Item, item.Value!));
}

/// <summary>Names of outcomes in files and on screens.</summary>
public static class OutcomeNames
{
    /// <summary>The name in files.</summary>
    public static string Id(this Overall overall) =>
        overall switch
        {
            Overall.Pass => "pass",
            Overall.Fail => "fail",
            Overall.Incomplete => "incomplete",
            _ => "not-testable",
        };

    /// <summary>The outcome of a name in files; null where it is none.</summary>
    public static Overall? Named(string? id) =>
        Enum.GetValues<Overall>().Where(o => o.Id() == id).Select(o => (Overall?)o).FirstOrDefault();

    /// <summary>The word on screens and reports.</summary>
    public static string Word(this Overall overall) =>
        overall switch
        {
            Overall.Pass => "Pass",
            Overall.Fail => "Fail",
            Overall.Incomplete => "Incomplete",
            _ => "Not testable",
        };

    /// <summary>The name in files.</summary>
    public static string Id(this ItemResult result) =>
        result switch
        {
            ItemResult.Pass => "pass",
            ItemResult.Fail => "fail",
            ItemResult.Missing => "missing",
            _ => "recorded",
        };

    /// <summary>The word on screens and reports.</summary>
    public static string Word(this ItemResult result) =>
        result switch
        {
            ItemResult.Pass => "Pass",
            ItemResult.Fail => "Fail",
            ItemResult.Missing => "Missing",
            _ => "Recorded",
        };
}
