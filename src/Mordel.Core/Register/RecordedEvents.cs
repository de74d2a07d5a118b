using System.Collections.Immutable;
using Mordel.Core.Dues;

namespace Mordel.Core.Register;

/// <summary>
/// What happened to an assembly beside its tests, as it stands in a file: <c>moved 2026-05-01; laid up 2026-10-20</c>.
/// </summary>
public static class RecordedEvents
{
    /// <summary>The kind of an assembly that was moved.</summary>
    public const string Moved = "moved";

    /// <summary>The kind of an assembly whose last test is in doubt.</summary>
    public const string InDoubt = "in doubt";

    /// <summary>What may happen, as it is kept and as it is said.</summary>
    public static ImmutableArray<(string Kind, string Says, Func<DateOnly, DueEvent> Event)> Kinds { get; } =
    [
        (Moved, "It was moved", d => new DueEvent.Relocated(d)),
        ("water ran back", "Water ran back, or may have", d => new DueEvent.Incident(d)),
        ("repaired", "It was repaired elsewhere", d => new DueEvent.Repaired(d)),
        (InDoubt, "Its last test is in doubt: the kit was found wrong", d => new DueEvent.Doubted(d)),
        ("laid up", "It was laid up: shut off and drained", d => new DueEvent.LaidUp(d)),
        ("put back", "It was put back into service", d => new DueEvent.PutBack(d)),
        ("removed", "It was taken out for good", d => new DueEvent.Removed(d)),
    ];

    /// <summary>The event of a kind; null where there is no such kind.</summary>
    public static DueEvent? Of(string kind, DateOnly day) =>
        Kinds.FirstOrDefault(k => k.Kind == kind).Event is { } make ? make(day) : null;

    /// <summary>Reads a list; null where it is none.</summary>
    public static ImmutableArray<(string Kind, DateOnly Day)>? Read(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var events = ImmutableArray.CreateBuilder<(string, DateOnly)>();
        foreach (var one in text.Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            if (one.Length < 12 || Days.Read(one[^10..]) is not { } day || Of(one[..^11], day) is null)
                return null;
            events.Add((one[..^11], day));
        }

        return events.ToImmutable();
    }

    /// <summary>Writes a list.</summary>
    public static string Write(IEnumerable<(string Kind, DateOnly Day)> events) =>
        string.Join("; ", events.Select(e => $"{e.Kind} {Days.Write(e.Day)}"));

    internal static Cleaned Clean(string text) =>
        Read(text) is { } events
            ? new(Write(events))
            : Cleaned.Not(
                $"Events are written as moved 2026-05-01; {string.Join(", ", Kinds.Select(k => k.Kind))} can be."
            );
}
