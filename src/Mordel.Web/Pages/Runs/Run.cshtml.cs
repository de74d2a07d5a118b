using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Views;
using Mordel.Data.Lists;
using Mordel.Web.Api;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Runs;

/// <summary>The run screen: the page carries the first view; from then on it sends entries and gets views.</summary>
public sealed class RunModel(FindRun find, KitsAndPeopleList people) : PageModel
{
    private string[] colours = [];

    public RunFile Run { get; private set; } = null!;
    public string ViewJson { get; private set; } = "";

    /// <summary>What the screen says of the run beside its view.</summary>
    public string AboutJson { get; private set; } = "";

    /// <summary>Whose entries these are, where several people use one device.</summary>
    public Guid Me => User.Id();

    /// <summary>The first view, which the page shows by itself until its script has started.</summary>
    public RunView First { get; private set; } = null!;
    public bool ReadOnly => Run.Row.TesterId != User.Id();

    /// <summary>
    /// The colour that the person has given to a hose of the kit: 0 high, 1 low, 2 bypass; empty while nobody has said.
    /// </summary>
    public string Colour(int hose) => colours.ElementAtOrDefault(hose) ?? "";

    public async Task<IActionResult> OnGet(Guid id, CancellationToken cancel)
    {
        if (await find.Now(id, User.Asker(), cancel) is not { } now)
            return NotFound();
        if (now.Open is not { } run)
            return Redirect($"/reports/{id}");
        Run = run;
        colours = await people.HoseColoursOf(run.Row.KitId, cancel);
        First = RunApi.ViewOf(run);
        ViewJson = JsonSerializer.Serialize(First, ViewsJson.Border.RunView);
        AboutJson = JsonSerializer.Serialize(
            new
            {
                procedure = run.Plan.Procedure.Title,
                verdict = $"/runs/{id}/verdict",
                report = $"/reports/{id}",
                colours = new[] { Colour(0), Colour(1), Colour(2) },
            }
        );
        Response.Headers.CacheControl = "no-store";
        return Page();
    }
}
