using System.Collections.Concurrent;

namespace Mordel.Data.Processes;

/// <summary>
/// How often something happened within a window of time, by keys; over all processes of an installation.
/// </summary>
public abstract class WindowCounts
{
    /// <summary>How often within its window; 0 when that is over.</summary>
    public abstract ValueTask<int> Of(string key, CancellationToken cancel);

    /// <summary>It has happened once more; answers how often by now. The first begins a window.</summary>
    public abstract ValueTask<int> Add(string key, TimeSpan window, CancellationToken cancel);

    /// <summary>As if it had never happened.</summary>
    public abstract ValueTask Forget(string key, CancellationToken cancel);
}

/// <summary>Those of a process that is alone.</summary>
public sealed class OwnCounts(TimeProvider clock) : WindowCounts
{
    private const int Kept = 20_000;
    private readonly ConcurrentDictionary<string, Counted> all = new(StringComparer.Ordinal);

    /// <inheritdoc/>
    public override ValueTask<int> Of(string key, CancellationToken cancel) =>
        new(all.TryGetValue(key, out var one) && clock.GetUtcNow() < one.Until ? one.Count : 0);

    /// <inheritdoc/>
    public override ValueTask<int> Add(string key, TimeSpan window, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        if (all.Count >= Kept)
            foreach (var (old, one) in all)
                if (one.Until <= now)
                    all.TryRemove(old, out _);
        // Whoever fills it with keys of no end is met by the limit of an address.
        if (all.Count >= 2 * Kept)
            all.Clear();
        return new(
            all.AddOrUpdate(
                key,
                _ => new(1, now + window),
                (_, one) => one.Until <= now ? new(1, now + window) : one with { Count = one.Count + 1 }
            ).Count
        );
    }

    /// <inheritdoc/>
    public override ValueTask Forget(string key, CancellationToken cancel)
    {
        all.TryRemove(key, out _);
        return default;
    }

    private sealed record Counted(int Count, DateTimeOffset Until);
}
