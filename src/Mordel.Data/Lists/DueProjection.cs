using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Dues;
using Mordel.Core.Register;
using Mordel.Core.Rules;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>
/// Writes what each assembly owes, for lists: worked out by the core from what is kept, so that it can be made anew at
/// any time. What was saved before is seen; the caller saves.
/// </summary>
public sealed class DueProjection(Store store, ProfileList profiles, TimeProvider clock)
{
    private const int Batch = 500;

    private ILookup<string, Profile>? versions;
    private Dictionary<Guid, string>? rules;

    /// <summary>Writes it for one assembly; tracked.</summary>
    public async Task Write(AssemblyRow assembly, CancellationToken cancel) => await Write([assembly], cancel);

    /// <summary>Writes it for some assemblies; tracked.</summary>
    public async Task Write(IReadOnlyCollection<AssemblyRow> assemblies, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(assemblies);
        versions ??= (await profiles.All(cancel)).ToLookup(p => p.Id);
        rules = await store.Authorities.ToDictionaryAsync(a => a.Id, a => a.ProfileId, cancel);
        foreach (var batch in assemblies.Chunk(Batch))
        {
            var past = await Past(batch, cancel);
            foreach (var assembly in batch)
                Write(assembly, rules[assembly.AuthorityId], [.. past[assembly.Id]]);
        }
    }

