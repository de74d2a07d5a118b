using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Commands;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Bench;

/// <summary>The bench's room: what is set, the ways to play, what was handed in, the classes one teaches.</summary>
public sealed class IndexModel(BenchBook book, RunClass classes) : PageModel
{
    public IReadOnlyList<AssignmentRow> Assignments { get; private set; } = [];
    public IReadOnlyList<AttemptLine> Attempts { get; private set; } = [];
    public IReadOnlyList<ClassRow> Classes { get; private set; } = [];
    public string? Problem { get; private set; }

    /// <summary>The number that the next practice exam is drawn with.</summary>
    public int Seed { get; } = Random.Shared.Next(1, 1_000_000);
    public bool Teaches => User.IsInRole(Roles.Instructor) || User.IsAtTheDesk();

    public AttemptLine? Best(Guid assignment) => Attempts.Where(a => a.AssignmentId == assignment).MaxBy(a => a.Percent);

    public async Task OnGetAsync(string? problem, CancellationToken cancel)
    {
        Problem = problem is { Length: > 400 } ? problem[..400] : problem;
        Assignments = await book.For(User.Id(), cancel);
        Attempts = await book.By(User.Id(), cancel);
        Classes = Teaches ? await book.Taught(User.Asker(), cancel) : [];
    }

    public async Task<IActionResult> OnPostClassAsync(string? name, CancellationToken cancel)
    {
        if (!Teaches) return Forbid();
        var faults = await classes.Begin(name, User.Id(), cancel);
        if (faults.Count == 0) return RedirectToPage();
        await OnGetAsync(string.Join(" ", faults.Select(f => f.Says)), cancel);
        return Page();
    }
}
