using System.Globalization;
using System.IO.Compression;
using System.Text;

namespace Mordel.Documents.Pdf;

/// <summary>How things are written down in a PDF (ISO 32000-1, 7.3).</summary>
internal static class PdfBytes
{
    /// <summary>The body of an object.</summary>
    public static byte[] Object(string body) => Encoding.Latin1.GetBytes(body);

    /// <summary>A packed stream with the entries of its dictionary.</summary>
    public static byte[] Stream(string entries, byte[] content, CompressionLevel how = CompressionLevel.Fastest)
    {
        using var packed = new MemoryStream();
        using (var zlib = new ZLibStream(packed, how, leaveOpen: true))
            zlib.Write(content);
        return Whole($"{entries}/Filter /FlateDecode ", packed.ToArray());
    }

    /// <summary>A stream as it is.</summary>
    public static byte[] Whole(string entries, byte[] content)
    {
        var head = Encoding.Latin1.GetBytes(
            string.Create(CultureInfo.InvariantCulture, $"<< {entries}/Length {content.Length} >>\nstream\n")
        );
        return [.. head, .. content, .. "\nendstream"u8];
    }

    /// <summary>A text for people: title, author, what a picture shows.</summary>
    public static string Text(string text)
    {
        if (text.All(c => c is >= ' ' and <= '~'))
            return $"({text.Replace(@"\", @"\\").Replace("(", @"\(").Replace(")", @"\)")})";
        return $"<FEFF{Convert.ToHexString(Encoding.BigEndianUnicode.GetBytes(text))}>";
    }

    /// <summary>A measure in points, to a hundredth.</summary>
    public static string Points(double points) => points.ToString("0.##", CultureInfo.InvariantCulture);
}
