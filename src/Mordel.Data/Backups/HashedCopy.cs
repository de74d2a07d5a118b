using System.Security.Cryptography;

namespace Mordel.Data.Backups;

/// <summary>Copies a stream and says what came over.</summary>
public static class HashedCopy
{
    private const int Piece = 1 << 20;

    /// <summary>Copies to the end, or until more came than may.</summary>
    /// <param name="name">How the copy is called.</param>
    /// <param name="from">From where.</param>
    /// <param name="into">To where.</param>
    /// <param name="most">Bytes: what is longer is not read to its end.</param>
    /// <param name="cancel">Ends it.</param>
    /// <returns>What came over; null where it is longer.</returns>
    public static async Task<BackedUpFile?> Of(
        string name,
        Stream from,
        Stream into,
        long most,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(from);
        ArgumentNullException.ThrowIfNull(into);
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var (bytes, buffer) = (0L, new byte[Piece]);
        for (int read; (read = await from.ReadAsync(buffer, cancel)) > 0; bytes += read)
        {
            if (bytes + read > most)
                return null;
            hash.AppendData(buffer, 0, read);
            await into.WriteAsync(buffer.AsMemory(0, read), cancel);
        }

        return new(name, bytes, Convert.ToHexStringLower(hash.GetHashAndReset()));
    }
}
