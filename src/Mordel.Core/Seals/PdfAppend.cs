using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace Mordel.Core.Seals;

/// <summary>
/// Adds to a finished PDF by an incremental update (ISO 32000-1, 7.5.6): what was there stays as it was, to the byte.
/// </summary>
public static partial class PdfAppend
{
    /// <summary>Adds an object of its own, behind a line that marks where the update begins.</summary>
    /// <param name="pdf">The file.</param>
    /// <param name="marker">A comment line.</param>
    /// <param name="type">The object's type.</param>
    /// <param name="content">What it holds.</param>
    /// <exception cref="InvalidDataException">It is no PDF that can be added to.</exception>
    public static byte[] Object(byte[] pdf, string marker, string type, string content)
    {
        ArgumentNullException.ThrowIfNull(pdf);
        var file = Encoding.Latin1.GetString(pdf);
        var number = Number(Last(Size(), file, "size"));
        var bytes = Encoding.UTF8.GetBytes(content);
        var lead = Encoding.Latin1.GetBytes(marker);
        var head = Encoding.Latin1.GetBytes($"{number} 0 obj\n<< /Type /{type} /Length {bytes.Length} >>\nstream\n");
        byte[] body = [.. head, .. bytes, .. "\nendstream\nendobj\n"u8];
        var at = pdf.Length + lead.Length;
        var info = Info().Match(file) is { Success: true } found ? $"/Info {found.Groups[1].Value} 0 R " : "";
        var id = Id().Matches(file) is { Count: > 0 } named ? $"{named[^1].Value} " : "";
        var tail = string.Create(
            CultureInfo.InvariantCulture,
            $"xref\n{number} 1\n{at:D10} 00000 n \ntrailer\n<< /Size {number + 1} "
                + $"/Root {Last(Root(), file, "root")} 0 R {info}{id}/Prev "
                + $"{Last(Start(), file, "beginning of its table")} >>\nstartxref\n{at + body.Length}\n%%EOF\n"
        );
        return [.. pdf, .. lead, .. body, .. Encoding.Latin1.GetBytes(tail)];
    }

    private static int Number(string digits) =>
        int.TryParse(digits, CultureInfo.InvariantCulture, out var number) && number < int.MaxValue
            ? number
            : throw new InvalidDataException("The PDF counts more objects than there can be.");

    private static string Last(Regex what, string file, string name) =>
        what.Matches(file) is { Count: > 0 } found
            ? found[^1].Groups[1].Value
            : throw new InvalidDataException($"The PDF has no {name} where one was expected.");

    [GeneratedRegex(@"/Size (\d+)")]
    private static partial Regex Size();

    [GeneratedRegex(@"/Root (\d+) 0 R")]
    private static partial Regex Root();

    [GeneratedRegex(@"startxref\s+(\d+)")]
    private static partial Regex Start();

    [GeneratedRegex(@"/Info (\d+) 0 R")]
    private static partial Regex Info();

    // As our own files name themselves; those of another writer, sealed before, were added to without.
    [GeneratedRegex(@"/ID \[<[0-9A-F]{32}> <[0-9A-F]{32}>\]")]
    private static partial Regex Id();
}
