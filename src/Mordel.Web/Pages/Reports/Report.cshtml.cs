using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Verdicts;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Lists;
using Mordel.Documents.Reports;
using Mordel.Web.Api;
using Mordel.Web.Application;
using Mordel.Web.Reporting;

namespace Mordel.Web.Pages.Reports;

/// <summary>A sealed run as a report; amendments are added here.</summary>
public sealed class ReportPageModel(FindRun find, ReportBuilder builder, CheckSeal seal, AmendRun amend, AddStop add, TimeProvider clock) : PageModel
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

    public IReadOnlyList<(string Field, string Says)> Faults { get; private set; } = [];

    /// <summary>Whether a return visit makes sense: it is one's own test and it did not pass.</summary>
    public bool MayReturn => Mine && Verdict.Overall != Overall.Pass;

    /// <summary>The day proposed for it.</summary>
    public DateOnly ReturnDay => clock.Today().AddDays(7);

    public async Task<IActionResult> OnPostReturn(Guid id, DateOnly? day, TimeOnly? from, TimeOnly? until, string? special, CancellationToken cancel)
    {
        if (await OnGet(id, cancel) is not PageResult page) return NotFound();
        if (!MayReturn) return Forbid();
        Faults = day < clock.Today() ? [("day", "A return visit lies ahead.")] : await add.With(Run.Row.AssemblyId, new(User.Id(), day, from, until, special), cancel);
        return Faults.Count == 0 ? Redirect($"/register/{Run.Row.AssemblyId}") : page;
    }

    public async Task<IActionResult> OnPost(Guid id, string? text, CancellationToken cancel)
    {
        var amended = await amend.With(id, User.Id(), text, cancel);
        if (amended.Refusal is null) return Redirect($"/reports/{id}");
        (Problem, Text) = (amended.Refusal, text);
        return await OnGet(id, cancel);
    }
}
