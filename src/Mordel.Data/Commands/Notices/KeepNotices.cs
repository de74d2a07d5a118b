using Microsoft.EntityFrameworkCore;
using Mordel.Core.Notices;
using Mordel.Data.Links;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Notices;

/// <summary>
/// The office's own words for notices, which of them go out, links to owners' pages, what has come back.
/// </summary>
public sealed class KeepNotices(
    Store store,
    NoticeTemplates templates,
    INoticeSetter setter,
    KeepLinks links,
    ChangeLog log,
    TimeProvider clock
)
{
    /// <summary>Keeps own words as the next version; empty ones give the word back to Mordel's.</summary>
    /// <param name="kind">The name of the kind.</param>
    /// <param name="profile">The rules they are for; empty for all.</param>
    /// <param name="language">The language.</param>
    /// <param name="template">The words.</param>
    /// <param name="author">Who wrote them.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> Words(
        string kind,
        string? profile,
        string? language,
        NoticeTemplate template,
        Author author,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(template);
        var fields = new FieldErrors();
        fields.That("kind", NoticeKinds.Named(kind) is not null, "There is no such notice.");
        fields.That("language", NoticeLanguages.All.Any(l => l.Tag == language), "Choose one of the languages.");
        var rules = string.IsNullOrEmpty(profile) ? null : profile;
        fields.That(
            "profile",
            rules is null || await store.Authorities.AnyAsync(a => a.ProfileId == rules, cancel),
            "No authority works by these rules."
        );
        var ends = template.Subject.Length == 0 && template.Text.Length == 0;
        foreach (var fault in ends ? [] : setter.Faults(template))
            fields.That("text", false, fault);
        if (fields.Any)
            return fields;
        await using var transaction = await store.BeginWriting(cancel);
        var before = await store
            .NoticeTemplates.Where(t => t.Kind == kind && t.ProfileId == rules && t.Language == language)
            .OrderByDescending(t => t.Version)
            .FirstOrDefaultAsync(cancel);
        var row = new NoticeTemplateRow
        {
            Id = Guid.CreateVersion7(),
            Kind = kind,
            ProfileId = rules,
            Language = language!,
            Version = (before?.Version ?? 0) + 1,
            Subject = template.Subject,
            Text = template.Text,
            MadeAt = clock.Now(),
            MadeBy = author.By,
        };
        store.NoticeTemplates.Add(row);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }

    /// <summary>Whether a kind goes out.</summary>
    public async Task<Reply<string>> Switch(string? kind, bool off, CancellationToken cancel)
    {
        if (NoticeKinds.Named(kind) is not { } entry)
            return Reply<string>.NotFound("There is no such notice.");
        await using var transaction = await store.BeginWriting(cancel);
        var row = await store.NoticeSwitches.FindAsync([entry.Id], cancel);
        if (row is null)
            store.NoticeSwitches.Add(new() { Kind = entry.Id, Off = off });
        else
            row.Off = off;
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return entry.Id;
    }

    /// <summary>Which kinds do not go out.</summary>
    public async Task<IReadOnlySet<NoticeKind>> Off(CancellationToken cancel)
    {
        var off = new HashSet<NoticeKind>();
        foreach (var kind in NoticeKinds.All)
        {
            if (!await templates.GoesOut(kind.Kind, cancel))
                off.Add(kind.Kind);
        }

        return off;
    }

    /// <summary>A link to an owner's page, to be handed over by hand; the text is shown this once.</summary>
    public async Task<Reply<string>> OwnerLink(Guid owner, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (!await store.Owners.AnyAsync(o => o.Id == owner, cancel))
            return Reply<string>.NotFound("There is no such owner.");
        var (_, secret) = links.Add(LinkPurposes.Owner, owner, TimeSpan.FromDays(KeepLinks.OwnerDays), author.By);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return secret;
    }

    /// <summary>Ends every link to an owner's page, and to the pages of whoever is at the owner's places.</summary>
    public async Task<Reply<int>> EndLinks(Guid owner, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        var places = await store.Places.Where(p => p.OwnerId == owner).Select(p => p.Id).ToListAsync(cancel);
        var ended = await links.End(LinkPurposes.Owner, owner, null, cancel);
        foreach (var place in places)
            ended += await links.End(LinkPurposes.Occupant, place, null, cancel);
        await transaction.CommitAsync(cancel);
        return ended;
    }

    /// <summary>Where an authority is told at once of a failure on a high hazard; empty for nowhere.</summary>
    public async Task<Reply<Guid>> AlertsTo(Guid authority, string? to, Author author, CancellationToken cancel)
    {
        var address = string.IsNullOrWhiteSpace(to) ? null : to.Trim();
        var fields = new FieldErrors();
        fields.That("alertsTo", address is null || Recipient.IsMail(address), "That is no address for mail.");
        if (fields.Any)
            return fields;
        await using var transaction = await store.BeginWriting(cancel);
        if (await store.Authorities.FirstOrDefaultAsync(a => a.Id == authority, cancel) is not { } row)
            return Reply<Guid>.NotFound("There is no such authority.");
        log.Write(author, Things.Authority, authority, "told at once", row.AlertsTo ?? "", address ?? "");
        row.AlertsTo = address;
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return authority;
    }

    /// <summary>Puts away a letter that came.</summary>
    public async Task<Reply<Guid>> Seen(Guid id, Author author, CancellationToken cancel)
    {
        if (await store.Incoming.FirstOrDefaultAsync(i => i.Id == id, cancel) is not { } row)
            return Reply<Guid>.NotFound("There is no such letter.");
        (row.SeenAt, row.SeenBy) = (row.SeenAt ?? clock.Now(), row.SeenBy ?? author.By);
        await store.SaveChangesAsync(cancel);
        return id;
    }
}
