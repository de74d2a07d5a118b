using System.Collections;
using System.Collections.Immutable;
using System.Runtime.CompilerServices;

namespace Mordel.Core.Collections;

/// <summary>
/// An immutable list that equals another when their elements are equal one by one: for records that hold lists, so that
/// what is read back equals what was written. Prefer <see cref="ImmutableArray{T}"/> where nobody compares.
/// </summary>
/// <typeparam name="T">The elements; compared by their own equality.</typeparam>
[CollectionBuilder(typeof(EquatableArray), nameof(EquatableArray.Create))]
public readonly struct EquatableArray<T> : IReadOnlyList<T>, IEquatable<EquatableArray<T>>
{
    private readonly ImmutableArray<T> elements;

    /// <summary>Wraps the elements as they are; nothing is copied.</summary>
    public EquatableArray(ImmutableArray<T> elements) => this.elements = elements;

    /// <summary>How many elements there are.</summary>
    public int Length => elements.IsDefault ? 0 : elements.Length;

    /// <summary>Whether there is none.</summary>
    public bool IsEmpty => Length == 0;

    /// <inheritdoc/>
    int IReadOnlyCollection<T>.Count => Length;

    /// <summary>The elements as an immutable array.</summary>
    public ImmutableArray<T> Elements => elements.IsDefault ? [] : elements;

    /// <summary>One element.</summary>
    /// <exception cref="IndexOutOfRangeException">There is no such element.</exception>
    public T this[int index] => Elements[index];

    /// <summary>The elements in order.</summary>
    public ImmutableArray<T>.Enumerator GetEnumerator() => Elements.GetEnumerator();

    IEnumerator<T> IEnumerable<T>.GetEnumerator() => ((IEnumerable<T>)Elements).GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => ((IEnumerable)Elements).GetEnumerator();

    /// <inheritdoc/>
    public bool Equals(EquatableArray<T> other) =>
        Elements.AsSpan().SequenceEqual(other.Elements.AsSpan(), EqualityComparer<T>.Default);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => obj is EquatableArray<T> other && Equals(other);

    /// <inheritdoc/>
    public override int GetHashCode()
    {
        var hash = new HashCode();
        foreach (var element in Elements)
            hash.Add(element);
        return hash.ToHashCode();
    }

    /// <inheritdoc/>
    public override string ToString() => $"[{string.Join(", ", Elements)}]";

    /// <summary>Whether both hold equal elements in the same order.</summary>
    public static bool operator ==(EquatableArray<T> left, EquatableArray<T> right) => left.Equals(right);

    /// <summary>Whether they differ somewhere.</summary>
    public static bool operator !=(EquatableArray<T> left, EquatableArray<T> right) => !left.Equals(right);

    /// <summary>The elements as a list that compares by them.</summary>
    public static implicit operator EquatableArray<T>(ImmutableArray<T> elements) => new(elements);
}

/// <summary>Builds lists that compare by their elements.</summary>
public static class EquatableArray
{
    /// <summary>A list of these elements; what a collection expression calls.</summary>
    public static EquatableArray<T> Create<T>(ReadOnlySpan<T> elements) => new([.. elements]);
}
