using Microsoft.EntityFrameworkCore;
using Mordel.Core.Hydraulics;
using Mordel.Core.Serialization;
using Mordel.Core.Training;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands;

/// <summary>Takes a recording that was handed in, marks it by playing it, and keeps it.</summary>
public sealed class HandIn(Store store, BenchList book, TimeProvider clock)
{
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
                return Reply<Guid>.Refused("There is no such assignment, or it is not yours.");
            if (RecordingFormat.RigOf(text) is var rig && Compact(rig) != Compact(assignment.Rig))
                return Reply<Guid>.Refused("This recording was not made on the rig of the assignment.");
        }

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
        var sheet = Marking.Mark(recording, new WorkBudget(WorkBudget.ForOneRequest, cancel));
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
        };
    }

    private static string Compact(string json) => new(json.Where(c => !char.IsWhiteSpace(c)).ToArray());
}

/// <summary>Makes classes, fills them, and sets assignments.</summary>
public sealed class RunClass(Store store, TimeProvider clock)
{
    /// <summary>Begins a class.</summary>
    public async Task<IReadOnlyList<(string Field, string Says)>> Begin(
        string? name,
        Guid instructorId,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        var called = fields.Text("name", name, "The class's name", 80);
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        fields.That(
            "name",
            !await store.Classes.AnyAsync(c => c.Name == called && c.InstructorId == instructorId, cancel),
            $"{called} is already there."
        );
        if (fields.Errors.Count > 0)
            return fields.Errors;
        store.Classes.Add(
            new()
            {
                Id = Guid.CreateVersion7(),
                Name = called,
                InstructorId = instructorId,
            }
        );
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return [];
    }

    /// <summary>Puts a learner into a class, or takes one out.</summary>
    public async Task<string?> Join(Guid classId, Guid learnerId, bool isIn, Asker asker, CancellationToken cancel)
    {
        if (
            !await store.Classes.AnyAsync(c => c.Id == classId && (asker.SeesAll || c.InstructorId == asker.Id), cancel)
        )
            return "There is no such class, or it is not yours.";
        if (!await store.Users.AnyAsync(u => u.Id == learnerId, cancel))
            return "Choose somebody from the list.";
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        var there = await store.ClassMembers.FirstOrDefaultAsync(
            m => m.ClassId == classId && m.AccountId == learnerId,
            cancel
        );
        if (isIn && there is null)
            store.ClassMembers.Add(new() { ClassId = classId, AccountId = learnerId });
        else if (!isIn && there is not null)
            store.ClassMembers.Remove(there);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return null;
    }

    /// <summary>Sets an assignment.</summary>
    public async Task<IReadOnlyList<(string Field, string Says)>> Assign(
        Guid classId,
        string? title,
        string rig,
        int minutes,
        DateOnly? due,
        Asker asker,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        var called = fields.Text("title", title, "The title", 80);
        fields.Number("minutes", minutes, "Minutes", 0, 120);
        fields.That("due", due is null || due >= clock.Today(), "The day has passed already.");
        if (RecordingFormat.ReadRig(rig, out var errors) is null)
            foreach (var error in errors)
                fields.That(error.Place, false, error.Says);
        else if (RecordingFormat.ReadRig(rig = JsonText.Compact(rig), out _) is null)
            fields.That("rig", false, "This rig would not come back as it was written.");
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        fields.That(
            "title",
            !await store.Assignments.AnyAsync(a => a.ClassId == classId && a.Title == called && a.Rig == rig, cancel),
            $"{called} is already there, with the same rig."
        );
        fields.That(
            "class",
            await store.Classes.AnyAsync(c => c.Id == classId && (asker.SeesAll || c.InstructorId == asker.Id), cancel),
            "There is no such class, or it is not yours."
        );
        if (fields.Errors.Count > 0)
            return fields.Errors;
        store.Assignments.Add(
            new()
            {
                Id = Guid.CreateVersion7(),
                ClassId = classId,
                Title = called,
                Rig = rig,
                Minutes = minutes,
                SetAt = clock.GetUtcNow(),
                DueOn = due,
            }
        );
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return [];
    }
}
