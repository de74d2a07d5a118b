using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Commands.Bench;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Classes;

/// <summary>The classes that one teaches; at the desk every class.</summary>
public sealed class IndexModel(BenchList book, RunClass classes) : PageModel
{
    public IReadOnlyList<ClassRow> Taught { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken cancel) => Taught = await book.Taught(User.Asker(), cancel);

    public async Task<IActionResult> OnPostAsync(string? name, CancellationToken cancel)
    {
        return await this.Answer(
            await classes.Begin(name, User.Id(), cancel),
            _ => "/classes",
            () => OnGetAsync(cancel)
        );
    }
}
