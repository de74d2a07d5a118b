using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Core.Outside;
using Mordel.Web.Application;
using Mordel.Web.SigningIn;

namespace Mordel.Web.Pages.Account;

/// <summary>Sends a link to who has forgotten their password, where there is mail; answers everybody alike.</summary>
[EnableRateLimiting(Limits.SignIn)]
public sealed class ForgottenModel(ForgottenNames asked) : PageModel
{
    public bool Asked { get; private set; }

    public IActionResult OnGet() => HttpContext.RequestServices.GetService<IMail>() is null ? NotFound() : Page();

    public IActionResult OnPost(string? userName)
    {
        if (OnGet() is NotFoundResult none)
            return none;
        Asked = true;
        if (userName is { Length: > 0 and < 120 })
            asked.Add(userName);
        return Page();
    }
}
