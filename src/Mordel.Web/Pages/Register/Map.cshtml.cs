using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Lists;

namespace Mordel.Web.Pages.Register;

/// <summary>The register by where things stand.</summary>
public sealed class MapModel(RegisterMap map) : PageModel
{
    public MapView View { get; private set; } = null!;

    /// <summary>Whether a piece of it is shown.</summary>
    public bool IsPiece { get; private set; }

    public async Task OnGet(string? area, CancellationToken cancel)
    {
        var piece = MapArea.Parse(area);
        IsPiece = piece is not null;
        View = await map.Of(piece, cancel);
    }

    /// <summary>What stands out: assemblies that failed or are overdue.</summary>
    public int Trouble => View.Spots.Sum(s => Math.Max(s.Overdue, s.Failed));
}
