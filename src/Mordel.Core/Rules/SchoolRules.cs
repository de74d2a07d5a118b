using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Rigs;
using Mordel.Core.Units;

namespace Mordel.Core.Rules;

/// <summary>What a profile says about one school (one procedure of one type). Valid by construction.</summary>
public sealed record SchoolRules
{
    /// <summary>The longest watch over a still needle, in seconds.</summary>
    public const int LongestHold = 3600;

    /// <summary>Rules of a school.</summary>
    /// <param name="procedureId">The procedure's id.</param>
    /// <param name="type">The type it tests.</param>
    /// <param name="unit">The unit its limits and readings are in.</param>
    /// <param name="items">The items in the order of the report; each once, each of the type's own.</param>
    /// <exception cref="ArgumentException">An item stands twice, or is none of the type's, or hangs on one that is not
    /// there.</exception>
    public SchoolRules(string procedureId, AssemblyType type, DifferentialUnit unit, EquatableArray<ItemRule> items)
    {
        ArgumentException.ThrowIfNullOrWhiteSpace(procedureId);
        (ProcedureId, Type, Unit) = (procedureId, type, unit);
        Items = items;
    }

    /// <summary>The procedure's id.</summary>
    public string ProcedureId { get; }

    /// <summary>The type it tests.</summary>
    public AssemblyType Type { get; }

    /// <summary>The unit its limits and readings are in.</summary>
    public DifferentialUnit Unit { get; }

    /// <summary>The items in the order of the report.</summary>
    /// <exception cref="ArgumentException">As the constructor's.</exception>
    public EquatableArray<ItemRule> Items
    {
        get;
        init =>
            field = WhyNot(Type, value) is { } why
                ? throw new ArgumentException($"{ProcedureId}: {why}.", nameof(value))
                : value;
    }

    /// <summary>Shutoffs that must be tight before anything read counts (handbook chapter 3).</summary>
    /// <exception cref="ArgumentException">One of them is not judged tight or leaking here.</exception>
    public EquatableArray<TestItem> VoidsTheRest
    {
        get;
        init =>
            field = value.FirstOrDefault(i =>
                For(i) is not { Requirement: not Requirement.Recorded } || i.Kind != ItemKind.TightOrLeaks
            )
                is { } wrong
                ? throw new ArgumentException(
                    $"{ProcedureId}: {wrong.Id} cannot void the rest: it is not judged tight.",
                    nameof(value)
                )
                : value;
    }

    /// <summary>
    /// How long a still needle is watched, in seconds, up to <see cref="LongestHold"/>; 0 until it is still.
    /// </summary>
    /// <exception cref="ArgumentOutOfRangeException">Outside.</exception>
    public int HoldSeconds
    {
        get;
        init
        {
            ArgumentOutOfRangeException.ThrowIfNegative(value);
            ArgumentOutOfRangeException.ThrowIfGreaterThan(value, LongestHold);
            field = value;
        }
    }

    /// <summary>
    /// Whether CV2 counts as tight when the needle comes to rest anywhere above the relief opening point; else it must
    /// be still after the first drop.
    /// </summary>
    public bool RestAboveReliefIsTight { get; init; }

    /// <summary>Local ways of doing what the school leaves open.</summary>
    /// <exception cref="ArgumentException">One is of another school.</exception>
    public EquatableArray<StepVariant> Variants
    {
        get;
        init =>
            field = value.FirstOrDefault(v => v.School != ProcedureId) is { } foreign
                ? throw new ArgumentException($"{ProcedureId}: {foreign.Id} is of another school.", nameof(value))
                : value;
    }

    /// <summary>What is said about an item; null when the school does not know it.</summary>
    public ItemRule? For(TestItem item) => Items.FirstOrDefault(r => r.Item == item);

    /// <summary>Whether the run sheet asks for an item: it is required, or the profile switches its step on.</summary>
    public bool Asks(TestItem item) =>
        For(item) is { } rule && (rule.Requirement == Requirement.Required || rule.Asked);

    /// <summary>Why a list of items cannot stand in a school of this type; null when it can.</summary>
    public static string? WhyNot(AssemblyType type, EquatableArray<ItemRule> items)
    {
        var seen = new HashSet<TestItem>();
        foreach (var rule in items)
        {
            if (!rule.Item.AppliesTo(type))
                return $"a {type} has no {rule.Item.Id}";
            if (!seen.Add(rule.Item))
                return $"{rule.Item.Id} stands twice";
        }

        var hangsOn = items.SelectMany(r => r.Criteria).OfType<Criterion.AtLeastAbove>().Select(c => c.Item);
        return hangsOn.FirstOrDefault(i => !seen.Contains(i)) is { } lacking
            ? $"a limit hangs on {lacking.Id}, which is not among its items"
            : null;
    }
}
