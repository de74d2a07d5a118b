using System.Collections.Immutable;
using System.Globalization;
using QRCoder;

namespace Mordel.Documents.Reports;

/// <summary>A QR code as dark stripes on a light ground, its quiet margin included; measures are modules.</summary>
public sealed class QrPattern
{
    private QrPattern(int size, ImmutableArray<Stripe> stripes) => (Size, Stripes) = (size, stripes);

    /// <summary>Modules on a side, with four of quiet margin all round.</summary>
    public int Size { get; }

    /// <summary>The dark stripes, row by row.</summary>
    public ImmutableArray<Stripe> Stripes { get; }

    /// <summary>Dark modules side by side in one row.</summary>
    /// <param name="X">Where it begins, from the left.</param>
    /// <param name="Y">Its row, from the top.</param>
    /// <param name="Length">How many.</param>
    public readonly record struct Stripe(int X, int Y, int Length);

    /// <summary>The code of a text. It can be read with about an eighth of it soiled.</summary>
    public static QrPattern Of(string text)
    {
        using var data = QRCodeGenerator.GenerateQrCode(text, QRCodeGenerator.ECCLevel.M);
        var stripes = ImmutableArray.CreateBuilder<Stripe>();
        for (var y = 0; y < data.ModuleMatrix.Count; y++)
        {
            var row = data.ModuleMatrix[y];
            for (var x = 0; x < row.Length; x++)
            {
                var from = x;
                while (x < row.Length && row[x])
                    x++;
                if (x > from)
                    stripes.Add(new(from, y, x - from));
            }
        }

        return new(data.ModuleMatrix.Count, stripes.ToImmutable());
    }

    /// <summary>The dark parts as SVG path data.</summary>
    public string Path() =>
        string.Concat(
            Stripes.Select(s => string.Create(CultureInfo.InvariantCulture, $"M{s.X} {s.Y}h{s.Length}v1h-{s.Length}z"))
        );
}
