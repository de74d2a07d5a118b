using System.Collections.Concurrent;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;
using Mordel.Data.Startup;

namespace Mordel.Data.Seals;

// Where the keys lie.
public partial class SigningKeys
{
    /// <summary>Reads the list of public keys again, and says what is wrong with it.</summary>
    public async Task Reread(Store store, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(store);
        Learn(await store.PublicKeys.AsNoTracking().OrderBy(k => k.Since).ToListAsync(cancel));
    }

    /// <summary>Puts a new key into use; the ones before remain for checking.</summary>
    /// <returns>Its id.</returns>
    public async Task<string> Rotate(Store store, DateTimeOffset now, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(store);
        var old = current ?? throw new InvalidOperationException("The keys have not been opened.");
        var fresh = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        WriteAtomically(NextFile, fresh);
        var rows = await store.PublicKeys.OrderBy(k => k.Since).ToListAsync(cancel);
        foreach (var row in rows)
            row.RetiredAt ??= now.ToMillisecond();
        var next = new SigningKeyRow
        {
            Id = IdOf(fresh),
            PublicKey = fresh.ExportSubjectPublicKeyInfoPem(),
            Since = now.ToMillisecond(),
            Endorsement = "",
            Succession = SignText(old, SuccessionStatement(id, IdOf(fresh))),
        };
        rows.Add(next);
        store.PublicKeys.Add(next);
        foreach (var row in rows)
            row.Endorsement = SignText(fresh, Statement(row));
        await store.SaveChangesAsync(cancel);
        System.IO.File.Move(NextFile, File, overwrite: true);
        (current, id) = (fresh, next.Id);
        Learn(rows);
        return id;
    }

    // Ended in the middle of a rotation: what the database already knows is completed, what it does not know never was.
    private void FinishRotation(List<SigningKeyRow> rows)
    {
        if (!System.IO.File.Exists(NextFile))
            return;
        if (rows.Find(r => r.RetiredAt is null) is { } inUse && IdOf(Read(NextFile)) == inUse.Id)
            System.IO.File.Move(NextFile, File, overwrite: true);
        else
            System.IO.File.Delete(NextFile);
    }

    private static ECDsa Read(string file)
    {
        var says =
            $"The signing key in {file} is empty or cannot be read. Put the file back from your backup and "
            + $"start again.";
        var key = Import(System.IO.File.ReadAllText(file)) ?? throw new StartRefusedException(says);
        try
        {
            // A public key would read as well, and could sign nothing.
            _ = key.SignData([1], HashAlgorithmName.SHA256);
            return key;
        }
        catch (CryptographicException e)
        {
            throw new StartRefusedException(says, e);
        }
    }

    /// <summary>A key from its text; null when it is none that can be used here.</summary>
    public static ECDsa? Import(ReadOnlySpan<char> pem)
    {
        var key = ECDsa.Create();
        try
        {
            key.ImportFromPem(pem);
            return key;
        }
        catch (Exception e) when (e is ArgumentException or CryptographicException or NotSupportedException)
        {
            key.Dispose();
            return null;
        }
    }

    private static void WriteAtomically(string file, ECDsa key)
    {
        var unfinished = $"{file}.part";
        System.IO.File.Delete(unfinished);
        using (var stream = OwnersFile.Create(unfinished))
        {
            stream.Write(Encoding.ASCII.GetBytes(key.ExportPkcs8PrivateKeyPem()));
            stream.Flush(flushToDisk: true);
        }

        System.IO.File.Move(unfinished, file, overwrite: true);
    }
}
