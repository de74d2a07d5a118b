using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;
using Mordel.Core.Outside;

namespace Mordel.Web.Hosting;

/// <summary>Hides words with the framework's own protection; its keys lie in the data folder, not in the database.
/// </summary>
public sealed class ProtectedSecrets(IDataProtectionProvider protection) : ISecretBox
{
    private readonly IDataProtector protector = protection.CreateProtector("Mordel.Secrets");

    /// <inheritdoc/>
    public string Hide(string words) => protector.Protect(words);

    /// <inheritdoc/>
    public string? Show(string kept)
    {
        try
        {
            return protector.Unprotect(kept);
        }
        catch (CryptographicException)
        {
            return null;
        }
    }
}
