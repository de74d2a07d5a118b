using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Processes;
using Mordel.Data.Rows;

namespace Mordel.Data.Accounts;

/// <summary>What is remembered of sessions between two questions to the store.</summary>
public sealed class SessionMemory
{
    private const string Forgotten = "session";

    // How long a session that was ended elsewhere, by the command line, may still be believed.
    private static readonly TimeSpan Believed = TimeSpan.FromSeconds(20);
    private const int Most = 10_000;
    private readonly ConcurrentDictionary<Guid, Remembered> known = new();

    private readonly Neighbours neighbours;

    /// <summary>Nothing is remembered yet.</summary>
    /// <param name="neighbours">Who else remembers.</param>
    public SessionMemory(Neighbours neighbours)
    {
        ArgumentNullException.ThrowIfNull(neighbours);
        this.neighbours = neighbours;
        neighbours.HearOf(Forgotten, id => known.TryRemove(id, out _));
    }

    internal Remembered? Of(Guid id, DateTimeOffset now) =>
        known.TryGetValue(id, out var one) && now >= one.AskedAt && now - one.AskedAt < Believed ? one : null;

    internal void Keep(Guid id, Remembered one)
    {
        if (known.Count >= Most)
            known.Clear();
        known[id] = one;
    }

    internal void Forget(Guid id)
    {
        known.TryRemove(id, out _);
        neighbours.TellOf(Forgotten, id);
    }

    internal sealed record Remembered(Guid AccountId, DateTimeOffset AskedAt, DateTimeOffset ProvedAt);
}

/// <summary>Who is signed in where: begun, asked for at every request, listed, ended.</summary>
public sealed class Sessions(Store store, SessionMemory memory, OpenDoors doors, TimeProvider clock)
{
    /// <summary>After how long without use one ends, and after how long whatever happens.</summary>
    public static readonly TimeSpan Idle = TimeSpan.FromDays(14),
        Longest = TimeSpan.FromDays(90);

    // How exactly its last use is known.
    private static readonly TimeSpan Seen = TimeSpan.FromMinutes(10);

    /// <summary>Begins one.</summary>
    /// <param name="accountId">Whose it is.</param>
    /// <param name="how">By what they came in.</param>
    /// <param name="from">The network address.</param>
    /// <param name="device">The browser and its system, in words.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Guid> Begin(Guid accountId, string how, string from, string device, CancellationToken cancel)
    {
        var now = clock.Now();
        var row = new SessionRow
        {
            Id = Guid.CreateVersion7(now),
            AccountId = accountId,
            At = now,
            LastSeenAt = now,
            ProvedAt = now,
            From = from,
            Device = device,
            How = how,
        };
        store.Sessions.Add(row);
        await store.SaveChangesAsync(cancel);
        store.Entry(row).State = EntityState.Detached;
        return row.Id;
    }

    /// <summary>Whether it holds: begun by that person, not ended, not too old, the person not dismissed.</summary>
    public async Task<bool> Holds(Guid id, Guid accountId, CancellationToken cancel) =>
        await Look(id, cancel) is { } one && one.AccountId == accountId;

    /// <summary>When whoever has it last showed who they are; null where it does not hold.</summary>
    public async Task<DateTimeOffset?> ProvedAt(Guid id, CancellationToken cancel) =>
        (await Look(id, cancel))?.ProvedAt;

    /// <summary>Whoever has it has shown again who they are.</summary>
    public async Task Prove(Guid id, CancellationToken cancel)
    {
        var now = clock.Now();
        await store.Change(
            s => s.Sessions.Where(r => r.Id == id).ExecuteUpdateAsync(u => u.SetProperty(r => r.ProvedAt, now), cancel),
            cancel
        );
        memory.Forget(id);
    }

    /// <summary>Those of a person that hold, or everybody's; the last used first.</summary>
    public async Task<IReadOnlyList<SessionRow>> Open(Guid? accountId, CancellationToken cancel)
    {
        var (idle, old) = Bounds();
        return await store
            .Sessions.AsNoTracking()
            .Include(s => s.Account)
            .Where(s => s.EndedAt == null && s.LastSeenAt > idle && s.At > old)
            .Where(s => accountId == null || s.AccountId == accountId)
            .OrderByDescending(s => s.LastSeenAt)
            .Take(500)
            .ToListAsync(cancel);
    }

