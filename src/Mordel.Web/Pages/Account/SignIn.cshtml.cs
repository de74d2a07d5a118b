using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Data.Audit;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Account;

/// <summary>Signs in; in the demo each persona with one click.</summary>
[EnableRateLimiting(Limits.SignIn)]
public sealed class SignInModel(
    SignInManager<Data.Rows.Account> signIn,
    UserManager<Data.Rows.Account> users,
    AuditLog audit,
    WhoAsks who,
    KitsAndPeopleList people,
    MordelOptions options
) : PageModel
{
    // Nobody's password: an unknown name takes as long as a known one.
    private static readonly string NobodysHash = new PasswordHasher<Data.Rows.Account>().HashPassword(
        null!,
        Guid.NewGuid().ToString()
    );

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
        var account = await users.FindByNameAsync(userName ?? "");
        if (account is null)
            users.PasswordHasher.VerifyHashedPassword(null!, NobodysHash, password ?? "");
        var result = account is null
            ? Microsoft.AspNetCore.Identity.SignInResult.Failed
            : await signIn.PasswordSignInAsync(account, password ?? "", isPersistent: true, lockoutOnFailure: true);
        if (result.Succeeded)
        {
            await Say(AuditKinds.SignedIn, account!, "with a password", cancel);
            return Onward();
        }

        // A name that nobody has may be a password in the wrong field: it is not written down.
        await audit.Write(
            result.IsLockedOut ? AuditKinds.LockedOut : AuditKinds.SignInFailed,
            account is null ? "" : $"{account.Id}",
            account is null ? "by a name that nobody has" : $"as {account.FullName}",
            cancel
        );
        // The same words whether somebody has that name or not.
        return this.Wrong("Name and password do not fit together. After eight tries a name rests for five minutes.");
    }

    public async Task<IActionResult> OnPostAs(Guid id, string? returnUrl, CancellationToken cancel)
    {
        await Load(returnUrl, cancel);
        var persona = Personas.FirstOrDefault(p => p.Account.Id == id).Account;
        if (persona is null)
            return this.Wrong("Nobody of that name is in the demonstration.");

        await signIn.SignInAsync(persona, isPersistent: true);
        await Say(AuditKinds.SignedIn, persona, "with one click, in the demonstration", cancel);
        return Onward();
    }

    private async Task Say(string what, Data.Rows.Account account, string how, CancellationToken cancel)
    {
        who.Is(account.Id, account.FullName, who.From);
        await audit.Write(what, $"{account.Id}", how, cancel);
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
