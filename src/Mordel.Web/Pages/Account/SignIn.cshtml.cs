using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Account;

/// <summary>Signs in; in the demo each persona with one click.</summary>
[EnableRateLimiting(Limits.SignIn)]
public sealed class SignInModel(
    SignInManager<Data.Rows.Account> signIn,
    KitsAndPeopleList people,
    MordelOptions options
) : PageModel
{
    public string? UserName { get; private set; }
    public string? ReturnUrl { get; private set; }
    public IReadOnlyList<(Data.Rows.Account Account, string Role)> Personas { get; private set; } = [];

    public async Task OnGet(string? returnUrl, CancellationToken cancel) => await Load(returnUrl, cancel);

    public async Task<IActionResult> OnPost(
        string? userName,
        string? password,
        string? returnUrl,
        CancellationToken cancel
    )
    {
        await Load(returnUrl, cancel);
        UserName = userName;
        var result = await signIn.PasswordSignInAsync(
            userName ?? "",
            password ?? "",
            isPersistent: true,
            lockoutOnFailure: true
        );
        if (result.Succeeded)
            return Onward();
        return this.Wrong(
            result.IsLockedOut
                ? "Too many attempts. Wait five minutes and try again."
                : "Name and password do not fit together."
        );
    }

    public async Task<IActionResult> OnPostAs(Guid id, string? returnUrl, CancellationToken cancel)
    {
        await Load(returnUrl, cancel);
        var persona = Personas.FirstOrDefault(p => p.Account.Id == id).Account;
        if (persona is null)
            return this.Wrong("Nobody of that name is in the demonstration.");

        await signIn.SignInAsync(persona, isPersistent: true);
        return Onward();
    }

    private LocalRedirectResult Onward() => LocalRedirect(Url.IsLocalUrl(ReturnUrl) ? ReturnUrl! : "/");

    private async Task Load(string? returnUrl, CancellationToken cancel)
    {
        ReturnUrl = returnUrl;
        if (!options.Demo)
            return;
        var all = await people.People(cancel);
        Personas =
        [
            .. all.Where(p => p.Account.DemoNote is not null)
                .OrderBy(p => Array.IndexOf(Roles.All, p.Roles[0]))
                .Select(p => (p.Account, p.Roles[0])),
        ];
    }
}
