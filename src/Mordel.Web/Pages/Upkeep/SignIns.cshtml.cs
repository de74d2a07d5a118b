using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Accounts;
using Mordel.Data.Audit;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Upkeep;

/// <summary>Who is signed in where, and which programs have keys; each can be ended.</summary>
public sealed class SignInsModel(Sessions sessions, ApiKeys keys, AuditLog audit) : PageModel
{
    public IReadOnlyList<SessionRow> Open { get; private set; } = [];
    public IReadOnlyList<TokenRow> Keys { get; private set; } = [];

    public bool IsHere(SessionRow session) => session.Id == User.SessionId();

    public async Task OnGet(CancellationToken cancel) =>
        (Open, Keys) = (await sessions.Open(null, cancel), await keys.Open(cancel));

    public async Task<IActionResult> OnPostEnd(Guid id, CancellationToken cancel)
    {
        await OnGet(cancel);
        if (Open.FirstOrDefault(s => s.Id == id) is not { } one || !await sessions.End(id, null, cancel))
            return NotFound();
        await audit.Write(AuditKinds.SignedOut, $"{one.AccountId}", $"on {one.Device}, by the owner", cancel);
        return Redirect("/installation/sign-ins");
    }

    public async Task<IActionResult> OnPostRevoke(Guid id, CancellationToken cancel) =>
        await keys.Revoke(null, id, cancel) ? Redirect("/installation/sign-ins#keys") : NotFound();
}
