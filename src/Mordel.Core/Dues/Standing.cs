using System.Collections.Immutable;

namespace Mordel.Core.Dues;

/// <summary>How an assembly stands after all that happened to it, whatever the rules.</summary>
internal sealed record Standing
{
    /// <summary>Whether it is in service.</summary>
    public Service Service { get; private init; }

    /// <summary>The last test that it passed; null where none is known.</summary>
    public DateOnly? Passed { get; private init; }

    /// <summary>What the authority's list gave, until a test is passed.</summary>
    public (DateOnly Day, DateOnly Due)? Announced { get; private init; }

    /// <summary>What asks for a test since the last one that it passed, each cause once, by its first day.</summary>
    public ImmutableArray<(DueCause Cause, DateOnly Day)> Pending { get; private init; } = [];

    /// <summary>Whether the last test that came to a result was failed.</summary>
    public bool HasFailed { get; private init; }

    /// <summary>How it stands.</summary>
    public static Standing After(IEnumerable<DueEvent> events)
    {
        ArgumentNullException.ThrowIfNull(events);
        return events.OrderBy(e => e.Day).Aggregate(new Standing(), (standing, e) => standing.With(e));
    }

    private Standing With(DueEvent happened) =>
        happened switch
        {
            DueEvent.Tested { Passed: true } t => this with
            {
                Passed = t.Day,
                Announced = null,
                HasFailed = false,
                Pending = [],
            },
            // What was to be tested has been; what is owed now is to put it right and test it again.
            DueEvent.Tested t => this with
            {
                Passed = null,
                Announced = null,
                HasFailed = true,
                Pending = [(DueCause.Failed, t.Day)],
            },
            DueEvent.NotFinished n => Asking(DueCause.NotFinished, n.Day),
            DueEvent.Repaired r => Asking(DueCause.Repaired, r.Day),
            DueEvent.Relocated r => Asking(DueCause.Relocated, r.Day),
            DueEvent.Doubted d => Asking(DueCause.Doubted, d.Day),
            DueEvent.Incident i => Asking(DueCause.Incident, i.Day),
            // What was taken out for good does not come back.
            DueEvent.LaidUp => Service == Service.Removed ? this : this with { Service = Service.LaidUp },
            DueEvent.PutBack p => Service == Service.LaidUp
                ? (this with { Service = Service.InService }).Asking(DueCause.PutBack, p.Day)
                : this,
            DueEvent.Removed => this with { Service = Service.Removed },
            DueEvent.Announced a => this with { Announced = (a.Day, a.Due) },
            _ => throw new ArgumentOutOfRangeException(nameof(happened)),
        };

    // The first of a kind sets the day.
    private Standing Asking(DueCause cause, DateOnly day) =>
        Pending.Any(p => p.Cause == cause) ? this : this with { Pending = Pending.Add((cause, day)) };
}