    /// <summary>Writes it for an assembly that is about to be kept, from what is known of it.</summary>
    /// <param name="assembly">The assembly; not in the store yet.</param>
    /// <param name="profileId">The rules of its authority.</param>
    /// <param name="events">All that happened to it.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task WriteNew(
        AssemblyRow assembly,
        string profileId,
        IReadOnlyCollection<DueEvent> events,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(assembly);
        versions ??= (await profiles.All(cancel)).ToLookup(p => p.Id);
        Write(assembly, profileId, events);
    }

    /// <summary>What a test that was brought in did to what is owed; null where it is not said.</summary>
    public static DueEvent? Of(BroughtTestRow test)
    {
        ArgumentNullException.ThrowIfNull(test);
        return Test(test.Day, test.Outcome);
    }

    /// <summary>What something that happened did to it; null where it is not known any more.</summary>
    public static DueEvent? Of(AssemblyEventRow happened)
    {
        ArgumentNullException.ThrowIfNull(happened);
        return Happened(happened);
    }

    /// <summary>Makes all of it anew, some at a time; saved as it goes.</summary>
    /// <param name="authority">Of one authority alone; null for all.</param>
    /// <param name="cancel">Ends it between two batches.</param>
    /// <returns>How many assemblies owe something else than was written.</returns>
    public async Task<int> Rebuild(Guid? authority, CancellationToken cancel)
    {
        var moved = 0;
        var all = store.Assemblies.Where(a => authority == null || a.AuthorityId == authority);
        await foreach (var batch in all.Batches(cancel))
        {
            var before = batch.ToDictionary(a => a.Id, a => (a.NextDue, a.DueCause, a.State));
            await Write(batch, cancel);
            moved += batch.Count(a => before[a.Id] != (a.NextDue, a.DueCause, a.State));
            await store.SaveChangesAsync(cancel);
            // What was brought up to date is let go: an installation is larger than memory.
            foreach (var assembly in batch)
                store.Entry(assembly).State = EntityState.Detached;
        }

        return moved;
    }

    /// <summary>
    /// Makes it anew for the authorities whose rules have changed, or come into force, since it was last made.
    /// </summary>
    /// <returns>How many assemblies owe something else than was written.</returns>
    public async Task<int> Refresh(CancellationToken cancel)
    {
        var all = await profiles.All(cancel);
        var moved = 0;
        foreach (var authority in await store.Authorities.ToListAsync(cancel))
        {
            var by = string.Join(
                ' ',
                all.Where(p => p.Id == authority.ProfileId)
                    .Select(p => $"{p.Id}/{p.Version}{(p.InForceFrom <= clock.Today() ? "" : " to come")}")
            );
            if (authority.DueBy == by)
                continue;
            moved += await Rebuild(authority.Id, cancel);
            authority.DueBy = by;
            await store.SaveChangesAsync(cancel);
        }

        return moved;
    }

    /// <summary>What of an assembly decides how often it is tested.</summary>
    public static DueFacts Facts(AssemblyRow assembly)
    {
        ArgumentNullException.ThrowIfNull(assembly);
        return new(
            AssemblyTypes.Parse(assembly.Type),
            assembly.Hazard,
            assembly.Use,
            Season.Parse(assembly.Season),
            assembly.InstalledOn
        );
    }

    private void Write(AssemblyRow assembly, string profileId, IReadOnlyCollection<DueEvent> events)
    {
        var owed = Owed(assembly, events, [.. versions![profileId]], clock.Today());
        assembly.State = State(assembly, events);
        (assembly.NextDue, assembly.DueUntil) = (owed?.Day, owed?.Until);
        (assembly.DueCause, assembly.DueWhy, assembly.DueThen) = (owed?.Cause.ToString(), owed?.Why, owed?.Then);
    }

    /// <summary>What an assembly owes by some rules on a day; null where it owes nothing, or there are none.</summary>
    public static Obligation? Owed(
        AssemblyRow assembly,
        IReadOnlyCollection<DueEvent> events,
        IReadOnlyCollection<Profile> versions,
        DateOnly day
    )
    {
        ArgumentNullException.ThrowIfNull(versions);
        return State(assembly, events) == AssemblyStates.InService && versions.Count > 0
            ? DueEngine.Owed(Facts(assembly), events, versions, day)
            : null;
    }

    private static string State(AssemblyRow assembly, IReadOnlyCollection<DueEvent> events) =>
        assembly.MergedIntoId is not null ? AssemblyStates.Merged
        : assembly.ReplacedOn is not null ? AssemblyStates.Replaced
        : StateAfter(events);

    private static string StateAfter(IEnumerable<DueEvent> events) =>
        DueEngine.ServiceAfter(events) switch
        {
            Service.Removed => AssemblyStates.Removed,
            Service.LaidUp => AssemblyStates.LaidUp,
            _ => AssemblyStates.InService,
        };

    /// <summary>
    /// Everything that happened to them and to what was entered twice for them, by the entry that stands.
    /// </summary>
    public async Task<ILookup<Guid, DueEvent>> Past(
        IReadOnlyCollection<AssemblyRow> assemblies,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(assemblies);
        var ids = assemblies.Select(a => a.Id).ToList();
        var twice = await store
            .Assemblies.Where(a => a.MergedIntoId != null && ids.Contains(a.MergedIntoId.Value))
            .Select(a => new { a.Id, Into = a.MergedIntoId!.Value })
            .ToDictionaryAsync(a => a.Id, a => a.Into, cancel);
        List<Guid> all = [.. ids, .. twice.Keys];
        var tests = await store
            .Runs.Where(r => all.Contains(r.AssemblyId) && r.SignedAt != null)
            .Select(r => new
            {
                r.AssemblyId,
                r.SignedAt,
                r.Outcome,
            })
            .ToListAsync(cancel);
        var brought = await store
            .BroughtTests.Where(t => all.Contains(t.AssemblyId))
            .Select(t => new
            {
                t.AssemblyId,
                t.Day,
                t.Outcome,
            })
            .ToListAsync(cancel);
        var repairs = await store
            .Repairs.Where(r => all.Contains(r.AssemblyId) && r.ClosedAt != null)
            .Select(r => new { r.AssemblyId, r.ClosedAt })
            .ToListAsync(cancel);
        var events = await store
            .AssemblyEvents.Where(e => all.Contains(e.AssemblyId) && e.TakenBackAt == null)
            .OrderBy(e => e.At)
            .ThenBy(e => e.Id)
            .ToListAsync(cancel);
        // On one day a repair and a test are told apart by the hour; what has none comes before and behind.
        var happened = new List<(Guid Id, DateTimeOffset At, DueEvent? Event)>();
        happened.AddRange(brought.Select(t => (t.AssemblyId, DateTimeOffset.MinValue, Test(t.Day, t.Outcome))));
        foreach (var repair in repairs)
            happened.Add(
                (repair.AssemblyId, repair.ClosedAt!.Value, new DueEvent.Repaired(clock.DayOf(repair.ClosedAt.Value)))
            );
        foreach (var test in tests)
            happened.Add((test.AssemblyId, test.SignedAt!.Value, Test(clock.DayOf(test.SignedAt.Value), test.Outcome)));
        happened.AddRange(events.Select(e => (e.AssemblyId, DateTimeOffset.MaxValue, Happened(e))));
        return happened
            .Where(e => e.Event is not null)
            .OrderBy(e => e.At)
            .ToLookup(e => twice.GetValueOrDefault(e.Id, e.Id), e => e.Event!);
    }

    private static DueEvent? Test(DateOnly day, string? outcome) =>
        outcome switch
        {
            "pass" => new DueEvent.Tested(day, true),
            "fail" => new DueEvent.Tested(day, false),
            null or "" => null,
            _ => new DueEvent.NotFinished(day),
        };

    private static DueEvent? Happened(AssemblyEventRow row) =>
        row is { Kind: AssemblyEventRow.Announced, Due: { } due }
            ? new DueEvent.Announced(row.Day, due)
            : RecordedEvents.Of(row.Kind, row.Day);
}
