using Microsoft.EntityFrameworkCore;
using Mordel.Core.Notices;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Notices;

/// <summary>
/// Tells owners what the office wants them told: that a test is due or overdue, that the water may be shut off, and the
/// visits ahead that nobody has told them of. Each can be looked at before it is sent.
/// </summary>
public sealed class TellOwners(Store store, NoticeWriter notices, OutboxBell bell, TimeProvider clock)
{
    /// <summary>The most assemblies at once.</summary>
    public const int Most = 300;

    private const int Ahead = 60;

    /// <summary>What would be sent about some assemblies.</summary>
    public async Task<Reply<ToldThem>> Look(NoticeKind kind, IReadOnlyList<Guid> ids, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(ids);
        if (kind is not (NoticeKind.Due or NoticeKind.Second or NoticeKind.ShutOff))
            return Reply<ToldThem>.Refused($"{NoticeKinds.Of(kind).Title} goes out by itself.");
        if (ids.Count is 0 or > Most)
            return Reply<ToldThem>.Refused($"Mark from 1 to {Most} of what is due.");
        var assemblies = (await notices.Assemblies([.. ids.Distinct()], cancel)).Values.OrderBy(a => a.NextDue);
        var told = await Told(ids, cancel);
        var (send, not) = (new List<LetterItem>(), new List<Untold>());
        foreach (var a in assemblies)
        {
            if (WhyNot(a, kind, told[a.Id].ToHashSet()) is { } why)
                not.Add(new(null, $"{a.Tag}, {a.Place!.Name}: {why}"));
            else
                send.Add(new(a));
        }

        var drafts = await notices.Letters(kind, send, cancel);
        return drafts with { Untold = [.. drafts.Untold, .. not] };
    }

    /// <summary>Sends it; answers how many letters.</summary>
    public async Task<Reply<int>> Send(
        NoticeKind kind,
        IReadOnlyList<Guid> ids,
        Author author,
        CancellationToken cancel
    )
    {
        await using var transaction = await store.BeginWriting(cancel);
        var look = await Look(kind, ids, cancel);
        if (look.Why is not null)
            return look.NotDoneFor<int>();
        return await Write(look.Value!, author, transaction, cancel);
    }

    /// <summary>What would be sent of the visits ahead that were not told, or have left the hours that were.</summary>
    public async Task<ToldThem> LookAhead(CancellationToken cancel) =>
        await notices.Visits(await Stops(cancel), cancel);

    /// <summary>Sends it; answers how many letters.</summary>
    public async Task<Reply<int>> SendAhead(Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        var stops = await Stops(cancel);
        var told = await notices.Visits(stops, cancel);
        NoticeWriter.Remember(stops, told);
        return await Write(told, author, transaction, cancel);
    }

    /// <summary>Somebody has telephoned an owner about the visits ahead; answers how many those are.</summary>
    public async Task<Reply<int>> ByTelephone(Guid owner, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await store.Owners.FindAsync([owner], cancel) is not { } row)
            return Reply<int>.NotFound("There is no such owner.");
        var theirs = await store.Assemblies.Where(a => a.Place!.OwnerId == owner).Select(a => a.Id).ToListAsync(cancel);
        var stops = (await Stops(cancel)).FindAll(s => theirs.Contains(s.AssemblyId) && s.ToldDay is null);
        foreach (var stop in stops)
        {
            stop.RememberTold();
            store.Notices.Add(
                new()
                {
                    Id = Guid.CreateVersion7(),
                    AssemblyId = stop.AssemblyId,
                    Kind = NoticeKinds.Of(NoticeKind.Visit).Id,
                    To = row.Name,
                    At = clock.Now(),
                    By = author.By,
                    StopId = stop.Id,
                }
            );
        }

        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return stops.Count;
    }

    private async Task<Reply<int>> Write(ToldThem told, Author author, Writing transaction, CancellationToken cancel)
    {
        if (told.Letters.Count == 0)
            return Reply<int>.Refused(
                told.Untold.Count > 0
                    ? string.Join(" ", told.Untold.Take(5).Select(u => u.Says))
                    : "There is nobody to tell."
            );
        var written = await notices.Write(told.Letters, author.By, cancel);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        bell.Ring();
        return written;
    }

    private async Task<List<StopRow>> Stops(CancellationToken cancel)
    {
        var (today, until) = (clock.Today(), clock.Today().AddDays(Ahead));
        return await store
            .Stops.Where(s => s.Day > today && s.Day < until && !store.Runs.Any(r => r.StopId == s.Id))
            .OrderBy(s => s.Day)
            .ThenBy(s => s.Order)
            .ToListAsync(cancel);
    }

    // What was told since the last test, by assembly.
    private async Task<ILookup<Guid, string>> Told(IReadOnlyList<Guid> ids, CancellationToken cancel)
    {
        var rows = await (
            from n in store.Notices
            where ids.Contains(n.AssemblyId)
            select new
            {
                n.AssemblyId,
                n.Kind,
                n.At,
                Last = store.Assemblies.Where(a => a.Id == n.AssemblyId).Select(a => a.LastTestOn).First(),
            }
        ).ToListAsync(cancel);
        return rows.Where(r => r.Last is not { } last || clock.DayOf(r.At) >= last)
            .ToLookup(r => r.AssemblyId, r => r.Kind);
    }

    private string? WhyNot(AssemblyRow a, NoticeKind kind, HashSet<string> told)
    {
        var id = NoticeKinds.Of(kind).Id;
        return a.NextDue is not { } due ? "nothing is due."
            : told.Contains(id) ? $"was sent already, for {due:d MMM yyyy}."
            : kind != NoticeKind.Due && due >= clock.Today() ? $"is not overdue before {due:d MMM yyyy}."
            : kind == NoticeKind.ShutOff && !told.Contains(NoticeKinds.Of(NoticeKind.Second).Id)
                ? "no second notice was sent yet."
            : null;
    }
}
