using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging;
using Mordel.Data.Rows;

namespace Mordel.Data.Seals;

/// <summary>
/// Keeps what was found broken among what is sealed, so that it is shown to the office and the owner, and does not go
/// away by being looked at once. An alarm ends when a check of the same thing finds it whole again.
/// </summary>
public sealed partial class Alarms(Store store, TimeProvider clock, ILogger<Alarms> log)
{
    /// <summary>The subject of what concerns all of it.</summary>
    public const string Installation = "installation";

    /// <summary>Begins the subject of what was carried on behind damage: no later check takes it back.</summary>
    public const string CarriedOn = "carried-on ";

    /// <summary>The subject of a run's seal.</summary>
    public static string OfRun(Guid runId) => $"run {runId}";

    /// <summary>The subject of an assembly's chain.</summary>
    public static string OfChain(Guid assemblyId) => $"chain {assemblyId}";

    /// <summary>Raises an alarm for each sentence; one that is there already is only seen again.</summary>
    public async Task Raise(string subject, IReadOnlyCollection<string> says, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(says);
        if (says.Count == 0)
            return;
        var now = clock.Now();
        var there = await store.AlarmRows.Where(a => a.Subject == subject).ToListAsync(cancel);
        foreach (var sentence in says.Distinct())
        {
            if (there.Find(a => a.Says == sentence) is { } known)
            {
                known.LastSeenAt = now;
                continue;
            }

            store.AlarmRows.Add(
                new()
                {
                    Id = Guid.CreateVersion7(),
                    Subject = subject,
                    Says = sentence,
                    FirstSeenAt = now,
                    LastSeenAt = now,
                }
            );
            Broken(subject, sentence);
        }
    }

    /// <summary>
    /// Says what a check of a subject has found: raises what is new and ends what is whole again. Saved at once.
    /// </summary>
    public Task Settle(string subject, IReadOnlyList<string> says, CancellationToken cancel) =>
        Settle([(subject, says)], cancel);

    /// <summary>The same for several subjects together.</summary>
    public async Task Settle(
        IReadOnlyCollection<(string Subject, IReadOnlyList<string> Says)> found,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(found);
        var subjects = found.Select(f => f.Subject).ToList();
        var there = await store.AlarmRows.Where(a => subjects.Contains(a.Subject)).ToListAsync(cancel);
        if (there.Count == 0 && found.All(f => f.Says.Count == 0))
            return;
        store.AlarmRows.RemoveRange(
            there.Where(a => !found.Any(f => f.Subject == a.Subject && f.Says.Contains(a.Says)))
        );
        foreach (var (subject, says) in found)
            await Raise(subject, says, cancel);
        await store.SaveChangesAsync(cancel);
    }

    /// <summary>Somebody has dealt with it.</summary>
    public async Task<bool> End(Guid id, CancellationToken cancel) =>
        await store.AlarmRows.Where(a => a.Id == id).ExecuteDeleteAsync(cancel) > 0;

    /// <summary>All alarms, the newest first.</summary>
    public async Task<IReadOnlyList<AlarmRow>> All(CancellationToken cancel) =>
        await store
            .AlarmRows.AsNoTracking()
            .OrderByDescending(a => a.FirstSeenAt)
            .ThenBy(a => a.Subject)
            .Take(200)
            .ToListAsync(cancel);

    [LoggerMessage(Level = LogLevel.Error, Message = "SEAL BROKEN: {Subject}: {Says}")]
    private partial void Broken(string subject, string says);
}
