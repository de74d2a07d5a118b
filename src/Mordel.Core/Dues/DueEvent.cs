namespace Mordel.Core.Dues;

/// <summary>Something that happened to an assembly and moves what is owed.</summary>
/// <param name="Day">When.</param>
public abstract record DueEvent(DateOnly Day)
{
    /// <summary>It was tested.</summary>
    /// <param name="Day">The day of the test.</param>
    /// <param name="Passed">Whether it passed.</param>
    public sealed record Tested(DateOnly Day, bool Passed) : DueEvent(Day);

    /// <summary>A test was begun and came to no result.</summary>
    public sealed record NotFinished(DateOnly Day) : DueEvent(Day);

    /// <summary>It was opened and closed again.</summary>
    public sealed record Repaired(DateOnly Day) : DueEvent(Day);

    /// <summary>It was moved to another place.</summary>
    public sealed record Relocated(DateOnly Day) : DueEvent(Day);

    /// <summary>Water ran back, or may have.</summary>
    public sealed record Incident(DateOnly Day) : DueEvent(Day);

    /// <summary>Its last test cannot be relied on: the kit that it was made with was found wrong.</summary>
    public sealed record Doubted(DateOnly Day) : DueEvent(Day);

    /// <summary>It was laid up: shut off and drained, and nothing is fed through it.</summary>
    public sealed record LaidUp(DateOnly Day) : DueEvent(Day);

    /// <summary>It was put back into service.</summary>
    public sealed record PutBack(DateOnly Day) : DueEvent(Day);

    /// <summary>It was taken out for good, or another stands in its place.</summary>
    public sealed record Removed(DateOnly Day) : DueEvent(Day);

    /// <summary>The authority's list gave a day.</summary>
    /// <param name="Day">The day of the list.</param>
    /// <param name="Due">The day it gave.</param>
    public sealed record Announced(DateOnly Day, DateOnly Due) : DueEvent(Day);
}
