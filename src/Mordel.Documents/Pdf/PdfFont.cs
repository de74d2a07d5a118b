using System.Globalization;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;

namespace Mordel.Documents.Pdf;

/// <summary>
/// A typeface of ours in a PDF: read once; of its glyphs each file has those that it shows.
/// </summary>
internal sealed class PdfFont
{
    /// <summary>How many objects it takes.</summary>
    public const int Objects = 5;

    private readonly string name;
    private readonly TrueType type;

    // By letter; −1 where the typeface has it not.
    private readonly short[] widths = new short[char.MaxValue + 1];

    private PdfFont(string file, string name, int first)
    {
        using var stream = typeof(PdfFont).Assembly.GetManifestResourceStream(file)
            ?? throw new InvalidOperationException($"The font {file} is not in the assembly.");
        using var copy = new MemoryStream();
        stream.CopyTo(copy);
        type = new(copy.ToArray());
        Array.Fill<short>(widths, -1);
        foreach (var (letter, glyph) in type.Letters)
            widths[letter] = (short)type.Widths[glyph];
        (First, this.name) = (first, name);
    }

    /// <summary>The two of ours. They take the first objects of each file.</summary>
    public static PdfFont Regular { get; } = new("AtkinsonHyperlegible_400Regular.ttf", "AtkinsonHyperlegible", 1);

    /// <inheritdoc cref="Regular"/>
    public static PdfFont Strong { get; } =
        new("AtkinsonHyperlegible_700Bold.ttf", "AtkinsonHyperlegible-Bold", 1 + Objects);

    /// <summary>The number of its first object, to which pages refer.</summary>
    public int First { get; }

    /// <summary>Whether it has a letter.</summary>
    public bool Has(char letter) => widths[letter] >= 0;

    /// <summary>How wide a text is, in thousandths of its size; letters that it has not count nothing.</summary>
    public int Width(ReadOnlySpan<char> text)
    {
        var sum = 0;
        foreach (var letter in text)
            sum += Math.Max((short)0, widths[letter]);
        return sum;
    }

    /// <summary>A text as the numbers of its glyphs, four digits each.</summary>
    public void Glyphs(string text, StringBuilder into)
    {
        foreach (var letter in text)
            into.Append(type.Letters.GetValueOrDefault(letter).ToString("X4", CultureInfo.InvariantCulture));
    }

    /// <summary>
    /// Its objects, one after the other, from <see cref="First"/>: a composite font whose letters are glyph numbers
    /// (ISO 32000-1, 9.7), with the way back to text (9.10.3). One that is cut says so by six letters before its name
    /// (9.6.4).
    /// </summary>
    /// <param name="letters">The letters that are shown.</param>
    public IEnumerable<byte[]> Written(IEnumerable<char> letters)
    {
        var shown = letters
            .Where(type.Letters.ContainsKey)
            .GroupBy(l => type.Letters[l])
            .Select(g => (Glyph: g.Key, Letter: g.Min()))
            .OrderBy(g => g.Glyph)
            .ToList();
        var file = type.ForPdf(shown.Select(s => s.Glyph));
        var cut = $"{Tag(file)}+{name}";
        var box = string.Join(' ', type.Box);
        // Nonsymbolic, and heavy where it is.
        var flags = 32 + (type.Weight >= 600 ? 1 << 18 : 0);
        var wide = string.Join(' ', shown.Select(s => $"{s.Glyph} [{type.Widths[s.Glyph]}]"));
        yield return PdfBytes.Object(
            $"<< /Type /Font /Subtype /Type0 /BaseFont /{cut} /Encoding /Identity-H "
                + $"/DescendantFonts [{First + 1} 0 R] /ToUnicode {First + 4} 0 R >>"
        );
        yield return PdfBytes.Object(
            $"<< /Type /Font /Subtype /CIDFontType2 /BaseFont /{cut} /CIDSystemInfo << /Registry (Adobe) "
                + $"/Ordering (Identity) /Supplement 0 >> /FontDescriptor {First + 2} 0 R /CIDToGIDMap /Identity "
                + $"/DW {type.Widths[0]} /W [{wide}] >>"
        );
        yield return PdfBytes.Object(
            $"<< /Type /FontDescriptor /FontName /{cut} /Flags {flags} /FontBBox [{box}] /ItalicAngle 0 "
                + $"/Ascent {type.Ascent} /Descent {type.Descent} /CapHeight {type.CapHeight} "
                + $"/StemV {(type.Weight >= 600 ? 140 : 80)} /FontFile2 {First + 3} 0 R >>"
        );
        yield return PdfBytes.Stream($"/Length1 {file.Length} ", file, CompressionLevel.Optimal);
        yield return PdfBytes.Stream("", Encoding.Latin1.GetBytes(ToUnicode(shown)));
    }

    private static string Tag(byte[] file) =>
        string.Concat(SHA256.HashData(file).Take(6).Select(b => (char)('A' + (b % 26))));

    private static string ToUnicode(IReadOnlyList<(ushort Glyph, char Letter)> shown)
    {
        var text = new StringBuilder(
            "/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n/CIDSystemInfo << /Registry (Adobe) "
                + "/Ordering (UCS) /Supplement 0 >> def\n/CMapName /Adobe-Identity-UCS def\n/CMapType 2 def\n"
                + "1 begincodespacerange\n<0000> <FFFF>\nendcodespacerange\n"
        );
        foreach (var part in shown.Chunk(100))
        {
            text.Append(CultureInfo.InvariantCulture, $"{part.Length} beginbfchar\n");
            foreach (var (glyph, letter) in part)
                text.Append(CultureInfo.InvariantCulture, $"<{glyph:X4}> <{(int)letter:X4}>\n");
            text.Append("endbfchar\n");
        }

        return text.Append("endcmap\nCMapName currentdict /CMap defineresource pop\nend\nend").ToString();
    }
}
