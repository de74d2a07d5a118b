using System.Text.Json;

namespace Mordel.Data.Rows;

/// <summary>Whether an assembly is in service.</summary>
public static class AssemblyStates
{
    /// <summary>It protects something.</summary>
    public const string InService = "in service";

    /// <summary>It is shut off and drained for the time being.</summary>
    public const string LaidUp = "laid up";

    /// <summary>It was taken out for good.</summary>
    public const string Removed = "removed";

    /// <summary>Another stands in its place.</summary>
    public const string Replaced = "replaced";

    /// <summary>It was entered twice, and the other entry stands.</summary>
    public const string Merged = "merged";

    /// <summary>All of them.</summary>
    public static readonly string[] All = [InService, LaidUp, Removed, Replaced, Merged];
}

/// <summary>Why a test that is owed cannot be made.</summary>
public static class StuckReasons
{
    /// <summary>All of them, as they are kept and as they are said.</summary>
    public static readonly (string Value, string Says)[] All =
    [
        ("no access", "nobody lets us in"),
        ("refused", "the owner refuses"),
        ("parts", "it waits for parts"),
        ("works", "building works"),
    ];
}

/// <summary>What has a history of changes in the register.</summary>
public static class Things
{
    /// <summary>An assembly.</summary>
    public const string Assembly = "assembly";

    /// <summary>A place.</summary>
    public const string Place = "place";

    /// <summary>An owner.</summary>
    public const string Owner = "owner";

    /// <summary>An authority.</summary>
    public const string Authority = "authority";

    /// <summary>Somebody with an account.</summary>
    public const string Person = "person";

    /// <summary>A test kit.</summary>
    public const string Kit = "kit";

    /// <summary>A branch.</summary>
    public const string Branch = "branch";

    /// <summary>A version of a rule profile.</summary>
    public const string Profile = "profile";
}

/// <summary>Something that happened to an assembly beside its tests; never deleted, it can be taken back.</summary>
public sealed class AssemblyEventRow
{
    /// <summary>The kind of an event that gives the day of an authority's list.</summary>
    public const string Announced = "announced";

    public Guid Id { get; set; }
    public Guid AssemblyId { get; set; }

    /// <summary>One of the kinds of <c>RecordedEvents</c>, or <see cref="Announced"/>.</summary>
    public required string Kind { get; set; }
    public DateOnly Day { get; set; }

    /// <summary>The day that the authority's list gave, where it was announced.</summary>
    public DateOnly? Due { get; set; }
    public string? Note { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>The import that it came with.</summary>
    public Guid? ImportId { get; set; }

    /// <summary>When it was taken back; null while it stands.</summary>
    public DateTimeOffset? TakenBackAt { get; set; }
}

/// <summary>A test that was made elsewhere and brought in: no record of ours, and never sealed by us.</summary>
public sealed class BroughtTestRow
{
    public Guid Id { get; set; }
    public Guid AssemblyId { get; set; }
    public DateOnly Day { get; set; }

    /// <summary>
    /// <c>pass</c>, <c>fail</c>, <c>incomplete</c> or <c>not-testable</c>; empty where it was not said.
    /// </summary>
    public required string Outcome { get; set; }

    /// <summary>What else was said of it, by field, as JSON.</summary>
    public required string Values { get; set; }

    /// <summary>What else was said of it, by field.</summary>
    public Dictionary<string, string> Said() => JsonSerializer.Deserialize<Dictionary<string, string>>(Values)!;

    /// <summary>Where it comes from, in words.</summary>
    public required string Source { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }
    public Guid? ImportId { get; set; }
}

/// <summary>Two entries that were found to be one assembly; never deleted, it can be undone.</summary>
public sealed class MergeRow
{
    public Guid Id { get; set; }

    /// <summary>The entry that stands.</summary>
    public Guid KeptId { get; set; }

    /// <summary>The entry that is gone.</summary>
    public Guid GoneId { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }

    /// <summary>The stops, tests brought in and events that went over, as JSON.</summary>
    public required string Moved { get; set; }
    public DateTimeOffset? UndoneAt { get; set; }
    public string? UndoneBy { get; set; }
}

/// <summary>One change of one value in the register. Never updated, never deleted.</summary>
public sealed class ChangeRow
{
    public Guid Id { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }

    /// <summary>One of <see cref="Things"/>.</summary>
    public required string Thing { get; set; }
    public Guid ThingId { get; set; }

    /// <summary>The field's name; empty where it is about the whole.</summary>
    public required string Field { get; set; }
    public required string From { get; set; }
    public required string To { get; set; }

    /// <summary>What it was part of: a change of many, a merge, an import; null for a form.</summary>
    public Guid? BatchId { get; set; }

    /// <summary>How it came about, in a few words: form, many at once, merged.</summary>
    public required string How { get; set; }
}
