using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Core.Diagnosis;
using Mordel.Data.Commands.Diagnoses;
using Mordel.Data.Files;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Owner;

/// <summary>
/// What somebody without an account sees who has opened a link: one assembly, one harmless look at a time. The link is
/// the only key.
/// </summary>
[EnableRateLimiting(Limits.OwnerLink)]
[ResponseCache(NoStore = true)]
public sealed class LookModel(AskWhoeverIsThere links, DiagnosisList list, KeepDiagnosis keep, AtlasShelf shelf)
    : PageModel
{
    private const string Name = "whoever is there";

    public DiagnosisFile? View { get; private set; }
    public NextLook? Next { get; private set; }

    /// <summary>What they have told so far.</summary>
    public IEnumerable<BoardLine> Told =>
        View?.Lines.Where(l => l.Row.Way == ObservationWays.Owner && l.TakenBack is null) ?? [];

    public async Task<IActionResult> OnGet(string token, CancellationToken cancel)
    {
        if (await links.Find(token, cancel) is not { } id || await list.Of(id, cancel) is not { } view)
        {
            Response.StatusCode = StatusCodes.Status404NotFound;
            return Page();
        }

        View = view;
        try
        {
            // What they are not sure of is not asked again at once.
            Next = Diagnosing
                .Of(shelf.Of(view.Body), view.Evidence(Doer.Occupant))
                .Next.FirstOrDefault(n => !Told.Any(t => t.Observed is Observed.Unsure u && u.Look == n.Id));
        }
        catch (FormatException)
        {
            // Without the atlas nothing is asked; what to never touch is said all the same.
            Next = null;
        }

        return Page();
    }

    /// <summary>They tell what they see.</summary>
    public async Task<IActionResult> OnPost(string token, string? look, string? outlet, CancellationToken cancel)
    {
        if (await links.Find(token, cancel) is not { } id)
            return await OnGet(token, cancel);
        return await this.Answer(
            await keep.Saw(id, look, outlet, null, null, new(Name, ObservationWays.Owner), cancel),
            _ => $"/look/{token}",
            () => OnGet(token, cancel)
        );
    }
}
