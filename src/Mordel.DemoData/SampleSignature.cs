using System.Globalization;

namespace Mordel.DemoData;

/// <summary>A made-up signature for a made-up person: a line that depends on the name.</summary>
public static class SampleSignature
{
    /// <summary>SVG path data in a box of 600 by 200.</summary>
    public static string For(string name)
    {
        ArgumentNullException.ThrowIfNull(name);
        var path = "M30 120";
        for (var i = 0; i < name.Length * 6; i++)
        {
            var letter = name[i / 6] - 'a';
            var x = 30 + i * 520.0 / (name.Length * 6);
            var y =
                118
                - (name[i / 6] == ' ' ? 0 : Math.Sin(i * (0.9 + letter % 5 * 0.12)) * (26 + letter % 7 * 7))
                - Math.Sin(i / 9.0) * 8;
            path += string.Create(CultureInfo.InvariantCulture, $" L{(int)x} {(int)Math.Clamp(y, 8, 190)}");
        }

        return path;
    }
}
