using System.Collections.Frozen;
using System.IO.Compression;

namespace Mordel.Data.Accounts;

/// <summary>
/// Passwords that were stolen elsewhere and are tried first, those of six characters and more: some forty thousand,
/// from an openly licensed list. The whole of what was ever stolen would be gigabytes.
/// </summary>
public static class LeakedPasswords
{
    private const string Resource = "leaked-passwords.txt.br";
    private const int Shortest = 6,
        Longest = 24;

    private static readonly Lazy<FrozenSet<string>> All = new(Read);

    private static readonly Lazy<FrozenSet<string>.AlternateLookup<ReadOnlySpan<char>>> Pieces = new(() =>
        All.Value.GetAlternateLookup<ReadOnlySpan<char>>()
    );

    /// <summary>How many are known.</summary>
    public static int Count => All.Value.Count;

    /// <summary>Whether it stands there as it is, in whatever letters.</summary>
    public static bool Has(string password) => All.Value.Contains(password);

    /// <summary>What is left of a text without those that it is made of, the longest first.</summary>
    public static string Without(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var left = new System.Text.StringBuilder(text.Length);
        for (var i = 0; i < text.Length; )
        {
            var length = Math.Min(Longest, text.Length - i);
            while (length >= Shortest && !Pieces.Value.Contains(text.AsSpan(i, length)))
                length--;
            if (length >= Shortest)
                i += length;
            else
                left.Append(text[i++]);
        }

        return left.ToString();
    }

    private static FrozenSet<string> Read()
    {
        using var packed = typeof(LeakedPasswords).Assembly.GetManifestResourceStream(Resource)
            ?? throw new InvalidOperationException($"{Resource} does not ship.");
        using var lines = new StreamReader(new BrotliStream(packed, CompressionMode.Decompress));
        return lines.ReadToEnd().Split('\n').ToFrozenSet(StringComparer.OrdinalIgnoreCase);
    }
}
