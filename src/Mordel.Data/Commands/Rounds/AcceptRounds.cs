using Microsoft.EntityFrameworkCore;
using Mordel.Core.Dues;
using Mordel.Core.Planning;
using Mordel.Data.Lists;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Rounds;

/// <summary>
/// Makes proposed rounds the testers' rounds. What is begun or signed stays; what is planned and not begun on these
/// days goes where the proposal has it, and out where it has it nowhere.
/// </summary>
public sealed class AcceptRounds(
    Store store,
    ProposalList list,
    NoticeWriter notices,
    OutboxBell bell,
    TimeProvider clock
)
{
    /// <summary>
    /// Accepts; refused where anything in it cannot be, or what it rests on has changed. Owners and occupants are told
    /// in the same transaction, where that is wished.
    /// </summary>
    public async Task<Reply<Guid>> With(Guid id, bool tell, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await list.Of(id, cancel) is not { } view)
            return Reply<Guid>.NotFound("There is no such proposal.");
        if (view.Row.State != ProposalStates.Proposed)
            return Reply<Guid>.Refused("These rounds are being looked for, or were accepted already.");
        if (view.Row.LastDay < clock.Today())
            return Reply<Guid>.Refused("These days are over.");
        if (view.Breaches is [var first, ..])
            return Reply<Guid>.Refused($"It cannot be gone like this: {first.Says}");
        var days = view.Problem.Shifts.Select(s => s.Day).Distinct().ToList();
        var testers = view.Problem.Testers.Select(t => Guid.Parse(t.Id)).ToList();
        var wanted = view.Problem.Stops.Select(s => Guid.Parse(s.Id)).ToList();
        if (await Changed(wanted, days, testers, cancel) is { } changed)
            return Reply<Guid>.Refused(changed);
        var standing = await store
            .Stops.Where(s =>
                days.Contains(s.Day)
                && testers.Contains(s.TesterId)
                && wanted.Contains(s.AssemblyId)
                && !store.Runs.Any(r => r.StopId == s.Id)
            )
            .ToListAsync(cancel);
        var begun = await store
            .Stops.Where(s => days.Contains(s.Day) && testers.Contains(s.TesterId) && !standing.Contains(s))
            .GroupBy(s => new { s.Day, s.TesterId })
            .Select(g => new { g.Key, Last = g.Max(s => s.Order) })
            .ToDictionaryAsync(g => (g.Key.Day, g.Key.TesterId), g => g.Last, cancel);
        var causes = await store
            .Assemblies.Where(a => wanted.Contains(a.Id))
            .ToDictionaryAsync(a => a.Id, a => a.DueCause, cancel);
        var kept = new List<StopRow>();
        foreach (var route in view.Plan.Routes)
        {
            var order = begun.GetValueOrDefault((route.Day, Guid.Parse(route.Tester)));
            foreach (var visit in route.Visits)
            {
                var stop = view.Problem.Stop(visit.Stop)!;
                var assembly = Guid.Parse(stop.Id);
                if (standing.Find(s => s.AssemblyId == assembly) is { } there)
                    standing.Remove(there);
                else
                    store.Stops.Add(
                        there = new()
                        {
                            Id = Guid.CreateVersion7(),
                            AssemblyId = assembly,
                            Visit =
                                causes.GetValueOrDefault(assembly) == nameof(DueCause.StartUp)
                                    ? StopRow.Seasonal
                                    : null,
                        }
                    );
                var off = stop.Windows.First(w => w.Holds(visit.Work));
                var was = (there.Day, there.TesterId, there.PlannedAt, there.Minutes);
                (there.Day, there.TesterId, there.Order) = (route.Day, Guid.Parse(route.Tester), ++order);
                (there.WindowFrom, there.WindowUntil) = (At(off.From), At(off.Until));
                (there.PlannedAt, there.Minutes) = (At(visit.Begin), stop.Minutes);
                if (was != (there.Day, there.TesterId, there.PlannedAt, there.Minutes))
                    (there.Sequence, there.ChangedAt) = (there.Sequence + 1, clock.Now());
                kept.Add(there);
            }
        }

        store.Stops.RemoveRange(standing);
        if (tell)
            await Tell(kept, [.. standing.Where(s => !kept.Exists(k => k.AssemblyId == s.AssemblyId))], author, cancel);
        (view.Row.State, view.Row.AcceptedAt, view.Row.AcceptedBy) = (ProposalStates.Accepted, clock.Now(), author.By);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        bell.Ring();
        return id;
    }

    private async Task Tell(List<StopRow> kept, List<StopRow> gone, Author author, CancellationToken cancel)
    {
        var told = await notices.Visits(kept, cancel);
        NoticeWriter.Remember(kept, told);
        var off = await notices.FallenOut(gone, cancel);
        await notices.Write([.. told.Letters, .. off.Letters], author.By, cancel);
    }

    // What it rests on that is no longer so; null where all is.
    private async Task<string?> Changed(
        List<Guid> wanted,
        List<DateOnly> days,
        List<Guid> testers,
        CancellationToken cancel
    )
    {
        var gone = await store
            .Assemblies.Where(a => wanted.Contains(a.Id) && (a.ReplacedOn != null || a.State == AssemblyStates.Removed))
            .Select(a => a.Tag)
            .FirstOrDefaultAsync(cancel);
        if (gone is not null)
            return $"{gone} is no longer there. Plan these rounds anew.";
        var elsewhere = await (
            from s in store.Stops
            where
                wanted.Contains(s.AssemblyId)
                && s.Day >= days.Min()
                && !(days.Contains(s.Day) && testers.Contains(s.TesterId) && !store.Runs.Any(r => r.StopId == s.Id))
                && s.Day <= days.Max()
            select s.Assembly!.Tag
        ).FirstOrDefaultAsync(cancel);
        return elsewhere is null
            ? null
            : $"{elsewhere} was begun, or put into another round, since this was planned. Plan these rounds anew.";
    }

    private static TimeOnly At(int minute) => minute >= Window.Day ? new(23, 59) : new(minute / 60, minute % 60);
}
