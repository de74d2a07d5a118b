using Microsoft.EntityFrameworkCore;
using Mordel.Data.Seals;

namespace Mordel.Data.Lists;

/// <summary>A run in a list.</summary>
/// <param name="Outcome">The outcome; <c>seal-broken</c> where the seal does not hold; null while it is open.</param>
/// <param name="NotEntered">How many facts of its report nobody entered.</param>
/// <param name="Broken">What is broken about its seal; null when nothing is.</param>
public sealed record RunLine(
    Guid Id,
    string? Number,
    string Tag,
    string Type,
    string Place,
    string Procedure,
    string Profile,
    int ProfileVersion,
    string Tester,
    DateTimeOffset StartedAt,
    DateTimeOffset? SignedAt,
    string? Outcome,
    int NotEntered,
    IReadOnlyList<string>? Broken = null
);

/// <summary>Lists runs, the newest first, a page at a time.</summary>
public sealed class RunList(Store store, SealReader seals)
{
    /// <summary>The most runs in one page.</summary>
    public const int Most = 200;

    /// <summary>A page of the runs that somebody may see: their own, or all at the desk.</summary>
    /// <param name="asker">Who asks.</param>
    /// <param name="open">Only those not signed yet.</param>
    /// <param name="before">Only those begun before this time: the last line of the page before.</param>
    /// <param name="cancel">Cancels.</param>
    /// <param name="branch">Only at assemblies of this branch, by its id; anything else for all.</param>
    public async Task<IReadOnlyList<RunLine>> For(
        Asker asker,
        bool open,
        DateTimeOffset? before,
        CancellationToken cancel,
        string? branch = null
    )
    {
        // Only what is asked for stands in the question, so that each way of asking finds its index.
        var runs = store.Runs.AsNoTracking();
        if (!asker.SeesAll)
            runs = runs.Where(r => r.TesterId == asker.Id);
        if (open)
            runs = runs.Where(r => r.SignedAt == null && r.Seals.Count == 0);
        if (BranchFilter.Id(branch) is not null)
            runs = runs.Where(r => store.Assemblies.OfBranch(store, branch).Any(a => a.Id == r.AssemblyId));
        if (before is { } until)
            runs = runs.Where(r => r.StartedAt < until);
        var lines = await runs.OrderByDescending(r => r.StartedAt)
            .ThenBy(r => r.Id)
            .Take(Most)
            .Select(r => new RunLine(
                r.Id,
                r.Number,
                r.Assembly!.Tag,
                r.Assembly.Type,
                r.Assembly.Place!.Name,
                r.ProcedureId,
                r.ProfileId,
                r.ProfileVersion,
                r.Tester!.FullName,
                r.StartedAt,
                r.SignedAt,
                r.Outcome,
                r.NotEntered,
                null
            ))
            .ToListAsync(cancel);
        var broken = await seals.BrokenAmong([.. lines.Select(l => l.Id)], cancel);
        return
        [
            .. lines.Select(l =>
                broken.TryGetValue(l.Id, out var why)
                    ? l with
                    {
                        Outcome = SealedReport.BrokenOutcome,
                        Broken = why,
                    }
                    : l
            ),
        ];
    }
}
