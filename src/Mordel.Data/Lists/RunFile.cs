using Microsoft.EntityFrameworkCore;
using Mordel.Core.Reports;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Data.Setups;

namespace Mordel.Data.Lists;

/// <summary>A kept entry that cannot be read any more: it is left out, and said.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Why">What is wrong with it.</param>
public sealed record UnreadableEntry(Guid Id, string Why);

/// <summary>Everything about one open run: its row, what it is made with and its log.</summary>
/// <param name="Row">The row.</param>
/// <param name="Setup">What it is made with.</param>
/// <param name="Received">Its entries with their arrivals, in log order.</param>
public sealed record RunFile(RunRow Row, RunSetup Setup, IReadOnlyList<ReceivedEntry> Received)
{
    /// <summary>How many entries are kept, with those that cannot be read, and how long they are.</summary>
    public required LogSize Size { get; init; }

    /// <summary>What it is made with, as the core plays it.</summary>
    public RunPlan Plan => Setup.Plan;

    /// <summary>How the assembly lies.</summary>
    public FlowDirection Flow => Setup.Assembly.Flow;

    /// <summary>Its entries.</summary>
    public RunLog Log => field ??= RunLog.Empty.With(Received.Select(r => r.Entry));

    /// <summary>Where the run stands.</summary>
    public RunState State => field ??= Play();

    // The log as far as it is played: of one file at a time, and of one thread.
    private PlayedLog? played;

    private RunState Play()
    {
        var began = System.Diagnostics.Stopwatch.GetTimestamp();
        var mine = Interlocked.Exchange(ref played, null) ?? new(Plan);
        mine.Take(Log.Entries);
        var state = mine.State;
        played = mine;
        Measures.Replays.Record(System.Diagnostics.Stopwatch.GetElapsedTime(began).TotalSeconds);
        return state;
    }

    /// <summary>Entries that are kept and cannot be read.</summary>
    public IReadOnlyList<UnreadableEntry> Unreadable { get; init; } = [];

    /// <summary>Whether it has been signed.</summary>
    public bool IsSealed { get; init; }

    /// <summary>The run with more entries: played on from where this one was, which it takes over.</summary>
    public RunFile With(IReadOnlyCollection<ReceivedEntry> more) =>
        new(Row, Setup, [.. Received.Concat(more).OrderBy(r => r.Entry.Tick).ThenBy(r => r.Entry.Id.Value)])
        {
            Unreadable = Unreadable,
            IsSealed = IsSealed,
            Size = Size.With(more.Select(e => EntryFormat.Write(e.Entry))),
            played = Interlocked.Exchange(ref played, null),
        };

    /// <summary>The verdict on the run as it stands.</summary>
    public Verdict Verdict(Results? previous = null) => Plan.VerdictOn(State, previous);
}

/// <summary>Who asks.</summary>
/// <param name="Id">The account.</param>
/// <param name="SeesAll">Office and owner see everyone's runs.</param>
public readonly record struct Asker(Guid Id, bool SeesAll);

/// <summary>How large a log is as it is kept.</summary>
/// <param name="Entries">How many entries.</param>
/// <param name="Length">Characters of all of them.</param>
public sealed record LogSize(int Entries, int Length)
{
    /// <summary>The size with these texts too.</summary>
    public LogSize With(IEnumerable<string> more)
    {
        ArgumentNullException.ThrowIfNull(more);
        return more.Aggregate(this, (size, text) => new(size.Entries + 1, size.Length + text.Length));
    }
}

/// <summary>How far a run is, without reading any of it.</summary>
/// <param name="IsSealed">Whether it is sealed.</param>
/// <param name="Entries">How many entries its log has.</param>
public sealed record Standing(bool IsSealed, int Entries);

/// <summary>A run as it stands.</summary>
/// <param name="IsSealed">Whether it is sealed; then its report shows it.</param>
/// <param name="Open">The run while it is open; null once it is sealed.</param>
public sealed record RunNow(bool IsSealed, RunFile? Open);

/// <summary>Finds a run for somebody who may see it.</summary>
public sealed class FindRun(Store store, SetupReader setups, SealReader seals, OpenRuns open)
{
    /// <summary>
    /// The run as it stands, gone on with from where it was read last; null when there is none or it is another's. Of a
    /// sealed one nothing is read that could be damaged.
    /// </summary>
    /// <exception cref="DamagedException">It is open, and what it was made with cannot be read.</exception>
    public async Task<RunNow?> Now(Guid runId, Asker asker, CancellationToken cancel)
    {
        var found = await store
            .Runs.Where(r => r.Id == runId && (asker.SeesAll || r.TesterId == asker.Id))
            .Select(r => new
            {
                r.Setup,
                IsSealed = r.SignedAt != null || r.Seals.Any(),
                Size = new LogSize(r.Entries.Count, r.Entries.Sum(e => e.Json.Length)),
            })
            .FirstOrDefaultAsync(cancel);
        if (found is null)
            return null;
        if (found.IsSealed)
            return new(true, null);
        if (open.Find(runId, found.Setup ?? "", found.Size) is { } kept)
            return new(false, kept);
        if (await For(runId, asker, cancel) is not { } run)
            return null;
        // It may have been sealed between the two questions.
        if (run.IsSealed)
            return new(true, null);
        open.Keep(run);
        return new(false, run);
    }

