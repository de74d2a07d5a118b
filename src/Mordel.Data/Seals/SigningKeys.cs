using System.Collections.Concurrent;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Reports;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;
using Mordel.Data.Startup;

namespace Mordel.Data.Seals;

/// <summary>A public key with which seals are checked.</summary>
/// <param name="Id">The first sixteen digits of the SHA-256 of the key.</param>
/// <param name="Pem">The key.</param>
/// <param name="Since">When it came into use.</param>
/// <param name="RetiredAt">When another followed it; null while it is in use.</param>
/// <param name="Succession">The signature of the key before it, which says that this one follows; null for the
/// first.</param>
public sealed record PublishedKey(
    string Id,
    string Pem,
    DateTimeOffset Since,
    DateTimeOffset? RetiredAt,
    string? Succession
);

/// <summary>
/// The installation's signing keys (ECDSA, P-256). The private one lies in the data folder, readable by its owner only.
/// The public ones, those of earlier years too, are kept in the database, each endorsed by the one in use: whoever
/// changes that list without the private key is found out.
/// </summary>
public sealed partial class SigningKeys(string folder) : IDisposable
{
    /// <summary>The file of the private key, and the one that a rotation prepares.</summary>
    public const string FileName = "installation-key.pem",
        NextFileName = "installation-key.next.pem";

    private const int MostRemembered = 50_000;

    private readonly Lock signing = new();
    private readonly ConcurrentDictionary<(string Key, string Hash, string Signature), bool> seen = new();
    private Dictionary<string, (PublishedKey Key, ECDsa Checks)> known = [];
    private ECDsa? current;
    private string id = "";

    /// <summary>Id of the key in use.</summary>
    public string Id => current is null ? throw new InvalidOperationException("The keys have not been opened.") : id;

    /// <summary>The public keys, the one in use last.</summary>
    public IReadOnlyList<PublishedKey> Published =>
        [.. known.Values.Select(k => k.Key).OrderBy(k => k.Since).ThenBy(k => k.RetiredAt is null)];

    /// <summary>What is wrong with the list of public keys, as sentences; empty when nothing is.</summary>
    public IReadOnlyList<string> Problems { get; private set; } = [];

    /// <summary>Whether they are open.</summary>
    public bool AreOpen => current is not null;

    private ECDsa Current => current ?? throw new InvalidOperationException("The keys have not been opened.");

    private string File => Path.Combine(folder, FileName);

    private string NextFile => Path.Combine(folder, NextFileName);

    /// <summary>Opens the keys of an installation, or makes the first one of a fresh one.</summary>
    /// <exception cref="StartRefusedException">The private key is missing, empty, unreadable or of another
    /// installation.</exception>
    public async Task Open(Store store, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(store);
        var rows = await store.PublicKeys.OrderBy(k => k.Since).ToListAsync(cancel);
        FinishRotation(rows);
        if (!System.IO.File.Exists(File))
        {
            if (rows.Count > 0 || await store.Runs.AnyAsync(r => r.SignedAt != null, cancel))
                throw new StartRefusedException(
                    $"The signing key is missing: {File}. This installation has sealed reports that it signed. Put "
                        + $"the file back from your backup and start again."
                );
            WriteAtomically(File, ECDsa.Create(ECCurve.NamedCurves.nistP256));
        }

        current = Read(File);
        id = IdOf(current);
        if (rows.Count == 0)
        {
            rows.Add(
                new()
                {
                    Id = id,
                    PublicKey = current.ExportSubjectPublicKeyInfoPem(),
                    Since = DateTimeOffset.UtcNow.ToMillisecond(),
                    Endorsement = "",
                }
            );
            rows[0].Endorsement = SignText(current, Statement(rows[0]));
            store.PublicKeys.Add(rows[0]);
            await store.SaveChangesAsync(cancel);
        }
        else if (rows.Find(r => r.RetiredAt is null)?.Id != id)
        {
            throw new StartRefusedException(
                $"The signing key in {File} is not this installation's: it has the id {id}, the installation signs "
                    + $"with {rows.Find(r => r.RetiredAt is null)?.Id ?? "none"}. Put the right file back from your "
                    + $"backup and start again."
            );
        }

        Learn(rows);
    }

