using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Rules;
using Mordel.Data;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Rules;

/// <summary>The profiles in all their versions, and which authority works by which.</summary>
public sealed class IndexModel(ProfileList book, MakeProfile make, SendReports send, TimeProvider clock) : PageModel
{
    public IReadOnlyList<Profile> Profiles { get; private set; } = [];
    public IReadOnlyList<AuthorityRow> Authorities { get; private set; } = [];
    public DateOnly Today => clock.Today();

    /// <summary>Versions that are kept and cannot be read.</summary>
    public IReadOnlyList<UnreadableProfile> Unreadable => book.Unreadable;

    public async Task OnGet(CancellationToken cancel) =>
        (Profiles, Authorities) = (await book.All(cancel), await make.Authorities(cancel));

    /// <summary>Says how an authority takes reports.</summary>
    public async Task<IActionResult> OnPostReports(
        Guid authorityId,
        string? by,
        string? to,
        CancellationToken cancel
    ) => await this.Answer(await send.To(authorityId, by, to, cancel), _ => "/rules", () => OnGet(cancel));

    public async Task<IActionResult> OnPost(Guid authorityId, string? profileId, CancellationToken cancel) =>
        await this.Answer(await make.Assign(authorityId, profileId, cancel), _ => "/rules", () => OnGet(cancel));
}
