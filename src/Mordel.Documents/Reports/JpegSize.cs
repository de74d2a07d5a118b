using SkiaSharp;

namespace Mordel.Documents.Reports;

/// <summary>How large a picture is, from its head.</summary>
internal static class JpegSize
{
    /// <summary>Width and height in pixels.</summary>
    /// <exception cref="InvalidDataException">It is no picture.</exception>
    public static (int Width, int Height) Of(byte[] jpeg)
    {
        using var data = SKData.CreateCopy(jpeg);
        using var codec = SKCodec.Create(data)
            ?? throw new InvalidDataException("What was to be set as a picture is none.");
        return (codec.Info.Width, codec.Info.Height);
    }
}
