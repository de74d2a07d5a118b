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
/// <param name="Amount">The amount as written.</param>
/// <param name="Unit">The unit of the amount.</param>
public readonly record struct Length(decimal Amount, LengthUnit Unit)
{
    /// <summary>Water's head over one inch, in psi (handbook chapter 1).</summary>
    public const decimal PsiPerInch = 0.0361m;

    /// <summary>Exact length in millimetres.</summary>
    public decimal Millimetres => Unit == LengthUnit.Inch ? Amount * 25.4m : Amount;

    /// <summary>The unit as written: <c>mm</c> or <c>in</c>.</summary>
    public static string Symbol(LengthUnit unit) => unit == LengthUnit.Inch ? "in" : "mm";

    /// <summary>The unit that a symbol names, or null.</summary>
    public static LengthUnit? ParseUnit(string? symbol) => symbol switch
    {
        "mm" => LengthUnit.Millimetre,
        "in" => LengthUnit.Inch,
        _ => null,
    };

    /// <summary>What a gauge held this far too low adds to a one-hose reading (chapter 1: 0.0361 psi per inch).</summary>
    public Differential HeadOfWater() => Differential.Psid(Millimetres / 25.4m * PsiPerInch);

    /// <inheritdoc/>
    public override string ToString() => $"{Amount.ToString(CultureInfo.InvariantCulture)} {Symbol(Unit)}";
}
