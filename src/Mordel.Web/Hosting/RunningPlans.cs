using System.Collections.Concurrent;
using System.Text.Json;
using Mordel.Data.Processes;
using Mordel.Planning;

namespace Mordel.Web.Hosting;

/// <summary>The rounds that are being looked for, by whichever process, and how far the search is.</summary>
public sealed class RunningPlans : IDisposable
{
    private const string Stopped = "stop-plan",
        IsAt = "plan-at",
        Ended = "plan-end";

    // Other processes need not know each step.
    private static readonly TimeSpan Between = TimeSpan.FromMilliseconds(500);
    private readonly ConcurrentDictionary<Guid, (CancellationTokenSource Stop, PlanProgress? At, long Told)> running =
    [];
    private readonly ConcurrentDictionary<Guid, PlanProgress> elsewhere = [];
    private readonly Neighbours neighbours;
    private readonly TimeProvider clock;

    /// <summary>None is looked for yet.</summary>
    /// <param name="neighbours">Where else some may be.</param>
    /// <param name="clock">The clock.</param>
    public RunningPlans(Neighbours neighbours, TimeProvider clock)
    {
        ArgumentNullException.ThrowIfNull(neighbours);
        (this.neighbours, this.clock) = (neighbours, clock);
        neighbours.HearOf(Stopped, StopHere);
        neighbours.HearOf(Ended, id => elsewhere.TryRemove(id, out _));
        neighbours.Hear(IsAt, says =>
        {
            var at = says.IndexOf(' ', StringComparison.Ordinal);
            if (JsonSerializer.Deserialize<PlanProgress>(says[(at + 1)..]) is { } progress)
                elsewhere[Guid.Parse(says[..at])] = progress;
        });
    }

    /// <summary>Begins one; what it answers ends when somebody stops it or the application ends.</summary>
    public CancellationToken Begin(Guid id, CancellationToken stopping)
    {
        var stop = CancellationTokenSource.CreateLinkedTokenSource(stopping);
        running[id] = (stop, null, 0);
        return stop.Token;
    }

    /// <summary>Tells how far one is.</summary>
    public void Tell(Guid id, PlanProgress progress)
    {
        if (!running.TryGetValue(id, out var one))
            return;
        var tells = one.Told == 0 || clock.GetElapsedTime(one.Told) > Between;
        running[id] = one with { At = progress, Told = tells ? clock.GetTimestamp() : one.Told };
        if (tells)
            neighbours.Tell(IsAt, $"{id:N} {JsonSerializer.Serialize(progress)}");
    }

    /// <summary>How far one is; null while nothing was found.</summary>
    public PlanProgress? Of(Guid id) => running.TryGetValue(id, out var one) ? one.At : elsewhere.GetValueOrDefault(id);

    /// <summary>Stops one: the best so far becomes the proposal.</summary>
    public void Stop(Guid id)
    {
        StopHere(id);
        neighbours.TellOf(Stopped, id);
    }

    /// <summary>It is done.</summary>
    public void End(Guid id)
    {
        if (!running.TryRemove(id, out var one))
            return;
        one.Stop.Dispose();
        neighbours.TellOf(Ended, id);
    }

    private void StopHere(Guid id)
    {
        if (running.TryGetValue(id, out var one))
            one.Stop.Cancel();
    }

    public void Dispose()
    {
        foreach (var (id, _) in running)
            End(id);
    }
}