    /// <summary>The run, read anew; null when there is none or it is another's.</summary>
    /// <exception cref="DamagedException">What it was made with cannot be read.</exception>
    public async Task<RunFile?> For(Guid runId, Asker asker, CancellationToken cancel)
    {
        var row = await store
            .Runs.AsNoTracking()
            .AsSplitQuery()
            .Include(r => r.Entries)
            .FirstOrDefaultAsync(r => r.Id == runId, cancel);
        if (row is null || (row.TesterId != asker.Id && !asker.SeesAll))
            return null;
        var (received, unreadable) = Read(row.Entries);
        var isSealed = row.SignedAt is not null || await store.Seals.AnyAsync(s => s.RunId == runId, cancel);
        // What the rows have not, the record has.
        var record =
            isSealed && (row.Setup is RunRow.InItsRecord || row.Entries.Count == 0)
                ? await Sealed(runId, cancel)
                : null;
        return new(
            row,
            record?.Setup ?? await setups.Read(row.Setup ?? "", cancel),
            record is not null && row.Entries.Count == 0 ? record.Log : received
        )
        {
            Unreadable = unreadable,
            IsSealed = isSealed,
            Size = new LogSize(0, 0).With(row.Entries.Select(e => e.Json)),
        };
    }

    private async Task<SealedRun?> Sealed(Guid runId, CancellationToken cancel)
    {
        await foreach (var run in new SealedRuns(store, setups).Of([runId], cancel))
            return run;
        return null;
    }

    /// <summary>How far a run is that somebody may see; null when there is none, or it is another's.</summary>
    public async Task<Standing?> Standing(Guid runId, Asker asker, CancellationToken cancel) =>
        await store
            .Runs.Where(r => r.Id == runId && (asker.SeesAll || r.TesterId == asker.Id))
            .Select(r => new Standing(r.SignedAt != null || r.Seals.Any(), r.Entries.Count))
            .FirstOrDefaultAsync(cancel);

    /// <summary>
    /// Whether a run that somebody may see is sealed; null when there is none, or it is another's. Reads nothing that
    /// could be damaged.
    /// </summary>
    public async Task<bool?> IsSealed(Guid runId, Asker asker, CancellationToken cancel) =>
        (await Standing(runId, asker, cancel))?.IsSealed;

    /// <summary>
    /// A sealed run for its report, checked: a colleague's reports are part of an assembly's passport and open to every
    /// tester. Null when it is not sealed, or there is none.
    /// </summary>
    public Task<SealedReport?> Report(Guid runId, CancellationToken cancel) => seals.Of(runId, cancel);

    /// <summary>
    /// The answers of the last sealed test of the same assembly; null when there is none that can be relied on.
    /// </summary>
    public async Task<Results?> Previous(RunFile run, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(run);
        return (await Before(run.Row.AssemblyId, run.Row.Id, cancel))?.Results;
    }

    /// <summary>
    /// The verdict of the last sealed test of an assembly; null when there is none that can be relied on.
    /// </summary>
    /// <param name="assemblyId">The assembly.</param>
    /// <param name="runId">The run that comes after it.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Verdict?> Before(Guid assemblyId, Guid runId, CancellationToken cancel)
    {
        var last = await store
            .Seals.AsNoTracking()
            .Where(s => s.AssemblyId == assemblyId && s.AmendmentId == null && s.RunId != runId)
            .OrderByDescending(s => s.Sequence)
            .Select(s => (Guid?)s.RunId)
            .FirstOrDefaultAsync(cancel);
        return last is { } id && await seals.Of([id], cancel) is [{ Holds: true, Run: { } before }]
            ? before.Verdict
            : null;
    }

    /// <summary>Entries from their rows; one that cannot be read hides none of the others.</summary>
    public static (IReadOnlyList<ReceivedEntry> Received, IReadOnlyList<UnreadableEntry> Unreadable) Read(
        IEnumerable<EntryRow> rows
    )
    {
        ArgumentNullException.ThrowIfNull(rows);
        var (received, unreadable) = (new List<ReceivedEntry>(), new List<UnreadableEntry>());
        foreach (var row in rows)
        {
            var errors = new List<InputError>();
            if (
                Node.Root(row.Json, errors) is { } node
                && EntryFormat.Read(node) is { } entry
                && errors.Count == 0
                && entry.Id.Value == row.EntryId
            )
                received.Add(new(entry, row.ReceivedAt));
            else
                unreadable.Add(new(row.EntryId, string.Join("; ", errors.DefaultIfEmpty(new("", "it is another's")))));
        }

        return ([.. received.OrderBy(r => r.Entry.Tick).ThenBy(r => r.Entry.Id.Value)], unreadable);
    }
}
