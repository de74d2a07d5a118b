using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Data;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Web.Pages.RunSheets;

/// <summary>The schools, and one of them written out for a kit and a profile, to read and to learn from.</summary>
public sealed class IndexModel(ProfileList book, TimeProvider clock) : PageModel
{
    public Procedure Procedure { get; private set; } = SchoolCatalogue.All[0];
    public Kit Kit { get; private set; } = Kit.FiveValve;
    public Profile Profile { get; private set; } = BuiltInProfiles.PsidStandard;

    /// <summary>Whether it is written out for a seasonal visit.</summary>
    public bool Seasonal { get; private set; }
    public string? Unfit { get; private set; }
    public RunSheet? Sheet { get; private set; }
    public IReadOnlyList<Profile> Profiles { get; private set; } = [];

    public async Task<IActionResult> OnGet(
        string? school,
        string? kit,
        string? profile,
        string? visit,
        CancellationToken cancel
    )
    {
        if (
            (school is not null && SchoolCatalogue.Named(school) is null) || (kit is not null && Kit.Named(kit) is null)
        )
            return NotFound();
        Procedure = SchoolCatalogue.Named(school) ?? SchoolCatalogue.Named("dc-sight-tube")!;
        Kit = Kit.Named(kit) ?? Kit.All.First(k => k.Kind == Procedure.Kits[0]);
        Profiles =
        [
            .. (await book.All(cancel)).Where(p => p.School(Procedure.Id) is not null && p.InForceOn(clock.Today())),
        ];
        Profile = Profiles.FirstOrDefault(p => p.Id == profile) ?? Profiles[0];
        Seasonal = visit == StopRow.Seasonal;
        Unfit = Procedure.Unfit(Kit);
        if (Unfit is null)
            Sheet = SchoolCatalogue.Sheet(Procedure, Kit, Profile, seasonal: Seasonal);
        return Page();
    }
}
