using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Bench;

/// <summary>Two runs on one clock: two learners', or one beside a careful tester's on the same rig.</summary>
public sealed class CompareModel(BenchList book) : PageModel
{
    public AttemptRow First { get; private set; } = null!;

    /// <summary>
    /// Titles and addresses of the recordings; without an address the browser makes the careful tester's.
    /// </summary>
    public string Recordings { get; private set; } = "";

    public async Task<IActionResult> OnGetAsync(Guid a, Guid? b, CancellationToken cancel)
    {
        if (await book.Attempt(a, User.Asker(), cancel) is not { } first)
            return NotFound();
        var second = b is { } other ? await book.Attempt(other, User.Asker(), cancel) : null;
        if (b is not null && second is null)
            return NotFound();
        First = first;
        Recordings = JsonSerializer.Serialize(
            new[]
            {
                new { title = Title(first), url = (string?)$"/api/bench/attempts/{a}/tape" },
                new
                {
                    title = second is null ? "A careful tester on the same rig" : Title(second),
                    url = second is null ? null : $"/api/bench/attempts/{b}/tape",
                },
            }
        );
        return Page();
    }

    private static string Title(AttemptRow row) => $"{row.Account!.FullName}, {row.Percent} of 100";
}
