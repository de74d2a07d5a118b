using Microsoft.EntityFrameworkCore;
using Mordel.Core.Notices;
using Mordel.Core.Outside;
using Mordel.Data.Links;
using Mordel.Data.Rows;

namespace Mordel.Data.Outbox;

/// <summary>
/// Writes what owners, occupants and authorities are told; saved with its cause. Where nothing can carry letters,
/// nothing is written.
/// </summary>
public sealed class NoticeWriter(
    Store store,
    NoticeTemplates templates,
    NoticeLetters letters,
    KeepLinks links,
    TimeProvider clock,
    IMail? mail = null
)
{
    /// <summary>Whether letters can leave the house.</summary>
    public bool CanSend => mail is not null;

    /// <summary>What visits are to be told, or have left the hours that were told; nothing is written yet.</summary>
    public async Task<ToldThem> Visits(IReadOnlyList<StopRow> stops, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(stops);
        var (now, later) = (new List<LetterItem>(), new List<LetterItem>());
        foreach (var item in await Items(stops, cancel))
        {
            if (item.Was is null)
                now.Add(item);
            else if (!StillHolds(item.Was, item.Stop!))
                later.Add(item);
        }

        return Both(await Letters(NoticeKind.Visit, now, cancel), await Letters(NoticeKind.Changed, later, cancel));
    }

    /// <summary>What is to be told of visits that fall out of the rounds.</summary>
    public async Task<ToldThem> FallenOut(IReadOnlyList<StopRow> stops, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(stops);
        var today = clock.Today();
        var told = (await Items([.. stops.Where(s => s.ToldDay >= today)], cancel)).Select(i =>
            i with
            {
                Promise = i.Was,
            }
        );
        return await Letters(NoticeKind.Cancelled, [.. told], cancel);
    }

    /// <summary>Who is to be reminded of what is tomorrow.</summary>
    public async Task<ToldThem> Reminders(IReadOnlyList<StopRow> stops, CancellationToken cancel)
    {
        var told = (await Items(stops, cancel)).Where(i => i.Was is not null).Select(i => i with { Promise = i.Was });
        return await Letters(NoticeKind.Reminder, [.. told], cancel);
    }

    /// <summary>Owner, occupant and authority are told what came of a test, with its report.</summary>
    /// <param name="run">The run, signed; its assembly knows what is due next.</param>
    /// <param name="outcome"><c>pass</c> or <c>fail</c>; of anything else nobody is told.</param>
    /// <param name="why">What the test found, in a sentence.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task Outcome(RunRow run, string outcome, string why, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(run);
        if (!CanSend || outcome is not ("pass" or "fail"))
            return;
        var failed = outcome == "fail";
        var assembly = (await Assemblies([run.AssemblyId], cancel))[run.AssemblyId];
        var item = new LetterItem(assembly) { Report = run.Number ?? "", Why = why };
        var kind = failed ? NoticeKind.Failed : NoticeKind.Passed;
        var all = (await Letters(kind, [item], cancel)).Letters.ToList();
        if (
            failed
            && assembly.Hazard == "high"
            && Recipient.IsMail(assembly.Authority!.AlertsTo)
            && await templates.GoesOut(NoticeKind.Alert, cancel)
        )
            all.Add(
                await letters.Set(
                    NoticeKind.Alert,
                    new(assembly.AuthorityId, null, assembly.Authority.Name, assembly.Authority.AlertsTo!, ""),
                    [item],
                    cancel
                )
            );
        await Write([.. all.Select(l => l with { Run = run.Id })], "by itself", cancel);
    }

    /// <summary>Letters of one kind about some assemblies, a letter for each who gets one and day of a visit.</summary>
    public async Task<ToldThem> Letters(NoticeKind kind, IReadOnlyList<LetterItem> items, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(items);
        if (items.Count == 0 || !await templates.GoesOut(kind, cancel))
            return ToldThem.Nobody;
        var occupantToo = kind is not (NoticeKind.Passed or NoticeKind.Due or NoticeKind.Second or NoticeKind.ShutOff);
        var why = CanSend ? "has no address for letters" : "is to be telephoned";
        var drafts = new List<DraftLetter>();
        foreach (
            var group in items
                .SelectMany(i => Reached(i.Assembly.Place!, occupantToo).Select(to => (To: to, Item: i)))
                .GroupBy(x => (x.To, x.Item.Promise?.Day, x.Item.Was?.Day))
        )
        {
            var letter = await letters.Set(kind, group.Key.To, [.. group.Select(x => x.Item)], cancel);
            drafts.Add(
                letter with
                {
                    Until = group.Select(x => x.Item.Promise).OfType<VisitPromise>().Min(p => (DateTimeOffset?)End(p)),
                }
            );
        }

        return new(
            drafts,
            [
                .. items
                    .Select(i => i.Assembly.Place!)
                    .Where(p => !Reached(p, occupantToo).Any())
                    .DistinctBy(p => p.Id)
                    .GroupBy(p => p.OwnerId)
                    .Select(g => new Untold(
                        g.Key,
                        $"{Said(g.First().Owner!)}, {why}: "
                            + $"{string.Join(", ", g.Select(p => p.Name).Order(StringComparer.Ordinal))}."
                    )),
            ]
        );
    }

    private IEnumerable<Recipient> Reached(PlaceRow place, bool occupantToo) =>
        CanSend ? Recipient.Of(place, occupantToo) : [];

    /// <summary>Puts letters into the outbox, and keeps what was told; saved with the caller's transaction.</summary>
    public async Task<int> Write(IReadOnlyList<DraftLetter> drafts, string by, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(drafts);
        var now = clock.Now();
        var keys = drafts.Select(d => d.Key).ToList();
        var there = await store.Outbox.Where(o => keys.Contains(o.Key)).Select(o => o.Key).ToListAsync(cancel);
        var written = 0;
        foreach (var draft in drafts.Where(d => !there.Contains(d.Key)).DistinctBy(d => d.Key))
        {
            var link = draft.To.Purpose is { } purpose
                ? await links.Reach(purpose, draft.To.Id, "by itself", cancel)
                : null;
            var row = new OutboxRow
            {
                Id = Guid.CreateVersion7(),
                Key = draft.Key,
                Kind = draft.Kind.Id,
                Way = OutboxWays.Mail,
                To = draft.To.Mail,
                Recipient = draft.To.Name,
                Title = draft.Set.Subject,
                RunId = draft.Run,
                OwnerId = draft.To.Purpose == LinkPurposes.Owner ? draft.To.Id : null,
                PlaceId = draft.To.Purpose == LinkPurposes.Occupant ? draft.To.Id : null,
                WrittenAt = now,
                State = OutboxStates.Waiting,
                NextTryAt = now,
                ExpiresAt =
                    draft.Until is { } until && until < now + OutboxWriter.Patience && until > now
                        ? until
                        : now + OutboxWriter.Patience,
            };
            store.Outbox.Add(row);
            store.Letters.Add(
                new()
                {
                    OutboxId = row.Id,
                    Subject = draft.Set.Subject,
                    Text = draft.Set.Text,
                    Html = draft.Set.Html,
                    LinkId = link?.Id,
                }
            );
            foreach (var (assembly, stop) in draft.Assemblies)
                store.Notices.Add(
                    new()
                    {
                        Id = Guid.CreateVersion7(),
                        AssemblyId = assembly,
                        Kind = draft.Kind.Id,
                        To = draft.To.Name,
                        At = now,
                        By = by,
                        OutboxId = row.Id,
                        StopId = stop,
                    }
                );
            written++;
        }

        return written;
    }

    /// <summary>Writes down at the visits what was told of them.</summary>
    public static void Remember(IEnumerable<StopRow> stops, ToldThem told)
    {
        ArgumentNullException.ThrowIfNull(stops);
        ArgumentNullException.ThrowIfNull(told);
        var ids = told.Letters.SelectMany(l => l.Assemblies).Select(a => a.Stop).ToHashSet();
        foreach (var stop in stops.Where(s => ids.Contains(s.Id)))
            stop.RememberTold();
    }

    private static bool StillHolds(VisitPromise was, StopRow stop) =>
        stop.PlannedAt is { } at ? was.Holds(stop.Day, at, stop.Minutes) : was == stop.Promise();

    private async Task<List<LetterItem>> Items(IReadOnlyList<StopRow> stops, CancellationToken cancel)
    {
        var assemblies = await Assemblies([.. stops.Select(s => s.AssemblyId).Distinct()], cancel);
        var ids = stops.Select(s => s.TesterId).Distinct().ToList();
        var testers = await store
            .Users.Where(u => ids.Contains(u.Id))
            .ToDictionaryAsync(u => u.Id, u => u.FullName, cancel);
        return
        [
            .. stops
                .OrderBy(s => s.Day)
                .ThenBy(s => s.From)
                .Select(s => new LetterItem(assemblies[s.AssemblyId])
                {
                    Stop = s,
                    Promise = s.Promise(),
                    Was = s.Told(),
                    Tester = testers.GetValueOrDefault(s.TesterId, ""),
                }),
        ];
    }

    /// <summary>Assemblies with all that letters say of them.</summary>
    public async Task<Dictionary<Guid, AssemblyRow>> Assemblies(List<Guid> ids, CancellationToken cancel) =>
        await store
            .Assemblies.AsNoTracking()
            .Include(a => a.Place!)
                .ThenInclude(p => p.Owner)
            .Include(a => a.Authority)
            .Where(a => ids.Contains(a.Id))
            .ToDictionaryAsync(a => a.Id, cancel);

    private DateTimeOffset End(VisitPromise promise)
    {
        var local = promise.Day.ToDateTime(promise.Until);
        return new DateTimeOffset(local, clock.LocalTimeZone.GetUtcOffset(local)).ToUniversalTime();
    }

    private static ToldThem Both(ToldThem a, ToldThem b) =>
        new([.. a.Letters, .. b.Letters], [.. a.Untold.Concat(b.Untold).Distinct()]);

    private static string Said(OwnerRow owner) => owner.Phone.Length > 0 ? $"{owner.Name}, {owner.Phone}" : owner.Name;
}
