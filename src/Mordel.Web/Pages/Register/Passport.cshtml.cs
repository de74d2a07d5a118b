using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Drawings;
using Mordel.Core.Rigs;
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

    /// <summary>The two readings that tell most about a type over the years.</summary>
    public IReadOnlyList<(string Name, string Item)> Columns => View.Assembly.Type switch
    {
        nameof(AssemblyType.RP) => [("CV1", "check-1"), ("Relief", "relief-opening")],
        nameof(AssemblyType.DC) => [("CV1", "check-1"), ("CV2", "check-2")],
        _ => [("Check", "check-1"), ("Inlet", "air-inlet-opening")],
    };

    public async Task<IActionResult> OnGet(Guid id, CancellationToken cancel)
    {
        if (await passport.Of(id, cancel) is not { } view) return NotFound();
        View = view;
        Testers = await people.In(Roles.Tester, cancel);
        // The limit that is drawn is the one that stands by itself: an RP's CV1 is judged against its relief.
        var fixedLimit = view.Assembly.Type == nameof(AssemblyType.RP) ? "relief-opening" : "check-1";
        var limit = view.Runs.SelectMany(r => r.Results).FirstOrDefault(r => r.Item == fixedLimit && r.Limit is not null);
        Chart = HistoryChart.Of([Series(Columns[0].Name, "line-1", Columns[0].Item), Series(Columns[1].Name, "line-2", Columns[1].Item)], (double?)limit?.Limit, limit?.Unit ?? "psid");
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
