using System.Security.Cryptography;
using Mordel.Core.Seals;

namespace Mordel.Data.Seals;

/// <summary>Public keys as an installation publishes them.</summary>
public sealed class PublicKeys : ISignatureCheck
{
    private readonly Dictionary<string, ECDsa> keys = [];

    private PublicKeys() { }

    /// <summary>The keys of a published file; null when there is none in it that can be read.</summary>
    public static PublicKeys? Read(string pem)
    {
        ArgumentNullException.ThrowIfNull(pem);
        var found = new PublicKeys();
        var rest = pem.AsSpan();
        while (PemEncoding.TryFind(rest, out var fields))
        {
            if (SigningKeys.Import(rest[fields.Location]) is { } key)
                found.keys[SigningKeys.IdOf(key)] = key;
            rest = rest[fields.Location.End..];
        }

        return found.keys.Count == 0 ? null : found;
    }

    /// <summary>The keys of this installation.</summary>
    public static PublicKeys Of(SigningKeys signing)
    {
        ArgumentNullException.ThrowIfNull(signing);
        return Read(string.Join('\n', signing.Published.Select(k => k.Pem))) ?? new();
    }

    /// <inheritdoc/>
    public bool Knows(string key) => keys.ContainsKey(key);

    /// <inheritdoc/>
    public bool Holds(string key, string text, string signature) =>
        keys.TryGetValue(key, out var known) && SigningKeys.Verifies(known, text, signature);

    /// <summary>The key that signed a file; null where none of them did.</summary>
    /// <param name="file">The file.</param>
    /// <param name="signature">The signature as an ASN.1 sequence.</param>
    public string? SignerOf(byte[] file, byte[] signature) =>
        keys.Where(k =>
                k.Value.VerifyData(file, signature, HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence)
            )
            .Select(k => k.Key)
            .FirstOrDefault();
}
