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
/// <param name="Amount">The amount as written, 0 to 1,000 psi or 0 to 7,000 kPa.</param>
/// <param name="Unit">The unit of the amount.</param>
public readonly record struct LinePressure(decimal Amount, LinePressureUnit Unit)
{
    /// <summary>The unit as written: <c>psi</c> or <c>kPa</c>.</summary>
    public static string Symbol(LinePressureUnit unit) => unit == LinePressureUnit.Psi ? "psi" : "kPa";

    /// <summary>The unit that a symbol names, or null.</summary>
    public static LinePressureUnit? ParseUnit(string? symbol) => symbol switch
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
