using System.Globalization;
using System.Security;
using System.Security.Cryptography;
using System.Text;

namespace Mordel.Documents.Pdf;

/// <summary>
/// A PDF that still can be read when its maker is forgotten, and by those who hear it: PDF/A-3, level A (ISO 19005-3),
/// with its typefaces and colours inside, its parts named, and files attached. The same content gives the same bytes.
/// </summary>
internal sealed class PdfDocument
{
    // The first objects are the two typefaces and the colours.
    private const int Colours = 1 + (2 * PdfFont.Objects),
        Catalogue = Colours + 1,
        Pages = Colours + 2,
        Info = Colours + 3,
        Metadata = Colours + 4,
        Structure = Colours + 5;

    private const char ByteOrder = '\uFEFF';

    private readonly List<PdfPage> pages = [];
    private readonly List<byte[]?> objects = [.. new byte[]?[Structure]];

    /// <summary>Title, author, subject; empty where there is none.</summary>
    public string Title { get; init; } = "";

    /// <inheritdoc cref="Title"/>
    public string Author { get; init; } = "";

    /// <inheritdoc cref="Title"/>
    public string Subject { get; init; } = "";

    /// <summary>A file that goes inside: its name, what it is, its content in JSON.</summary>
    public (string Name, string Says, string Json)? Attached { get; init; }

    /// <summary>All that is read, in its order.</summary>
    public PdfElement Root { get; } = new("Document");

    /// <summary>A further page, in points.</summary>
    public PdfPage AddPage(double width, double height)
    {
        pages.Add(new(width, height));
        return pages[^1];
    }

    /// <summary>The file.</summary>
    public byte[] Build()
    {
        foreach (var font in new[] { PdfFont.Regular, PdfFont.Strong })
        foreach (
            var (i, body) in font.Written(pages.SelectMany(p => p.Letters.GetValueOrDefault(font, [])).Distinct())
                .Index()
        )
            Set(font.First + i, body);
        Set(Colours, SrgbProfile.Written);
        foreach (var page in pages)
            page.Number = Add(null);
        foreach (var (i, page) in pages.Index())
            Set(page.Number, PdfBytes.Object(Page(page, i)));
        WriteElement(Root, Structure);
        WriteRoots();
        return Written();
    }

    private int Add(byte[]? body)
    {
        objects.Add(body);
        return objects.Count;
    }

    private void Set(int number, byte[] body) => objects[number - 1] = body;

    private string Page(PdfPage page, int index)
    {
        var content = Add(PdfBytes.Stream("", Encoding.Latin1.GetBytes(page.Content)));
        var pictures = string.Concat(page.Pictures.Select(p => $"/{p.Key} {Add(Picture(p.Value))} 0 R "));
        return $"<< /Type /Page /Parent {Pages} 0 R /MediaBox [0 0 {PdfBytes.Points(page.Width)} "
            + $"{PdfBytes.Points(page.Height)}] /Contents {content} 0 R /StructParents {index} /Tabs /S /Resources << "
            + $"/Font << /F{PdfFont.Regular.First} {PdfFont.Regular.First} 0 R "
            + $"/F{PdfFont.Strong.First} {PdfFont.Strong.First} 0 R >>"
            + (pictures.Length > 0 ? $" /XObject << {pictures}>>" : "")
            + " >> >>";
    }

    private static byte[] Picture(PdfPicture picture) =>
        PdfBytes.Whole(
            $"/Type /XObject /Subtype /Image /Width {picture.Width} /Height {picture.Height} /BitsPerComponent 8 "
                + $"/ColorSpace /Device{(picture.Colours == 1 ? "Gray" : "RGB")} /Filter /DCTDecode ",
            picture.Jpeg
        );

    private void WriteElement(PdfElement element, int parent)
    {
        element.Number = Add(null);
        foreach (var (inner, _, _) in element.Holds)
            if (inner is not null)
                WriteElement(inner, element.Number);
        var holds = string.Join(
            ' ',
            element.Holds.Select(h =>
                h.Element is { } inner
                    ? $"{inner.Number} 0 R"
                    : $"<</Type /MCR /Pg {h.Page!.Number} 0 R /MCID {h.Mark}>>"
            )
        );
        var scope = element.Kind == "TH" ? " /A <</O /Table /Scope /Column>>" : "";
        var shows = element.Shows is { } said ? $" /Alt {PdfBytes.Text(said)}" : "";
        Set(
            element.Number,
            PdfBytes.Object($"<</Type /StructElem /S /{element.Kind} /P {parent} 0 R /K [{holds}]{shows}{scope}>>")
        );
    }

