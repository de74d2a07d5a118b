using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Audit;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Account;

/// <summary>Signs out.</summary>
public sealed class SignOutModel(SignInManager<Data.Rows.Account> signIn, AuditLog audit) : PageModel
{
    public async Task<IActionResult> OnPost(CancellationToken cancel)
    {
        if (User.Identity?.IsAuthenticated == true)
            await audit.Write(AuditKinds.SignedOut, $"{User.Id()}", "", cancel);
        await signIn.SignOutAsync();
        return Redirect("/sign-in");
    }
}
