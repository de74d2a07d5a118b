using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Catalogue;

/// <summary>
/// The types of assembly there are (handbook chapter 1). A new type is one more file of facts and one line here.
/// </summary>
public static class AssemblyTypes
{
    /// <summary>Reduced pressure zone assembly.</summary>
    public static AssemblyType RP { get; } = new("RP");

    /// <summary>Double check assembly.</summary>
    public static AssemblyType DC { get; } = new("DC");

    /// <summary>Pressure vacuum breaker.</summary>
    public static AssemblyType PVB { get; } = new("PVB");

    /// <summary>Spill-resistant vacuum breaker.</summary>
    public static AssemblyType SVB { get; } = new("SVB");

    /// <summary>The commonest type: offered first, and pictured where no assembly is at hand.</summary>
    public static AssemblyType Usual => DC;

    /// <summary>All of them with what is true of each, in the order in which lists show them.</summary>
    // Made when it is first asked for: the facts name the types, so neither can be there before the other.
    public static ImmutableArray<TypeFacts> All =>
        field.IsDefault
            ? field = [
                ReducedPressureZone.Facts,
                DoubleCheck.Facts,
                PressureVacuumBreaker.Facts,
                SpillResistantBreaker.Facts,
            ]
            : field;

    /// <summary>The names, in the same order.</summary>
    public static ImmutableArray<string> Names => [.. All.Select(t => t.Type.Name)];

    /// <summary>The type with this name; null when there is none. Letter case matters, as in files.</summary>
    public static AssemblyType? Named(string? name) => name is not null && Names.Contains(name) ? new(name) : null;

    /// <summary>The type with this name.</summary>
    /// <exception cref="ArgumentException">There is none.</exception>
    public static AssemblyType Parse(string name) =>
        Named(name) ?? throw new ArgumentException($"{name} is no type of assembly.", nameof(name));

    /// <summary>What is true of a type.</summary>
    /// <exception cref="KeyNotFoundException">The catalogue has no such type.</exception>
    public static TypeFacts Facts(this AssemblyType type)
    {
        foreach (var facts in All)
            if (facts.Type == type)
                return facts;
        throw new KeyNotFoundException($"{type} is no type of assembly.");
    }

    /// <summary>What people call a type in full.</summary>
    public static string Title(this AssemblyType type) => type.Facts().Title;
}
