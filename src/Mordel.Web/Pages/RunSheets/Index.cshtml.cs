using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;

namespace Mordel.Web.Pages.RunSheets;

/// <summary>The schools, and one of them written out for a kit and a profile, to read and to learn from.</summary>
public sealed class IndexModel : PageModel
{
    public Procedure Procedure { get; private set; } = SchoolCatalogue.All[0];
    public Kit Kit { get; private set; } = Kit.FiveValve;
    public Profile Profile { get; private set; } = BuiltInProfiles.PsidStandard;
    public string? Unfit { get; private set; }
    public RunSheet? Sheet { get; private set; }
    public IEnumerable<Profile> Profiles => BuiltInProfiles.All.Where(p => p.School(Procedure.Id) is not null);

    public IActionResult OnGet(string? school, string? kit, string? profile)
    {
        if ((school is not null && SchoolCatalogue.Named(school) is null) || (kit is not null && Kit.Named(kit) is null)) return NotFound();
        Procedure = SchoolCatalogue.Named(school) ?? SchoolCatalogue.Named("dc-sight-tube")!;
        Kit = Kit.Named(kit) ?? Kit.All.First(k => k.Kind == Procedure.Kits[0]);
        Profile = Profiles.FirstOrDefault(p => p.Id == profile) ?? Profiles.First();
        Unfit = Procedure.Unfit(Kit);
        if (Unfit is null) Sheet = SchoolCatalogue.Sheet(Procedure, Kit, Profile);
        return Page();
    }
}
