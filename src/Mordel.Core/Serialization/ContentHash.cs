using System.Security.Cryptography;
using System.Text;

namespace Mordel.Core.Serialization;

/// <summary>SHA-256 in lower-case hexadecimal: the name of a content.</summary>
public static class ContentHash
{
    /// <summary>The first link of every chain: sixty-four zeros.</summary>
    public const string Beginning = "0000000000000000000000000000000000000000000000000000000000000000";

    /// <summary>Of a text's UTF-8 bytes.</summary>
    public static string Compute(string text) => Compute(Encoding.UTF8.GetBytes(text));

    /// <summary>Of bytes.</summary>
    public static string Compute(ReadOnlySpan<byte> bytes) => Convert.ToHexStringLower(SHA256.HashData(bytes));

    /// <summary>Whether a text is such a hash.</summary>
    public static bool IsHash(string? text) =>
        text is { Length: 64 } && text.All(c => char.IsAsciiDigit(c) || c is >= 'a' and <= 'f');
}
