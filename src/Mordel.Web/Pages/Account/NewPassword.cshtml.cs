using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Account;

/// <summary>Sets a password by a link, once.</summary>
[EnableRateLimiting(Limits.OwnerLink)]
public sealed class NewPasswordModel(KeepPasswords passwords) : PageModel
{
    public string? UserName { get; private set; }
    public string? FullName { get; private set; }

    public async Task OnGet(string secret, CancellationToken cancel)
    {
        var whose = await passwords.Whose(secret, cancel);
        (UserName, FullName) = (whose?.UserName, whose?.FullName);
        Response.Headers["Referrer-Policy"] = "no-referrer";
        if (whose is null)
            Response.StatusCode = StatusCodes.Status404NotFound;
    }

    public async Task<IActionResult> OnPost(string secret, string? wanted, string? again, CancellationToken cancel)
    {
        var reply = await passwords.ByLink(secret, wanted, again, cancel);
        if (reply.Why == NotDone.NotFound)
        {
            await OnGet(secret, cancel);
            return Page();
        }

        return await this.Answer(reply, _ => "/sign-in", () => OnGet(secret, cancel));
    }
}
