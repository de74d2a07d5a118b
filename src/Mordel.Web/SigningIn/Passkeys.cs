using System.Text.Json;
using Microsoft.AspNetCore.Identity;
using Mordel.Data.Rows;

namespace Mordel.Web.SigningIn;

/// <summary>What passkeys answer, whatever a client sends in their place.</summary>
public static class Passkeys
{
    private const int LongestAnswer = 20_000;

    /// <summary>Whose passkey answered rightly; null where none did.</summary>
    public static async Task<Account?> Asserted(SignInManager<Account> signIn, string? answer)
    {
        ArgumentNullException.ThrowIfNull(signIn);
        if (!IsObject(answer))
            return null;
        try
        {
            var said = await signIn.PerformPasskeyAssertionAsync(answer!);
            if (!said.Succeeded)
                return null;
            // How often it was used shows one that was copied.
            await signIn.UserManager.AddOrUpdatePasskeyAsync(said.User, said.Passkey);
            return said.User;
        }
        catch (InvalidOperationException)
        {
            // Nobody was asked for it, or that was long ago.
            return null;
        }
    }

    /// <summary>A new passkey that answered rightly; null where none did.</summary>
    public static async Task<UserPasskeyInfo?> Attested(SignInManager<Account> signIn, string? answer)
    {
        ArgumentNullException.ThrowIfNull(signIn);
        if (!IsObject(answer))
            return null;
        try
        {
            var said = await signIn.PerformPasskeyAttestationAsync(answer!);
            return said.Succeeded ? said.Passkey : null;
        }
        catch (InvalidOperationException)
        {
            return null;
        }
    }

    private static bool IsObject(string? text)
    {
        if (text is not { Length: > 0 and < LongestAnswer })
            return false;
        try
        {
            using var said = JsonDocument.Parse(text);
            return said.RootElement.ValueKind == JsonValueKind.Object;
        }
        catch (JsonException)
        {
            return false;
        }
    }
}
