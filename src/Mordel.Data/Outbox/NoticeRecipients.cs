using Mordel.Core.Notices;
using Mordel.Data.Rows;

namespace Mordel.Data.Outbox;

/// <summary>Somebody who gets letters.</summary>
/// <param name="Id">The owner, the place or the authority.</param>
/// <param name="Purpose">What the link in the letter opens; null for authorities, who have no page.</param>
/// <param name="Name">The name.</param>
/// <param name="Mail">The address.</param>
/// <param name="Language">The language.</param>
public sealed record Recipient(Guid Id, string? Purpose, string Name, string Mail, string Language)
{
    /// <summary>Owner and occupant of a place, as far as they have an address.</summary>
    /// <param name="place">The place with its owner.</param>
    /// <param name="occupantToo">Whether whoever is there is told beside the owner.</param>
    public static IEnumerable<Recipient> Of(PlaceRow place, bool occupantToo)
    {
        ArgumentNullException.ThrowIfNull(place);
        var owner = place.Owner!;
        if (IsMail(owner.Mail))
            yield return new(owner.Id, LinkPurposes.Owner, owner.Name, owner.Mail, owner.Language);
        if (
            occupantToo
            && IsMail(place.OccupantMail)
            && !place.OccupantMail.Equals(owner.Mail, StringComparison.OrdinalIgnoreCase)
        )
            yield return new(place.Id, LinkPurposes.Occupant, place.Name, place.OccupantMail, owner.Language);
    }

    /// <summary>Whether letters can go there.</summary>
    public static bool IsMail(string? address) =>
        address is { Length: > 2 and <= 200 }
        && address.IndexOf('@', StringComparison.Ordinal) is > 0 and var at
        && at < address.Length - 1
        && address.LastIndexOf('@') == at
        && !address.Any(c => char.IsWhiteSpace(c) || char.IsControl(c) || c is '<' or '>' or ',' or ';');
}

/// <summary>A letter that can be sent.</summary>
/// <param name="Kind">The kind.</param>
/// <param name="To">Who gets it.</param>
/// <param name="Set">What it says; the page's address is put in when it is handed over.</param>
/// <param name="Assemblies">What it is about, with the visit it tells of.</param>
/// <param name="Key">Names it once and for all.</param>
public sealed record DraftLetter(
    NoticeKindEntry Kind,
    Recipient To,
    SetNotice Set,
    IReadOnlyList<(Guid Assembly, Guid? Stop)> Assemblies,
    string Key
)
{
    /// <summary>The run whose report is enclosed.</summary>
    public Guid? Run { get; init; }

    /// <summary>When it is of no use any more; null for the usual patience.</summary>
    public DateTimeOffset? Until { get; init; }
}

/// <summary>Somebody who could not be written to.</summary>
/// <param name="Owner">Who has no address, and can be telephoned; null where it is something else.</param>
/// <param name="Says">Why, in a sentence.</param>
public sealed record Untold(Guid? Owner, string Says);

/// <summary>What came of telling.</summary>
/// <param name="Letters">The letters.</param>
/// <param name="Untold">Who could not be told, and why.</param>
public sealed record ToldThem(IReadOnlyList<DraftLetter> Letters, IReadOnlyList<Untold> Untold)
{
    /// <summary>Nobody was to be told.</summary>
    public static ToldThem Nobody { get; } = new([], []);
}
