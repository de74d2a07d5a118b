namespace Mordel.Core.Outside;

/// <summary>What came of handing something to the outside.</summary>
public abstract record Delivery
{
    private Delivery() { }

    /// <summary>It is there.</summary>
    /// <param name="Receipt">What the other side gave for it; null where it gives none.</param>
    public sealed record Accepted(string? Receipt) : Delivery;

    /// <summary>It was looked at and not taken; sending the same again will not help.</summary>
    /// <param name="Why">A sentence for a person.</param>
    public sealed record Declined(string Why) : Delivery;

    /// <summary>It could not be told, or not now: the same is to be sent again later, under the same key.</summary>
    /// <param name="Why">A sentence for a person.</param>
    /// <param name="After">How long the other side asks to be left alone; null where it does not say.</param>
    public sealed record Later(string Why, TimeSpan? After = null) : Delivery;
}
