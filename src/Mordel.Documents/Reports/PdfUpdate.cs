using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace Mordel.Documents.Reports;

/// <summary>
/// Adds to a finished PDF by incremental updates (ISO 32000-1, 7.5.6): what was there stays as it was, to the byte.
/// </summary>
internal static partial class PdfUpdate
{
    /// <summary>
    /// Sets the language, and that the title is shown: the writer that makes the pages has no word for them.
    /// </summary>
    public static byte[] SetLanguage(byte[] pdf, string language)
    {
        var file = Encoding.Latin1.GetString(pdf);
        (pdf, file) = SetId(pdf, file);
        var catalogue = Catalogue().Match(file);
        if (!catalogue.Success)
            throw new InvalidDataException("The PDF has no catalogue where one was expected.");
        var number = int.Parse(catalogue.Groups[1].Value, CultureInfo.InvariantCulture);
        var entries =
            $"<< /Lang ({language}) /ViewerPreferences << /DisplayDocTitle true >> "
            + $"{catalogue.Groups[2].Value.Trim()} >>";
        return Append(pdf, file, "\n", number, Encoding.Latin1.GetBytes($"{number} 0 obj\n{entries}\nendobj\n"));
    }

    // The writer names each file by chance; the same pages must be the same bytes, so that it is named by its content.
    private static (byte[] Pdf, string File) SetId(byte[] pdf, string file)
    {
        var id = Id().Match(file);
        if (!id.Success)
            return (pdf, file);
        foreach (var part in new[] { id.Groups[1], id.Groups[2] })
            file = file.Remove(part.Index, part.Length).Insert(part.Index, new string('0', part.Length));
        var name = Convert.ToHexString(System.Security.Cryptography.SHA256.HashData(Encoding.Latin1.GetBytes(file)))[
            ..id.Groups[1].Length
        ];
        foreach (var part in new[] { id.Groups[1], id.Groups[2] })
            file = file.Remove(part.Index, part.Length).Insert(part.Index, name);
        return (Encoding.Latin1.GetBytes(file), file);
    }

    /// <summary>Adds an object of its own, behind a line that marks where the update begins.</summary>
    /// <param name="pdf">The file.</param>
    /// <param name="marker">A comment line.</param>
    /// <param name="type">The object's type.</param>
    /// <param name="content">What it holds.</param>
    public static byte[] AddObject(byte[] pdf, string marker, string type, string content)
    {
        var file = Encoding.Latin1.GetString(pdf);
        var number = int.Parse(Last(Size(), file, "size"), CultureInfo.InvariantCulture);
        var bytes = Encoding.UTF8.GetBytes(content);
        var head = Encoding.Latin1.GetBytes($"{number} 0 obj\n<< /Type /{type} /Length {bytes.Length} >>\nstream\n");
        return Append(pdf, file, marker, number, [.. head, .. bytes, .. "\nendstream\nendobj\n"u8]);
    }

    private static byte[] Append(byte[] pdf, string file, string marker, int number, byte[] body)
    {
        var lead = Encoding.Latin1.GetBytes(marker);
        var at = pdf.Length + lead.Length;
        var size = Math.Max(int.Parse(Last(Size(), file, "size"), CultureInfo.InvariantCulture), number + 1);
        var root = Last(Root(), file, "root");
        var info = Info().Match(file) is { Success: true } found ? $"/Info {found.Groups[1].Value} 0 R " : "";
        var tail = string.Create(
            CultureInfo.InvariantCulture,
            $"xref\n{number} 1\n{at:D10} 00000 n \ntrailer\n<< /Size {size} /Root {root} 0 R {info}/Prev "
                + $"{Last(Start(), file, "beginning of its table")} >>\nstartxref\n{at + body.Length}\n%%EOF\n"
        );
        return [.. pdf, .. lead, .. body, .. Encoding.Latin1.GetBytes(tail)];
    }

    private static string Last(Regex what, string file, string name) =>
        what.Matches(file) is { Count: > 0 } found
            ? found[^1].Groups[1].Value
            : throw new InvalidDataException($"The PDF has no {name} where one was expected.");

    [GeneratedRegex(@"(\d+) 0 obj\s*<<((?:[^<>]|<[^<>]*>)*/Type\s*/Catalog(?:[^<>]|<[^<>]*>)*)>>")]
    private static partial Regex Catalogue();

    [GeneratedRegex(@"/ID \[ ?<([0-9A-F]{32})> ?<([0-9A-F]{32})> ?\]")]
    private static partial Regex Id();

    [GeneratedRegex(@"/Size (\d+)")]
    private static partial Regex Size();

    [GeneratedRegex(@"/Root (\d+) 0 R")]
    private static partial Regex Root();

    [GeneratedRegex(@"startxref\s+(\d+)")]
    private static partial Regex Start();

    [GeneratedRegex(@"/Info (\d+) 0 R")]
    private static partial Regex Info();
}
