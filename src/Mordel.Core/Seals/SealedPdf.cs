using System.Text;

namespace Mordel.Core.Seals;

/// <summary>
/// Puts a seal behind a PDF and takes it off again: the pages stay as they were, to the byte, so that their hash can be
/// compared with the one that was signed. A file to which anything else was added is no sealed PDF.
/// </summary>
public static class SealedPdf
{
    private const string Marker = "%mordel-seal/1\n",
        Type = "MordelSeal";

    /// <summary>The pages with the seal behind them.</summary>
    /// <param name="pages">The PDF as it was set.</param>
    /// <param name="seal">The seal, as text.</param>
    public static byte[] Attach(byte[] pages, string seal) => PdfAppend.Object(pages, Marker, Type, seal);

    /// <summary>The pages and the seal of a file; null when it bears none, or something else was added.</summary>
    public static (byte[] Pages, string Seal)? Detach(byte[] file)
    {
        ArgumentNullException.ThrowIfNull(file);
        var at = file.AsSpan().LastIndexOf(Encoding.Latin1.GetBytes(Marker));
        if (at < 0)
            return null;
        var section = Encoding.UTF8.GetString(file.AsSpan(at));
        var (from, to) = (
            section.IndexOf("stream\n", StringComparison.Ordinal),
            section.LastIndexOf("\nendstream\nendobj\n", StringComparison.Ordinal)
        );
        if (from < 0 || to < from + 7)
            return null;
        var (pages, seal) = (file[..at], section[(from + 7)..to]);
        try
        {
            return Attach(pages, seal).AsSpan().SequenceEqual(file) ? (pages, seal) : null;
        }
        catch (InvalidDataException)
        {
            return null;
        }
    }
}
