using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Seals;

namespace Mordel.Data.Lists;

/// <summary>How long the steps of the latest tests took, from when each was entered.</summary>
internal static class StepTimes
{
    // Enough to plan by; older ones were made by sheets and people of their time.
    private const int Latest = 3_000,
        Batch = 200;

    // Who waits longer than this at a step was called away.
    private const double Longest = 3_600;

    /// <summary>Counts them.</summary>
    /// <param name="store">The store.</param>
    /// <param name="tally">Where they are counted.</param>
    /// <param name="cancel">Ends it.</param>
    /// <returns>How many tests were read, and the latest by each procedure.</returns>
    public static async Task<(int Runs, IReadOnlyDictionary<string, Guid> Latest)> Of(
        Store store,
        StandingTally tally,
        CancellationToken cancel
    )
    {
        var runs = await store
            .Runs.AsNoTracking()
            .Where(r => r.SignedAt != null)
            .OrderByDescending(r => r.SignedAt)
            .Take(Latest)
            .Select(r => new
            {
                r.Id,
                r.ProcedureId,
                r.StartedAt,
            })
            .ToListAsync(cancel);
        foreach (var batch in runs.Chunk(Batch))
        {
            var ids = batch.Select(r => r.Id).ToList();
            var entries = await store.SealedEntries(ids, cancel);
            foreach (var run in batch.Where(r => entries.ContainsKey(r.Id)))
            foreach (var (step, took) in Each(run.StartedAt, entries[run.Id].Values))
                tally.Time(run.ProcedureId, Guid.Empty, step, took);
        }

        return (runs.Count, runs.GroupBy(r => r.ProcedureId).ToDictionary(g => g.Key, g => g.First().Id));
    }

    // Each step once with all the time it took, seconds: from the entry before it to its own.
    private static Dictionary<string, double> Each(DateTimeOffset began, IEnumerable<string> log)
    {
        var took = new Dictionary<string, double>();
        foreach (var json in log)
        {
            if (Read(json) is not var (step, now))
                continue;
            // What was done on a branch belongs to the step that led there.
            var main = step.Split('/')[0];
            var seconds = (now - began).TotalSeconds;
            if (seconds is >= 0 and <= Longest)
                took[main] = took.GetValueOrDefault(main) + seconds;
            began = now > began ? now : began;
        }

        return took;
    }

    // Null where it belongs to no step, or cannot be read any more: a broken seal is told elsewhere.
    private static (string Step, DateTimeOffset At)? Read(string json)
    {
        try
        {
            using var entry = JsonDocument.Parse(json);
            return
                entry.RootElement.TryGetProperty("step", out var step)
                && step.GetString() is { } id
                && entry.RootElement.TryGetProperty("at", out var at)
                && at.TryGetDateTimeOffset(out var when)
                ? (id, when)
                : null;
        }
        catch (Exception e) when (e is JsonException or InvalidOperationException)
        {
            return null;
        }
    }
}
