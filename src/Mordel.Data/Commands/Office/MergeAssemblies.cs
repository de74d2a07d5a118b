using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Office;

/// <summary>
/// Makes one of two entries of the same assembly. What was tested under either stays where it was sealed and counts for
/// the entry that stands; stops that lie ahead, tests brought in and events go over. It can be undone.
/// </summary>
public sealed class MergeAssemblies(Store store, DueProjection dues, ChangeLog log, TimeProvider clock)
{
    private sealed record Moved(List<Guid> Stops, List<Guid> Tests, List<Guid> Events, string Tag);

    /// <summary>Merges two entries.</summary>
    /// <param name="keptId">The entry that stands.</param>
    /// <param name="goneId">The other.</param>
    /// <param name="by">Who says so.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> Into(Guid keptId, Guid goneId, string by, CancellationToken cancel)
    {
        if (keptId == goneId)
            return Reply<Guid>.Refused("These are the same entry.");
        await using var transaction = await store.BeginWriting(cancel);
        var kept = await store.Assemblies.FirstOrDefaultAsync(a => a.Id == keptId, cancel);
        var gone = await store.Assemblies.FirstOrDefaultAsync(a => a.Id == goneId, cancel);
        if (kept is null || gone is null)
            return Reply<Guid>.NotFound("There is no such assembly.");
        if (kept.MergedIntoId is not null || gone.MergedIntoId is not null)
            return Reply<Guid>.Refused("One of them was merged before. Undo that first.");
        if (kept.Type != gone.Type)
            return Reply<Guid>.Refused(
                $"A {kept.Type} and a {gone.Type} are not one assembly. Correct the type first."
            );
        if (await store.Runs.AnyAsync(r => r.AssemblyId == goneId && r.SignedAt == null, cancel))
            return Reply<Guid>.Refused($"A test of {gone.Tag} is under way. Let it be signed first.");
        if (await store.Repairs.AnyAsync(r => r.AssemblyId == goneId && r.RetestId == null, cancel))
            return Reply<Guid>.Refused($"A repair of {gone.Tag} is under way. Let it be closed and tested first.");
        var today = clock.Today();
        var stops = await store.Stops.Where(s => s.AssemblyId == goneId && s.Day >= today).ToListAsync(cancel);
        var tests = await store.BroughtTests.Where(t => t.AssemblyId == goneId).ToListAsync(cancel);
        var events = await store.AssemblyEvents.Where(e => e.AssemblyId == goneId).ToListAsync(cancel);
        var moved = new Moved(
            [.. stops.Select(s => s.Id)],
            [.. tests.Select(t => t.Id)],
            [.. events.Select(e => e.Id)],
            gone.Tag
        );
        foreach (var stop in stops)
            stop.AssemblyId = keptId;
        foreach (var test in tests)
            test.AssemblyId = keptId;
        foreach (var happened in events)
            happened.AssemblyId = keptId;
        var merge = new MergeRow
        {
            Id = Guid.CreateVersion7(),
            KeptId = keptId,
            GoneId = goneId,
            At = clock.Now(),
            By = by,
            Moved = JsonSerializer.Serialize(moved),
        };
        store.Merges.Add(merge);
        gone.Tag = $"{gone.Tag} merged {merge.Id.ToString("N")[^6..]}";
        (gone.MergedIntoId, gone.ReplacedOn) = (keptId, today);
        log.Write(new(by, "merged"), Things.Assembly, keptId, "", "", $"with {moved.Tag}, {gone.Serial}");
        log.Write(new(by, "merged"), Things.Assembly, goneId, "", "", $"into {kept.Tag}");
        await Settle(kept, gone, cancel);
        await transaction.CommitAsync(cancel);
        return merge.Id;
    }

    /// <summary>Undoes a merge: what went over comes back.</summary>
    public async Task<Reply<Guid>> Undo(Guid mergeId, string by, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        var merge = await store.Merges.FirstOrDefaultAsync(m => m.Id == mergeId, cancel);
        if (merge is null)
            return Reply<Guid>.NotFound("There is no such merge.");
        if (merge.UndoneAt is not null)
            return merge.KeptId;
        var moved = JsonSerializer.Deserialize<Moved>(merge.Moved)!;
        if (await store.Assemblies.AnyAsync(a => a.Tag == moved.Tag, cancel))
            return Reply<Guid>.Refused($"Tag {moved.Tag} is on another assembly by now. Change that first.");
        var kept = await store.Assemblies.FirstAsync(a => a.Id == merge.KeptId, cancel);
        var gone = await store.Assemblies.FirstAsync(a => a.Id == merge.GoneId, cancel);
        (gone.Tag, gone.MergedIntoId, gone.ReplacedOn) = (moved.Tag, null, null);
        foreach (var stop in await store.Stops.Where(s => moved.Stops.Contains(s.Id)).ToListAsync(cancel))
            stop.AssemblyId = gone.Id;
        foreach (var test in await store.BroughtTests.Where(t => moved.Tests.Contains(t.Id)).ToListAsync(cancel))
            test.AssemblyId = gone.Id;
        foreach (var e in await store.AssemblyEvents.Where(e => moved.Events.Contains(e.Id)).ToListAsync(cancel))
            e.AssemblyId = gone.Id;
        (merge.UndoneAt, merge.UndoneBy) = (clock.Now(), by);
        log.Write(new(by, "merged"), Things.Assembly, kept.Id, "", $"with {moved.Tag}", "undone");
        log.Write(new(by, "merged"), Things.Assembly, gone.Id, "", $"into {kept.Tag}", "undone");
        await Settle(kept, gone, cancel);
        await transaction.CommitAsync(cancel);
        return kept.Id;
    }

    private async Task Settle(AssemblyRow kept, AssemblyRow gone, CancellationToken cancel)
    {
        await store.SaveChangesAsync(cancel);
        await dues.Write([kept, gone], cancel);
        await store.SaveChangesAsync(cancel);
    }
}
