using System.Security.Cryptography;
using System.Text;

namespace Mordel.Data;

/// <summary>The installation's own signing key (ECDSA, P-256), made at the first start and kept in the data folder, readable by its owner only.</summary>
public sealed class InstallationKey : IDisposable
{
    private readonly ECDsa key;

    private InstallationKey(ECDsa key) => this.key = key;

    /// <summary>Opens the key of a data folder, or makes it.</summary>
    public static InstallationKey In(string folder)
    {
        var file = Path.Combine(folder, "installation-key.pem");
        var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        if (File.Exists(file))
        {
            key.ImportFromPem(File.ReadAllText(file));
        }
        else
        {
            Directory.CreateDirectory(folder);
            using var stream = new FileStream(file, new FileStreamOptions
            {
                Mode = FileMode.CreateNew,
                Access = FileAccess.Write,
                UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
            });
            stream.Write(Encoding.ASCII.GetBytes(key.ExportPkcs8PrivateKeyPem()));
        }

        return new(key);
    }

    /// <summary>Signs a hash in hexadecimal; the signature is base 64.</summary>
    public string Sign(string hash) => Convert.ToBase64String(key.SignData(Encoding.ASCII.GetBytes(hash), HashAlgorithmName.SHA256));

    /// <summary>Whether a signature belongs to a hash.</summary>
    public bool Verifies(string hash, string signature) => key.VerifyData(Encoding.ASCII.GetBytes(hash), Convert.FromBase64String(signature), HashAlgorithmName.SHA256);

    /// <inheritdoc/>
    public void Dispose() => key.Dispose();
}
