using Mordel.Documents.Pdf;

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

    private readonly PdfDocument document;
    private readonly List<PdfPage> pages = [];
    private readonly Stack<PdfElement> inside = [];
    private readonly string running;
    private readonly (double Width, double Height) size;

    /// <summary>A sheet of a document.</summary>
    /// <param name="document">The document.</param>
    /// <param name="running">What stands at the foot of each page, beside its number.</param>
    /// <param name="size">The size of its pages; null for A4.</param>
    public PdfSheet(PdfDocument document, string running, (double Width, double Height)? size = null)
    {
        (this.document, this.running, this.size) = (document, running, size ?? (595, 842));
        inside.Push(document.Root);
        NextPage();
    }

    /// <summary>Where the next line goes, from the top of the page.</summary>
    public double Y { get; set; }

    /// <summary>The number of the page at hand, from 1.</summary>
    public int Page => pages.Count;

    private PdfPage Here => pages[^1];

    /// <summary>Goes on to the next page.</summary>
    public void NextPage()
    {
        pages.Add(document.AddPage(size.Width, size.Height));
        Y = Top;
    }

    /// <summary>What is set until its end belongs to one part: a paragraph, a table, its row, its cell.</summary>
    public IDisposable In(string kind) => new Part(this, kind);

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
        Here.BeginArtifact();
        Here.Line([(Left, Y), (Right, Y)], weight, Pale);
        Here.End();
        Y += 8;
    }

    /// <summary>Strokes of a pen.</summary>
    /// <param name="strokes">Each a row of points.</param>
    /// <param name="shows">What they show, in words.</param>
    public void Strokes(IEnumerable<IReadOnlyList<(double X, double Y)>> strokes, string shows)
    {
        Figure(shows);
        foreach (var stroke in strokes)
            Here.Line(stroke, 1.1, Ink);
        Here.End();
    }

    /// <summary>A JPEG inside a box, as large as it fits, its proportions kept.</summary>
    public void Picture(byte[] jpeg, double x, double y, double width, double height, string shows)
    {
        var picture = PdfPicture.Of(jpeg);
        var scale = Math.Min(width / picture.Width, height / picture.Height);
        Figure(shows);
        Here.Picture(picture, x, y, picture.Width * scale, picture.Height * scale);
        Here.End();
    }

    /// <summary>A QR code in a square; its quiet margin is inside.</summary>
    public void Code(QrPattern code, double x, double y, double side, string shows)
    {
        var module = side / code.Size;
        Figure(shows);
        Here.Fill(code.Stripes.Select(s => (x + (s.X * module), y + (s.Y * module), s.Length * module, module)), Ink);
        Here.End();
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
        PdfPage page,
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
        using var alone = inside.Count == 1 ? In("P") : null;
        page.Begin(inside.Peek());
        page.Write(drawable, x, y + (size * Ascent), size, Font(bold), colour);
        page.End();
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
        using var alone = inside.Count == 1 ? In("P") : null;
        foreach (var line in Wrap(Drawable(text), size, bold, width))
        {
            Need(size * LineHeight);
            Text(line, x, size, bold, colour);
            Y += size * LineHeight;
        }
    }

    /// <summary>As much of a text as has room in one line.</summary>
    public static string Cut(string text, double size, bool bold, double room)
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
    public static double Height(string text, double size, double width) =>
        Wrap(Drawable(text), size, false, width).Count * size * LineHeight;

    /// <summary>Puts a number at the foot of each page, where there is more than one.</summary>
    public void NumberPages()
    {
        if (pages.Count < 2)
            return;
        foreach (var (i, page) in pages.Index())
        {
            var number = $"page {i + 1} of {pages.Count}";
            page.BeginArtifact();
            page.Write(Drawable(running), Left, Foot + 16, 7.5, Font(false), Soft);
            page.Write(number, Right - Width(number, 7.5, false), Foot + 16, 7.5, Font(false), Soft);
            page.End();
        }
    }

    private void Figure(string shows)
    {
        var figure = new PdfElement("Figure", shows);
        inside.Peek().Holds.Add((figure, null, 0));
        Here.Begin(figure);
    }

    private static PdfFont Font(bool bold) => bold ? PdfFont.Strong : PdfFont.Regular;

    private static double Width(ReadOnlySpan<char> text, double size, bool bold) => Font(bold).Width(text) * size / Em;

    // A letter that the shipped typeface has not is shown as a question mark rather than losing the report.
    private static string Drawable(string text) =>
        text.All(Has)
            ? text
            : string.Concat(
                text.Select(c =>
                    Has(c) ? c
                    : char.IsWhiteSpace(c) ? ' '
                    : '?'
                )
            );

    private static bool Has(char letter) => PdfFont.Regular.Has(letter) && PdfFont.Strong.Has(letter);

    private static List<string> Wrap(string text, double size, bool bold, double width)
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
    private static IEnumerable<string> Fitting(string word, double size, bool bold, double width)
    {
        while (Width(word, size, bold) > width)
        {
            var most = 1;
            while (most < word.Length && Width(word.AsSpan(0, most + 1), size, bold) <= width)
                most++;
            yield return word[..most];
            word = word[most..];
        }

        if (word.Length > 0)
            yield return word;
    }

    private sealed class Part : IDisposable
    {
        private readonly PdfSheet sheet;

        public Part(PdfSheet sheet, string kind)
        {
            this.sheet = sheet;
            var element = new PdfElement(kind);
            sheet.inside.Peek().Holds.Add((element, null, 0));
            sheet.inside.Push(element);
        }

        public void Dispose() => sheet.inside.Pop();
    }
}
