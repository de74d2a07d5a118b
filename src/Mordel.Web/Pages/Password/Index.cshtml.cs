using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Data.Accounts;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Password;

/// <summary>Where everybody changes their own password.</summary>
[EnableRateLimiting(Limits.SignIn)]
public sealed class IndexModel(
    KeepPasswords passwords,
    UserManager<Data.Rows.Account> users,
    SignInManager<Data.Rows.Account> signIn,
    SignInTries tries
) : PageModel
{
    /// <summary>Whether there is one to be asked for.</summary>
    public bool HasOne { get; private set; }

    /// <summary>What is signed in with, for who keeps passwords.</summary>
    public string UserName { get; private set; } = "";

    /// <summary>Whether it was given by somebody else and is to be changed first.</summary>
    public bool MustChange => User.HasClaim(c => c.Type == Visitors.MustChange);

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
        var name = $"again {User.Id()}";
        if (await tries.Rests(name, "", null, cancel))
        {
            await OnGet(false);
            return this.Wrong("After eight tries it rests for five minutes.");
        }

        var reply = await passwords.Change(User.Id(), User.SessionId(), current, wanted, again, cancel);
        if (reply.Errors.Any(e => e.Field == "current"))
            await tries.Wrong(name, "", null, cancel);
        // Whoever has just said the old one goes on here.
        if (reply.Why is null && await users.GetUserAsync(User) is { } account)
            await signIn.RefreshSignInAsync(account);
        return await this.Answer(reply, _ => "/password?changed=true", () => OnGet(false));
    }
}
