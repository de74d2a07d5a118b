namespace Mordel.Core.Seals;

/// <summary>
/// Public keys that are at hand. The core has no cryptography of its own: the server asks the platform, a page its
/// browser.
/// </summary>
public interface ISignatureCheck
{
    /// <summary>Whether a key is among them.</summary>
    /// <param name="key">Its id: the first sixteen digits of its SHA-256.</param>
    bool Knows(string key);

    /// <summary>Whether a key has signed a text (ECDSA, P-256, over its UTF-8 by SHA-256).</summary>
    /// <param name="key">Its id.</param>
    /// <param name="text">The text.</param>
    /// <param name="signature">r and s, 32 bytes each, in base 64.</param>
    bool Holds(string key, string text, string signature);
}

/// <summary>A signature that a check asks about.</summary>
/// <param name="Key">Id of the key.</param>
/// <param name="Text">What was signed.</param>
/// <param name="Signature">In base 64.</param>
public sealed record AskedSignature(string Key, string Text, string Signature);

/// <summary>
/// Where signatures can only be verified later: notes what a check asks, so that it can be looked up and the check made
/// once more with <see cref="AnsweredSignatures"/>. It supposes that each holds, so that all are asked about.
/// </summary>
/// <param name="known">Ids of the keys at hand.</param>
public sealed class NotedSignatures(IReadOnlySet<string> known) : ISignatureCheck
{
    private readonly List<AskedSignature> asked = [];

    /// <summary>What was asked, in its order.</summary>
    public IReadOnlyList<AskedSignature> Asked => asked;

    /// <inheritdoc/>
    public bool Knows(string key) => known.Contains(key);

    /// <inheritdoc/>
    public bool Holds(string key, string text, string signature)
    {
        asked.Add(new(key, text, signature));
        return true;
    }
}

/// <summary>Signatures that were looked up before.</summary>
/// <param name="known">Ids of the keys at hand.</param>
/// <param name="holding">Those that hold; every other does not.</param>
public sealed class AnsweredSignatures(IReadOnlySet<string> known, IReadOnlySet<AskedSignature> holding)
    : ISignatureCheck
{
    /// <inheritdoc/>
    public bool Knows(string key) => known.Contains(key);

    /// <inheritdoc/>
    public bool Holds(string key, string text, string signature) => holding.Contains(new(key, text, signature));
}
