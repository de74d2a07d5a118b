using Mordel.Core.Units;

namespace Mordel.Core.Rules;

/// <summary>One demand on an item.</summary>
public abstract record Criterion
{
    private Criterion() { }

    /// <summary>At least a limit; <paramref name="Strict"/> asks for more than the limit.</summary>
    /// <param name="Limit">The limit.</param>
    /// <param name="Strict">Whether equality fails.</param>
    public sealed record AtLeast(Differential Limit, bool Strict = false) : Criterion;

    /// <summary>At least another item's reading and a distance above it.</summary>
    /// <param name="Item">The other item.</param>
    /// <param name="Distance">The distance above it.</param>
    public sealed record AtLeastAbove(TestItem Item, Differential Distance) : Criterion;

    /// <summary>Must be tight.</summary>
    public sealed record Tight : Criterion;

    /// <summary>Must be so.</summary>
    public sealed record Yes : Criterion;

    /// <summary>A clearance: at least a floor and, where the port's size is known, so many times the port.</summary>
    /// <param name="Floor">The least clearance.</param>
    /// <param name="TimesPort">How many port diameters; 0 where the profile does not ask.</param>
    public sealed record Clearance(Length Floor, decimal TimesPort) : Criterion;
}

/// <summary>Whether an item must be there for a verdict.</summary>
public enum Requirement
{
    /// <summary>Without it the test is incomplete; failing it fails the assembly.</summary>
    Required,

    /// <summary>Judged when it is there; never missed.</summary>
    Optional,

    /// <summary>Written down, not judged.</summary>
    Recorded,
}

/// <summary>What a profile says about one item of one school.</summary>
/// <param name="Item">The item.</param>
/// <param name="Requirement">Whether it must be there.</param>
/// <param name="Criteria">All of them must be met.</param>
public sealed record ItemRule(TestItem Item, Requirement Requirement, params Criterion[] Criteria)
{
    /// <summary>Whether the run sheet has a step for it though the verdict can do without.</summary>
    public bool Asked { get; init; }
}