    // A list that was tampered with is not believed: only what the key in use endorses.
    private void Learn(List<SigningKeyRow> rows)
    {
        var problems = new List<string>();
        var learned = new Dictionary<string, (PublishedKey, ECDsa)>();
        foreach (var row in rows)
        {
            if (Import(row.PublicKey) is not { } checks)
            {
                problems.Add($"The public key {row.Id} cannot be read.");
                continue;
            }

            if (IdOf(checks) != row.Id || !Verifies(current!, Statement(row), row.Endorsement))
                problems.Add($"The public key {row.Id} is not one that this installation has endorsed.");
            else
                learned[row.Id] = (new(row.Id, row.PublicKey, row.Since, row.RetiredAt, row.Succession), checks);
        }

        (known, Problems) = (learned, problems);
        seen.Clear();
    }

    /// <summary>Signs a hash in hexadecimal with the key in use; the signature is base 64.</summary>
    public string Sign(string hash)
    {
        lock (signing)
            return SignText(Current, hash);
    }

    /// <summary>
    /// Signs a file with the key in use, in the form that other tools read: the signature as an ASN.1 sequence.
    /// </summary>
    public byte[] SignFile(byte[] file)
    {
        lock (signing)
            return Current.SignData(file, HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence);
    }

    /// <summary>Whether a key of this installation has signed a hash.</summary>
    public bool Verifies(string key, string hash, string signature)
    {
        if (!known.TryGetValue(key, out var pair))
            return false;
        if (seen.TryGetValue((key, hash, signature), out var held))
            return held;
        if (seen.Count >= MostRemembered)
            seen.Clear();
        lock (signing)
            held = Verifies(pair.Checks, hash, signature);
        return seen[(key, hash, signature)] = held;
    }

    /// <summary>What a signed end says of its chain; null when it is not as it was signed.</summary>
    public ChainHead? Signed(ChainRow end)
    {
        ArgumentNullException.ThrowIfNull(end);
        return
            SealFormat.ReadHead(end.Head) is { } head
            && head.Assembly == end.AssemblyId
            && Verifies(head.Key, end.Head, end.Signature)
            ? head
            : null;
    }

    /// <summary>What the ledger says; null when it is not as it was signed.</summary>
    public Ledger? Signed(LedgerRow row)
    {
        ArgumentNullException.ThrowIfNull(row);
        return SealFormat.ReadLedger(row.Text) is { } ledger && Verifies(ledger.Key, row.Text, row.Signature)
            ? ledger
            : null;
    }

    /// <summary>Whether any of the keys has signed a hash: seals of the earlier form do not say which.</summary>
    public bool AnyVerifies(string hash, string signature) => known.Keys.Any(k => Verifies(k, hash, signature));

    /// <summary>Whether a public key has signed a text.</summary>
    public static bool Verifies(ECDsa key, string text, string signature)
    {
        ArgumentNullException.ThrowIfNull(key);
        ArgumentNullException.ThrowIfNull(signature);
        var bytes = new byte[(signature.Length * 3 / 4) + 3];
        return Convert.TryFromBase64String(signature, bytes, out var length)
            && Convert.ToBase64String(bytes, 0, length) == signature
            && key.VerifyData(Encoding.UTF8.GetBytes(text), bytes.AsSpan(0, length), HashAlgorithmName.SHA256);
    }

    /// <summary>The id of a key.</summary>
    public static string IdOf(ECDsa key)
    {
        ArgumentNullException.ThrowIfNull(key);
        return ContentHash.Compute(key.ExportSubjectPublicKeyInfo())[..16];
    }

    /// <summary>What the key before signs when another follows it.</summary>
    public static string SuccessionStatement(string before, string after) =>
        $"mordel.key-succession/1\n{before}\n{after}\n";

    private static string Statement(SigningKeyRow row) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"mordel.key/1\n{row.Id}\n{row.PublicKey}\n{Instant(row.Since)}\n"
                + $"{(row.RetiredAt is { } end ? Instant(end) : "-")}\n{row.Succession ?? "-"}\n"
        );

    private static string Instant(DateTimeOffset at) =>
        at.UtcDateTime.ToString(JsonText.InstantPattern, CultureInfo.InvariantCulture);

    private static string SignText(ECDsa key, string text) =>
        Convert.ToBase64String(key.SignData(Encoding.UTF8.GetBytes(text), HashAlgorithmName.SHA256));

    /// <inheritdoc/>
    public void Dispose()
    {
        current?.Dispose();
        foreach (var (_, checks) in known.Values)
            checks.Dispose();
    }
}
