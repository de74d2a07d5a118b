using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Core.Reports;
using Mordel.Data;
using Mordel.Data.Links;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Owner;

/// <summary>What somebody sees who scans the tag on an assembly: what the tag says, as it is today.</summary>
[EnableRateLimiting(Limits.OwnerLink)]
[ResponseCache(NoStore = true)]
public sealed class TagModel(KeepLinks links, TagList list, Installation installation, TimeProvider clock) : PageModel
{
    /// <summary>What the tag says; null where the link opens nothing.</summary>
    public AssemblyTag? Tag { get; private set; }

    /// <summary>The assembly, for who is signed in and has the register.</summary>
    public Guid? Passport { get; private set; }
    public Installation Firm => installation;
    public DateOnly Today => clock.Today();

    public async Task<IActionResult> OnGet(string token, CancellationToken cancel)
    {
        if (await links.Find(token, cancel, LinkPurposes.Tag) is { } link)
        {
            var rows = await list.Of([link.OfId], cancel);
            Tag = await list.Tags(rows, cancel) is [var tag] ? tag : null;
            Passport = Rooms.Register.IsFor(User) ? link.OfId : null;
        }

        if (Tag is null)
            Response.StatusCode = StatusCodes.Status404NotFound;
        return Page();
    }
}
