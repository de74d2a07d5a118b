using System.Collections.Concurrent;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Writer;

namespace Mordel.Documents.Reports;

/// <summary>
/// Sets text and lines from top to bottom on pages of A4; goes on to a further page where one is full. Measures are
/// points.
/// </summary>
internal sealed class PdfSheet
{
    /// <summary>The margins, and where the foot of a page begins.</summary>
    public const double Left = 48,
        Right = 547,
        Foot = 806;

    private const double Top = 44,
        Ascent = 0.8,
        LineHeight = 1.3,
        Em = 1000;

    /// <summary>The colours: ink, soft ink, rules.</summary>
    public static readonly (byte R, byte G, byte B) Ink = (0x1B, 0x21, 0x1F),
        Soft = (0x55, 0x5C, 0x58),
        Pale = (0xB9, 0xB4, 0xA4);

    private static readonly byte[] RegularFont = Font("AtkinsonHyperlegible_400Regular.ttf"),
        StrongFont = Font("AtkinsonHyperlegible_700Bold.ttf");

    // Widths in thousandths of the size; a letter that the typeface has not is negative.
    private static readonly ConcurrentDictionary<(char Letter, bool Strong), double> Widths = new();

    private readonly PdfDocumentBuilder document;
    private readonly PdfDocumentBuilder.AddedFont regular,
        strong;
    private readonly List<PdfPageBuilder> pages = [];
    private readonly string running;
    private readonly (double Width, double Height)? size;

    /// <summary>A sheet of a document.</summary>
    /// <param name="document">The document.</param>
    /// <param name="running">What stands at the foot of each page, beside its number.</param>
    /// <param name="size">The size of its pages; null for A4.</param>
    public PdfSheet(PdfDocumentBuilder document, string running, (double Width, double Height)? size = null)
    {
        (this.document, this.running, this.size) = (document, running, size);
        regular = document.AddTrueTypeFont(RegularFont);
        strong = document.AddTrueTypeFont(StrongFont);
        NextPage();
    }

    /// <summary>Where the next line goes, from the top of the page.</summary>
    public double Y { get; set; }

    /// <summary>The number of the page at hand, from 1.</summary>
    public int Page => pages.Count;

    private PdfPageBuilder Here => pages[^1];

    private double Height_ => size?.Height ?? 842;

    /// <summary>Goes on to the next page.</summary>
    public void NextPage()
    {
        pages.Add(size is var (width, height) ? document.AddPage(width, height) : document.AddPage(PageSize.A4));
        Y = Top;
    }

    /// <summary>Leaves room.</summary>
    public void Space(double by) => Y += by;

    /// <summary>Goes on to the next page unless there is room for so much.</summary>
    public void Need(double room)
    {
        if (Y + room > Foot)
            NextPage();
    }

    /// <summary>Goes down to where so much is left of the page, or to the next one when less is left.</summary>
    public void ToTheFoot(double room)
    {
        Need(room);
        Y = Math.Max(Y, Foot - room);
    }

    /// <summary>A line across the page.</summary>
    public void Rule(double weight)
    {
        Need(8);
        Line(Left, Y, Right, Y, weight, Pale);
        Y += 8;
    }

    /// <summary>A line.</summary>
    public void Line(double x1, double y1, double x2, double y2, double weight, (byte R, byte G, byte B) colour)
    {
        Here.SetStrokeColor(colour.R, colour.G, colour.B);
        Here.DrawLine(new PdfPoint(x1, Height_ - y1), new PdfPoint(x2, Height_ - y2), weight);
    }

    /// <summary>A JPEG inside a box, as large as it fits, its proportions kept.</summary>
    public void Picture(byte[] jpeg, double x, double y, double width, double height)
    {
        var (w, h) = JpegSize.Of(jpeg);
        var scale = Math.Min(width / w, height / h);
        Here.AddJpeg(jpeg, new PdfRectangle(x, Height_ - y - (h * scale), x + (w * scale), Height_ - y));
    }

    /// <summary>A QR code in a square; its quiet margin is inside.</summary>
    public void Code(QrPattern code, double x, double y, double side)
    {
        var module = side / code.Size;
        Here.SetTextAndFillColor(Ink.R, Ink.G, Ink.B);
        Here.SetStrokeColor(Ink.R, Ink.G, Ink.B);
        foreach (var stripe in code.Stripes)
            Here.DrawRectangle(
                new PdfPoint(x + (stripe.X * module), Height_ - y - ((stripe.Y + 1) * module)),
                stripe.Length * module,
                module,
                0,
                fill: true
            );
    }

