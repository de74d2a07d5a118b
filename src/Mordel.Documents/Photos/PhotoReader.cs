using Mordel.Core.Outside;
using SkiaSharp;

namespace Mordel.Documents.Photos;

/// <summary>
/// Makes pictures anew with a common imaging library: only pixels cross from the file that was sent to the one that is
/// kept.
/// </summary>
public sealed class PhotoReader : IPhotoReader
{
    private const int SmallEdge = 320,
        Quality = 82,
        LeastEdge = 16;

    // What a phone's camera makes at most; a small file may claim to be far larger.
    private const long MostPixels = 60_000_000;

    /// <inheritdoc/>
    public KeptPhoto? Read(ReadOnlyMemory<byte> file, out string? why)
    {
        if (file.Length > IPhotoReader.LargestFile)
        {
            why = $"The picture is larger than {IPhotoReader.LargestFile / 1024 / 1024} MB. Take it at a smaller size.";
            return null;
        }

        using var data = SKData.CreateCopy(file.Span);
        using var codec = file.Length == 0 ? null : SKCodec.Create(data);
        why = WhyNot(codec);
        if (why is not null)
            return null;
        using var decoded = Decode(codec!);
        if (decoded is null)
        {
            why = "The picture is damaged: it begins well and cannot be read to its end. Take it again.";
            return null;
        }

        using var upright = Upright(decoded, codec!.EncodedOrigin);
        return new(Jpeg(upright, IPhotoReader.LongEdge), Jpeg(upright, SmallEdge));
    }

    private static string? WhyNot(SKCodec? codec) =>
        codec is null
        || codec.EncodedFormat
            is not (SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Png or SKEncodedImageFormat.Webp)
            ? "This is no picture that can be kept here. Take a photo, or choose a JPEG, PNG or WebP file."
        : codec.FrameCount > 1 ? "This picture moves. Choose one that stands still."
        : (long)codec.Info.Width * codec.Info.Height > MostPixels
            ? "The picture has more pixels than any camera makes. Take it at a smaller size."
        : Math.Min(codec.Info.Width, codec.Info.Height) < LeastEdge ? "The picture is too small to show anything."
        : null;

    private static SKBitmap? Decode(SKCodec codec)
    {
        var bitmap = new SKBitmap(
            new SKImageInfo(codec.Info.Width, codec.Info.Height, SKColorType.Rgba8888, SKAlphaType.Premul)
        );
        if (codec.GetPixels(bitmap.Info, bitmap.GetPixels()) == SKCodecResult.Success)
            return bitmap;
        bitmap.Dispose();
        return null;
    }

    // A phone writes how it was held beside the pixels; that is left behind, so that the pixels are turned.
    private static SKBitmap Upright(SKBitmap bitmap, SKEncodedOrigin origin)
    {
        var turned =
            origin
            is SKEncodedOrigin.LeftTop
                or SKEncodedOrigin.RightTop
                or SKEncodedOrigin.RightBottom
                or SKEncodedOrigin.LeftBottom;
        var (w, h) = (bitmap.Width, bitmap.Height);
        var upright = new SKBitmap(
            new SKImageInfo(turned ? h : w, turned ? w : h, SKColorType.Rgba8888, SKAlphaType.Premul)
        );
        using var canvas = new SKCanvas(upright);
        canvas.Clear(SKColors.White);
        canvas.SetMatrix(
            origin switch
            {
                SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, w, 0, 1, 0, 0, 0, 1),
                SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, w, 0, -1, h, 0, 0, 1),
                SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, h, 0, 0, 1),
                SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
                SKEncodedOrigin.RightTop => new SKMatrix(0, -1, h, 1, 0, 0, 0, 0, 1),
                SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, h, -1, 0, w, 0, 0, 1),
                SKEncodedOrigin.LeftBottom => new SKMatrix(0, 1, 0, -1, 0, w, 0, 0, 1),
                _ => SKMatrix.Identity,
            }
        );
        canvas.DrawBitmap(bitmap, 0, 0);
        return upright;
    }

    private static byte[] Jpeg(SKBitmap bitmap, int longEdge)
    {
        var scale = Math.Min(1.0, (double)longEdge / Math.Max(bitmap.Width, bitmap.Height));
        var (w, h) = (
            Math.Max(1, (int)Math.Round(bitmap.Width * scale)),
            Math.Max(1, (int)Math.Round(bitmap.Height * scale))
        );
        using var small = bitmap.Resize(
            new SKImageInfo(w, h, SKColorType.Rgba8888, SKAlphaType.Premul),
            new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear)
        );
        using var data = small.Encode(SKEncodedImageFormat.Jpeg, Quality);
        return data.ToArray();
    }
}
