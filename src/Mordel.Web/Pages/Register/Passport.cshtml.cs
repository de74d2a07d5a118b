using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Drawings;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;
using PassportOf = Mordel.Data.Lists.Passport;

namespace Mordel.Web.Pages.Register;

/// <summary>An assembly's passport: data, drawing, tests, readings against limits.</summary>
public sealed class PassportModel(PassportOf passport, KitsAndPeopleList people, AddStop add, TimeProvider clock) : PageModel
{
    public PassportView View { get; private set; } = null!;
    public string? Chart { get; private set; }
    public IReadOnlyList<Data.Rows.Account> Testers { get; private set; } = [];
    public IReadOnlyList<(string Field, string Says)> Faults { get; private set; } = [];
    public DateOnly Today => clock.Today();

    public async Task<IActionResult> OnGet(Guid id, CancellationToken cancel)
    {
        if (await passport.Of(id, cancel) is not { } view) return NotFound();
        View = view;
        Testers = await people.In(Roles.Tester, cancel);
        var limit = view.Runs.SelectMany(r => r.Results).FirstOrDefault(r => r.Item == "check-1" && r.Limit is not null);
        Chart = HistoryChart.Of([Series("CV1", "line-1", "check-1"), Series("CV2", "line-2", "check-2")], (double?)limit?.Limit, limit?.Unit ?? "psid");
        return Page();
    }

    public async Task<IActionResult> OnPost(Guid id, NewStop stop, CancellationToken cancel)
    {
        if (!User.IsAtTheDesk()) return Forbid();
        Faults = await add.With(id, stop, cancel);
        return Faults.Count == 0 ? Redirect("/") : await OnGet(id, cancel);
    }

    private ChartSeries Series(string name, string css, string item) => new(name, css,
    [
        .. from run in View.Runs
           from result in run.Results
           where result.Item == item && result.Value is not null
           orderby run.SignedAt
           select new ChartPoint(DateOnly.FromDateTime(run.SignedAt!.Value.LocalDateTime), (double)result.Value!.Value, result.Result != "fail"),
    ]);
}
