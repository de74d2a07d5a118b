namespace Mordel.Core.Serialization;

/// <summary>Something wrong with an input: where, and what to do about it.</summary>
/// <param name="Place">Path such as <c>results.check-1.unit</c>; empty for the whole.</param>
/// <param name="Says">What is wrong, in a sentence.</param>
public sealed record InputError(string Place, string Says)
{
    /// <inheritdoc/>
    public override string ToString() => Place.Length == 0 ? Says : $"{Place}: {Says}";
}
