using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Password;

/// <summary>Where everybody changes their own password.</summary>
[EnableRateLimiting(Limits.SignIn)]
public sealed class IndexModel(
    KeepPasswords passwords,
    UserManager<Data.Rows.Account> users,
    SignInManager<Data.Rows.Account> signIn
) : PageModel
{
    /// <summary>Whether there is one to be asked for.</summary>
    public bool HasOne { get; private set; }

    /// <summary>What is signed in with, for who keeps passwords.</summary>
    public string UserName { get; private set; } = "";

    /// <summary>Whether it was changed just now.</summary>
    public bool Changed { get; private set; }

    public async Task OnGet(bool changed)
    {
        var account = await users.GetUserAsync(User);
        (UserName, Changed) = (account?.UserName ?? "", changed);
        HasOne = account is not null && await users.HasPasswordAsync(account);
    }

    public async Task<IActionResult> OnPost(string? current, string? wanted, string? again, CancellationToken cancel)
    {
        var reply = await passwords.Change(User.Id(), current, wanted, again, cancel);
        // Whoever has just said the old one goes on here.
        if (reply.Why is null && await users.GetUserAsync(User) is { } account)
            await signIn.RefreshSignInAsync(account);
        return await this.Answer(reply, _ => "/password?changed=true", () => OnGet(false));
    }
}
