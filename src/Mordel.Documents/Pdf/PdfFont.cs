using System.Globalization;
using System.Text;

namespace Mordel.Documents.Pdf;

/// <summary>
/// A typeface as it stands in every PDF of ours: read, cut and packed once, and the same bytes in each.
/// </summary>
internal sealed class PdfFont
{
    /// <summary>How many objects it takes.</summary>
    public const int Objects = 5;

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
        (First, Written) = (first, Write(name, first));
    }

    /// <summary>The two of ours. They take the first objects of each file.</summary>
    public static PdfFont Regular { get; } = new("AtkinsonHyperlegible_400Regular.ttf", "AtkinsonHyperlegible", 1);

    /// <inheritdoc cref="Regular"/>
    public static PdfFont Strong { get; } =
        new("AtkinsonHyperlegible_700Bold.ttf", "AtkinsonHyperlegible-Bold", 1 + Objects);

    /// <summary>The number of its first object, to which pages refer.</summary>
    public int First { get; }

    /// <summary>Its objects, one after the other, from <see cref="First"/>.</summary>
    public IReadOnlyList<byte[]> Written { get; }

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

    // ISO 32000-1, 9.7: a composite font whose letters are glyph numbers, with the way back to text (9.10.3).
    private List<byte[]> Write(string name, int first)
    {
        var box = string.Join(' ', type.Box);
        // Nonsymbolic, and heavy where it is.
        var flags = 32 + (type.Weight >= 600 ? 1 << 18 : 0);
        return
        [
            PdfBytes.Object(
                $"<< /Type /Font /Subtype /Type0 /BaseFont /{name} /Encoding /Identity-H "
                    + $"/DescendantFonts [{first + 1} 0 R] /ToUnicode {first + 4} 0 R >>"
            ),
            PdfBytes.Object(
                $"<< /Type /Font /Subtype /CIDFontType2 /BaseFont /{name} /CIDSystemInfo << /Registry (Adobe) "
                    + $"/Ordering (Identity) /Supplement 0 >> /FontDescriptor {first + 2} 0 R /CIDToGIDMap /Identity "
                    + $"/DW 0 /W [0 [{string.Join(' ', type.Widths)}]] >>"
            ),
            PdfBytes.Object(
                $"<< /Type /FontDescriptor /FontName /{name} /Flags {flags} /FontBBox [{box}] /ItalicAngle 0 "
                    + $"/Ascent {type.Ascent} /Descent {type.Descent} /CapHeight {type.CapHeight} "
                    + $"/StemV {(type.Weight >= 600 ? 140 : 80)} /FontFile2 {first + 3} 0 R >>"
            ),
            File(type.ForPdf()),
            PdfBytes.Stream("", Encoding.Latin1.GetBytes(ToUnicode())),
        ];

        static byte[] File(byte[] font) => PdfBytes.Stream($"/Length1 {font.Length} ", font, thoroughly: true);
    }

    private string ToUnicode()
    {
        var text = new StringBuilder(
            "/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n/CIDSystemInfo << /Registry (Adobe) "
                + "/Ordering (UCS) /Supplement 0 >> def\n/CMapName /Adobe-Identity-UCS def\n/CMapType 2 def\n"
                + "1 begincodespacerange\n<0000> <FFFF>\nendcodespacerange\n"
        );
        // One letter for each glyph: the first that has it.
        foreach (
            var part in type
                .Letters.OrderBy(l => l.Key)
                .GroupBy(l => l.Value)
                .Select(g => g.First())
                .OrderBy(l => l.Value)
                .Chunk(100)
        )
        {
            text.Append(CultureInfo.InvariantCulture, $"{part.Length} beginbfchar\n");
            foreach (var (letter, glyph) in part)
                text.Append(CultureInfo.InvariantCulture, $"<{glyph:X4}> <{(int)letter:X4}>\n");
            text.Append("endbfchar\n");
        }

        return text.Append("endcmap\nCMapName currentdict /CMap defineresource pop\nend\nend").ToString();
    }
}
