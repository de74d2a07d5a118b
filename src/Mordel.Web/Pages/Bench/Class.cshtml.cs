using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Commands.Bench;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Bench;

/// <summary>What an instructor sets.</summary>
public sealed class AssignmentInput
{
    public string? Title { get; set; }
    public string? Procedure { get; set; }
    public string? Kit { get; set; }
    public string? Rules { get; set; }
    public int Seed { get; set; } = 1;
    public int Minutes { get; set; }
    public DateOnly? Due { get; set; }
}

/// <summary>
/// A class at a glance, for its instructor: who did what how well, where marks are lost, what to set next.
/// </summary>
public sealed class ClassModel(BenchList book, RunClass classes, KitsAndPeopleList people) : PageModel
{
    public ClassGlance Glance { get; private set; } = null!;
    public IReadOnlyList<Mordel.Data.Rows.Account> Others { get; private set; } = [];
    public AssignmentInput Input { get; private set; } = new() { Seed = Random.Shared.Next(1, 100_000) };

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken cancel)
    {
        if (await book.Glance(id, User.Asker(), cancel) is not { } glance)
            return NotFound();
        Glance = glance;
        Others = [.. (await people.In(Roles.Learner, cancel)).Where(l => glance.Learners.All(m => m.Id != l.Id))];
        return Page();
    }

    public async Task<IActionResult> OnPostAssignAsync(Guid id, AssignmentInput input, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(input);
        Input = input;
        var rig = new BenchChoice
        {
            Procedure = input.Procedure,
            Kit = input.Kit,
            Rules = input.Rules ?? "exam",
            Seed = input.Seed,
        }.RigText;
        return await this.Answer(
            await classes.Assign(id, input.Title, rig, input.Minutes, input.Due, User.Asker(), cancel),
            _ => $"/bench/classes/{id}",
            () => OnGetAsync(id, cancel)
        );
    }

    public Task<IActionResult> OnPostJoinAsync(Guid id, Guid learner, CancellationToken cancel) =>
        Move(id, learner, isIn: true, cancel);

    public Task<IActionResult> OnPostLeaveAsync(Guid id, Guid learner, CancellationToken cancel) =>
        Move(id, learner, isIn: false, cancel);

    private async Task<IActionResult> Move(Guid id, Guid learner, bool isIn, CancellationToken cancel) =>
        await this.Answer(
            await classes.Join(id, learner, isIn, User.Asker(), cancel),
            _ => $"/bench/classes/{id}",
            () => OnGetAsync(id, cancel)
        );
}
