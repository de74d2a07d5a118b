using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Data.Audit;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Web.Application;
using Mordel.Web.SigningIn;

namespace Mordel.Web.Pages.Account;

/// <summary>
/// Makes the owner of a fresh installation, for whoever has the code; closed as soon as anybody exists.
/// </summary>
[EnableRateLimiting(Limits.SignIn)]
public sealed class FirstAccountModel(
    MakeOwner make,
    AccountSignIn signIn,
    KnownDevices devices,
    FirstAccountCode wanted,
    AuditLog audit,
    WhoAsks who
) : PageModel
{
    public string? Code { get; private set; }
    public string? FullName { get; private set; }
    public string? UserName { get; private set; }

    public async Task<IActionResult> OnGet(CancellationToken cancel) =>
        await make.IsTooLate(cancel) ? Redirect("/sign-in") : Page();

    public async Task<IActionResult> OnPost(
        string? code,
        string? fullName,
        string? userName,
        string? password,
        CancellationToken cancel
    )
    {
        if (await make.IsTooLate(cancel))
            return Redirect("/sign-in");
        (Code, FullName, UserName) = (code, fullName, userName);
        if (!wanted.Is(code))
            return this.Wrong(
                "That is not the code. It is printed where Mordel was started; each start makes a new one."
            );
        if (string.IsNullOrWhiteSpace(fullName) || fullName.Length > 120)
            return this.Wrong("Give the full name; reports carry it.");
        var made = await make.Of(userName, fullName.Trim(), password, cancel);
        if (made.Why == NotDone.Refused)
            return Redirect("/sign-in");
        if (made.Value is { } owner)
        {
            await signIn.SignInAsync(owner, isPersistent: true);
            devices.Remember(HttpContext, owner.Id);
            who.Is(owner.Id, owner.FullName, who.From);
            await audit.Write(AuditKinds.SignedIn, $"{owner.Id}", "as the first, by the printed code", cancel);
        }

        return await this.Answer(made, _ => "/");
    }
}
