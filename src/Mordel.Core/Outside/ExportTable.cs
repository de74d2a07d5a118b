namespace Mordel.Core.Outside;

/// <summary>A table that leaves the house, line by line.</summary>
/// <param name="Heads">The names of its columns.</param>
/// <param name="Lines">Its lines, each as long as the heads.</param>
public sealed record ExportTable(IReadOnlyList<string> Heads, IAsyncEnumerable<string[]> Lines)
{
    /// <summary>The columns of a point east and north of the zero stone; null where lines have no place.</summary>
    public (int East, int North)? Point { get; init; }

    /// <summary>The columns of a day and what is due on it; null where nothing is.</summary>
    public (int Day, int[] Words)? Due { get; init; }
}
