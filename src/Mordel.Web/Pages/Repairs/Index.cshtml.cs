using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data;
using Mordel.Data.Commands.Repairs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Repairs;

/// <summary>Repairs under way, what waits for its test, and what is to be put right later.</summary>
public sealed class IndexModel(RepairList list, BeginRepair begin, TimeProvider clock) : PageModel
{
    public IReadOnlyList<RepairRow> Open { get; private set; } = [];
    public IReadOnlyList<FollowUpRow> FollowUps { get; private set; } = [];
    public IReadOnlyList<AssemblyRow> LikelyToFail { get; private set; } = [];
    public DateOnly Today => clock.Today();

    public async Task OnGet(CancellationToken cancel)
    {
        Open = await list.Open(null, cancel);
        FollowUps = await list.FollowUps(null, cancel);
        LikelyToFail = await list.MostLikelyToFail(cancel);
    }

    /// <summary>Begins one on an assembly, or goes on with the one that is open there.</summary>
    public async Task<IActionResult> OnPost(Guid assembly, Guid? diagnosis, CancellationToken cancel) =>
        await this.Answer(
            await begin.On(assembly, diagnosis, User.Id(), User.Name(), cancel),
            id => $"/repairs/{id}",
            () => OnGet(cancel)
        );
}
