using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Accounts;
using Mordel.Data.Audit;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Rows;
using Mordel.Documents.Reports;
using Mordel.Web.Application;
using Mordel.Web.SigningIn;

namespace Mordel.Web.Pages.Account;

/// <summary>How somebody signs in, and where they are signed in.</summary>
[Authorize]
public sealed class IndexModel(
    AccountSignIn signIn,
    UserManager<Data.Rows.Account> users,
    KeepWaysIn ways,
    Sessions sessions,
    ShowAgain showAgain,
    PersonAccess access,
    AuditLog audit
) : PageModel
{
    public Data.Rows.Account Account { get; private set; } = null!;
    public IReadOnlyList<UserPasskeyInfo> Passkeys { get; private set; } = [];
    public IReadOnlyList<SessionRow> Open { get; private set; } = [];

    /// <summary>The secret for the device that is to show codes, where that was begun.</summary>
    public string? Secret { get; private set; }

    /// <summary>The codes to put by, shown once.</summary>
    public IReadOnlyList<string> PutBy { get; private set; } = [];

    /// <summary>What the secret is as a picture for a camera.</summary>
    public QrPattern? Pattern =>
        Secret is null
            ? null
            : QrPattern.Of(
                $"otpauth://totp/Mordel:{Uri.EscapeDataString(Account.UserName!)}?secret={Secret}&issuer=Mordel"
            );

    public bool IsHere(SessionRow session) => session.Id == User.SessionId();

    public async Task<IActionResult> OnGet(CancellationToken cancel)
    {
        if (await users.GetUserAsync(User) is not { } account)
            return Redirect("/sign-in");
        Account = account;
        Passkeys = [.. await users.GetPasskeysAsync(account)];
        Open = await sessions.Open(account.Id, cancel);
        return Page();
    }

    /// <summary>What the browser is to make a passkey of.</summary>
    public async Task<IActionResult> OnPostAsk()
    {
        if (await users.GetUserAsync(User) is not { } account || await showAgain.IsLongAgo(HttpContext))
            return new StatusCodeResult(StatusCodes.Status403Forbidden);
        return Content(
            await signIn.MakePasskeyCreationOptionsAsync(
                new()
                {
                    Id = $"{account.Id}",
                    Name = account.UserName!,
                    DisplayName = account.FullName,
                }
            ),
            "application/json"
        );
    }

    public Task<IActionResult> OnPostPasskey(string? name, string? answer, CancellationToken cancel) =>
        Shown(
            async () =>
                await SigningIn.Passkeys.Attested(signIn, answer) is { } made
                    ? await ways.AddPasskey(User.Id(), made, name, cancel)
                    : Reply<Guid>.Refused("No passkey came of it. Try again."),
            cancel
        );

    public Task<IActionResult> OnPostNoPasskey(string? credential, CancellationToken cancel) =>
        Shown(() => ways.RemovePasskey(User.Id(), credential, cancel), cancel);

    public Task<IActionResult> OnPostBeginCodes(CancellationToken cancel) =>
        Proved(async () =>
        {
            var begun = await ways.BeginCodes(User.Id(), cancel);
            (Secret, _) = (begun.Value, await OnGet(cancel));
            this.Say(begun.Errors);
            return Page();
        });

    public Task<IActionResult> OnPostCodes(string? code, CancellationToken cancel) =>
        Proved(async () =>
        {
            var asked = await ways.AskForCodes(User.Id(), code, cancel);
            await OnGet(cancel);
            this.Say(asked.Errors);
            if (asked.Why is null)
                await signIn.RefreshSignInAsync(Account);
            (PutBy, Secret) = (
                asked.Value ?? [],
                asked.Why is null ? null : await users.GetAuthenticatorKeyAsync(Account)
            );
            return Page();
        });

    public Task<IActionResult> OnPostNoCodes(CancellationToken cancel) =>
        Shown(() => ways.AskForNone(User.Id(), cancel), cancel);

    public async Task<IActionResult> OnPostEnd(Guid id, CancellationToken cancel) =>
        await sessions.End(id, User.Id(), cancel) ? await Ended(1, cancel) : NotFound();

    public async Task<IActionResult> OnPostEndOthers(CancellationToken cancel) =>
        await Ended(await sessions.EndAll(User.Id(), User.SessionId(), cancel), cancel);

    private async Task<IActionResult> Ended(int devices, CancellationToken cancel)
    {
        if (devices > 0)
            await audit.Write(
                AuditKinds.SignedOut,
                $"{User.Id()}",
                devices == 1 ? "on another device" : $"on {devices} other devices",
                cancel
            );
        return Redirect("/account");
    }

    /// <summary>All that is kept about whoever asks.</summary>
    public async Task<IActionResult> OnGetAbout(CancellationToken cancel) =>
        await access.About(User.Id(), cancel) is { } file
            ? File(file, "application/json", "about-me.json")
            : NotFound();

    // Whoever finds a device open does not change how its owner comes in.
    private async Task<IActionResult> Proved(Func<Task<IActionResult>> then) =>
        await showAgain.IsLongAgo(HttpContext) ? Redirect("/show-again?returnUrl=/account") : await then();

    private Task<IActionResult> Shown(Func<Task<Reply<Guid>>> command, CancellationToken cancel) =>
        Proved(async () =>
        {
            var reply = await command();
            if (reply.Why is null && await users.GetUserAsync(User) is { } account)
                await signIn.RefreshSignInAsync(account);
            return await this.Answer(reply, _ => "/account", () => OnGet(cancel));
        });
}
