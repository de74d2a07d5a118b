using System.Security.Cryptography;
using Mordel.Data.Startup;

namespace Mordel.Web.Application;

/// <summary>
/// The code that proves to a fresh installation that somebody may own it: printed where it was started, made anew at
/// each start. Without it anybody who finds the address first would own the records.
/// </summary>
/// <param name="shared">The folder in which processes that share an installation have one code; null for one's
/// own.</param>
public sealed class FirstAccountCode(string? shared = null)
{
    private const string FileName = "first-account-code";

    // Letters and digits that are not taken for each other.
    private const string Signs = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789";

    /// <summary>The code, in two groups.</summary>
    public string Code { get; } = shared is null ? Made() : Shared(Path.Combine(shared, FileName));

    /// <summary>Whether a text is the code; spaces, hyphens and small letters do not matter.</summary>
    public bool Is(string? text) =>
        text is not null && text.Length < 40 && CryptographicOperations.FixedTimeEquals(Plain(text), Plain(Code));

    private static string Made() =>
        $"{RandomNumberGenerator.GetString(Signs, 5)}-{RandomNumberGenerator.GetString(Signs, 5)}";

    // Whoever comes first writes it; it is there whole or not at all.
    private static string Shared(string file)
    {
        if (!File.Exists(file))
        {
            var beside = $"{file}.{Guid.NewGuid():N}";
            using (var made = new StreamWriter(OwnersFile.Create(beside)))
                made.Write(Made());
            try
            {
                File.Move(beside, file, overwrite: false);
            }
            catch (IOException)
            {
                File.Delete(beside);
            }
        }

        return File.ReadAllText(file).Trim();
    }

    private static byte[] Plain(string text) =>
        System.Text.Encoding.UTF8.GetBytes(new string([.. text.Where(char.IsLetterOrDigit)]).ToUpperInvariant());
}
