using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Data.Audit;
using Mordel.Web.Application;
using Mordel.Web.SigningIn;

namespace Mordel.Web.Pages.Account;

/// <summary>Asks who has shown their password for the code of their device, or one they put by.</summary>
[EnableRateLimiting(Limits.SignIn)]
public sealed class CodeModel(AccountSignIn signIn, WrongTries tries, KnownDevices devices, AuditLog audit, WhoAsks who)
    : PageModel
{
    public string? ReturnUrl { get; private set; }

    public async Task<IActionResult> OnGet(string? returnUrl)
    {
        ReturnUrl = returnUrl;
        return await signIn.GetTwoFactorAuthenticationUserAsync() is null ? Redirect("/sign-in") : Page();
    }

    public async Task<IActionResult> OnPost(string? code, string? returnUrl, CancellationToken cancel)
    {
        ReturnUrl = returnUrl;
        if (await signIn.GetTwoFactorAuthenticationUserAsync() is not { } account)
            return Redirect("/sign-in");
        var (name, digits) = ($"code {account.Id}", new string([.. (code ?? "").Where(char.IsLetterOrDigit)]));
        signIn.How = "a password and a code";
        if (await tries.Rests(name) || account.DismissedAt is not null || !await Fits(account, code, digits))
        {
            await tries.Note(name, $"{account.Id}", $"as {account.FullName}, at the code", cancel);
            return this.Wrong(
                "That is not the code. It changes every half minute: look at the clock of the device. After eight "
                    + "tries codes rest for five minutes."
            );
        }

        devices.Remember(HttpContext, account.Id);
        who.Is(account.Id, account.FullName, who.From);
        await audit.Write(AuditKinds.SignedIn, $"{account.Id}", "with a password and a code", cancel);
        return LocalRedirect(Url.IsLocalUrl(ReturnUrl) ? ReturnUrl! : "/");
    }

    // Six digits are of the device; anything else is one of those that were put by, and is used up.
    private async Task<bool> Fits(Data.Rows.Account account, string? code, string digits) =>
        digits.Length == 6 && digits.All(char.IsAsciiDigit)
            ? (
                await signIn.TwoFactorAuthenticatorSignInAsync(digits, isPersistent: true, rememberClient: false)
            ).Succeeded
            : digits.Length > 6
                && account.TwoFactorEnabled
                && (await signIn.TwoFactorRecoveryCodeSignInAsync((code ?? "").Trim().ToUpperInvariant())).Succeeded;
}
