using Microsoft.EntityFrameworkCore;
using Mordel.Core.Hydraulics;
using Mordel.Core.Serialization;
using Mordel.Core.Training;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Bench;

/// <summary>Takes a recording that was handed in, marks it by playing it, and keeps it.</summary>
public sealed class HandIn(Store store, BenchList book, RequestWork work, TimeProvider clock)
{
    /// <summary>How many one person may hand in within a day.</summary>
    public const int MostADay = 300;

    /// <summary>The attempt's id.</summary>
    /// <param name="recording">The recording.</param>
    /// <param name="text">Its text; kept in its canonical form.</param>
    /// <param name="asker">Whose it is.</param>
    /// <param name="assignmentId">What it was done for; null for practice.</param>
    /// <param name="cancel">Ends the wait, and the marking.</param>
    /// <exception cref="TooMuchWorkException">Playing it takes more than one request may cost; nothing is
    /// kept.</exception>
    public async Task<Reply<Guid>> Take(
        Recording recording,
        string text,
        Asker asker,
        Guid? assignmentId,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(recording);
        if (assignmentId is { } id)
        {
            if (await book.Assigned(id, asker, cancel) is not { } assignment)
                return Reply<Guid>.NotFound("There is no such assignment, or it is not yours.");
            if (RecordingFormat.RigOf(text) is var rig && Compact(rig) != Compact(assignment.Rig))
                return Reply<Guid>.Refused("This recording was not made on the rig of the assignment.");
        }

        var dayAgo = clock.GetUtcNow().AddDays(-1);
        if (await store.Attempts.CountAsync(a => a.AccountId == asker.Id && a.HandedInAt > dayAgo, cancel) >= MostADay)
            return Reply<Guid>.Refused($"{MostADay} attempts in a day are enough. Rest, and come back tomorrow.");
        if (RecordingFormat.Canonical(recording, text) is not { } canonical)
            return Reply<Guid>.Refused(
                "This recording would not come back as it was written. Hand it in from the bench."
            );
        if (
            await store.Attempts.AnyAsync(
                a => a.AccountId == asker.Id && a.AssignmentId == assignmentId && a.Recording == canonical,
                cancel
            )
        )
            return Reply<Guid>.Refused("This recording has been handed in already.");
        var sheet = Marking.Mark(recording, work.Budget(cancel));
        var attempt = Row(
            Guid.CreateVersion7(),
            asker.Id,
            assignmentId,
            recording,
            canonical,
            sheet,
            clock.GetUtcNow()
        );
        store.Attempts.Add(attempt);
        await store.SaveChangesAsync(cancel);
        return attempt.Id;
    }

    /// <summary>What is kept of a recording and its marks.</summary>
    public static AttemptRow Row(
        Guid id,
        Guid accountId,
        Guid? assignmentId,
        Recording recording,
        string text,
        MarkSheet sheet,
        DateTimeOffset at
    )
    {
        ArgumentNullException.ThrowIfNull(recording);
        ArgumentNullException.ThrowIfNull(sheet);
        return new()
        {
            Id = id,
            AccountId = accountId,
            AssignmentId = assignmentId,
            ProcedureId = recording.Scenario.Procedure.Id,
            Recording = text,
            HandedInAt = at,
            Marks = MarksFormat.Write(sheet),
            Seconds = (int)sheet.Seconds,
            Percent = sheet.Percent,
            Passed = sheet.Passed,
            Lost = string.Join('\n', sheet.Marks.Where(m => !m.Earned).Select(m => m.Title)),
        };
    }

    private static string Compact(string json) => new(json.Where(c => !char.IsWhiteSpace(c)).ToArray());
}
