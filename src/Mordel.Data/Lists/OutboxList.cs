using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>What left the house, what waits, and what is stuck.</summary>
/// <param name="Stuck">What somebody must look at, oldest first.</param>
/// <param name="Waiting">What will be tried again by itself, the next first.</param>
/// <param name="Delivered">What was delivered last, newest first.</param>
public sealed record OutboxView(
    IReadOnlyList<OutboxRow> Stuck,
    IReadOnlyList<OutboxRow> Waiting,
    IReadOnlyList<OutboxRow> Delivered
);

/// <summary>Lists the outbox.</summary>
public sealed class OutboxList(Store store)
{
    /// <summary>The longest part that is shown.</summary>
    public const int Most = 100;

    /// <summary>All of it, each part at most <see cref="Most"/> long.</summary>
    /// <param name="branch">Only what is about assemblies of this branch, by its id; anything else for all.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<OutboxView> All(string? branch, CancellationToken cancel)
    {
        var rows = store.Outbox.AsNoTracking();
        if (BranchFilter.Id(branch) is not null)
        {
            var assemblies = store.Assemblies.OfBranch(store, branch);
            rows = rows.Where(o =>
                store.Runs.Any(r => r.Id == o.RunId && assemblies.Any(a => a.Id == r.AssemblyId))
                || store.Notices.Any(n => n.OutboxId == o.Id && assemblies.Any(a => a.Id == n.AssemblyId))
            );
        }

        return new(
            await rows.Where(o => OutboxStates.Stuck.Contains(o.State))
                .OrderBy(o => o.SettledAt)
                .Take(Most)
                .ToListAsync(cancel),
            await rows.Where(o => o.State == OutboxStates.Waiting)
                .OrderBy(o => o.NextTryAt)
                .Take(Most)
                .ToListAsync(cancel),
            await rows.Where(o => o.State == OutboxStates.Delivered)
                .OrderByDescending(o => o.SettledAt)
                .Take(Most)
                .ToListAsync(cancel)
        );
    }

    /// <summary>Where a run's report and its amendments went, in their order.</summary>
    public async Task<IReadOnlyList<OutboxRow>> Of(Guid runId, CancellationToken cancel) =>
        await store.Outbox.AsNoTracking().Where(o => o.RunId == runId).OrderBy(o => o.WrittenAt).ToListAsync(cancel);

    /// <summary>One of them, or null.</summary>
    public async Task<OutboxRow?> Find(Guid id, CancellationToken cancel) =>
        await store.Outbox.AsNoTracking().FirstOrDefaultAsync(o => o.Id == id, cancel);
}
