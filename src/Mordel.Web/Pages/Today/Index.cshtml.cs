using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Api;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Today;

/// <summary>A tester's day; for the office everybody's.</summary>
public sealed class IndexModel(TodayList today, KitsAndPeopleList people, TimeProvider clock) : PageModel
{
    public DateOnly Day { get; private set; }
    public TodayView Mine { get; private set; } = null!;
    public IReadOnlyList<TodayView>? Rounds { get; private set; }

    public async Task<IActionResult> OnGet(CancellationToken cancel)
    {
        Day = clock.Today();
        if (User.IsInRole(Roles.Learner) || User.IsInRole(Roles.Instructor)) return Redirect("/bench");
        if (User.Asker().SeesAll)
        {
            var rounds = new List<TodayView>();
            foreach (var tester in await people.In(Roles.Tester, cancel)) rounds.Add(await today.For(tester.Id, Day, cancel));
            Rounds = rounds;
        }
        else
        {
            Mine = await today.For(User.Id(), Day, cancel);
        }

        return Page();
    }
}
