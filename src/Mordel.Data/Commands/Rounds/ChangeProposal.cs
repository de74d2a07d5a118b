using Microsoft.EntityFrameworkCore;
using Mordel.Core.Planning;
using Mordel.Core.Serialization;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Rounds;

/// <summary>Changes proposed rounds, a step at a time; the last step can be taken back.</summary>
public sealed class ChangeProposal(Store store, ProposalList list, PlanBell bell, TimeProvider clock)
{
    private const int MostSteps = 400;

    /// <summary>Puts a stop into a round, at an hour or where it fits best.</summary>
    public Task<Reply<Guid>> Move(
        Guid id,
        string? stop,
        string? tester,
        DateOnly? day,
        int? at,
        CancellationToken cancel
    ) =>
        Edit(
            id,
            v =>
                stop is null || tester is null || day is not { } on || at is < 0 or > Window.Day
                    ? null
                    : PlanEdit.Move(v.Problem, v.Plan, stop, tester, on, at),
            v => $"{Name(v, stop)} to {v.Problem.Tester(tester ?? "")?.Name}",
            "There is no such stop, or nobody works there on that day.",
            cancel
        );

    /// <summary>Takes a stop out of all rounds.</summary>
    public Task<Reply<Guid>> TakeOut(Guid id, string? stop, CancellationToken cancel) =>
        Edit(
            id,
            v => PlanEdit.TakeOut(v.Problem, v.Plan, stop ?? ""),
            v => $"{Name(v, stop)} taken out",
            "There is no such stop.",
            cancel
        );

    /// <summary>Settles a stop where it is, or lets go of it.</summary>
    public Task<Reply<Guid>> Pin(Guid id, string? stop, bool settled, CancellationToken cancel) =>
        Edit(
            id,
            v => PlanEdit.Pin(v.Problem, v.Plan, stop ?? "", settled),
            v => $"{Name(v, stop)} {(settled ? "settled" : "no longer settled")}",
            "There is no such stop in a round.",
            cancel
        );

    /// <summary>Settles a whole round, or lets go of it.</summary>
    public Task<Reply<Guid>> PinRound(Guid id, string? tester, DateOnly? day, bool settled, CancellationToken cancel) =>
        Edit(
            id,
            v =>
            {
                if (v.Plan.Routes.FirstOrDefault(r => r.Tester == tester && r.Day == day) is not { } route)
                    return null;
                var edited = new PlanEdit.Edited(v.Problem, v.Plan);
                foreach (var visit in route.Visits)
                    edited = PlanEdit.Pin(edited.Problem, edited.Plan, visit.Stop, settled) ?? edited;
                return edited;
            },
            v => $"the round of {v.Problem.Tester(tester ?? "")?.Name} {(settled ? "settled" : "no longer settled")}",
            "There is no such round.",
            cancel
        );

    /// <summary>Takes the last step back.</summary>
    public async Task<Reply<Guid>> Undo(Guid id, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await list.Of(id, cancel) is not { } view)
            return Reply<Guid>.NotFound("There is no such proposal.");
        if (view.Row.State != ProposalStates.Proposed || view.Number < 2)
            return Reply<Guid>.Refused("There is nothing to take back.");
        store.ProposalSteps.Remove(store.ProposalSteps.First(s => s.ProposalId == id && s.Number == view.Number));
        view.Row.LeftOut = view.Earlier!.LeftOut.Length;
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return id;
    }

    /// <summary>Lets the rest be looked for anew, around what is settled.</summary>
    public async Task<Reply<Guid>> Mend(Guid id, CancellationToken cancel)
    {
        if (await store.Proposals.FirstOrDefaultAsync(p => p.Id == id, cancel) is not { } row)
            return Reply<Guid>.NotFound("There is no such proposal.");
        if (row.State != ProposalStates.Proposed)
            return Reply<Guid>.Refused("It is being looked for already, or was accepted.");
        row.State = ProposalStates.Looking;
        await store.SaveChangesAsync(cancel);
        bell.Ring();
        return id;
    }

    /// <summary>Puts a proposal away.</summary>
    public async Task<Reply<Guid>> Drop(Guid id, CancellationToken cancel)
    {
        if (await store.Proposals.FirstOrDefaultAsync(p => p.Id == id, cancel) is not { } row)
            return Reply<Guid>.NotFound("There is no such proposal.");
        if (row.State != ProposalStates.Proposed)
            return Reply<Guid>.Refused("It is being looked for, or was accepted.");
        row.State = ProposalStates.Dropped;
        await store.SaveChangesAsync(cancel);
        return id;
    }

    /// <summary>Writes down what was found; a proposal that was meanwhile put away stays so.</summary>
    public async Task Found(Guid id, Plan plan, string says, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(plan);
        await using var transaction = await store.BeginWriting(cancel);
        if (await list.Of(id, cancel) is not { Row.State: ProposalStates.Looking } view)
            return;
        Step(view, new(view.Problem, plan), says);
        view.Row.State = ProposalStates.Proposed;
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Writes down that nothing could be found, with a sentence for a person.</summary>
    public async Task Failed(Guid id, string says, CancellationToken cancel)
    {
        if (await store.Proposals.FirstOrDefaultAsync(p => p.Id == id, cancel) is not { } row)
            return;
        (row.State, row.Says) = (ProposalStates.Dropped, says);
        await store.SaveChangesAsync(cancel);
    }

    private async Task<Reply<Guid>> Edit(
        Guid id,
        Func<ProposalView, PlanEdit.Edited?> how,
        Func<ProposalView, string> says,
        string not,
        CancellationToken cancel
    )
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await list.Of(id, cancel) is not { } view)
            return Reply<Guid>.NotFound("There is no such proposal.");
        if (view.Row.State != ProposalStates.Proposed)
            return Reply<Guid>.Refused("These rounds are being looked for, or were accepted: they cannot be changed.");
        if (view.Number >= MostSteps)
            return Reply<Guid>.Refused($"After {MostSteps} changes a new proposal is better.");
        if (how(view) is not { } edited)
            return Reply<Guid>.Refused(not);
        Step(view, edited, says(view));
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return id;
    }

    private void Step(ProposalView view, PlanEdit.Edited edited, string says)
    {
        view.Row.LeftOut = edited.Plan.LeftOut.Length;
        store.ProposalSteps.Add(
            new()
            {
                ProposalId = view.Row.Id,
                Number = view.Number + 1,
                At = clock.Now(),
                Says = says,
                Pins = ProposalList.Pins(edited.Problem),
                Plan = PlannedFormat.Write(edited.Plan),
            }
        );
    }

    private static string Name(ProposalView view, string? stop) => view.Problem.Stop(stop ?? "")?.Name ?? "a stop";
}