    /// <summary>A line of text at the height at hand; it does not wrap.</summary>
    public void Text(
        string text,
        double x,
        double size,
        bool bold,
        (byte R, byte G, byte B) colour,
        bool toTheRight = false
    )
    {
        var drawable = Drawable(text);
        TextAt(drawable, toTheRight ? x - Width(drawable, size, bold) : x, Y, size, bold, colour);
    }

    /// <summary>A line of text at a height of its own.</summary>
    public void TextAt(string text, double x, double y, double size, bool bold, (byte R, byte G, byte B) colour) =>
        TextOn(Here, text, x, y, size, bold, colour);

    private void TextOn(
        PdfPageBuilder page,
        string text,
        double x,
        double y,
        double size,
        bool bold,
        (byte R, byte G, byte B) colour
    )
    {
        var drawable = Drawable(text);
        if (drawable.Length == 0)
            return;
        page.SetTextAndFillColor(colour.R, colour.G, colour.B);
        page.AddText(drawable, size, new PdfPoint(x, Height_ - y - (size * Ascent)), bold ? strong : regular);
    }

    /// <summary>Text that wraps, and goes on to further pages where it must.</summary>
    public void Paragraph(
        string text,
        double size,
        bool bold,
        (byte R, byte G, byte B) colour,
        double x = Left,
        double width = Right - Left
    )
    {
        foreach (var line in Wrap(Drawable(text), size, bold, width))
        {
            Need(size * LineHeight);
            Text(line, x, size, bold, colour);
            Y += size * LineHeight;
        }
    }

    /// <summary>As much of a text as has room in one line.</summary>
    public string Cut(string text, double size, bool bold, double room)
    {
        var drawable = Drawable(text);
        if (Width(drawable, size, bold) <= room)
            return drawable;
        var most = drawable.Length;
        while (most > 1 && Width($"{drawable[..most]}…", size, bold) > room)
            most--;
        return $"{drawable[..most].TrimEnd()}…";
    }

    /// <summary>How high a paragraph will be.</summary>
    public double Height(string text, double size, double width) =>
        Wrap(Drawable(text), size, false, width).Count * size * LineHeight;

    /// <summary>Puts a number at the foot of each page, where there is more than one.</summary>
    public void NumberPages()
    {
        if (pages.Count < 2)
            return;
        for (var i = 0; i < pages.Count; i++)
        {
            TextOn(pages[i], running, Left, Foot + 10, 7.5, false, Soft);
            var number = $"page {i + 1} of {pages.Count}";
            TextOn(pages[i], number, Right - Width(number, 7.5, false), Foot + 10, 7.5, false, Soft);
        }
    }

    private static byte[] Font(string name)
    {
        using var stream = typeof(PdfSheet).Assembly.GetManifestResourceStream(name)
            ?? throw new InvalidOperationException($"The font {name} is not in the assembly.");
        using var copy = new MemoryStream();
        stream.CopyTo(copy);
        return copy.ToArray();
    }

    private double Of(char letter, bool bold) => Widths.GetOrAdd((letter, bold), key =>
        {
            try
            {
                return Here.MeasureText(key.Letter.ToString(), Em, new PdfPoint(0, 0), key.Strong ? strong : regular)[
                    ^1
                ].EndBaseLine.X;
            }
            catch (InvalidOperationException)
            {
                return -1;
            }
        });

    private double Width(string text, double size, bool bold) => text.Sum(c => Of(c, bold)) * size / Em;

    // A letter that the shipped typeface has not is shown as a question mark rather than losing the report.
    private string Drawable(string text) =>
        string.Concat(
            text.Select(c =>
                Of(c, false) >= 0 && Of(c, true) >= 0 ? c
                : char.IsWhiteSpace(c) ? ' '
                : '?'
            )
        );

    private List<string> Wrap(string text, double size, bool bold, double width)
    {
        var lines = new List<string>();
        var line = "";
        foreach (
            var word in text.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .SelectMany(w => Fitting(w, size, bold, width))
        )
        {
            var longer = line.Length == 0 ? word : $"{line} {word}";
            if (line.Length > 0 && Width(longer, size, bold) > width)
            {
                lines.Add(line);
                line = word;
            }
            else
            {
                line = longer;
            }
        }

        lines.Add(line);
        return lines;
    }

    // A word wider than the column is cut where it must be, not lost beyond the edge.
    private IEnumerable<string> Fitting(string word, double size, bool bold, double width)
    {
        while (Width(word, size, bold) > width)
        {
            var most = 1;
            while (most < word.Length && Width(word[..(most + 1)], size, bold) <= width)
                most++;
            yield return word[..most];
            word = word[most..];
        }

        if (word.Length > 0)
            yield return word;
    }
}
