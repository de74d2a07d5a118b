using System.Buffers;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;

namespace Mordel.Data.Rows;

/// <summary>
/// Texts as they lie in the database: UTF-8, compressed with Brotli, behind a check of the compressed bytes: a
/// compressed text has bits that say nothing, and they too must stand as they were written.
/// </summary>
public static class Packed
{
    private const int LargestText = 16 * 1024 * 1024,
        Quality = 5,
        Window = 22,
        CheckLength = 8;

    private static readonly UTF8Encoding Strict = new(false, throwOnInvalidBytes: true);

    /// <summary>A text, packed.</summary>
    public static byte[] Pack(string text)
    {
        var bytes = Encoding.UTF8.GetBytes(text);
        var packed = new byte[BrotliEncoder.GetMaxCompressedLength(bytes.Length)];
        return BrotliEncoder.TryCompress(bytes, packed, out var length, Quality, Window)
            ? [.. Check(packed.AsSpan(0, length)), .. packed.AsSpan(0, length)]
            : throw new InvalidOperationException("The text could not be packed.");
    }

    /// <summary>
    /// The text again; null when the bytes are no packed text, hold more than one, or would come to more than 16 MiB.
    /// </summary>
    public static string? Unpack(byte[] packed)
    {
        ArgumentNullException.ThrowIfNull(packed);
        if (
            packed.Length < CheckLength
            || !Check(packed.AsSpan(CheckLength)).AsSpan().SequenceEqual(packed.AsSpan(0, CheckLength))
        )
            return null;
        using var decoder = new BrotliDecoder();
        var text = new ArrayBufferWriter<byte>(Math.Max(1024, packed.Length * 6));
        var rest = packed.AsSpan(CheckLength);
        while (true)
        {
            var status = decoder.Decompress(rest, text.GetSpan(16 * 1024), out var read, out var written);
            text.Advance(written);
            rest = rest[read..];
            if (status == OperationStatus.Done)
                break;
            if (status != OperationStatus.DestinationTooSmall || text.WrittenCount > LargestText)
                return null;
        }

        if (!rest.IsEmpty)
            return null;
        try
        {
            return Strict.GetString(text.WrittenSpan);
        }
        catch (DecoderFallbackException)
        {
            return null;
        }
    }

    private static byte[] Check(ReadOnlySpan<byte> compressed) => SHA256.HashData(compressed)[..CheckLength];
}
