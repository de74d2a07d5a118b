using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Verdicts;
using Mordel.Data.Commands;
using Mordel.Data.Lists;
using Mordel.Documents.Reports;
using Mordel.Web.Api;
using Mordel.Web.Application;
using Mordel.Web.Reporting;

namespace Mordel.Web.Pages.Reports;

/// <summary>A sealed run as a report; amendments are added here.</summary>
public sealed class ReportPageModel(FindRun find, ReportBuilder builder, CheckSeal seal, AmendRun amend) : PageModel
{
    public RunFile Run { get; private set; } = null!;
    public ReportModel Report { get; private set; } = null!;
    public Verdict Verdict { get; private set; } = null!;
    public bool SealHolds { get; private set; }
    public bool Mine => Run.Row.TesterId == User.Id();
    public string? Problem { get; private set; }
    public string? Text { get; private set; }

    public async Task<IActionResult> OnGet(Guid id, CancellationToken cancel)
    {
        if (await find.Report(id, User.Asker(), cancel) is not { } run) return NotFound();
        if (!run.Row.IsSealed) return Redirect($"/runs/{id}");
        (Run, SealHolds) = (run, seal.Holds(run));
        (Report, Verdict) = await builder.Of(run, cancel);
        return Page();
    }

    public async Task<IActionResult> OnPost(Guid id, string? text, CancellationToken cancel)
    {
        var amended = await amend.With(id, User.Id(), text, cancel);
        if (amended.Refusal is null) return Redirect($"/reports/{id}");
        (Problem, Text) = (amended.Refusal, text);
        return await OnGet(id, cancel);
    }
}
