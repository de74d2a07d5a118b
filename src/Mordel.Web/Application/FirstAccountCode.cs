using System.Security.Cryptography;

namespace Mordel.Web.Application;

/// <summary>
/// The code that proves to a fresh installation that somebody may own it: printed where it was started, made anew at
/// each start. Without it anybody who finds the address first would own the records.
/// </summary>
public sealed class FirstAccountCode
{
    // Letters and digits that are not taken for each other.
    private const string Signs = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789";

    /// <summary>The code, in two groups.</summary>
    public string Code { get; } =
        $"{RandomNumberGenerator.GetString(Signs, 5)}-{RandomNumberGenerator.GetString(Signs, 5)}";

    /// <summary>Whether a text is the code; spaces, hyphens and small letters do not matter.</summary>
    public bool Is(string? text) =>
        text is not null && text.Length < 40 && CryptographicOperations.FixedTimeEquals(Plain(text), Plain(Code));

    private static byte[] Plain(string text) =>
        System.Text.Encoding.UTF8.GetBytes(new string([.. text.Where(char.IsLetterOrDigit)]).ToUpperInvariant());
}
