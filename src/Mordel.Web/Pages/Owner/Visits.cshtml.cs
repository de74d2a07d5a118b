using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Data;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Links;
using Mordel.Data.Lists;
using Mordel.Web.Api;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Owner;

/// <summary>
/// What an owner, or whoever is at a place, sees by a link: when the water will be off, what is due, the reports; yes
/// or another time. The link is the only key.
/// </summary>
[EnableRateLimiting(Limits.OwnerLink)]
[ResponseCache(NoStore = true)]
public sealed class VisitsModel(
    KeepLinks links,
    OwnerPage page,
    AnswerVisit answer,
    Installation installation,
    TimeProvider clock
) : PageModel
{
    /// <summary>What is shown; null where the link opens nothing.</summary>
    public OwnerView? View { get; private set; }

    /// <summary>The secret, for links on the page.</summary>
    public string Token { get; private set; } = "";

    /// <summary>When the link ends.</summary>
    public DateTimeOffset? Until { get; private set; }

    /// <summary>What was typed, where it could not be kept.</summary>
    public OwnerAnswer? Typed { get; private set; }

    /// <summary>The place for which an answer was kept just now.</summary>
    public Guid? Kept { get; private set; }
    public DateOnly Today => clock.Today();
    public Installation Firm => installation;

    public async Task<IActionResult> OnGet(string token, Guid? kept, CancellationToken cancel)
    {
        (Token, Kept) = (token, kept);
        var link = await OwnerFiles.Find(links, token, cancel);
        View = link is null ? null : await page.Of(link, cancel);
        Until = link?.ExpiresAt;
        if (View is null)
            Response.StatusCode = StatusCodes.Status404NotFound;
        return Page();
    }

    /// <summary>Yes, or another time.</summary>
    public async Task<IActionResult> OnPost(string token, OwnerAnswer given, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(given);
        if (await OwnerFiles.Find(links, token, cancel) is not { } link)
            return await OnGet(token, null, cancel);
        Typed = given;
        return await this.Answer(
            await answer.By(link, given, cancel),
            place => $"/owner/{token}?kept={place}#p-{place}",
            () => OnGet(token, null, cancel)
        );
    }
}
