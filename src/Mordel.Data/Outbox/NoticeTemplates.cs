using Microsoft.EntityFrameworkCore;
using Mordel.Core.Notices;
using Mordel.Data.Rows;

namespace Mordel.Data.Outbox;

/// <summary>Chooses the words of a notice: the office's own where it has some, those of Mordel else.</summary>
public sealed class NoticeTemplates(Store store)
{
    private List<NoticeTemplateRow>? latest;
    private HashSet<string>? off;

    /// <summary>The latest version of each of the office's own words.</summary>
    public async Task<IReadOnlyList<NoticeTemplateRow>> Latest(CancellationToken cancel) =>
        latest ??= (await store.NoticeTemplates.AsNoTracking().OrderBy(t => t.Version).ToListAsync(cancel))
            .GroupBy(t => (t.Kind, t.ProfileId, t.Language))
            .Select(g => g.Last())
            .Where(t => t.Text.Length > 0)
            .ToList();

    /// <summary>
    /// The words for rules and a language: the office's own for both, then in this language for all rules, then those
    /// of Mordel.
    /// </summary>
    public async Task<NoticeTemplate> For(NoticeKind kind, string? profile, string language, CancellationToken cancel)
    {
        var own = (await Latest(cancel))
            .Where(t => t.Kind == NoticeKinds.Of(kind).Id && t.Language == NoticeLanguages.Of(language).Tag)
            .ToList();
        var found = own.Find(t => t.ProfileId == profile) ?? own.Find(t => t.ProfileId is null);
        return found is null ? BuiltInNotices.Of(kind, language) : new(found.Subject, found.Text);
    }

    /// <summary>Whether a kind goes out at all.</summary>
    public async Task<bool> GoesOut(NoticeKind kind, CancellationToken cancel)
    {
        off ??= [.. await store.NoticeSwitches.Where(s => s.Off).Select(s => s.Kind).ToListAsync(cancel)];
        return !off.Contains(NoticeKinds.Of(kind).Id);
    }
}
