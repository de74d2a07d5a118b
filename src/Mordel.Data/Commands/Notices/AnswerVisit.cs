using Microsoft.EntityFrameworkCore;
using Mordel.Core.Runs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Notices;

/// <summary>What is typed on an owner's page.</summary>
/// <param name="Place">The place.</param>
/// <param name="Name">Who answers.</param>
/// <param name="Yes">Whether the visit suits as it was shown; else another time is asked for.</param>
/// <param name="Shown">The day of the visit that was shown; null where none was.</param>
/// <param name="ShownFrom">The hours that were shown.</param>
/// <param name="ShownUntil">Until when.</param>
/// <param name="Day">Another day; null for any.</param>
/// <param name="From">From when the water may be off then.</param>
/// <param name="Until">Until when.</param>
/// <param name="AskFor">Whom to ask for.</param>
/// <param name="Note">What else there is to know.</param>
public sealed record OwnerAnswer(
    Guid Place,
    string? Name,
    bool Yes,
    DateOnly? Shown,
    TimeOnly? ShownFrom,
    TimeOnly? ShownUntil,
    DateOnly? Day,
    TimeOnly? From,
    TimeOnly? Until,
    string? AskFor,
    string? Note
);

/// <summary>Keeps what owners and occupants answer: a yes, or another time, with name and time.</summary>
public sealed class AnswerVisit(Store store, OwnerPage page, TimeProvider clock)
{
    private const int LongestNote = 500,
        DaysAhead = 366,
        MostInADay = 40;

    /// <summary>Keeps an answer that came by a link; answers the place.</summary>
    public async Task<Reply<Guid>> By(LinkRow link, OwnerAnswer answer, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(link);
        ArgumentNullException.ThrowIfNull(answer);
        var fields = new FieldErrors();
        var name = fields.Text("name", answer.Name, "Your name", GivenConsent.LongestName);
        fields.That("askFor", (answer.AskFor?.Length ?? 0) <= 120, "Whom to ask for may have 120 characters.");
        fields.That("note", (answer.Note?.Length ?? 0) <= LongestNote, $"A note may have {LongestNote} characters.");
        if (!answer.Yes)
        {
            fields.That(
                "from",
                answer.From is { } from && answer.Until is { } until && until > from,
                "Say from when until when the water may be off."
            );
            fields.That(
                "day",
                answer.Day is not { } day || (day >= clock.Today() && day <= clock.Today().AddDays(DaysAhead)),
                "The day lies ahead, within a year."
            );
        }

        if (fields.Any)
            return fields;
        await using var transaction = await store.BeginWriting(cancel);
        // As many as a household could type, and no more.
        var since = clock.Now().AddDays(-1);
        if (await store.Consents.CountAsync(c => c.LinkId == link.Id && c.At > since, cancel) >= MostInADay)
            return Reply<Guid>.Refused("That is a lot of answers for a day. Telephone us, please.");
        var view = await page.Of(link, cancel);
        var visit = view?.Visits.FirstOrDefault(v => v.Place.Id == answer.Place && v.Day == answer.Shown);
        var due = view?.Due.FirstOrDefault(d => d.Place.Id == answer.Place);
        if (visit is null && (answer.Shown is not null || due is null))
            return Reply<Guid>.Refused("This visit has moved, or has been made. Look at the page again.");
        if (answer.Yes && (visit is null || visit.From != answer.ShownFrom || visit.Until != answer.ShownUntil))
            return Reply<Guid>.Refused("The hours have changed while you looked. Look at the page again.");
        var (begin, end, on) = answer.Yes
            ? (visit!.From, visit.Until, (DateOnly?)visit.Day)
            : (answer.From!.Value, answer.Until!.Value, answer.Day);
        var of = visit is not null
            ? visit.Stops.Select(s => (s.AssemblyId, (Guid?)s.Id))
            : due!.Assemblies.Select(a => (a.Id, (Guid?)null));
        foreach (var (assembly, stop) in of)
            store.Consents.Add(
                new()
                {
                    Id = Guid.CreateVersion7(),
                    AssemblyId = assembly,
                    StopId = stop,
                    At = clock.Now(),
                    Name = name,
                    Yes = answer.Yes,
                    Day = on,
                    From = begin,
                    Until = end,
                    AskFor = answer.AskFor?.Trim() ?? "",
                    Note = answer.Note?.Trim() ?? "",
                    LinkId = link.Id,
                }
            );
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return answer.Place;
    }
}
