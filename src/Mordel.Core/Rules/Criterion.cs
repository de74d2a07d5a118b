using Mordel.Core.Catalogue;
using Mordel.Core.Units;

namespace Mordel.Core.Rules;

/// <summary>
/// One demand on an item. It can be failed by an answer of the item's kind; that is what makes it a demand.
/// </summary>
public abstract record Criterion
{
    private Criterion() { }

    /// <summary>Whether an item's answers can be measured against it.</summary>
    public abstract bool Fits(TestItem item);

    /// <summary>At least a limit; <paramref name="Strict"/> asks for more than the limit.</summary>
    /// <param name="Limit">The limit.</param>
    /// <param name="Strict">Whether equality fails.</param>
    public sealed record AtLeast(Differential Limit, bool Strict = false) : Criterion
    {
        /// <inheritdoc/>
        public override bool Fits(TestItem item) => item is { Kind: ItemKind.Differential };
    }

    /// <summary>At least another item's reading and a distance above it.</summary>
    /// <param name="Item">The other item.</param>
    /// <param name="Distance">The distance above it.</param>
    public sealed record AtLeastAbove(TestItem Item, Differential Distance) : Criterion
    {
        /// <inheritdoc/>
        public override bool Fits(TestItem item) =>
            item is { Kind: ItemKind.Differential } && Item.Kind == ItemKind.Differential && Item != item;
    }

    /// <summary>Must be tight.</summary>
    public sealed record Tight : Criterion
    {
        /// <inheritdoc/>
        public override bool Fits(TestItem item) => item is { Kind: ItemKind.TightOrLeaks };
    }

    /// <summary>Must be so.</summary>
    public sealed record Yes : Criterion
    {
        /// <inheritdoc/>
        public override bool Fits(TestItem item) => item is { Kind: ItemKind.TrueOrFalse };
    }

    /// <summary>A clearance: at least a floor and, where the port's size is known, so many times the port.</summary>
    /// <param name="Floor">The least clearance; more than nothing.</param>
    /// <param name="TimesPort">How many port diameters; 0 where the profile does not ask.</param>
    public sealed record Clearance(Length Floor, decimal TimesPort) : Criterion
    {
        /// <inheritdoc/>
        public override bool Fits(TestItem item) =>
            item is { Kind: ItemKind.Length } && Floor.Amount > 0m && TimesPort >= 0m;
    }

    /// <summary>
    /// The line must stand under at least a pressure; <paramref name="Strict"/> asks for more than that.
    /// </summary>
    /// <param name="Limit">The limit.</param>
    /// <param name="Strict">Whether equality fails; a limit of 0 is always strict, or nothing could fail it.</param>
    public sealed record LineAtLeast(LinePressure Limit, bool Strict = false) : Criterion
    {
        /// <inheritdoc/>
        public override bool Fits(TestItem item) =>
            item is { Kind: ItemKind.LinePressure } && (Strict || Limit.Amount > 0m);
    }

    /// <summary>The demand in words: <c>at least 1.0 psid</c>.</summary>
    public sealed override string ToString() =>
        this switch
        {
            AtLeast a => $"{(a.Strict ? "more than" : "at least")} {a.Limit}",
            AtLeastAbove b => $"at least {b.Distance} above the {b.Item.Name.ToLowerInvariant()}",
            Tight => "closed tight",
            Yes => "must be so",
            Clearance { TimesPort: > 0m } c => $"at least {c.Floor} and {c.TimesPort} times the port",
            Clearance c => $"at least {c.Floor}",
            LineAtLeast l => $"{(l.Strict ? "more than" : "at least")} {l.Limit}",
            _ => throw new InvalidOperationException("Unknown criterion."),
        };
}
