using Microsoft.EntityFrameworkCore;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Rules;

/// <summary>
/// Keeps a new profile, or a new version of one that this installation has made; and says which authority works by
/// which.
/// </summary>
public sealed class MakeProfile(Store store, ProfileList book, RegisterBell bell, ChangeLog log, TimeProvider clock)
{
    private const int MostErrors = 12;

    /// <summary>Keeps it. A profile that comes with Mordel is copied under a name of its own.</summary>
    public async Task<Reply<Profile>> From(Profile wished, Author author, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(wished);
        var fields = new FieldErrors();
        fields.That(
            "short",
            wished.Id.Length is > 1 and <= 40
                && wished.Id.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c == '-'),
            "Its short name is made of small letters, digits and hyphens."
        );
        fields.That(
            "short",
            BuiltInProfiles.Named(wished.Id) is null,
            "A profile that comes with Mordel is not changed; give the copy a name of its own."
        );
        fields.Text("name", wished.Name, "Name");
        fields.That(
            "from",
            wished.InForceFrom >= clock.Today(),
            "It comes into force today or later: tests already made keep the rules they were made under."
        );
        await using var transaction = await store.BeginWriting(cancel);
        var versions = (await book.All(cancel)).Where(p => p.Id == wished.Id).ToList();
        var last = versions.MaxBy(p => p.Version);
        fields.That(
            "from",
            last is null || wished.InForceFrom > last.InForceFrom,
            $"Version {last?.Version} is in force from {last?.InForceFrom:d MMM yyyy}; the next one begins after it."
        );
        if (fields.Any)
            return fields;
        // Versions that cannot be read have their numbers too.
        var highest = Math.Max(
            last?.Version ?? 0,
            book.Unreadable.Where(u => u.ProfileId == wished.Id).Select(u => u.Version).DefaultIfEmpty(0).Max()
        );
        var made = wished with { Version = highest + 1, InForceUntil = null };
        var json = ProfileFormat.Write(made);
        if (ProfileFormat.Read(json, out var errors) != made)
        {
            foreach (var error in errors.DefaultIfEmpty(new("", "would not come back as it was written")))
                fields.That(error.Place, false, $"This cannot be kept: {error}.");
            return fields;
        }

        var row = new ProfileRow
        {
            Id = Guid.CreateVersion7(),
            ProfileId = made.Id,
            Version = made.Version,
            Json = json,
            MadeAt = clock.GetUtcNow(),
            MadeBy = author.By,
        };
        store.Profiles.Add(row);
        log.New(
            author,
            Things.Profile,
            row.Id,
            $"{made.Id}, version {made.Version}, in force from {made.InForceFrom:d MMM yyyy}"
        );
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        bell.Ring();
        return made;
    }

    /// <summary>Keeps rules that were brought in as <c>mordel.profile/1</c>.</summary>
    /// <param name="json">The text.</param>
    /// <param name="day">From when they are in force; whatever day the text has is another installation's.</param>
    /// <param name="author">Who brings them in.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Profile>> Import(string json, DateOnly? day, Author author, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        var from = fields.Day("from", day, "In force from");
        var read = ProfileFormat.Read(json, out var errors);
        foreach (var error in errors.Take(MostErrors))
            fields.That("file", false, $"{error}.");
        fields.That("file", read is not null || errors.Length > 0, "This is no profile that can be read.");
        return fields.Any ? fields : await From(read! with { InForceFrom = from, InForceUntil = null }, author, cancel);
    }

    /// <summary>The authority works by this profile from now on; runs that have begun keep theirs.</summary>
    public async Task<Reply<Guid>> Assign(Guid authorityId, string? profileId, Author author, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        var authority = await store.Authorities.FirstOrDefaultAsync(a => a.Id == authorityId, cancel);
        fields.That("authorityId", authority is not null, "There is no such authority.");
        fields.That("profileId", (await book.All(cancel)).Any(p => p.Id == profileId), "There is no such profile.");
        if (fields.Any)
            return fields;
        log.Write(author, Things.Authority, authorityId, "rules", authority!.ProfileId, profileId!);
        authority.ProfileId = profileId!;
        await store.SaveChangesAsync(cancel);
        bell.Ring();
        return authority.Id;
    }

    /// <summary>Gives an authority another name; reports that are signed keep the one they were signed with.</summary>
    public async Task<Reply<Guid>> Rename(Guid authorityId, string? name, Author author, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        var wanted = fields.Text("name", name, "The authority's name");
        await using var transaction = await store.BeginWriting(cancel);
        var authority = await store.Authorities.FirstOrDefaultAsync(a => a.Id == authorityId, cancel);
        fields.That("authorityId", authority is not null, "There is no such authority.");
        fields.That(
            "name",
            !await store.Authorities.AnyAsync(a => a.Name == wanted && a.Id != authorityId, cancel),
            $"There is an authority {wanted} already."
        );
        if (fields.Any)
            return fields;
        log.Write(author, Things.Authority, authorityId, "name", authority!.Name, wanted);
        authority.Name = wanted;
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return authority.Id;
    }

    /// <summary>The authorities, by name.</summary>
    public async Task<IReadOnlyList<AuthorityRow>> Authorities(CancellationToken cancel) =>
        await store.Authorities.AsNoTracking().OrderBy(a => a.Name).ToListAsync(cancel);
}
