using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Outbox;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Notices;

/// <summary>Visits ahead that nobody has been told of, or that have left the hours that were told.</summary>
public sealed class AheadModel(TellOwners tell) : PageModel
{
    public ToldThem Look { get; private set; } = ToldThem.Nobody;

    public async Task OnGet(CancellationToken cancel) => Look = await tell.LookAhead(cancel);

    /// <summary>Tells them.</summary>
    public async Task<IActionResult> OnPost(CancellationToken cancel) =>
        await this.Answer(
            await tell.SendAhead(new(User.Name()), cancel),
            sent => $"/notices/send?sent={sent}",
            () => OnGet(cancel)
        );

    /// <summary>Somebody has telephoned an owner.</summary>
    public async Task<IActionResult> OnPostPhone(Guid owner, CancellationToken cancel) =>
        await this.Answer(
            await tell.ByTelephone(owner, new(User.Name()), cancel),
            _ => "/notices/ahead",
            () => OnGet(cancel)
        );
}
