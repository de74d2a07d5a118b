using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Office;

/// <summary>
/// Puts an assembly to another place of the register: because it was moved there, which asks for a test, or because it
/// was entered at the wrong one. Tests that were signed keep the place that they were signed with.
/// </summary>
public sealed class MoveAssembly(
    Store store,
    DueProjection dues,
    RecordEvent happened,
    ChangeLog log,
    TimeProvider clock
)
{
    /// <summary>Puts it there.</summary>
    /// <param name="assemblyId">The assembly.</param>
    /// <param name="placeId">The place.</param>
    /// <param name="how"><c>moved</c>, or <c>wrong</c> where it has stood there all the time.</param>
    /// <param name="day">The day on which it was moved; of no meaning where it was not.</param>
    /// <param name="author">Who says so.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Edited>> To(
        Guid assemblyId,
        Guid placeId,
        string? how,
        DateOnly? day,
        Author author,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        DateOnly? on =
            fields.OneOf("how", how, "Why", "moved", "wrong") == "moved" ? fields.Day("day", day, "Moved on") : null;
        fields.That("day", on is null || on <= clock.Today(), "It lies in the future: move it when it was moved.");
        await using var transaction = await store.BeginWriting(cancel);
        var row = await store.Assemblies.Include(a => a.Place).FirstOrDefaultAsync(a => a.Id == assemblyId, cancel);
        if (row is null)
            return Reply<Edited>.NotFound("There is no such assembly.");
        var place = await store.Places.FirstOrDefaultAsync(p => p.Id == placeId, cancel);
        fields.That("placeId", place is not null, "Choose the place where it stands.");
        fields.That("placeId", place is null || place.Id != row.PlaceId, "It stands there already.");
        fields.That(
            "day",
            on is null || on == default(DateOnly) || row.InstalledOn <= on,
            $"It was installed on {row.InstalledOn:d MMM yyyy}: it cannot have been moved before."
        );
        if (fields.Any)
            return fields;
        static string Said(PlaceRow p) => $"{p.Name}, {p.Address}";
        log.Write(author, Things.Assembly, row.Id, "place", Said(row.Place!), Said(place!));
        (row.Place, row.PlaceId) = (place, place!.Id);
        if (on is { } moved)
            happened.Keep(row.Id, RecordedEvents.Moved, moved, null, author);
        await store.SaveChangesAsync(cancel);
        await dues.Write(row, cancel);
        await store.SaveChangesAsync(cancel);
        var open = await store.Runs.CountAsync(r => r.AssemblyId == assemblyId && r.SignedAt == null, cancel);
        await transaction.CommitAsync(cancel);
        return new Edited(assemblyId, 1, open);
    }
}
