namespace Mordel.Data.Rows;

/// <summary>A class of learners and who teaches it.</summary>
public sealed class ClassRow
{
    public Guid Id { get; set; }
    public required string Name { get; set; }
    public Guid InstructorId { get; set; }
    public Account? Instructor { get; set; }
    public List<ClassMemberRow> Members { get; } = [];
    public List<AssignmentRow> Assignments { get; } = [];
}

/// <summary>A learner of a class.</summary>
public sealed class ClassMemberRow
{
    public Guid ClassId { get; set; }
    public Guid AccountId { get; set; }
    public Account? Account { get; set; }
}

/// <summary>A rig that a class is asked to test; the same for everyone.</summary>
public sealed class AssignmentRow
{
    public Guid Id { get; set; }
    public Guid ClassId { get; set; }
    public ClassRow? Class { get; set; }
    public required string Title { get; set; }

    /// <summary>The rig: <c>mordel.drawn/1</c> or <c>mordel.scenario/1</c>.</summary>
    public required string Rig { get; set; }

    /// <summary>Minutes on the bench's clock; 0 for as long as it takes.</summary>
    public int Minutes { get; set; }
    public DateTimeOffset SetAt { get; set; }
    public DateOnly? DueOn { get; set; }
}

/// <summary>
/// A learner's test at the bench, handed in and marked. The recording is what happened; the marks can be made from it
/// again at any time.
/// </summary>
public sealed class AttemptRow
{
    public Guid Id { get; set; }
    public Guid AccountId { get; set; }
    public Account? Account { get; set; }
    public Guid? AssignmentId { get; set; }
    public AssignmentRow? Assignment { get; set; }
    public required string ProcedureId { get; set; }

    /// <summary>Everything done, as <c>mordel.tape/1</c>.</summary>
    public required string Recording { get; set; }
    public DateTimeOffset HandedInAt { get; set; }

    /// <summary>Projections of the recording: the marks as text, and what lists show.</summary>
    public required string Marks { get; set; }
    public int Seconds { get; set; }
    public int Percent { get; set; }
    public bool Passed { get; set; }

    /// <summary>Titles of the marks that were lost, a line each.</summary>
    public string Lost { get; set; } = "";
}
