using Mordel.Core.Units;

namespace Mordel.Core.Verdicts;

/// <summary>
/// What a one-hose reading would be with the gauge held at its level (handbook chapter 1: 0.0361 psi per inch). A
/// question asked of the reading, never a change to it.
/// </summary>
public static class HeightWhatIf
{
    // Beyond a foot nobody overlooks it.
    private const decimal FarthestInches = 12m;

    /// <summary>The true value if the gauge was held so far from its level (negative low); low reads high.</summary>
    public static Differential True(Differential read, Length offset) =>
        new(read.Amount + offset.HeadOfWater().In(read.Unit), read.Unit);

    /// <summary>A sentence about a reading; null when height cannot matter to it.</summary>
    /// <param name="item">The judged item.</param>
    /// <param name="offset">How far off the gauge was held; null while not known.</param>
    public static string? Explain(JudgedItem item, Length? offset)
    {
        ArgumentNullException.ThrowIfNull(item);
        if (item is not { Value: ItemValue.Measured { Reading.Value: var read }, Limit: { } limit, Margin: { } margin })
            return null;
        var name = item.Item.Name;
        if (offset is { Amount: not 0m } off)
        {
            var true_ = True(read, off);
            var passes = true_.Amount >= limit;
            var turn =
                passes == margin >= 0 ? ""
                : passes ? " and would pass"
                : " and would fail";
            return $"{name}: with the gauge {Math.Abs(off.Amount)} {Length.Symbol(off.Unit)} "
                + $"{(off.Amount < 0 ? "low" : "high")} the true value is {Rounded(true_)}{turn}.";
        }

        if (offset is not null)
            return null;
        var inches = new Differential(Math.Abs(margin), read.Unit).In(DifferentialUnit.Psid) / Length.PsiPerInch;
        if (inches > FarthestInches)
            return null;
        var shown =
            read.Unit == DifferentialUnit.Psid
                ? $"{decimal.Round(inches, 1)} in"
                : $"{decimal.Round(inches * 2.54m, 0)} cm";
        return margin == 0m ? $"{name} stands exactly at its limit: a gauge held a little low would hide a fail."
            : margin > 0 ? $"{name}: a gauge held {shown} low would turn this pass into a fail."
            : $"{name}: a gauge held {shown} high would make a sound check read this low.";
    }

    private static string Rounded(Differential value) =>
        new Differential(decimal.Round(value.Amount, 2), value.Unit).ToString();
}
