using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Office;

/// <summary>
/// Keeps what happens to an assembly beside its tests: moved, water ran back, laid up, put back, taken out. What is
/// owed follows at once.
/// </summary>
public sealed class RecordEvent(Store store, DueProjection dues, ChangeLog log, TimeProvider clock)
{
    private const int LongestNote = 300;

    /// <summary>Keeps it.</summary>
    /// <param name="assemblyId">The assembly.</param>
    /// <param name="kind">One of the kinds of <see cref="RecordedEvents"/>.</param>
    /// <param name="day">When; not in the future.</param>
    /// <param name="note">A word about it.</param>
    /// <param name="author">Who says so.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> Of(
        Guid assemblyId,
        string? kind,
        DateOnly? day,
        string? note,
        Author author,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        var what = fields.OneOf("kind", kind, "What happened", [.. RecordedEvents.Kinds.Select(k => k.Kind)]);
        var on = fields.Day("day", day, "Day");
        fields.That("day", on <= clock.Today(), "It lies in the future: keep it when it has happened.");
        fields.That("note", (note?.Length ?? 0) <= LongestNote, $"The note may have {LongestNote} characters.");
        await using var transaction = await store.BeginWriting(cancel);
        var assembly = await store.Assemblies.FirstOrDefaultAsync(a => a.Id == assemblyId, cancel);
        if (assembly is null)
            return Reply<Guid>.NotFound("There is no such assembly.");
        fields.That(
            "kind",
            (what == "put back") == (assembly.State == AssemblyStates.LaidUp) || what is not ("put back" or "laid up"),
            assembly.State == AssemblyStates.LaidUp ? "It is laid up already." : "It is not laid up."
        );
        if (fields.Any)
            return fields;
        var row = Keep(assemblyId, what, on, note, author);
        await store.SaveChangesAsync(cancel);
        await dues.Write(assembly, cancel);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }

    /// <summary>Keeps what happened, unasked; saved with the caller's transaction, who sees to what is owed.</summary>
    internal AssemblyEventRow Keep(Guid assemblyId, string kind, DateOnly day, string? note, Author author)
    {
        var row = new AssemblyEventRow
        {
            Id = Guid.CreateVersion7(),
            AssemblyId = assemblyId,
            Kind = kind,
            Day = day,
            Note = string.IsNullOrWhiteSpace(note) ? null : note.Trim(),
            By = author.By,
            At = clock.Now(),
        };
        store.AssemblyEvents.Add(row);
        log.Write(author, Things.Assembly, assemblyId, "event", "", $"{kind}, {day:yyyy-MM-dd}");
        return row;
    }

    /// <summary>Takes back what was kept by mistake; the row stays and says so.</summary>
    public async Task<Reply<Guid>> TakeBack(Guid assemblyId, Guid eventId, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        var row = await store.AssemblyEvents.FirstOrDefaultAsync(
            e => e.Id == eventId && e.AssemblyId == assemblyId,
            cancel
        );
        if (row is null)
            return Reply<Guid>.NotFound("There is no such event.");
        if (row.TakenBackAt is not null)
            return row.AssemblyId;
        row.TakenBackAt = clock.Now();
        log.Write(author, Things.Assembly, assemblyId, "event", $"{row.Kind}, {row.Day:yyyy-MM-dd}", "taken back");
        await store.SaveChangesAsync(cancel);
        await dues.Write(await store.Assemblies.FirstAsync(a => a.Id == assemblyId, cancel), cancel);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.AssemblyId;
    }

    /// <summary>Says why a test cannot be made for the time being, or that it can again.</summary>
    /// <param name="assemblyId">The assembly.</param>
    /// <param name="reason">One of <see cref="StuckReasons"/>; empty when nothing stands in the way any more.</param>
    /// <param name="note">A word about it.</param>
    /// <param name="author">Who says so.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> Stuck(
        Guid assemblyId,
        string? reason,
        string? note,
        Author author,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        var why = string.IsNullOrEmpty(reason) ? null : reason;
        fields.That(
            "reason",
            why is null || StuckReasons.All.Any(r => r.Value == why),
            $"Choose one of {string.Join(", ", StuckReasons.All.Select(r => r.Says))}."
        );
        fields.That("note", (note?.Length ?? 0) <= LongestNote, $"The note may have {LongestNote} characters.");
        if (fields.Any)
            return fields;
        await using var transaction = await store.BeginWriting(cancel);
        var assembly = await store.Assemblies.FirstOrDefaultAsync(a => a.Id == assemblyId, cancel);
        if (assembly is null)
            return Reply<Guid>.NotFound("There is no such assembly.");
        log.Write(author, Things.Assembly, assemblyId, "stuck", assembly.Stuck ?? "", why ?? "");
        assembly.StuckSince =
            why is null ? null
            : assembly.Stuck == why ? assembly.StuckSince
            : clock.Today();
        assembly.StuckNote = why is null || string.IsNullOrWhiteSpace(note) ? null : note.Trim();
        assembly.Stuck = why;
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return assemblyId;
    }
}
