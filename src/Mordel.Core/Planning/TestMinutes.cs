using Mordel.Core.Catalogue;
using Mordel.Core.Register;
using Mordel.Core.Rigs;

namespace Mordel.Core.Planning;

/// <summary>
/// How long a visit takes, from the door to the door, by type, size and kind: round figures to plan by.
/// </summary>
public static class TestMinutes
{
    // A relief valve more, and what it shows; larger ones have more water to move and heavier valves.
    private const int Usual = 25,
        Relief = 5,
        Large = 15,
        Largest = 30,
        Seasonal = 15,
        FireLine = 10;

    private const double LargeInches = 2.5,
        LargestInches = 6;

    /// <summary>Minutes on site.</summary>
    /// <param name="type">The type.</param>
    /// <param name="size">The nominal size as it is kept; what is no size counts as small.</param>
    /// <param name="seasonal">Whether a seasonal line is put on or off.</param>
    /// <param name="fireLine">Whether it stands in a fire line.</param>
    public static int Of(AssemblyType type, string size, bool seasonal, bool fireLine) =>
        Usual
        + (type.Facts().Has(Parts.Relief) ? Relief : 0)
        + (
            Sizes.Inches(size) switch
            {
                >= LargestInches => Largest,
                >= LargeInches => Large,
                _ => 0,
            }
        )
        + (seasonal ? Seasonal : 0)
        + (fireLine ? FireLine : 0);
}
