using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Mordel.Web.Pages.Account;

/// <summary>Signs out.</summary>
public sealed class SignOutModel(SignInManager<Data.Rows.Account> signIn) : PageModel
{
    public async Task<IActionResult> OnPost()
    {
        await signIn.SignOutAsync();
        return Redirect("/sign-in");
    }
}
