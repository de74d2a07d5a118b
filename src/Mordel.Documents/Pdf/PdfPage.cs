using System.Globalization;
using System.Text;
using static Mordel.Documents.Pdf.PdfBytes;

namespace Mordel.Documents.Pdf;

/// <summary>A page that is written. Measures are points from its upper left corner.</summary>
internal sealed class PdfPage(double width, double height)
{
    private readonly StringBuilder content = new(8192);

    /// <summary>Its size.</summary>
    public double Width => width;

    /// <inheritdoc cref="Width"/>
    public double Height => height;

    /// <summary>The number of its object.</summary>
    public int Number { get; set; }

    /// <summary>The element of each mark, by the mark's number.</summary>
    public List<PdfElement> Marks { get; } = [];

    /// <summary>The letters that it shows, by their typeface.</summary>
    public Dictionary<PdfFont, HashSet<char>> Letters { get; } = [];

    /// <summary>The pictures that it shows, by the name that its content gives them.</summary>
    public Dictionary<string, PdfPicture> Pictures { get; } = [];

    /// <summary>What was written.</summary>
    public string Content => content.ToString();

    /// <summary>What follows is this element's.</summary>
    public void Begin(PdfElement element)
    {
        content.Append(CultureInfo.InvariantCulture, $"/{element.Kind} <</MCID {Marks.Count}>> BDC\n");
        element.Holds.Add((null, this, Marks.Count));
        Marks.Add(element);
    }

    /// <summary>What follows is for the eye alone.</summary>
    public void BeginArtifact() => content.Append("/Artifact BMC\n");

    /// <summary>Ends what was begun.</summary>
    public void End() => content.Append("EMC\n");

    /// <summary>A line of text; <paramref name="y"/> is its base line.</summary>
    public void Write(string text, double x, double y, double size, PdfFont font, (byte R, byte G, byte B) colour)
    {
        content
            .Append(CultureInfo.InvariantCulture, $"BT /F{font.First} {Points(size)} Tf {Colour(colour)} rg ")
            .Append(CultureInfo.InvariantCulture, $"{Points(x)} {Points(height - y)} Td <");
        font.Glyphs(text, content);
        if (!Letters.TryGetValue(font, out var shown))
            Letters[font] = shown = [];
        shown.UnionWith(text);
        content.Append("> Tj ET\n");
    }

    /// <summary>A row of points joined by lines.</summary>
    public void Line(IReadOnlyList<(double X, double Y)> points, double weight, (byte R, byte G, byte B) colour)
    {
        if (points.Count < 2)
            return;
        content.Append(CultureInfo.InvariantCulture, $"{Points(weight)} w {Colour(colour)} RG ");
        for (var i = 0; i < points.Count; i++)
            content
                .Append(CultureInfo.InvariantCulture, $"{Points(points[i].X)} {Points(height - points[i].Y)} ")
                .Append(i == 0 ? "m " : "l ");
        content.Append("S\n");
    }

    /// <summary>Filled rectangles, as x, y, width and height.</summary>
    public void Fill(
        IEnumerable<(double X, double Y, double Width, double Height)> areas,
        (byte R, byte G, byte B) colour
    )
    {
        content.Append(CultureInfo.InvariantCulture, $"{Colour(colour)} rg\n");
        foreach (var (x, y, w, h) in areas)
            content.Append(
                CultureInfo.InvariantCulture,
                $"{Exact(x)} {Exact(height - y - h)} {Exact(w)} {Exact(h)} re\n"
            );
        content.Append("f\n");
    }

    /// <summary>A picture in a rectangle.</summary>
    public void Picture(PdfPicture picture, double x, double y, double wide, double high)
    {
        var name = $"P{Pictures.Count + 1}";
        Pictures[name] = picture;
        content
            .Append(CultureInfo.InvariantCulture, $"q {Points(wide)} 0 0 {Points(high)} {Points(x)} ")
            .Append(CultureInfo.InvariantCulture, $"{Points(height - y - high)} cm /{name} Do Q\n");
    }

    // The squares of a code must not leave seams.
    private static string Exact(double points) => points.ToString("0.####", CultureInfo.InvariantCulture);

    private static string Colour((byte R, byte G, byte B) c) =>
        string.Create(CultureInfo.InvariantCulture, $"{c.R / 255.0:0.###} {c.G / 255.0:0.###} {c.B / 255.0:0.###}");
}
