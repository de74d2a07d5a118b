using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Data.Accounts;
using Mordel.Web.Application;
using Mordel.Web.SigningIn;

namespace Mordel.Web.Pages.Account;

/// <summary>Asks whoever is signed in to show again who they are, before what weighs much.</summary>
[Authorize]
[EnableRateLimiting(Limits.SignIn)]
public sealed class ShowAgainModel(
    AccountSignIn signIn,
    UserManager<Data.Rows.Account> users,
    Sessions sessions,
    WrongTries tries,
    MordelOptions options
) : PageModel
{
    public string? ReturnUrl { get; private set; }
    public string UserName { get; private set; } = "";

    /// <summary>Whether one click is enough: of somebody made up, in the demonstration.</summary>
    public bool IsPersona { get; private set; }

    public async Task<IActionResult> OnGet(string? returnUrl) =>
        await Load(returnUrl) is null ? Redirect("/sign-in") : Page();

    public async Task<IActionResult> OnPost(string? password, string? returnUrl, CancellationToken cancel)
    {
        if (await Load(returnUrl) is not { } account)
            return Redirect("/sign-in");
        var name = $"again {account.Id}";
        if (!IsPersona && (await tries.Rests(name) || !await signIn.IsRight(account, password ?? "")))
            return await Refuse(account, name, cancel);
        return await Done(cancel);
    }

    /// <summary>What the browser is to ask its passkeys.</summary>
    public async Task<IActionResult> OnPostAsk() =>
        Content(await signIn.MakePasskeyRequestOptionsAsync(await users.GetUserAsync(User)), "application/json");

    public async Task<IActionResult> OnPostPasskey(string? answer, string? returnUrl, CancellationToken cancel)
    {
        if (await Load(returnUrl) is not { } account)
            return Redirect("/sign-in");
        return await Passkeys.Asserted(signIn, answer) is { } whose && whose.Id == account.Id
            ? await Done(cancel)
            : await Refuse(account, $"again {account.Id}", cancel);
    }

    private async Task<IActionResult> Refuse(Data.Rows.Account account, string name, CancellationToken cancel)
    {
        await tries.Note(name, $"{account.Id}", $"as {account.FullName}, asked again", cancel);
        return this.Wrong("That is not it. After eight tries it rests for five minutes.");
    }

    private async Task<IActionResult> Done(CancellationToken cancel)
    {
        if (User.SessionId() is { } session)
            await sessions.Prove(session, cancel);
        return LocalRedirect(Url.IsLocalUrl(ReturnUrl) ? ReturnUrl! : "/account");
    }

    private async Task<Data.Rows.Account?> Load(string? returnUrl)
    {
        ReturnUrl = returnUrl;
        var account = await users.GetUserAsync(User);
        UserName = account?.UserName ?? "";
        IsPersona = options.Demo && account is { PasswordHash: null };
        return account;
    }
}
