using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Repairs;
using Mordel.Core.Runs;
using Mordel.Core.Views;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Repairs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Setups;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Repairs;

/// <summary>A repair, one thing at a time: prepare, open, inspect, put right, close up, test.</summary>
public sealed class RepairModel(
    RepairList list,
    PartsList parts,
    TakeRepairEntry take,
    BeginRetest retest,
    TesterRights rights,
    TimeProvider clock
) : PageModel
{
    public RepairFile Job { get; private set; } = null!;
    public RepairState State => Job.State;

    /// <summary>The spare parts that fit, with what is in the van and the store.</summary>
    public IReadOnlyList<PartLine> Fitting { get; private set; } = [];

    /// <summary>The part that is looked at, or put right, now; null in other stages.</summary>
    public OpenedPart? Part => RepairViews.PartAtHand(State);

    /// <summary>Why the test that follows could not be signed as things stand; null where nothing is known.</summary>
    public string? WhyNotSigned { get; private set; }

    public DateOnly StopgapUntil => clock.Today().AddDays(RepairPlace.StopgapDays);

    public async Task<IActionResult> OnGet(Guid id, CancellationToken cancel)
    {
        if (await list.Of(id, cancel) is not { } file)
            return NotFound();
        Job = file;
        Fitting = await parts.Fitting(file.Row.Assembly!, User.Id(), cancel);
        if (State.Stage == RepairStage.Retest && file.Row.RetestId is null && User.IsInRole(Roles.Tester))
            WhyNotSigned = await rights.WhyNot(User.Id(), file.Row.AssemblyId, clock.Today(), cancel);
        return Page();
    }

    /// <summary>Takes an entry.</summary>
    public async Task<IActionResult> OnPost(Guid id, RepairForm form, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(form);
        if (form.Body(out var lacks) is not { } body)
            return await Again(id, lacks, cancel);
        var entry = new EntryId(form.Entry is { } given && given != Guid.Empty ? given : Guid.CreateVersion7());
        var taken = await Enter(id, entry, form.At, body, cancel);
        if (taken.Why is null && body is RepairBody.Acted { Act: RepairAct.Replaced } && form.Item is { } item)
            taken = await Use(id, RepairForm.With(entry, "used"), form.At, item, cancel);
        return await this.Answer(taken, _ => $"/repairs/{id}", () => OnGet(id, cancel));
    }

    /// <summary>What has not been looked at is in order.</summary>
    public async Task<IActionResult> OnPostRest(Guid id, RepairForm form, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(form);
        if (await list.Of(id, cancel) is not { State.Now: { } open })
            return await Again(id, "Nothing is open.", cancel);
        var entry = new EntryId(form.Entry is { } given && given != Guid.Empty ? given : Guid.CreateVersion7());
        foreach (var part in open.Parts.Where(p => p.Found is null))
        {
            var taken = await Enter(
                id,
                RepairForm.With(entry, part.Part.Id),
                form.At,
                new RepairBody.Inspected(open.Number, part.Part.Id, []),
                cancel
            );
            if (taken.Why is not null)
                return await Again(id, taken.Refusal!, cancel);
        }

        return Redirect($"/repairs/{id}");
    }

    /// <summary>Begins the test that follows.</summary>
    public async Task<IActionResult> OnPostRetest(Guid id, bool unsigned, CancellationToken cancel) =>
        User.IsInRole(Roles.Tester)
            ? await this.Answer(
                await retest.After(id, User.Id(), unsigned, cancel),
                run => $"/runs/{run}",
                () => OnGet(id, cancel)
            )
            : Forbid();

    private async Task<IActionResult> Again(Guid id, string says, CancellationToken cancel) =>
        await OnGet(id, cancel) is PageResult ? this.Wrong(says) : NotFound();

    private Task<Reply<Guid>> Enter(
        Guid id,
        EntryId entry,
        DateTimeOffset? at,
        RepairBody body,
        CancellationToken cancel
    ) => take.Into(id, new(entry, clock.Entered(at), User.Name(), body), User.Id(), cancel);

    private async Task<Reply<Guid>> Use(
        Guid id,
        EntryId entry,
        DateTimeOffset? at,
        Guid item,
        CancellationToken cancel
    ) =>
        await parts.Named(item, cancel) is { } row
            ? await Enter(id, entry, at, new RepairBody.PartUsed(row.Name, 1, item), cancel)
            : Reply<Guid>.Refused("There is no such part in the list.");

    /// <summary>The drawing of what is open, with the step at hand; null where nothing is drawn apart.</summary>
    public string? Drawing => RepairViews.Drawing(State, Part);

    /// <summary>What is said above the step.</summary>
    public string Eyebrow => RepairViews.Eyebrow(State);

    /// <summary>What a picture taken now shows.</summary>
    public string Shows => RepairViews.Shows(State, Part);

    /// <summary>The parts that a step handles.</summary>
    public IEnumerable<BenchPart> PartsOf(RepairStep step) =>
        State.Now?.Sheet is { } sheet ? step.Step.Parts.Select(sheet.Part) : [];

    /// <summary>The spare that fits the part at hand, where one is in the list.</summary>
    public PartLine? Spare => Part is { Of: { } of } ? Fitting.FirstOrDefault(l => l.Item.Part == of.Value) : null;

    /// <summary>Whether CV1 is still suspect, so that the relief valve waits.</summary>
    public bool MindsCheckOne => RepairViews.MindsCheckOne(State);
}
