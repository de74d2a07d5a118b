using System.Buffers.Binary;
using System.Text;

namespace Mordel.Documents.Pdf;

/// <summary>
/// The colour profile that PDF/A wants beside colours in red, green and blue: IEC 61966-2-1 written down as an ICC
/// profile (ICC.1:2001-04), its primaries adapted to D50.
/// </summary>
internal static class SrgbProfile
{
    private const int Steps = 1024,
        Head = 128;

    /// <summary>The profile as it stands in each file.</summary>
    public static byte[] Written { get; } =
        PdfBytes.Stream("/N 3 ", Bytes(), System.IO.Compression.CompressionLevel.SmallestSize);

    /// <summary>The profile.</summary>
    public static byte[] Bytes()
    {
        (string Name, byte[] Data)[] tags =
        [
            ("desc", Description("sRGB")),
            ("cprt", [.. Tagged("text"), .. "No rights reserved\0"u8]),
            ("wtpt", Point(0.9505, 1, 1.0891)),
            ("rXYZ", Point(0.4360, 0.2225, 0.0139)),
            ("gXYZ", Point(0.3851, 0.7169, 0.0971)),
            ("bXYZ", Point(0.1431, 0.0606, 0.7141)),
            ("rTRC", Curve()),
        ];
        var at = Head + 4 + (12 * (tags.Length + 2));
        var list = new List<byte>(Number(tags.Length + 2));
        var data = new List<byte>();
        foreach (var (name, bytes) in tags)
        {
            // Green and blue go by the curve of red.
            foreach (var n in name == "rTRC" ? ["rTRC", "gTRC", "bTRC"] : new[] { name })
                list.AddRange([.. Encoding.Latin1.GetBytes(n), .. Number(at + data.Count), .. Number(bytes.Length)]);
            data.AddRange(bytes);
            data.AddRange(new byte[-data.Count & 3]);
        }

        var head = new byte[Head];
        Number(Head + list.Count + data.Count).CopyTo(head, 0);
        Number(0x02100000).CopyTo(head, 8);
        Encoding.Latin1.GetBytes("mntrRGB XYZ ").CopyTo(head, 12);
        // 1 January 2026; the same whenever it is written.
        new byte[] { 0x07, 0xEA, 0, 1, 0, 1 }.CopyTo(head, 24);
        "acsp"u8.CopyTo(head.AsSpan(36));
        Point(0.9642, 1, 0.8249).AsSpan(8).CopyTo(head.AsSpan(68));
        return [.. head, .. list, .. data];
    }

    private static byte[] Tagged(string kind) => [.. Encoding.Latin1.GetBytes(kind), 0, 0, 0, 0];

    private static byte[] Number(int value)
    {
        var bytes = new byte[4];
        BinaryPrimitives.WriteInt32BigEndian(bytes, value);
        return bytes;
    }

    private static byte[] Point(double x, double y, double z) =>
        [.. Tagged("XYZ "), .. new[] { x, y, z }.SelectMany(v => Number((int)Math.Round(v * 65536)))];

    private static byte[] Description(string text)
    {
        // The text, then no text in Unicode and none in the script of an early system.
        byte[] said = [.. Encoding.Latin1.GetBytes(text), 0];
        return [.. Tagged("desc"), .. Number(said.Length), .. said, .. new byte[4 + 4 + 2 + 1 + 67]];
    }

    private static byte[] Curve() =>
        [
            .. Tagged("curv"),
            .. Number(Steps),
            .. Enumerable
                .Range(0, Steps)
                .Select(i => i / (Steps - 1.0))
                .Select(v => v <= 0.04045 ? v / 12.92 : Math.Pow((v + 0.055) / 1.055, 2.4))
                .Select(v => (int)Math.Round(v * 65535))
                .SelectMany(v => new[] { (byte)(v >> 8), (byte)v }),
        ];
}
