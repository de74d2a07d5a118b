using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Rules;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Rules;

/// <summary>The profiles in all their versions, and which authority works by which.</summary>
public sealed class IndexModel(
    ProfileList book,
    MakeProfile make,
    SendReports send,
    KeepNotices notices,
    ChangeList changes,
    TimeProvider clock
) : PageModel
{
    public IReadOnlyList<Profile> Profiles { get; private set; } = [];
    public IReadOnlyList<AuthorityRow> Authorities { get; private set; } = [];
    public DateOnly Today => clock.Today();

    /// <summary>The forms that a report goes in, in words.</summary>
    public static IReadOnlyList<(string Form, string Says)> Forms { get; } =
    [(ReportForms.Pdf, "PDF"), (ReportForms.Data, "data with its seal"), (ReportForms.Table, "table (CSV)")];

    /// <summary>What a profile is compared with at first: the version before it, else another profile.</summary>
    public Profile Before(Profile profile)
    {
        ArgumentNullException.ThrowIfNull(profile);
        return Profiles.Where(p => p.Id == profile.Id && p.Version < profile.Version).MaxBy(p => p.Version)
            ?? Profiles.First(p => p.Id != profile.Id);
    }

    /// <summary>Versions that are kept and cannot be read.</summary>
    public IReadOnlyList<UnreadableProfile> Unreadable => book.Unreadable;

    /// <summary>Who changed what about authorities and profiles, the latest first.</summary>
    public IReadOnlyList<ChangeRow> Changes { get; private set; } = [];

    public async Task OnGet(CancellationToken cancel)
    {
        (Profiles, Authorities) = (await book.All(cancel), await make.Authorities(cancel));
        Changes = await changes.OfTheRules(cancel);
    }

    /// <summary>Gives an authority another name.</summary>
    public async Task<IActionResult> OnPostName(Guid authorityId, string? name, CancellationToken cancel) =>
        await this.Answer(await make.Rename(authorityId, name, Author, cancel), _ => "/rules", () => OnGet(cancel));

    /// <summary>Says how an authority takes reports.</summary>
    public async Task<IActionResult> OnPostReports(
        Guid authorityId,
        string? by,
        string? to,
        string[] forms,
        CancellationToken cancel
    ) =>
        await this.Answer(
            await send.To(authorityId, by, to, forms, Author, cancel),
            _ => "/rules",
            () => OnGet(cancel)
        );

    /// <summary>Sets the key that an authority's service is told.</summary>
    public async Task<IActionResult> OnPostKey(Guid authorityId, string? key, CancellationToken cancel) =>
        await this.Answer(await send.WithKey(authorityId, key, Author, cancel), _ => "/rules", () => OnGet(cancel));

    /// <summary>Says where an authority is told at once of a failure on a high hazard.</summary>
    public async Task<IActionResult> OnPostAlerts(Guid authorityId, string? alertsTo, CancellationToken cancel) =>
        await this.Answer(
            await notices.AlertsTo(authorityId, alertsTo, Author, cancel),
            _ => "/rules",
            () => OnGet(cancel)
        );

    public async Task<IActionResult> OnPost(Guid authorityId, string? profileId, CancellationToken cancel) =>
        await this.Answer(
            await make.Assign(authorityId, profileId, Author, cancel),
            _ => "/rules",
            () => OnGet(cancel)
        );

    /// <summary>Brings in rules as a file.</summary>
    public async Task<IActionResult> OnPostImport(IFormFile? file, DateOnly? from, CancellationToken cancel)
    {
        if (file is null || file.Length is 0 or > LargestProfile)
        {
            await OnGet(cancel);
            return this.Wrong("Choose a file of rules of up to 1 MB: mordel.profile/1, as JSON.");
        }

        using var reader = new StreamReader(file.OpenReadStream());
        return await this.Answer(
            await make.Import(await reader.ReadToEndAsync(cancel), from, Author, cancel),
            _ => "/rules",
            () => OnGet(cancel)
        );
    }

    private const long LargestProfile = 1024 * 1024;

    private Author Author => new(User.Name());
}
