using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Verdicts;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Reports;

/// <summary>A sealed run as a report, checked each time it is shown; amendments are added here.</summary>
public sealed class ReportPageModel(FindRun find, AmendRun amend, AddStop add, OutboxList outbox, TimeProvider clock)
    : PageModel
{
    public SealedReport Sealed { get; private set; } = null!;
    public bool Mine => Sealed.TesterId == User.Id();
    public bool MaySeeOutbox => User.IsAtTheDesk();
    public bool MaySeeLog => Mine || User.IsAtTheDesk();

    /// <summary>Where the report and its amendments went.</summary>
    public IReadOnlyList<OutboxRow> Sent { get; private set; } = [];

    /// <summary>Whether a return visit, or an amendment, was sent and is shown again.</summary>
    public bool PlansReturn { get; private set; }
    public bool Amends { get; private set; }
    public string? Text { get; private set; }

    /// <summary>Whether a return visit makes sense: it is one's own test and it did not pass.</summary>
    public bool MayReturn => Mine && Sealed.Run is { } run && run.Verdict.Overall != Overall.Pass;

    /// <summary>Whether something is to be mended after it.</summary>
    public bool MayRepair => MaySeeLog && Sealed.Run is { Verdict.Overall: Overall.Fail or Overall.NotTestable };

    /// <summary>The day proposed for it.</summary>
    public DateOnly ReturnDay => clock.Today().AddDays(7);

    public async Task<IActionResult> OnGet(Guid id, CancellationToken cancel)
    {
        if (await find.Report(id, cancel) is not { } report)
            return await find.IsSealed(id, User.Asker(), cancel) is false ? Redirect($"/runs/{id}") : NotFound();
        (Sealed, Sent) = (report, await outbox.Of(id, cancel));
        return Page();
    }

    public async Task<IActionResult> OnPostReturn(
        Guid id,
        DateOnly? day,
        TimeOnly? from,
        TimeOnly? until,
        string? special,
        CancellationToken cancel
    )
    {
        if (await OnGet(id, cancel) is not PageResult)
            return NotFound();
        if (!MayReturn)
            return Forbid();
        PlansReturn = true;
        var ahead = new FieldErrors();
        ahead.That("day", day is null || day >= clock.Today(), "A return visit lies ahead.");
        return await this.Answer(
            ahead.Any ? ahead : await add.With(Sealed.AssemblyId, new(User.Id(), day, from, until, special), cancel),
            _ => $"/register/{Sealed.AssemblyId}"
        );
    }

    public async Task<IActionResult> OnPost(Guid id, string? text, CancellationToken cancel)
    {
        (Amends, Text) = (true, text);
        return await this.Answer(
            await amend.With(id, User.Id(), text, cancel),
            _ => $"/reports/{id}",
            () => OnGet(id, cancel)
        );
    }
}
