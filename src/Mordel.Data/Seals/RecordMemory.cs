using System.Collections.Concurrent;
using System.Security.Cryptography;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;

namespace Mordel.Data.Seals;

/// <summary>What lists need of a packed record.</summary>
/// <param name="Hash">The hash of its text, as a seal names it; null when it cannot be unpacked.</param>
/// <param name="Facts">What lists repeat of it; null when it cannot be read.</param>
public sealed record KnownRecord(string? Hash, SealedFacts? Facts);

/// <summary>
/// Remembers what packed records hold by the hash of their bytes, so that a line that is shown again is not unpacked,
/// read and hashed again. The bytes are looked at each time: the same bytes always hold the same, and one bit of
/// another is another record.
/// </summary>
public sealed class RecordMemory
{
    // About a kilobyte each.
    private const int MostRemembered = 20_000;

    private readonly ConcurrentDictionary<(ulong, ulong, ulong, ulong), KnownRecord> known = new();

    /// <summary>What a seal's record holds.</summary>
    public KnownRecord Of(SealRow seal)
    {
        ArgumentNullException.ThrowIfNull(seal);
        Span<byte> hash = stackalloc byte[SHA256.HashSizeInBytes];
        SHA256.HashData(seal.Record, hash);
        var key = (
            BitConverter.ToUInt64(hash),
            BitConverter.ToUInt64(hash[8..]),
            BitConverter.ToUInt64(hash[16..]),
            BitConverter.ToUInt64(hash[24..])
        );
        if (known.TryGetValue(key, out var record))
            return record;
        if (known.Count >= MostRemembered)
            known.Clear();
        var text = seal.RecordText;
        return known[key] = new(text is null ? null : ContentHash.Compute(text), seal.Facts);
    }
}
