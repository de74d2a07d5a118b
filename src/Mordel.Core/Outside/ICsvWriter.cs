namespace Mordel.Core.Outside;

/// <summary>Writes small tables as CSV; what a spreadsheet would run as a formula is written as text.</summary>
public interface ICsvWriter
{
    /// <summary>A table as a file in UTF-8.</summary>
    /// <param name="heads">The names of its columns.</param>
    /// <param name="lines">Its lines, each as long as the heads.</param>
    byte[] Write(IReadOnlyList<string> heads, IEnumerable<string[]> lines);
}
