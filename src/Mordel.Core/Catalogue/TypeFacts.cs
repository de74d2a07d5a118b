using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Catalogue;

/// <summary>Between what a healthy spring of a type lies, psid.</summary>
/// <param name="Part">Whose spring it is.</param>
/// <param name="Low">The weakest.</param>
/// <param name="High">The strongest.</param>
public readonly record struct SpringRange(PartId Part, double Low, double High);

/// <summary>What stands behind SO2 so that its leak has somewhere to go, or something to come from.</summary>
public enum LeakBehind
{
    /// <summary>Nothing in particular.</summary>
    Nothing,

    /// <summary>An outlet that stands open.</summary>
    OpenOutlet,

    /// <summary>A pressure of the site's own.</summary>
    Pressure,
}

/// <summary>A fault that is drawn for learners.</summary>
/// <param name="Part">The part.</param>
/// <param name="Kind">What is wrong with it, where it is no worn spring.</param>
public sealed record LearnersFault(PartId Part, FaultKind Kind = FaultKind.Leaks)
{
    /// <summary>What its spring has worn down to, psid; null where the spring is sound.</summary>
    public double? WornTo { get; init; }

    /// <summary>What the site must be for it to show.</summary>
    public LeakBehind Behind { get; init; }

    /// <summary>Whether examinations set it (handbook chapter 7); else only the field's rules do.</summary>
    public bool InExams { get; init; } = true;
}

/// <summary>One of the readings that tell most about a type over the years.</summary>
/// <param name="Name">What the chart calls it.</param>
/// <param name="Item">The item.</param>
public sealed record ChartedReading(string Name, TestItem Item);

/// <summary>
/// All that is true of one type of assembly and not of another, apart from its procedures and their limits. Whoever
/// wants to know something about a type asks here; nothing else knows types by name.
/// </summary>
public sealed record TypeFacts
{
    /// <summary>The type.</summary>
    public required AssemblyType Type { get; init; }

    /// <summary>What people call it in full.</summary>
    public required string Title { get; init; }

    /// <summary>How others write it; letters and digits alone, in small letters.</summary>
    public required ImmutableArray<string> Spellings { get; init; }

    /// <summary>Its bodies, the usual one first.</summary>
    public required ImmutableArray<AssemblyBody> Bodies { get; init; }

    /// <summary>Healthy springs, psid, in the middle of what handbook chapter 1 gives.</summary>
    public required Springs Healthy { get; init; }

    /// <summary>Springs as they are drawn for learners, in this order, clear of each other's limits.</summary>
    public required ImmutableArray<SpringRange> Drawn { get; init; }

    /// <summary>Faults as they are drawn for learners, in this order.</summary>
    public required ImmutableArray<LearnersFault> LearnersFaults { get; init; }

    /// <summary>What is plausible for the first check, psid.</summary>
    public (decimal Low, decimal High) PlausibleFirstCheck { get; init; } = (0.3m, 6m);

    /// <summary>
    /// How far CV1's spring must stand above the relief's to be sound, psid; null where 1 psid is enough.
    /// </summary>
    public double? FirstCheckAboveRelief { get; init; }

    /// <summary>What is looked at before a test beside what is looked at on every type.</summary>
    public required string Placing { get; init; }

    /// <summary>What to expect when a line that was found shut is charged.</summary>
    public required string WhenCharged { get; init; }

    /// <summary>The two readings that are charted over the years.</summary>
    public required ImmutableArray<ChartedReading> Charted { get; init; }

    /// <summary>The charted reading whose limit is the chart's line.</summary>
    public required TestItem ChartedLimit { get; init; }

    /// <summary>Why it may never stand on a high hazard, in a sentence; null where it may.</summary>
    public string? NeverOnHighHazard { get; init; }

    /// <summary>Why a kit without control valves cannot test it; null where one hose is enough.</summary>
    public string? NeedsThreeHoses { get; init; }

    /// <summary>Whether the outlets that it feeds stand below it, and one is often open.</summary>
    public bool OftenFeedsOpenOutlets { get; init; }

    /// <summary>Whether the body has a choice of forms that must be said.</summary>
    public bool HasChoiceOfBodies => Bodies.Length > 1;

    /// <summary>
    /// Whether the check must hold more than the inlet needs: with the body open the supply side holds the inlet.
    /// </summary>
    public bool SupplySideHoldsInlet => Has(Parts.VentScrew);

    /// <summary>Whether it is a vacuum breaker, with an air inlet under a canopy.</summary>
    public bool IsVacuumBreaker => Has(Parts.AirInlet);

    /// <summary>Whether an assembly of this type has a part.</summary>
    public bool Has(PartId part) => Bodies[0].Parts.Any(p => p.Id == part);
}