    /// <summary>Ends one; false where it is not there, not theirs, or over.</summary>
    /// <param name="id">Which.</param>
    /// <param name="accountId">Whose it must be; null where anybody's may be ended.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<bool> End(Guid id, Guid? accountId, CancellationToken cancel) =>
        (await End(s => s.Id == id && (accountId == null || s.AccountId == accountId), cancel)) > 0;

    /// <summary>Ends all of a person, but for one.</summary>
    public Task<int> EndAll(Guid accountId, Guid? butFor, CancellationToken cancel) =>
        End(s => s.AccountId == accountId && s.Id != butFor, cancel);

    /// <summary>A round was taken along on this device.</summary>
    public Task<int> TookAlong(Guid id, CancellationToken cancel)
    {
        var now = clock.Now();
        return store.Change(
            s =>
                s.Sessions.Where(r => r.Id == id)
                    .ExecuteUpdateAsync(u => u.SetProperty(r => r.TookAlongAt, now), cancel),
            cancel
        );
    }

    /// <summary>The devices of a person on which a round was taken along and which are not cut off.</summary>
    public async Task<IReadOnlyList<SessionRow>> WithRounds(Guid accountId, CancellationToken cancel) =>
        await store
            .Sessions.AsNoTracking()
            .Where(s => s.AccountId == accountId && s.TookAlongAt != null && s.CutOffAt == null)
            .OrderByDescending(s => s.TookAlongAt)
            .Take(20)
            .ToListAsync(cancel);

    /// <summary>
    /// Ends one, and has its device wipe what was taken along when it is next heard of; null where there is none.
    /// </summary>
    public async Task<SessionRow?> CutOff(Guid id, Guid accountId, CancellationToken cancel)
    {
        var row = await store
            .Sessions.AsNoTracking()
            .FirstOrDefaultAsync(s => s.Id == id && s.AccountId == accountId, cancel);
        if (row is null)
            return null;
        var now = clock.Now();
        await store.Change(
            s => s.Sessions.Where(r => r.Id == id).ExecuteUpdateAsync(u => u.SetProperty(r => r.CutOffAt, now), cancel),
            cancel
        );
        await End(id, accountId, cancel);
        return row;
    }

    /// <summary>Whether the device of a session was cut off.</summary>
    public Task<bool> IsCutOff(Guid id, CancellationToken cancel) =>
        store.Sessions.AnyAsync(s => s.Id == id && s.CutOffAt != null, cancel);

    /// <summary>Throws away those that were over long ago; answers how many.</summary>
    public Task<int> Sweep(CancellationToken cancel)
    {
        var before = clock.Now() - Longest - Idle;
        return store.Change(s => s.Sessions.Where(r => r.LastSeenAt < before).ExecuteDeleteAsync(cancel), cancel);
    }

    private async Task<int> End(
        System.Linq.Expressions.Expression<Func<SessionRow, bool>> which,
        CancellationToken cancel
    )
    {
        var ids = await store.Sessions.Where(s => s.EndedAt == null).Where(which).Select(s => s.Id).ToListAsync(cancel);
        if (ids.Count == 0)
            return 0;
        var now = clock.Now();
        await store.Change(
            s =>
                s.Sessions.Where(r => ids.Contains(r.Id))
                    .ExecuteUpdateAsync(u => u.SetProperty(r => r.EndedAt, now), cancel),
            cancel
        );
        foreach (var id in ids)
        {
            memory.Forget(id);
            doors.Close(id);
        }

        return ids.Count;
    }

    private (DateTimeOffset Idle, DateTimeOffset Old) Bounds() => (clock.Now() - Idle, clock.Now() - Longest);

    private async Task<SessionMemory.Remembered?> Look(Guid id, CancellationToken cancel)
    {
        var now = clock.Now();
        if (memory.Of(id, now) is { } known)
            return known;
        var (idle, old) = Bounds();
        var row = await store
            .Sessions.Where(s => s.Id == id && s.EndedAt == null && s.LastSeenAt > idle && s.At > old)
            .Where(s => s.Account!.DismissedAt == null)
            .Select(s => new
            {
                s.AccountId,
                s.ProvedAt,
                s.LastSeenAt,
            })
            .FirstOrDefaultAsync(cancel);
        if (row is null)
            return null;
        if (now - row.LastSeenAt > Seen)
            await store.Change(
                s =>
                    s.Sessions.Where(r => r.Id == id)
                        .ExecuteUpdateAsync(u => u.SetProperty(r => r.LastSeenAt, now), cancel),
                cancel
            );
        var one = new SessionMemory.Remembered(row.AccountId, now, row.ProvedAt);
        memory.Keep(id, one);
        return one;
    }
}
