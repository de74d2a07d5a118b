using System.Collections.Immutable;

namespace Mordel.Core.Rigs;

/// <summary>Which way the water runs through the assembly as the tester faces it.</summary>
public enum FlowDirection
{
    /// <summary>Inlet at the left.</summary>
    LeftToRight,

    /// <summary>Inlet at the right.</summary>
    RightToLeft,

    /// <summary>Inlet at the bottom.</summary>
    Upward,

    /// <summary>Inlet at the top.</summary>
    Downward,
}

/// <summary>What one assembly of a type has and another has not.</summary>
/// <param name="Strainer">A strainer stands in the pipe.</param>
/// <param name="FittedCocks">The cocks carry fittings already: no adapters are needed.</param>
/// <param name="BypassLine">A fire line's bypass, with its meter and an assembly of its own, runs around this
/// one.</param>
public readonly record struct BodyFeatures(bool Strainer = false, bool FittedCocks = false, bool BypassLine = false)
{
    /// <summary>What they are called in files and at the command line.</summary>
    public static ImmutableArray<string> Names { get; } = ["strainer", "fitted-cocks", "bypass-line"];

    /// <summary>The features with these names; null when one is no feature.</summary>
    public static BodyFeatures? Named(IReadOnlyCollection<string> names)
    {
        ArgumentNullException.ThrowIfNull(names);
        return names.All(Names.Contains)
            ? new(names.Contains(Names[0]), names.Contains(Names[1]), names.Contains(Names[2]))
            : null;
    }
}

/// <summary>
/// What an assembly is made of, in flow order. Inline parts divide the pipe into chambers; a cock, relief, inlet or
/// screw opens the chamber where it stands. A new type is one more description in the catalogue.
/// </summary>
/// <param name="Type">The type.</param>
/// <param name="Name">The body's name where a type has more than one: <c>four-cock</c>; else the type's.</param>
/// <param name="Parts">Supply, the parts in flow order, site.</param>
/// <param name="Chambers">The spaces between the inline parts, in flow order.</param>
public sealed record AssemblyBody(
    AssemblyType Type,
    string Name,
    ImmutableArray<Part> Parts,
    ImmutableArray<Chamber> Chambers
)
{
    /// <summary>What this one has beside the usual.</summary>
    public BodyFeatures Features { get; init; }

    /// <summary>The cocks behind SO1, in flow order: those that tests use and that drain the body.</summary>
    public ImmutableArray<PartId> Cocks { get; } =
    [.. Parts.SkipWhile(p => p.Id != Rigs.Parts.So1).Where(p => p.Kind == PartKind.Cock).Select(p => p.Id)];

    /// <summary>Every cock there is, in flow order.</summary>
    public ImmutableArray<PartId> AllCocks { get; } = [.. Parts.Where(p => p.Kind == PartKind.Cock).Select(p => p.Id)];

    /// <summary>
    /// The cock that feels the supply whatever SO1 does; on bodies without one, the first behind SO1.
    /// </summary>
    public PartId SupplyCock => AllCocks[0];
}
