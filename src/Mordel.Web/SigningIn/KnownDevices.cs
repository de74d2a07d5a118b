using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;

namespace Mordel.Web.SigningIn;

/// <summary>
/// Remembers on a device whose names came in there, so that strangers who try a name elsewhere do not keep its owner
/// out. It lets nobody in: a password is asked all the same.
/// </summary>
public sealed class KnownDevices(IDataProtectionProvider protection)
{
    private const string Cookie = "mordel-device";
    private const int Most = 8;
    private static readonly TimeSpan Holds = TimeSpan.FromDays(400);
    private readonly ITimeLimitedDataProtector box = protection
        .CreateProtector("Mordel.KnownDevices")
        .ToTimeLimitedDataProtector();

    /// <summary>The device, where somebody has come in on it before; null where not.</summary>
    public string? Of(HttpContext http, Guid? account)
    {
        ArgumentNullException.ThrowIfNull(http);
        return Read(http) is { } parts && account is { } who && parts.Contains($"{who:N}") ? parts[0] : null;
    }

    /// <summary>Remembers that somebody came in.</summary>
    public void Remember(HttpContext http, Guid account)
    {
        ArgumentNullException.ThrowIfNull(http);
        var parts = Read(http) ?? [Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(12))];
        string[] known = [parts[0], $"{account:N}", .. parts.Skip(1).Where(p => p != $"{account:N}").Take(Most - 1)];
        http.Response.Cookies.Append(
            Cookie,
            box.Protect(string.Join(' ', known), Holds),
            new()
            {
                HttpOnly = true,
                IsEssential = true,
                MaxAge = Holds,
                Path = "/sign-in",
                SameSite = SameSiteMode.Lax,
                Secure = http.Request.IsHttps,
            }
        );
    }

    private string[]? Read(HttpContext http)
    {
        if (http.Request.Cookies[Cookie] is not { Length: > 0 and < 2000 } text)
            return null;
        try
        {
            return box.Unprotect(text).Split(' ');
        }
        catch (CryptographicException)
        {
            return null;
        }
    }
}
