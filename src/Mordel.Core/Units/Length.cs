using System.Globalization;

namespace Mordel.Core.Units;

/// <summary>Units of clearances and heights.</summary>
public enum LengthUnit
{
    /// <summary>Millimetre.</summary>
    Millimetre,

    /// <summary>Inch, 25.4 mm.</summary>
    Inch,
}

/// <summary>A length: a clearance under a relief port, or how far a gauge is held from its level.</summary>
public readonly record struct Length
{
    /// <summary>The largest amount, either side of zero, in either unit.</summary>
    public const decimal Largest = 100_000m;

    /// <summary>A length as written; a distance from a level may be negative (below it).</summary>
    /// <param name="amount">The amount, −100,000 to 100,000.</param>
    /// <param name="unit">The unit of the amount.</param>
    /// <exception cref="ArgumentOutOfRangeException">The amount lies outside.</exception>
    public Length(decimal amount, LengthUnit unit)
    {
        ArgumentOutOfRangeException.ThrowIfGreaterThan(Math.Abs(amount), Largest, nameof(amount));
        (Amount, Unit) = (amount, unit);
    }

    /// <summary>The amount as written, with its digits.</summary>
    public decimal Amount { get; }

    /// <summary>The unit of the amount.</summary>
    public LengthUnit Unit { get; }

    /// <summary>Water's head over one inch, in psi (handbook chapter 1).</summary>
    public const decimal PsiPerInch = 0.0361m;

    /// <summary>Exact length in millimetres.</summary>
    public decimal Millimetres => Unit == LengthUnit.Inch ? Amount * 25.4m : Amount;

    /// <summary>The unit as written: <c>mm</c> or <c>in</c>.</summary>
    public static string Symbol(LengthUnit unit) => unit == LengthUnit.Inch ? "in" : "mm";

    /// <summary>The unit that a symbol names, or null.</summary>
    public static LengthUnit? ParseUnit(string? symbol) =>
        symbol switch
        {
            "mm" => LengthUnit.Millimetre,
            "in" => LengthUnit.Inch,
            _ => null,
        };

    /// <summary>
    /// What a gauge held this far too low adds to a one-hose reading (chapter 1: 0.0361 psi per inch).
    /// </summary>
    public Differential HeadOfWater() => Differential.Psid(Millimetres / 25.4m * PsiPerInch);

    /// <inheritdoc/>
    public override string ToString() => $"{Amount.ToString(CultureInfo.InvariantCulture)} {Symbol(Unit)}";
}
