using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Commands.Office;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Office;

/// <summary>Sets one field of many assemblies: what would change is shown first.</summary>
public sealed class ManyModel(ChangeMany many) : PageModel
{
    public List<Guid> Ids { get; private set; } = [];
    public string? Field { get; private set; }
    public string? Value { get; private set; }
    public ManyPlanned? Planned { get; private set; }

    /// <summary>What was just done, to be undone as a whole.</summary>
    public Guid? Done { get; private set; }

    /// <summary>How many were set back.</summary>
    public int? Undone { get; private set; }

    public void OnGet(Guid? done, int? undone) => (Done, Undone) = (done, undone);

    /// <summary>The marked ones of a list.</summary>
    public void OnPost(List<Guid> ids) => Ids = ids;

    /// <summary>Shows what would change.</summary>
    public async Task<IActionResult> OnPostPlan(List<Guid> ids, string? field, string? value, CancellationToken cancel)
    {
        (Ids, Field, Value) = (ids, field, value);
        var reply = await many.Plan(ids, field, value, cancel);
        if (reply.Why is not null)
            this.Say(reply.Errors);
        Planned = reply.Value;
        return Page();
    }

    /// <summary>Does it.</summary>
    public async Task<IActionResult> OnPostDo(List<Guid> ids, string? field, string? value, CancellationToken cancel)
    {
        (Ids, Field, Value) = (ids, field, value);
        return await this.Answer(await many.Do(ids, field, value, User.Name(), cancel), batch =>
            $"/register/many?done={batch}"
        );
    }

    /// <summary>Undoes it.</summary>
    public async Task<IActionResult> OnPostUndo(Guid batch, CancellationToken cancel) =>
        await this.Answer(await many.Undo(batch, User.Name(), cancel), count => $"/register/many?undone={count}");
}
