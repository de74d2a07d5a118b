using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Web.Pages.RunSheets;

/// <summary>A procedure, expanded for a kit, to read and to learn from.</summary>
public sealed class IndexModel : PageModel
{
    public Procedure Procedure { get; } = SchoolCatalogue.All[0];
    public Kit Kit { get; private set; } = Kit.FiveValve;
    public Rig Rig { get; private set; } = null!;

    public IActionResult OnGet(string? kit)
    {
        if (kit is not null && Kit.Named(kit) is null) return NotFound();
        Kit = Kit.Named(kit) ?? Kit.FiveValve;
        Rig = new(AssemblyBody.Of(Procedure.Type)!, Kit);
        return Page();
    }
}
