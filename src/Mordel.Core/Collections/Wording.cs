namespace Mordel.Core.Collections;

/// <summary>How words become sentences.</summary>
public static class Wording
{
    /// <summary>A text with a capital letter.</summary>
    public static string Capital(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        return text.Length == 0 ? text : char.ToUpperInvariant(text[0]) + text[1..];
    }
}
