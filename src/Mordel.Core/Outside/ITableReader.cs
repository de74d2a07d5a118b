namespace Mordel.Core.Outside;

/// <summary>A line of a table.</summary>
/// <param name="Number">Its place in the file, from 1.</param>
/// <param name="Cells">Its cells, as text.</param>
/// <param name="Wrong">Why it could not be read; null when it could.</param>
public sealed record TableLine(int Number, IReadOnlyList<string> Cells, string? Wrong = null);

/// <summary>Reads tables that somebody hands in, CSV or xlsx, line by line.</summary>
public interface ITableReader
{
    /// <summary>The lines, the heads first. The stream is read as far as it is asked for.</summary>
    /// <exception cref="TableRefusedException">It is no table that can be read.</exception>
    IEnumerable<TableLine> Read(Stream file);
}

/// <summary>A file that is no table; its message is a sentence for a person.</summary>
public sealed class TableRefusedException : Exception
{
    /// <summary>Without a sentence.</summary>
    public TableRefusedException() { }

    /// <summary>With a sentence for a person.</summary>
    public TableRefusedException(string message)
        : base(message) { }

    /// <summary>With a sentence for a person, and what led to it.</summary>
    public TableRefusedException(string message, Exception inner)
        : base(message, inner) { }
}
