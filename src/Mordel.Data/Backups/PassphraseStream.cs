using System.Buffers.Binary;
using System.Security.Cryptography;
using System.Text;

namespace Mordel.Data.Backups;

/// <summary>
/// A file that only a passphrase opens. Behind a line with its name come the rounds of PBKDF2 (HMAC-SHA-512), four
/// bytes, the salt, sixteen, and pieces of 64 KiB, each by AES-256 in Galois counter mode with its own tag. A piece's
/// nonce is its number, eleven bytes, and one that is 1 for the last: none can be changed, left out, doubled, put
/// elsewhere or cut off without being seen.
/// </summary>
public static class PassphraseStream
{
    private const int Piece = 64 * 1024,
        Tag = 16,
        Salt = 16,
        Key = 32,
        Nonce = 12,
        Rounds = 600_000,
        MostRounds = 10_000_000;

    private static readonly byte[] Name = "mordel.backup/1 locked\n"u8.ToArray();

    /// <summary>How short a passphrase may be.</summary>
    public const int Shortest = 12;

    /// <summary>Whether what a file begins with says that it is locked.</summary>
    public static bool IsLocked(ReadOnlySpan<byte> begin) => begin.StartsWith(Name);

    /// <summary>How many bytes are needed to tell.</summary>
    public static int Telling => Name.Length;

    /// <summary>What is written to it goes locked into another stream; to be disposed of, which writes the last
    /// piece.</summary>
    /// <param name="into">Where it goes.</param>
    /// <param name="passphrase">What opens it.</param>
    /// <param name="hardness">The rounds of the derivation, from 1; fewer are guessed sooner.</param>
    /// <exception cref="ArgumentException">The passphrase is too short.</exception>
    public static Stream Lock(Stream into, string passphrase, int hardness = Rounds)
    {
        ArgumentNullException.ThrowIfNull(into);
        ArgumentNullException.ThrowIfNull(passphrase);
        if (passphrase.Length < Shortest)
            throw new ArgumentException($"A passphrase has at least {Shortest} letters.", nameof(passphrase));
        var salt = RandomNumberGenerator.GetBytes(Salt);
        var rounds = new byte[4];
        BinaryPrimitives.WriteInt32BigEndian(rounds, hardness);
        into.Write(Name);
        into.Write(rounds);
        into.Write(salt);
        return new Locking(into, Derive(passphrase, salt, hardness));
    }

    /// <summary>Writes what is locked in a stream into another, opened.</summary>
    /// <exception cref="CryptographicException">The passphrase is another, or the file was changed or cut off; what was
    /// written until then is not to be used.</exception>
    public static async Task Unlock(Stream from, string passphrase, Stream into, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(from);
        ArgumentNullException.ThrowIfNull(into);
        var head = new byte[Name.Length + 4 + Salt];
        if (await from.ReadAtLeastAsync(head, head.Length, false, cancel) < head.Length || !IsLocked(head))
            throw new CryptographicException("This is no locked backup.");
        var rounds = BinaryPrimitives.ReadInt32BigEndian(head.AsSpan(Name.Length));
        if (rounds is < 1 or > MostRounds)
            throw new CryptographicException("This is no locked backup.");
        using var cipher = new AesGcm(Derive(passphrase, head.AsSpan(Name.Length + 4).ToArray(), rounds), Tag);
        var (piece, next) = (new byte[Piece + Tag], new byte[Piece + Tag]);
        var open = new byte[Piece];
        var length = await from.ReadAtLeastAsync(piece, piece.Length, false, cancel);
        for (var number = 0L; ; number++)
        {
            var ahead = length == piece.Length ? await from.ReadAtLeastAsync(next, next.Length, false, cancel) : 0;
            if (length < Tag)
                throw new CryptographicException("It is cut off.");
            var text = open.AsMemory(0, length - Tag);
            cipher.Decrypt(
                NonceOf(number, ahead == 0),
                piece.AsSpan(0, length - Tag),
                piece.AsSpan(length - Tag, Tag),
                text.Span
            );
            await into.WriteAsync(text, cancel);
            if (ahead == 0)
                return;
            (piece, next, length) = (next, piece, ahead);
        }
    }

    private static byte[] Derive(string passphrase, byte[] salt, int rounds) =>
        Rfc2898DeriveBytes.Pbkdf2(
            Encoding.UTF8.GetBytes(passphrase.Normalize()),
            salt,
            rounds,
            HashAlgorithmName.SHA512,
            Key
        );

    private static byte[] NonceOf(long number, bool last)
    {
        var nonce = new byte[Nonce];
        BinaryPrimitives.WriteInt64BigEndian(nonce.AsSpan(3), number);
        nonce[Nonce - 1] = last ? (byte)1 : (byte)0;
        return nonce;
    }

    private sealed class Locking(Stream into, byte[] key) : Stream
    {
        private readonly AesGcm cipher = new(key, Tag);
        private readonly byte[] piece = new byte[Piece];
        private int filled;
        private long number;
        private bool done;

        public override bool CanRead => false;
        public override bool CanSeek => false;
        public override bool CanWrite => true;
        public override long Length => throw new NotSupportedException();
        public override long Position
        {
            get => throw new NotSupportedException();
            set => throw new NotSupportedException();
        }

        public override void Write(byte[] buffer, int offset, int count) => Write(buffer.AsSpan(offset, count));

        public override void Write(ReadOnlySpan<byte> buffer)
        {
            while (buffer.Length > 0)
            {
                // A full piece waits until it is known whether it is the last.
                if (filled == Piece)
                    Put(last: false);
                var taken = Math.Min(buffer.Length, Piece - filled);
                buffer[..taken].CopyTo(piece.AsSpan(filled));
                filled += taken;
                buffer = buffer[taken..];
            }
        }

        private void Put(bool last)
        {
            var (locked, tag) = (new byte[filled], new byte[Tag]);
            cipher.Encrypt(NonceOf(number++, last), piece.AsSpan(0, filled), locked, tag);
            into.Write(locked);
            into.Write(tag);
            filled = 0;
        }

        public override void Flush() => into.Flush();

        public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        protected override void Dispose(bool disposing)
        {
            if (disposing && !done)
            {
                done = true;
                Put(last: true);
                into.Flush();
                cipher.Dispose();
            }

            base.Dispose(disposing);
        }
    }
}
