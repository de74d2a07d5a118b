using Mordel.Core.Rigs;

namespace Mordel.Core.Catalogue;

/// <summary>
/// The springs, psid: the differential at which a check opens, at which a relief valve or an air inlet opens.
/// </summary>
/// <param name="Cv1">First check, or a vacuum breaker's only one.</param>
/// <param name="Cv2">Second check.</param>
/// <param name="Relief">Relief valve.</param>
/// <param name="Inlet">Air inlet.</param>
public readonly record struct Springs(double Cv1, double Cv2, double Relief, double Inlet)
{
    /// <summary>Healthy springs of a type, in the middle of what handbook chapter 1 gives.</summary>
    public static Springs Healthy(AssemblyType type) => type.Facts().Healthy;

    /// <summary>The spring of a part, psid; 0 where it has none.</summary>
    public double this[PartId part] =>
        part == Parts.Cv1 ? Cv1
        : part == Parts.Cv2 ? Cv2
        : part == Parts.Relief ? Relief
        : part == Parts.AirInlet ? Inlet
        : 0;

    /// <summary>The springs with one of them replaced.</summary>
    /// <param name="part">The part whose spring it is.</param>
    /// <param name="psid">What it holds now.</param>
    /// <exception cref="ArgumentOutOfRangeException">The part has no spring.</exception>
    public Springs With(PartId part, double psid) =>
        part == Parts.Cv1 ? this with { Cv1 = psid }
        : part == Parts.Cv2 ? this with { Cv2 = psid }
        : part == Parts.Relief ? this with { Relief = psid }
        : part == Parts.AirInlet ? this with { Inlet = psid }
        : throw new ArgumentOutOfRangeException(nameof(part), part, "This part has no spring.");
}
