using Microsoft.EntityFrameworkCore;
using Mordel.Core.Serialization;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Bench;

/// <summary>Makes classes, fills them, and sets assignments.</summary>
public sealed class RunClass(Store store, TimeProvider clock)
{
    private const int MostClasses = 200;
    private const string NoSuchClass = "There is no such class, or it is not yours.";

    /// <summary>Begins a class.</summary>
    public async Task<Reply<Guid>> Begin(string? name, Guid instructorId, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        var called = fields.Text("name", name, "The class's name", 80);
        await using var transaction = await store.BeginWriting(cancel);
        fields.That(
            "name",
            !await store.Classes.AnyAsync(c => c.Name == called && c.InstructorId == instructorId, cancel),
            $"{called} is already there."
        );
        fields.That(
            "name",
            await store.Classes.CountAsync(c => c.InstructorId == instructorId, cancel) < MostClasses,
            $"{MostClasses} classes are enough."
        );
        if (fields.Any)
            return fields;
        var row = new ClassRow
        {
            Id = Guid.CreateVersion7(),
            Name = called,
            InstructorId = instructorId,
        };
        store.Classes.Add(row);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }

    /// <summary>Puts a learner into a class, or takes one out.</summary>
    public async Task<Reply<Guid>> Join(Guid classId, Guid learnerId, bool isIn, Asker asker, CancellationToken cancel)
    {
        if (!await Teaches(asker, classId, cancel))
            return Reply<Guid>.NotFound(NoSuchClass);
        if (!await store.Users.AnyAsync(u => u.Id == learnerId, cancel))
            return Reply<Guid>.Refused("Choose somebody from the list.");
        await using var transaction = await store.BeginWriting(cancel);
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
        return classId;
    }

    /// <summary>Sets an assignment.</summary>
    public async Task<Reply<Guid>> Assign(
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
        await using var transaction = await store.BeginWriting(cancel);
        fields.That(
            "title",
            !await store.Assignments.AnyAsync(a => a.ClassId == classId && a.Title == called && a.Rig == rig, cancel),
            $"{called} is already there, with the same rig."
        );
        fields.That("class", await Teaches(asker, classId, cancel), NoSuchClass);
        if (fields.Any)
            return fields;
        var row = new AssignmentRow
        {
            Id = Guid.CreateVersion7(),
            ClassId = classId,
            Title = called,
            Rig = rig,
            Minutes = minutes,
            SetAt = clock.GetUtcNow(),
            DueOn = due,
        };
        store.Assignments.Add(row);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }

    private Task<bool> Teaches(Asker asker, Guid classId, CancellationToken cancel) =>
        store.Classes.AnyAsync(c => c.Id == classId && (asker.SeesAll || c.InstructorId == asker.Id), cancel);
}
