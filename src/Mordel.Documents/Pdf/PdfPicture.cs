namespace Mordel.Documents.Pdf;

/// <summary>A JPEG as it stands in a PDF, unpacked by whoever shows it.</summary>
internal sealed class PdfPicture
{
    private PdfPicture(byte[] jpeg, int width, int height, int colours) =>
        (Jpeg, Width, Height, Colours) = (jpeg, width, height, colours);

    /// <summary>The file.</summary>
    public byte[] Jpeg { get; }

    /// <summary>Its size in pixels.</summary>
    public int Width { get; }

    /// <inheritdoc cref="Width"/>
    public int Height { get; }

    /// <summary>1 for grey, 3 for colours.</summary>
    public int Colours { get; }

    /// <summary>Reads a JPEG's head (ISO 10918-1, B.2.2).</summary>
    /// <exception cref="InvalidDataException">It is no JPEG in grey or in three colours.</exception>
    public static PdfPicture Of(byte[] jpeg)
    {
        ArgumentNullException.ThrowIfNull(jpeg);
        for (var at = 2; at + 9 < jpeg.Length && jpeg[at] == 0xFF; at += 2 + U16(at + 2))
        {
            // A frame begins; C4, C8 and CC are tables.
            if (jpeg[at + 1] is < 0xC0 or > 0xCF or 0xC4 or 0xC8 or 0xCC)
                continue;
            return jpeg[at + 9] is 1 or 3
                ? new(jpeg, U16(at + 7), U16(at + 5), jpeg[at + 9])
                : throw new InvalidDataException($"A picture has {jpeg[at + 9]} colours; grey and three can be set.");
        }

        throw new InvalidDataException("What was to be set as a picture is no JPEG.");

        int U16(int at) => (jpeg[at] << 8) | jpeg[at + 1];
    }
}
