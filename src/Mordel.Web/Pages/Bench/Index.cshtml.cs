using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Bench;

/// <summary>The bench's room: what is set, the ways to play, what was handed in.</summary>
public sealed class IndexModel(BenchList book) : PageModel
{
    public IReadOnlyList<AssignmentRow> Assignments { get; private set; } = [];
    public IReadOnlyList<AttemptLine> Attempts { get; private set; } = [];
    public string? Problem { get; private set; }

    /// <summary>The number that the next practice exam is drawn with.</summary>
    public int Seed { get; } = Random.Shared.Next(1, 1_000_000);

    public AttemptLine? Best(Guid assignment) =>
        Attempts.Where(a => a.AssignmentId == assignment).MaxBy(a => a.Percent);

    public async Task OnGetAsync(string? problem, CancellationToken cancel)
    {
        Problem = problem is { Length: > 400 } ? problem[..400] : problem;
        Assignments = await book.For(User.Id(), cancel);
        Attempts = await book.By(User.Id(), cancel);
    }
}
