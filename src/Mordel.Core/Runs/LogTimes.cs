using System.Collections.Immutable;

namespace Mordel.Core.Runs;

/// <summary>An entry and when it reached the server.</summary>
/// <param name="Entry">The entry, with the device's own time.</param>
/// <param name="Received">When the server had it, by the server's clock.</param>
public sealed record ReceivedEntry(Entry Entry, DateTimeOffset Received);

/// <summary>
/// What is odd about the times of a run: device and server do not agree, or an entry is older than the run.
/// </summary>
/// <param name="Kind">Stable name: <c>before-begun</c>, <c>ahead</c>, <c>late</c>.</param>
/// <param name="Count">How many entries.</param>
/// <param name="Most">The largest distance among them.</param>
/// <param name="First">The earliest of their own times.</param>
/// <param name="Last">The latest.</param>
public sealed record OddTimes(string Kind, int Count, TimeSpan Most, DateTimeOffset First, DateTimeOffset Last);

/// <summary>
/// Compares what devices say of the time with when their entries arrived. Nothing is refused for it; it is said.
/// </summary>
public static class LogTimes
{
    /// <summary>Clocks of honest devices differ by less than this.</summary>
    public static TimeSpan Slack { get; } = TimeSpan.FromMinutes(2);

    /// <summary>What is kept on a device for longer than this before it is sent is said.</summary>
    public static TimeSpan Long { get; } = TimeSpan.FromMinutes(15);

    /// <summary>What is odd, each kind once; empty when nothing is.</summary>
    /// <param name="begun">When the run began, by the server's clock.</param>
    /// <param name="log">The entries with their arrivals.</param>
    public static ImmutableArray<OddTimes> FindOdd(DateTimeOffset begun, IReadOnlyCollection<ReceivedEntry> log)
    {
        ArgumentNullException.ThrowIfNull(log);
        return
        [
            .. Odd("before-begun", log, e => begun - e.Entry.At, Slack),
            .. Odd("ahead", log, e => e.Entry.At - e.Received, Slack),
            .. Odd("late", log, e => e.Received - e.Entry.At, Long),
        ];
    }

    private static IEnumerable<OddTimes> Odd(
        string kind,
        IEnumerable<ReceivedEntry> log,
        Func<ReceivedEntry, TimeSpan> distance,
        TimeSpan allowed
    )
    {
        var far = log.Where(e => distance(e) > allowed).ToList();
        if (far.Count > 0)
            yield return new(kind, far.Count, far.Max(distance), far.Min(e => e.Entry.At), far.Max(e => e.Entry.At));
    }
}
