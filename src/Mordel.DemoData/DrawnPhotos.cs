using Mordel.Core.Diagnosis;
using SkiaSharp;

namespace Mordel.DemoData;

/// <summary>
/// Pictures of opened checks, drawn: the town's repairs carry pictures, and nothing in them was ever before a camera.
/// </summary>
public static class DrawnPhotos
{
    private const int Width = 960,
        Height = 720;

    /// <summary>A seal disc on a cloth, with what was found on it, as JPEG.</summary>
    public static byte[] Disc(OpenedFinding found, int seed)
    {
        var chance = new SeededChance(seed);
        using var bitmap = new SKBitmap(new SKImageInfo(Width, Height, SKColorType.Rgba8888, SKAlphaType.Premul));
        using var canvas = new SKCanvas(bitmap);
        Cloth(canvas, chance);
        var (x, y, radius) = (470f + chance.Next(-30, 30), 360f + chance.Next(-20, 20), 230f);
        Circle(canvas, x + 10, y + 14, radius, new SKColor(0, 0, 0, 70));
        Circle(canvas, x, y, radius, new SKColor(0x2A, 0x2C, 0x2B));
        // The ring that the seat has pressed into the rubber.
        Ring(canvas, x, y, radius * 0.72f, found == OpenedFinding.DiscWorn ? 26 : 9, new SKColor(0x17, 0x18, 0x18));
        Ring(canvas, x, y, radius * 0.74f, 3, new SKColor(0x45, 0x48, 0x47));
        Circle(canvas, x, y, radius * 0.2f, new SKColor(0xB8, 0x95, 0x4A));
        Ring(canvas, x, y, radius * 0.2f, 5, new SKColor(0x7D, 0x62, 0x2A));
        switch (found)
        {
            case OpenedFinding.DiscCut:
                Stroke(canvas, x - 150, y - 110, x + 20, y - 190, 7, new SKColor(0x0A, 0x0A, 0x0A));
                Stroke(canvas, x - 146, y - 104, x + 18, y - 184, 2, new SKColor(0x6A, 0x6D, 0x6B));
                break;
            case OpenedFinding.SeatNicked:
                Ring(canvas, x, y, radius * 1.12f, 22, new SKColor(0xB8, 0x95, 0x4A));
                Stroke(canvas, x + 190, y - 190, x + 170, y - 165, 14, new SKColor(0x2A, 0x22, 0x10));
                break;
            default:
                for (var i = 0; i < 46; i++)
                {
                    var angle = chance.Fraction() * Math.Tau;
                    var away = radius * (0.55 + (chance.Fraction() * 0.35));
                    Circle(
                        canvas,
                        (float)(x + (Math.Cos(angle) * away)),
                        (float)(y + (Math.Sin(angle) * away)),
                        3 + chance.Next(9),
                        new SKColor((byte)(0x8A + chance.Next(40)), (byte)(0x74 + chance.Next(30)), 0x52)
                    );
                }

                break;
        }

        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 92);
        return data.ToArray();
    }

    private static void Cloth(SKCanvas canvas, SeededChance chance)
    {
        canvas.Clear(new SKColor(0x9C, 0xA3, 0x9B));
        for (var i = -Height; i < Width; i += 22)
            Stroke(canvas, i, 0, i + Height, Height, 5, new SKColor(0x92, 0x99, 0x91));
        for (var i = 0; i < 26; i++)
            Circle(
                canvas,
                chance.Next(Width),
                chance.Next(Height),
                8 + chance.Next(30),
                new SKColor(0x6F, 0x77, 0x72, 40)
            );
    }

    private static void Circle(SKCanvas canvas, float x, float y, float radius, SKColor colour)
    {
        using var paint = new SKPaint { Color = colour, IsAntialias = true };
        canvas.DrawCircle(x, y, radius, paint);
    }

    private static void Ring(SKCanvas canvas, float x, float y, float radius, float wide, SKColor colour)
    {
        using var paint = new SKPaint
        {
            Color = colour,
            IsAntialias = true,
            Style = SKPaintStyle.Stroke,
            StrokeWidth = wide,
        };
        canvas.DrawCircle(x, y, radius, paint);
    }

    private static void Stroke(SKCanvas canvas, float x1, float y1, float x2, float y2, float wide, SKColor colour)
    {
        using var paint = new SKPaint
        {
            Color = colour,
            IsAntialias = true,
            StrokeWidth = wide,
            StrokeCap = SKStrokeCap.Round,
        };
        canvas.DrawLine(x1, y1, x2, y2, paint);
    }
}
