using Mordel.Core.Reports;

namespace Mordel.Data.Commands.Runs;

/// <summary>A drawn signature: SVG path data made of moves and lines with whole numbers, and nothing else.</summary>
public static class SignaturePath
{
    private const int Most = 40_000;

    /// <summary>
    /// Whether the text is a signature: a drawing with enough in it to be one, or the mark of a typed name.
    /// </summary>
    public static bool IsSignature(string? ink) =>
        ink == Signing.TypedName
        || ink is { Length: >= 12 and <= Most }
            && ink[0] == 'M'
            && ink.All(c => char.IsAsciiDigit(c) || c is 'M' or 'L' or ' ' or ',')
            && ink.Count(c => c == 'L') >= 2;
}
