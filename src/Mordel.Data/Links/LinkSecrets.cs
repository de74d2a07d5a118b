using System.Security.Cryptography;
using System.Text;
using Mordel.Data.Startup;

namespace Mordel.Data.Links;

/// <summary>
/// The secrets of links. Each follows from its row and a key that lies in the data folder, beside the database and not
/// in it: whoever has a copy of the database alone can open nothing.
/// </summary>
public sealed class LinkSecrets(string folder)
{
    /// <summary>The file of the key.</summary>
    public const string FileName = "link-key";

    private const int KeyBytes = 32,
        SecretBytes = 24;

    /// <summary>How long a secret is, in characters.</summary>
    public const int Length = 2 * SecretBytes;

    private readonly Lazy<byte[]> key = new(() => ReadOrMake(Path.Combine(folder, FileName)));

    /// <summary>The secret of a link.</summary>
    public string Of(Guid link) =>
        Convert.ToHexStringLower(
            HMACSHA256.HashData(key.Value, Encoding.ASCII.GetBytes(link.ToString("N"))).AsSpan(0, SecretBytes)
        );

    private static byte[] ReadOrMake(string file)
    {
        if (File.Exists(file) && File.ReadAllBytes(file) is { Length: KeyBytes } kept)
            return kept;
        var made = RandomNumberGenerator.GetBytes(KeyBytes);
        using var stream = OwnersFile.Create(file, FileMode.Create);
        stream.Write(made);
        stream.Flush(flushToDisk: true);
        return made;
    }
}
