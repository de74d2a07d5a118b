using Mordel.Core.Rigs;

namespace Mordel.Core.Rules;

/// <summary>
/// Months between two tests of those assemblies that it fits; what is left out fits all. The first of a profile's
/// intervals that fits stands.
/// </summary>
public sealed record TestInterval
{
    /// <summary>An interval.</summary>
    /// <param name="months">1 to <see cref="Profile.LongestInterval"/>.</param>
    /// <param name="use">The class of use; null for all.</param>
    /// <param name="hazard"><c>high</c> or <c>low</c>; null for both.</param>
    /// <param name="type">The type; null for all.</param>
    /// <exception cref="ArgumentOutOfRangeException">Fewer months than 1 or too many.</exception>
    public TestInterval(int months, string? use = null, string? hazard = null, AssemblyType? type = null)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(months, 1);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(months, Profile.LongestInterval);
        (Months, Use, Hazard, Type) = (months, use, hazard, type);
    }

    /// <summary>Months between two tests.</summary>
    public int Months { get; }

    /// <summary>The class of use; null for all.</summary>
    public string? Use { get; }

    /// <summary><c>high</c> or <c>low</c>; null for both.</summary>
    public string? Hazard { get; }

    /// <summary>The type; null for all.</summary>
    public AssemblyType? Type { get; }

    /// <summary>Whether it fits an assembly.</summary>
    public bool Fits(AssemblyType type, string hazard, string? use) =>
        (Use is null || Use == use) && (Hazard is null || Hazard == hazard) && (Type is null || Type == type);
}
