using System.Globalization;

namespace Mordel.Core.Register;

/// <summary>Nominal sizes as people write them: 0.75", ¾, 3/4 inch, 1-1/2, DN50, 50 mm.</summary>
internal static class Sizes
{
    // The usual fractions of an inch, in sixteenths.
    private static readonly (string Sign, int Sixteenths)[] Signs =
    [
        ("¼", 4),
        ("½", 8),
        ("¾", 12),
        ("⅜", 6),
        ("⅝", 10),
        ("⅛", 2),
        ("⅞", 14),
    ];

    /// <summary>Understands a size: <c>1 1/2 in</c> or <c>DN 50</c>.</summary>
    public static Cleaned Clean(string text)
    {
        var plain = text.Trim().ToLowerInvariant();
        if (plain.StartsWith("dn", StringComparison.Ordinal) || plain.EndsWith("mm", StringComparison.Ordinal))
            return
                int.TryParse(
                    plain.Trim('d', 'n', 'm', ' '),
                    NumberStyles.None,
                    CultureInfo.InvariantCulture,
                    out var dn
                ) && dn is >= 6 and <= 1200
                ? new($"DN {dn}")
                : NoSize(text);
        foreach (var end in (string[])["inches", "inch", "in.", "in", "\"", "”", "″", "''"])
            if (plain.EndsWith(end, StringComparison.Ordinal))
            {
                plain = plain[..^end.Length].Trim();
                break;
            }

        return Sixteenths(plain) is { } n and > 0 and <= 48 * 16 ? new(Said(n)) : NoSize(text);
    }

    /// <summary>How large a size as it is kept is, in inches; 0 where it is none.</summary>
    public static double Inches(string size) =>
        size.StartsWith("DN ", StringComparison.Ordinal)
            ? int.TryParse(size.AsSpan(3), NumberStyles.None, CultureInfo.InvariantCulture, out var dn)
                ? dn / 25.0
                : 0
            : size.EndsWith(" in", StringComparison.Ordinal)
                ? (Sixteenths(size[..^3]) ?? 0) / 16.0
                : 0;

    private static Cleaned NoSize(string text) =>
        Cleaned.Not($"\"{(text.Length <= 40 ? text : text[..40])}\" is not a size. Write 3/4 in, 2 in or DN 50.");

    private static int? Sixteenths(string text)
    {
        foreach (var (sign, n) in Signs)
            if (text.EndsWith(sign, StringComparison.Ordinal))
                return text.Length == sign.Length ? n
                    : int.TryParse(text[..^sign.Length].Trim(' ', '-'), out var whole) ? (whole * 16) + n
                    : null;
        var parts = text.Split([' ', '-'], StringSplitOptions.RemoveEmptyEntries);
        if (parts is [var first, var second] && int.TryParse(first, out var inches))
            return Fraction(second) is { } more ? (inches * 16) + more : null;
        if (parts is not [var only])
            return null;
        if (Fraction(only) is { } fraction)
            return fraction;
        if (!decimal.TryParse(only, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number))
            return null;
        var sixteenths = number * 16;
        return number < 100 && decimal.Truncate(sixteenths) == sixteenths ? (int)sixteenths : null;
    }

    private static int? Fraction(string text) =>
        text.Split('/') is [var over, var under]
        && int.TryParse(over, out var a)
        && int.TryParse(under, out var b)
        && b is 2 or 4 or 8 or 16
        && a > 0
        && a < b
            ? a * 16 / b
            : null;

    private static string Said(int sixteenths)
    {
        var (whole, rest) = (sixteenths / 16, sixteenths % 16);
        if (rest == 0)
            return $"{whole} in";
        var under = 16;
        while (rest % 2 == 0)
            (rest, under) = (rest / 2, under / 2);
        return whole == 0 ? $"{rest}/{under} in" : $"{whole} {rest}/{under} in";
    }
}
