using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Mordel.Core.Seals;

namespace Mordel.Documents.Reports;

/// <summary>
/// Says of a finished PDF what the writer that made it has no word for.
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
        return PdfAppend.Update(
            pdf,
            file,
            "\n",
            number,
            Encoding.Latin1.GetBytes($"{number} 0 obj\n{entries}\nendobj\n")
        );
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

    [GeneratedRegex(@"(\d+) 0 obj\s*<<((?:[^<>]|<[^<>]*>)*/Type\s*/Catalog(?:[^<>]|<[^<>]*>)*)>>")]
    private static partial Regex Catalogue();

    [GeneratedRegex(@"/ID \[ ?<([0-9A-F]{32})> ?<([0-9A-F]{32})> ?\]")]
    private static partial Regex Id();
}
