using System.Text;
using Mordel.Core.Outside;

namespace Mordel.Documents.Interchange;

/// <summary>Tables as CSV files.</summary>
public sealed class CsvFile : ICsvWriter
{
    /// <inheritdoc/>
    public byte[] Write(IReadOnlyList<string> heads, IEnumerable<string[]> lines) =>
        Encoding.UTF8.GetBytes(CsvText.Write(heads, lines));
}