    private void WriteRoots()
    {
        var marks = string.Join(
            ' ',
            pages.Select((p, i) => $"{i} [{string.Join(' ', p.Marks.Select(m => $"{m.Number} 0 R"))}]")
        );
        Set(
            Structure,
            PdfBytes.Object(
                $"<< /Type /StructTreeRoot /K [{Root.Number} 0 R] /ParentTree << /Nums [{marks}] >> "
                    + $"/ParentTreeNextKey {pages.Count} >>"
            )
        );
        Set(
            Pages,
            PdfBytes.Object(
                $"<< /Type /Pages /Count {pages.Count} "
                    + $"/Kids [{string.Join(' ', pages.Select(p => $"{p.Number} 0 R"))}] >>"
            )
        );
        Set(
            Info,
            PdfBytes.Object(
                $"<< /Title {PdfBytes.Text(Title)} "
                    + (Author.Length > 0 ? $"/Author {PdfBytes.Text(Author)} " : "")
                    + (Subject.Length > 0 ? $"/Subject {PdfBytes.Text(Subject)} " : "")
                    + "/Producer (Mordel) >>"
            )
        );
        Set(Metadata, PdfBytes.Whole("/Type /Metadata /Subtype /XML ", Encoding.UTF8.GetBytes(Xmp())));
        Set(
            Catalogue,
            PdfBytes.Object(
                $"<< /Type /Catalog /Pages {Pages} 0 R /Metadata {Metadata} 0 R /Lang (en) "
                    + $"/MarkInfo << /Marked true >> /StructTreeRoot {Structure} 0 R "
                    + "/ViewerPreferences << /DisplayDocTitle true >> /OutputIntents [<< /Type /OutputIntent "
                    + "/S /GTS_PDFA1 /OutputConditionIdentifier (sRGB IEC61966-2.1) /Info (sRGB IEC61966-2.1) "
                    + $"/DestOutputProfile {Colours} 0 R >>]{Attachment()} >>"
            )
        );
    }

    private string Attachment()
    {
        if (Attached is not var (name, says, json))
            return "";
        var bytes = Encoding.UTF8.GetBytes(json);
        var file = Add(
            PdfBytes.Stream(
                $"/Type /EmbeddedFile /Subtype /application#2Fjson /Params << /Size {bytes.Length} >> ",
                bytes
            )
        );
        var text = PdfBytes.Text(name);
        var spec = Add(
            PdfBytes.Object(
                $"<< /Type /Filespec /F {text} /UF {text} /Desc {PdfBytes.Text(says)} /AFRelationship /Data "
                    + $"/EF << /F {file} 0 R /UF {file} 0 R >> >>"
            )
        );
        return $" /AF [{spec} 0 R] /Names << /EmbeddedFiles << /Names [{text} {spec} 0 R] >> >>";
    }

    // Extensible metadata: what the entries for people say, and which standard the file keeps.
    private string Xmp() =>
        $"""
            <?xpacket begin="{ByteOrder}" id="W5M0MpCehiHzreSzNTczkc9d"?>
            <x:xmpmeta xmlns:x="adobe:ns:meta/">
            <rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
            <rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/"
              xmlns:pdf="http://ns.adobe.com/pdf/1.3/" xmlns:pdfaid="http://www.aiim.org/pdfa/ns/id/">
            <pdfaid:part>3</pdfaid:part><pdfaid:conformance>A</pdfaid:conformance>
            <pdf:Producer>Mordel</pdf:Producer>
            {About("title", "Alt", " xml:lang=\"x-default\"", Title)}
            {About("creator", "Seq", "", Author)}
            {About("description", "Alt", " xml:lang=\"x-default\"", Subject)}
            </rdf:Description></rdf:RDF></x:xmpmeta>
            <?xpacket end="w"?>
            """;

    private static string About(string what, string list, string language, string text)
    {
        if (text.Length == 0)
            return "";
        var said = SecurityElement.Escape(string.Concat(text.Select(c => char.IsControl(c) ? ' ' : c)));
        return $"<dc:{what}><rdf:{list}><rdf:li{language}>{said}</rdf:li></rdf:{list}></dc:{what}>";
    }

    private byte[] Written()
    {
        using var file = new MemoryStream(96 * 1024);
        // Four bytes beyond ASCII say that the file is not text.
        file.Write([.. "%PDF-1.7\n%"u8, 0xE2, 0xE3, 0xCF, 0xD3, (byte)'\n']);
        var table = new StringBuilder();
        table.Append(CultureInfo.InvariantCulture, $"xref\n0 {objects.Count + 1}\n0000000000 65535 f \n");
        foreach (var (i, body) in objects.Index())
        {
            table.Append(CultureInfo.InvariantCulture, $"{file.Length:D10} 00000 n \n");
            file.Write(Encoding.Latin1.GetBytes(string.Create(CultureInfo.InvariantCulture, $"{i + 1} 0 obj\n")));
            file.Write(body!);
            file.Write("\nendobj\n"u8);
        }

        var start = file.Length;
        // A file is named by its content.
        var id = Convert.ToHexString(SHA256.HashData(file.GetBuffer().AsSpan(0, (int)start)))[..32];
        table.Append(
            CultureInfo.InvariantCulture,
            $"trailer\n<< /Size {objects.Count + 1} /Root {Catalogue} 0 R /Info {Info} 0 R /ID [<{id}> <{id}>] >>\n"
                + $"startxref\n{start}\n%%EOF\n"
        );
        file.Write(Encoding.Latin1.GetBytes(table.ToString()));
        return file.ToArray();
    }
}
