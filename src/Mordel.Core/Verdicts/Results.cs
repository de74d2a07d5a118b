using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Catalogue;
using Mordel.Core.Units;

namespace Mordel.Core.Verdicts;

/// <summary>The answer to one item, as the tester gave it.</summary>
public abstract record ItemValue
{
    private ItemValue() { }

    /// <summary>A differential reading.</summary>
    public sealed record Measured(Reading Reading) : ItemValue
    {
        /// <inheritdoc/>
        public override string ToString() => Reading.ToString();
    }

    /// <summary>Tight or not.</summary>
    public sealed record Tightness(bool Tight) : ItemValue
    {
        /// <inheritdoc/>
        public override string ToString() => Tight ? "tight" : "leaks";
    }

    /// <summary>
    /// Neither tight nor leaking: the test could not have shown a leak, because nothing could have run (handbook
    /// chapter 3). For shutoffs only.
    /// </summary>
    public sealed record NotShown : ItemValue
    {
        /// <inheritdoc/>
        public override string ToString() => "not shown";
    }

    /// <summary>Yes or no.</summary>
    public sealed record YesNo(bool Yes) : ItemValue
    {
        /// <inheritdoc/>
        public override string ToString() => Yes ? "yes" : "no";
    }

    /// <summary>A static pressure.</summary>
    public sealed record Line(LinePressure Pressure) : ItemValue
    {
        /// <inheritdoc/>
        public override string ToString() => Pressure.ToString();
    }

    /// <summary>A clearance.</summary>
    public sealed record Clearance(Length Length) : ItemValue
    {
        /// <inheritdoc/>
        public override string ToString() => Length.ToString();
    }

    /// <summary>A reading in the given unit.</summary>
    public static ItemValue Of(decimal amount, DifferentialUnit unit) => new Measured(new Reading(new(amount, unit)));

    /// <summary>An amount with its digits.</summary>
    public static string Digits(decimal amount) => amount.ToString(CultureInfo.InvariantCulture);
}

/// <summary>Which values an item takes.</summary>
public static class ItemKinds
{
    /// <summary>Whether a value is of the kind that the item asks for.</summary>
    public static bool Takes(this TestItem item, ItemValue value)
    {
        ArgumentNullException.ThrowIfNull(item);
        if (value is ItemValue.NotShown)
            return item.MayBeNotShown;
        return (item.Kind, value)
            is
                (ItemKind.Differential, ItemValue.Measured)
                or
                (ItemKind.TightOrLeaks, ItemValue.Tightness)
                or
                (ItemKind.TrueOrFalse, ItemValue.YesNo)
                or
                (ItemKind.LinePressure, ItemValue.Line)
                or
                (ItemKind.Length, ItemValue.Clearance);
    }
}

/// <summary>The answers of one test. What is not in it was not obtained. Equal when every answer is.</summary>
/// <param name="Values">By item.</param>
public sealed record Results(ImmutableDictionary<TestItem, ItemValue> Values)
{
    /// <inheritdoc/>
    public bool Equals(Results? other) =>
        other is not null
        && Values.Count == other.Values.Count
        && Values.All(v => other.Values.TryGetValue(v.Key, out var same) && same == v.Value);

    /// <inheritdoc/>
    public override int GetHashCode() => Values.Aggregate(0, (hash, v) => hash ^ HashCode.Combine(v.Key, v.Value));

    /// <summary>No answers.</summary>
    public static Results None { get; } = new(ImmutableDictionary<TestItem, ItemValue>.Empty);

    /// <summary>The answer to an item, or null.</summary>
    public ItemValue? this[TestItem item] => Values.GetValueOrDefault(item);

    /// <summary>The differential of an item, or null when there is none.</summary>
    public Differential? Differential(TestItem item) => this[item] is ItemValue.Measured m ? m.Reading.Value : null;

    /// <summary>These answers and one more.</summary>
    public Results With(TestItem item, ItemValue value) => new(Values.SetItem(item, value));
}
