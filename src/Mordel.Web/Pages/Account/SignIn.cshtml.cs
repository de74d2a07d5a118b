using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Core.Outside;
using Mordel.Data.Audit;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;
using Mordel.Web.SigningIn;

namespace Mordel.Web.Pages.Account;

/// <summary>Signs in, with a password or a passkey; in the demo each persona with one click.</summary>
[EnableRateLimiting(Limits.SignIn)]
public sealed class SignInModel(
    AccountSignIn signIn,
    UserManager<Data.Rows.Account> users,
    WrongTries tries,
    KnownDevices devices,
    AuditLog audit,
    WhoAsks who,
    KitsAndPeopleList people,
    MordelOptions options
) : PageModel
{
    private const string Wrong =
        "Name and password do not fit together. After eight tries a name rests for five minutes, but not on a device "
        + "on which it came in before.";

    public string? UserName { get; private set; }
    public string? ReturnUrl { get; private set; }
    public IReadOnlyList<(Data.Rows.Account Account, string Role)> Personas { get; private set; } = [];

    /// <summary>Whether a link can be sent to who has forgotten the password.</summary>
    public bool SendsLinks => !options.Demo && HttpContext.RequestServices.GetService<IMail>() is not null;

    private string Address => who.From;

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
        var name = users.NormalizeName(userName) ?? "";
        var account = await users.FindByNameAsync(userName ?? "");
        var device = devices.Of(HttpContext, account?.Id);
        // Who rests is answered as who is wrong: the same words, the same time, whether somebody has that name or not.
        var rests = await tries.Rests(name, Address, device);
        var isRight = await signIn.IsRight(account, password ?? "");
        if (rests || !isRight || account?.DismissedAt is not null)
        {
            await Refuse(name, account, device, cancel);
            return this.Wrong(Wrong);
        }

        await tries.Right(name, device);
        if ((await signIn.ComeIn(account!)).RequiresTwoFactor)
            return RedirectToPage("Code", new { ReturnUrl });
        return await ComeIn(account!, "with a password", cancel);
    }

    public async Task<IActionResult> OnPostAs(Guid id, string? returnUrl, CancellationToken cancel)
    {
        await Load(returnUrl, cancel);
        var persona = Personas.FirstOrDefault(p => p.Account.Id == id).Account;
        if (persona is null)
            return this.Wrong("Nobody of that name is in the demonstration.");

        signIn.How = "one click, in the demonstration";
        await signIn.SignInAsync(persona, isPersistent: true);
        return await ComeIn(persona, "with one click, in the demonstration", cancel);
    }

    /// <summary>What the browser is to ask its passkeys.</summary>
    public async Task<IActionResult> OnPostAsk() =>
        Content(await signIn.MakePasskeyRequestOptionsAsync(null), "application/json");

    /// <summary>What a passkey answered.</summary>
    public async Task<IActionResult> OnPostPasskey(string? answer, string? returnUrl, CancellationToken cancel)
    {
        await Load(returnUrl, cancel);
        signIn.How = "a passkey";
        if (await Passkeys.Asserted(signIn, answer) is not { } account || !await signIn.CanSignInAsync(account))
        {
            await Refuse("", null, null, cancel);
            return this.Wrong(
                "That passkey opens nothing here. Come in with the password, or ask the owner for a link."
            );
        }

        await signIn.SignInAsync(account, isPersistent: true);
        return await ComeIn(account, "with a passkey", cancel);
    }

    // A name that nobody has may be a password in the wrong field: it is not written down.
    private Task Refuse(string name, Data.Rows.Account? account, string? device, CancellationToken cancel) =>
        tries.Note(
            name,
            account is null ? "" : $"{account.Id}",
            account is null ? "by a name that nobody has" : $"as {account.FullName}",
            cancel,
            Address,
            device
        );

    private async Task<IActionResult> ComeIn(Data.Rows.Account account, string how, CancellationToken cancel)
    {
        devices.Remember(HttpContext, account.Id);
        who.Is(account.Id, account.FullName, who.From);
        await audit.Write(AuditKinds.SignedIn, $"{account.Id}", how, cancel);
        return LocalRedirect(Url.IsLocalUrl(ReturnUrl) ? ReturnUrl! : "/");
    }

    private async Task Load(string? returnUrl, CancellationToken cancel)
    {
        ReturnUrl = returnUrl;
        if (!options.Demo)
            return;
        var all = await people.People(cancel);
        Personas =
        [
            .. all.Where(p => p.Account is { DemoNote: not null, DismissedAt: null })
                .OrderBy(p => Array.IndexOf(Roles.All, p.Roles[0]))
                .Select(p => (p.Account, p.Roles[0])),
        ];
    }
}
