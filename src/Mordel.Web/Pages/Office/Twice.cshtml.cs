using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Commands.Office;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Office;

/// <summary>Entries that may be the same assembly, to be made one.</summary>
public sealed class TwiceModel(Duplicates list, MergeAssemblies merge) : PageModel
{
    public IReadOnlyList<Pair> Pairs { get; private set; } = [];

    /// <summary>What was merged just now.</summary>
    public Guid? Merged { get; private set; }

    public async Task OnGet(Guid? merged, CancellationToken cancel)
    {
        Merged = merged;
        Pairs = await list.All(cancel);
    }

    /// <summary>Makes one of two.</summary>
    public async Task<IActionResult> OnPost(Guid kept, Guid gone, CancellationToken cancel) =>
        await this.Answer(
            await merge.Into(kept, gone, User.Name(), cancel),
            id => $"/register/twice?merged={id}",
            () => OnGet(null, cancel)
        );

    /// <summary>Undoes a merge.</summary>
    public async Task<IActionResult> OnPostUndo(Guid merged, CancellationToken cancel) =>
        await this.Answer(
            await merge.Undo(merged, User.Name(), cancel),
            id => $"/register/{id}",
            () => OnGet(null, cancel)
        );
}
