namespace Mordel.Core.Units;

/// <summary>Units in which a differential gauge is read.</summary>
public enum DifferentialUnit
{
    /// <summary>Pounds per square inch, differential.</summary>
    Psid,

    /// <summary>Kilopascal, differential.</summary>
    Kpa,
}

/// <summary>Names and factors of the differential units.</summary>
public static class DifferentialUnits
{
    /// <summary>Kilopascals in one psi (handbook chapter 1: 1 psi = 6.894757 kPa).</summary>
    public const decimal KpaPerPsi = 6.894757m;

    /// <summary>The unit as it is written in files and on screens: <c>psid</c> or <c>kPa</c>.</summary>
    public static string Symbol(this DifferentialUnit unit) => unit == DifferentialUnit.Psid ? "psid" : "kPa";

    /// <summary>The unit that a symbol names, or null when it names none. Letter case matters, as in files.</summary>
    public static DifferentialUnit? Parse(string? symbol) =>
        symbol switch
        {
            "psid" => DifferentialUnit.Psid,
            "kPa" => DifferentialUnit.Kpa,
            _ => null,
        };

    /// <summary>The other of the two units.</summary>
    public static DifferentialUnit Other(this DifferentialUnit unit) =>
        unit == DifferentialUnit.Psid ? DifferentialUnit.Kpa : DifferentialUnit.Psid;
}
