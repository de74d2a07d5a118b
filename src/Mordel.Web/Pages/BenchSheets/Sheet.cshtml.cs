using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Catalogue;
using Mordel.Core.Drawing;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;

namespace Mordel.Web.Pages.BenchSheets;

/// <summary>A bench sheet, a step at a time, beside the parts drawn apart.</summary>
public sealed class SheetModel : PageModel
{
    public BenchSheet Sheet { get; private set; } = null!;

    /// <summary>Whether it is put together; else it is taken apart.</summary>
    public bool IsIn { get; private set; }

    /// <summary>The step, from 0.</summary>
    public int Step { get; private set; }
    public IReadOnlyList<BenchStep> Steps => IsIn ? Sheet.In : Sheet.Out;
    public BenchStep Now => Steps[Step];

    /// <summary>The parts that are handled now.</summary>
    public IEnumerable<BenchPart> Parts => Now.Parts.Select(Sheet.Part);

    /// <summary>A body of this family, for what is done before and after.</summary>
    public AssemblyBody Body => Bodies.Find(Sheet.Family.Types[0]);

    public string Drawing => ExplodedRenderer.Draw(Sheet, IsIn, Step, at => Link(IsIn, at));

    /// <summary>Where a step is.</summary>
    public string Link(bool isIn, int step) =>
        $"/bench-sheets/{Sheet.Id}?order={(isIn ? "in" : "out")}&step={step + 1}";

    public IActionResult OnGet(string id, string? order, int? step)
    {
        if (Core.Repairs.BenchSheets.Named(id) is not { } sheet)
            return NotFound();
        (Sheet, IsIn) = (sheet, order == "in");
        Step = Math.Clamp((step ?? 1) - 1, 0, Steps.Count - 1);
        return Page();
    }
}
