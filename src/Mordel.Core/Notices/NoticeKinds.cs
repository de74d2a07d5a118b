using System.Collections.Immutable;

namespace Mordel.Core.Notices;

/// <summary>What owners, occupants and authorities are told.</summary>
public enum NoticeKind
{
    /// <summary>Somebody comes to test, and the water will be off.</summary>
    Visit,

    /// <summary>The day before.</summary>
    Reminder,

    /// <summary>The visit has another day or other hours.</summary>
    Changed,

    /// <summary>Nobody comes.</summary>
    Cancelled,

    /// <summary>It passed.</summary>
    Passed,

    /// <summary>It failed.</summary>
    Failed,

    /// <summary>It failed on a high hazard: the authority is told at once.</summary>
    Alert,

    /// <summary>A test is due.</summary>
    Due,

    /// <summary>It is overdue: the second notice.</summary>
    Second,

    /// <summary>The authority may shut the water off.</summary>
    ShutOff,
}

/// <summary>A kind of notice, for lists and forms.</summary>
/// <param name="Kind">The kind.</param>
/// <param name="Id">Its name in addresses and in the store.</param>
/// <param name="Title">What it is.</param>
/// <param name="When">When it goes out, and to whom.</param>
/// <param name="ByItself">Whether it goes out by itself; else somebody sends it from what is due.</param>
public sealed record NoticeKindEntry(NoticeKind Kind, string Id, string Title, string When, bool ByItself)
{
    /// <summary>Whether it tells of a visit: day and hours are in it.</summary>
    public bool IsVisit => Kind <= NoticeKind.Cancelled;

    /// <summary>Whether it tells what came of a test, with the report.</summary>
    public bool IsResult => Kind is NoticeKind.Passed or NoticeKind.Failed or NoticeKind.Alert;
}

/// <summary>All kinds of notices.</summary>
public static class NoticeKinds
{
    /// <summary>All of them, in the order of the work.</summary>
    public static ImmutableArray<NoticeKindEntry> All { get; } =
    [
        new(NoticeKind.Visit, "visit", "Before the visit", "when rounds are accepted, to owner and occupant", true),
        new(NoticeKind.Reminder, "reminder", "Reminder", "the day before the visit, to whom it was told", true),
        new(
            NoticeKind.Changed,
            "changed",
            "Another time",
            "when a visit leaves the hours that were told, to whom they were told",
            true
        ),
        new(
            NoticeKind.Cancelled,
            "cancelled",
            "Nobody comes",
            "when a visit that was told falls out of the rounds",
            true
        ),
        new(NoticeKind.Passed, "passed", "Passed", "when a test is signed, with the report", true),
        new(NoticeKind.Failed, "failed", "Failed", "at once when a failed test is signed, with the report", true),
        new(
            NoticeKind.Alert,
            "alert",
            "Failed on a high hazard",
            "at once, to the authority, where it has an address for it",
            true
        ),
        new(NoticeKind.Due, "due", "A test is due", "from Due, when the office sends it", false),
        new(NoticeKind.Second, "second", "Second notice", "from Due, for what is overdue", false),
        new(NoticeKind.ShutOff, "shut-off", "Shut-off warning", "from Due, for what stays overdue", false),
    ];

    /// <summary>The entry of a kind.</summary>
    public static NoticeKindEntry Of(NoticeKind kind) => All[(int)kind];

    /// <summary>The kind of a name; null where there is none.</summary>
    public static NoticeKindEntry? Named(string? id) => All.FirstOrDefault(k => k.Id == id);
}
