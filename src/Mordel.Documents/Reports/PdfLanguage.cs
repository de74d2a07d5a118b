using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace Mordel.Documents.Reports;

/// <summary>
/// Sets a PDF's language, and that its title is shown, by an incremental update: the catalogue is written again behind the file with the
/// two entries added (ISO 32000-1, 7.5.6). The writer that makes the pages has no word for them.
/// </summary>
internal static partial class PdfLanguage
{
    public static byte[] Set(byte[] pdf, string language)
    {
        var text = Encoding.Latin1.GetString(pdf);
        var catalogue = Catalogue().Match(text);
        var size = Size().Matches(text);
        var start = Start().Matches(text);
        var info = Info().Match(text);
        if (!catalogue.Success || size.Count == 0 || start.Count == 0) throw new InvalidDataException("The PDF has no catalogue where one was expected.");
        var number = catalogue.Groups[1].Value;
        var update = new StringBuilder("\n");
        var at = pdf.Length + update.Length;
        update.Append(CultureInfo.InvariantCulture, $"{number} 0 obj\n<< /Lang ({language}) /ViewerPreferences << /DisplayDocTitle true >> {catalogue.Groups[2].Value.Trim()} >>\nendobj\n");
        var table = pdf.Length + update.Length;
        update.Append(CultureInfo.InvariantCulture, $"xref\n{number} 1\n{at:D10} 00000 n \ntrailer\n<< /Size {size[^1].Groups[1].Value} /Root {number} 0 R ");
        if (info.Success) update.Append(CultureInfo.InvariantCulture, $"/Info {info.Groups[1].Value} 0 R ");
        update.Append(CultureInfo.InvariantCulture, $"/Prev {start[^1].Groups[1].Value} >>\nstartxref\n{table}\n%%EOF\n");
        return [.. pdf, .. Encoding.Latin1.GetBytes(update.ToString())];
    }

    [GeneratedRegex(@"(\d+) 0 obj\s*<<((?:[^<>]|<[^<>]*>)*/Type\s*/Catalog(?:[^<>]|<[^<>]*>)*)>>")]
    private static partial Regex Catalogue();

    [GeneratedRegex(@"/Size (\d+)")]
    private static partial Regex Size();

    [GeneratedRegex(@"startxref\s+(\d+)")]
    private static partial Regex Start();

    [GeneratedRegex(@"/Info (\d+) 0 R")]
    private static partial Regex Info();
}
