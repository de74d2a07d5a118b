using Microsoft.EntityFrameworkCore;
using Mordel.Core.Notices;
using Mordel.Data.Rows;

namespace Mordel.Data.Outbox;

/// <summary>Facts of the register with which the words of a notice are tried.</summary>
public sealed class NoticePreview(Store store, NoticeLetters letters, TimeProvider clock)
{
    private const int Minutes = 35;
    private static readonly TimeOnly From = new(10, 0),
        Until = new(11, 30);

    /// <summary>What such a notice would tell of an assembly that is due soon; the examples where none is.</summary>
    public async Task<NoticeFacts> Of(NoticeKind kind, string language, string? profile, CancellationToken cancel)
    {
        var assembly = await store
            .Assemblies.AsNoTracking()
            .Include(a => a.Place!)
                .ThenInclude(p => p.Owner)
            .Include(a => a.Authority)
            .Where(a => a.NextDue != null && (profile == null || a.Authority!.ProfileId == profile))
            .OrderBy(a => a.NextDue)
            .FirstOrDefaultAsync(cancel);
        if (assembly is null)
            return NoticeFacts.Example;
        var day = clock.Today().AddDays(kind == NoticeKind.Reminder ? 1 : 7);
        var entry = NoticeKinds.Of(kind);
        var visit = new VisitPromise(day, From, Until);
        return letters.Facts(
            new(
                assembly.AuthorityId,
                kind == NoticeKind.Alert ? null : LinkPurposes.Owner,
                kind == NoticeKind.Alert ? assembly.Authority!.Name : assembly.Place!.Owner!.Name,
                "",
                language
            ),
            [
                new(assembly)
                {
                    Promise = entry.IsVisit ? visit : null,
                    Was = entry.IsVisit ? visit with { Day = day.AddDays(-3) } : null,
                    Stop = new()
                    {
                        Day = day,
                        WindowFrom = From,
                        WindowUntil = Until,
                        Minutes = Minutes,
                    },
                    Tester = "Ines Varga",
                    Report = entry.IsResult ? $"{assembly.Tag}/{day:yyyyMMdd}-1012" : "",
                    Why = entry.IsResult ? "An example: the relief valve opened too late." : "",
                },
            ]
        );
    }
}
