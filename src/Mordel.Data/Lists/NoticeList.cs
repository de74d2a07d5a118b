using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>A letter with how far it is, and what came back.</summary>
/// <param name="Row">Its row in the outbox.</param>
/// <param name="Letter">Its words; null for a report.</param>
/// <param name="About">The assemblies it is about.</param>
/// <param name="Answers">What came back, the first first.</param>
public sealed record LetterView(
    OutboxRow Row,
    LetterRow? Letter,
    IReadOnlyList<AssemblyRow> About,
    IReadOnlyList<IncomingRow> Answers
)
{
    /// <summary>What became of it, try by try, the first first.</summary>
    public IReadOnlyList<OutboxEventRow> Events { get; init; } = [];
}

/// <summary>Lists what was told and what came back.</summary>
public sealed class NoticeList(Store store)
{
    private const int Most = 40,
        MostEvents = 200;

    /// <summary>What was told about an assembly, the last first, with how far each letter is.</summary>
    public async Task<IReadOnlyList<(NoticeRow Notice, OutboxRow? Letter)>> Of(Guid assembly, CancellationToken cancel)
    {
        var rows = await (
            from n in store.Notices
            where n.AssemblyId == assembly
            join o in store.Outbox on n.OutboxId equals o.Id into letters
            from o in letters.DefaultIfEmpty()
            orderby n.At descending
            select new { n, o }
        )
            .AsNoTracking()
            .Take(Most)
            .ToListAsync(cancel);
        return [.. rows.Select(r => (r.n, (OutboxRow?)r.o))];
    }

    /// <summary>A letter; null where there is none.</summary>
    public async Task<LetterView?> Letter(Guid id, CancellationToken cancel)
    {
        if (await store.Outbox.AsNoTracking().FirstOrDefaultAsync(o => o.Id == id, cancel) is not { } row)
            return null;
        return new(
            row,
            await store.Letters.AsNoTracking().FirstOrDefaultAsync(l => l.OutboxId == id, cancel),
            await store
                .Assemblies.AsNoTracking()
                .Include(a => a.Place)
                .Where(a => store.Notices.Any(n => n.OutboxId == id && n.AssemblyId == a.Id))
                .OrderBy(a => a.Tag)
                .ToListAsync(cancel),
            await store.Incoming.AsNoTracking().Where(i => i.OutboxId == id).OrderBy(i => i.At).ToListAsync(cancel)
        )
        {
            Events = await store
                .OutboxEvents.AsNoTracking()
                .Where(e => e.OutboxId == id)
                .OrderBy(e => e.Id)
                .Take(MostEvents)
                .ToListAsync(cancel),
        };
    }

    /// <summary>
    /// What has come and nobody has put away, the first first; letters that came back stand with the outbox.
    /// </summary>
    public async Task<IReadOnlyList<IncomingRow>> Unseen(CancellationToken cancel) =>
        await store
            .Incoming.AsNoTracking()
            .Where(i => i.SeenAt == null && !(i.Bounced && i.OutboxId != null))
            .OrderBy(i => i.At)
            .Take(Most)
            .ToListAsync(cancel);
}
