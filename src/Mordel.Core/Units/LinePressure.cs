using System.Globalization;

namespace Mordel.Core.Units;

/// <summary>Units of a static line pressure, above atmosphere.</summary>
public enum LinePressureUnit
{
    /// <summary>Pounds per square inch, gauge.</summary>
    Psi,

    /// <summary>Kilopascal, gauge.</summary>
    Kpa,
}

/// <summary>A static supply pressure above atmosphere. It is no differential and cannot be compared with one.</summary>
public readonly record struct LinePressure
{
    /// <summary>A pressure as written.</summary>
    /// <param name="amount">The amount, 0 to 1,000 psi or 0 to 7,000 kPa.</param>
    /// <param name="unit">The unit of the amount.</param>
    /// <exception cref="ArgumentOutOfRangeException">The amount lies outside.</exception>
    public LinePressure(decimal amount, LinePressureUnit unit)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(amount);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(amount, Largest(unit));
        (Amount, Unit) = (amount, unit);
    }

    /// <summary>The amount as written, with its digits.</summary>
    public decimal Amount { get; }

    /// <summary>The unit of the amount.</summary>
    public LinePressureUnit Unit { get; }

    /// <summary>Whether this is as large as the limit; exact, both brought to kPa by multiplication.</summary>
    public bool IsAtLeast(LinePressure limit) => Compare(limit) >= 0;

    /// <summary>Whether this is larger than the other; equal is not.</summary>
    public bool IsAbove(LinePressure other) => Compare(other) > 0;

    /// <summary>The amount in another unit, unrounded.</summary>
    public decimal In(LinePressureUnit unit) =>
        (Unit, unit) switch
        {
            (LinePressureUnit.Psi, LinePressureUnit.Kpa) => Amount * DifferentialUnits.KpaPerPsi,
            (LinePressureUnit.Kpa, LinePressureUnit.Psi) => Amount / DifferentialUnits.KpaPerPsi,
            _ => Amount,
        };

    private int Compare(LinePressure other) =>
        Unit == other.Unit
            ? Amount.CompareTo(other.Amount)
            : In(LinePressureUnit.Kpa).CompareTo(other.In(LinePressureUnit.Kpa));

    /// <summary>The unit as written: <c>psi</c> or <c>kPa</c>.</summary>
    public static string Symbol(LinePressureUnit unit) => unit == LinePressureUnit.Psi ? "psi" : "kPa";

    /// <summary>The unit that a symbol names, or null.</summary>
    public static LinePressureUnit? ParseUnit(string? symbol) =>
        symbol switch
        {
            "psi" => LinePressureUnit.Psi,
            "kPa" => LinePressureUnit.Kpa,
            _ => null,
        };

    /// <summary>The most that is taken for a line pressure, in its unit.</summary>
    public static decimal Largest(LinePressureUnit unit) => unit == LinePressureUnit.Psi ? 1_000m : 7_000m;

    /// <inheritdoc/>
    public override string ToString() => $"{Amount.ToString(CultureInfo.InvariantCulture)} {Symbol(Unit)}";
}
