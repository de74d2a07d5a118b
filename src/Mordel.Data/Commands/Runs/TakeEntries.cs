using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Data.Setups;

namespace Mordel.Data.Commands.Runs;

/// <summary>
/// Takes entries into a run's log: any batch, any number of times, in any order. What it acknowledges is on disk. Whose
/// turn it is to write takes along what others wait with: one transaction and one look at the runs for all of them.
/// </summary>
public sealed class TakeEntries(Store store, SetupReader setups, OpenRuns open, EntryQueue queue, TimeProvider clock)
{
    /// <summary>How many entries a run may have; the longest that is done as listed has some fifty.</summary>
    public const int MostEntries = 4_000;

    /// <summary>What is said when there is no such run, or it is another's.</summary>
    public const string NoSuchRun = "There is no such run of yours.";

    /// <summary>What is said to somebody who may see a run and not write in it.</summary>
    public const string Anothers = "This run is another tester's: only who made it signs and amends it.";

    /// <summary>
    /// Adds entries; those already there, by id, are passed over. Nothing of a refused batch is kept. The run as it
    /// stands then is at hand for whoever shows it.
    /// </summary>
    public async Task<Reply<TakenEntries>> Into(
        Guid runId,
        Guid testerId,
        ImmutableArray<Entry> entries,
        CancellationToken cancel
    )
    {
        var mine = new WaitingEntries(runId, testerId, entries);
        queue.Add(mine);
        while (await Turn(mine, cancel) is { } turn)
            await using (turn)
            {
                var together = queue.TakeWith(mine);
                try
                {
                    await Write(together, turn);
                }
                catch
                {
                    // One of them may be to blame: each is written alone.
                    foreach (var one in together)
                        one.IsAlone = true;
                    if (together.Count == 1)
                        throw;
                }
            }

        return await mine.Answer;
    }

    // The turn to write; null when another has written these meanwhile.
    private async Task<Writing?> Turn(WaitingEntries mine, CancellationToken cancel)
    {
        if (mine.Answer.IsCompleted)
            return null;
        using var enough = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var turn = store.BeginWriting(enough.Token);
        if (await Task.WhenAny(turn, mine.Answer) == turn && !mine.Answer.IsCompleted)
            return await turn;
        await enough.CancelAsync();
        try
        {
            await (await turn).DisposeAsync();
        }
        catch (OperationCanceledException)
        {
            // That was the purpose, unless whoever asked has gone.
            cancel.ThrowIfCancellationRequested();
        }

        return null;
    }

    // What others wait with is theirs: whoever of them goes away takes nothing from the rest.
    private async Task Write(IReadOnlyList<WaitingEntries> together, Writing transaction)
    {
        var runs = await Runs(together);
        var (now, rows) = (clock.Now(), new List<EntryRow>());
        var answers = new List<(WaitingEntries To, Reply<TakenEntries> Says)>();
        foreach (var one in together)
        {
            var run = runs.GetValueOrDefault(one.RunId);
            if (run is null || run.TesterId != one.TesterId)
            {
                answers.Add((one, Reply<TakenEntries>.NotFound(NoSuchRun)));
                continue;
            }

            var fresh = await Fresh(run, one.Entries);
            if (fresh.Value is not { } entries)
            {
                answers.Add((one, fresh.NotDoneFor<TakenEntries>()));
                continue;
            }

            List<EntryRow> added = [.. entries.Select(e => Row(one.RunId, e, now))];
            run.Add(entries, added);
            rows.AddRange(added);
            answers.Add((one, new TakenEntries(entries.Count, new(run.IsSealed, run.Size.Entries))));
        }

        if (rows.Count > 0)
        {
            await store.Insert(rows, CancellationToken.None);
            await transaction.CommitAsync(CancellationToken.None);
            Measures.Entries.Add(rows.Count);
        }

        foreach (var run in runs.Values)
            if (run is { IsGrown: true, Read: { } read })
                open.Keep(read);
        foreach (var (to, says) in answers)
            to.Say(says);
    }

    // The runs that are written to, with those of the entries that they have already.
    private async Task<Dictionary<Guid, GrowingRun>> Runs(IReadOnlyList<WaitingEntries> together)
    {
        var runs = together.Select(w => w.RunId).Distinct().ToArray();
        var entries = together.SelectMany(w => w.Entries).Select(e => e.Id.Value).ToHashSet();
        var found = await store
            .Runs.AsNoTracking()
            // As one value: else its text is made anew for every number of runs.
            .Where(r => EF.Parameter(runs).Contains(r.Id))
            .Select(r => new GrowingRun(r.Id, r.TesterId, r.Setup ?? "", r.SignedAt != null || r.Seals.Any())
            {
                Size = new LogSize(r.Entries.Count, r.Entries.Sum(e => e.Json.Length)),
            })
            .ToDictionaryAsync(r => r.Id);
        await FromRecords([.. found.Values.Where(r => r.IsSealed)]);
        var others = new List<Guid>();
        foreach (var run in found.Values.Where(r => !r.IsSealed))
        {
            run.Read = open.Find(run.Id, run.Setup, run.Size);
            // Of a run that is at hand nothing need be asked: it has as many entries, of the same length, as are kept.
            if (run.Read is { Unreadable.Count: 0 } read)
                foreach (var entry in read.Received.Select(r => r.Entry).Where(e => entries.Contains(e.Id.Value)))
                    run.Known[entry.Id.Value] = EntryFormat.Write(entry);
            else
                others.Add(run.Id);
        }

        if (others.Count == 0)
            return found;
        var known = await store
            .Entries.AsNoTracking()
            .Where(e => others.Contains(e.RunId) && entries.Contains(e.EntryId))
            .ToListAsync();
        foreach (var entry in known)
            found[entry.RunId].Known[entry.EntryId] = entry.Json;
        return found;
    }

    // Of a sealed run the record has them.
    private async Task FromRecords(List<GrowingRun> sealedRuns)
    {
        if (sealedRuns.Count == 0)
            return;
        var entries = await store.SealedEntries([.. sealedRuns.Select(r => r.Id)], CancellationToken.None);
        foreach (var run in sealedRuns.Where(r => entries.ContainsKey(r.Id)))
        {
            foreach (var (id, json) in entries[run.Id])
                run.Known[id] = json;
            run.Size = new LogSize(0, 0).With(entries[run.Id].Values);
        }
    }

    // Those that the run has not yet, or why it takes none.
    private async Task<Reply<List<Entry>>> Fresh(GrowingRun run, ImmutableArray<Entry> entries)
    {
        // What was acknowledged before is acknowledged again, even after the seal: the sender may have missed the first
        // answer.
        var fresh = entries.DistinctBy(e => e.Id).Where(e => !run.Known.ContainsKey(e.Id.Value)).ToList();
        if (
            entries.FirstOrDefault(e =>
                run.Known.TryGetValue(e.Id.Value, out var kept) && kept != EntryFormat.Write(e)
            ) is
            { } other
        )
            return Reply<List<Entry>>.Refused(
                $"Entry {other.Id} is already in the log with another content. An entry is never changed; add "
                    + $"a correction."
            );
        if (fresh.Count == 0)
            return fresh;
        if (run.IsSealed)
            return Reply<List<Entry>>.Refused("This run is signed and sealed. A mistake found later is an amendment.");
        if (run.Size.Entries + fresh.Count > MostEntries)
            return Reply<List<Entry>>.Refused(
                $"A run holds {MostEntries} entries, and this one would have more. Finish it, and begin another."
            );
        var readings = fresh.Select(Reading).OfType<Reading>().ToList();
        if (readings.Count > 0)
        {
            var unit = (run.Read?.Setup ?? await setups.Read(run.Setup, CancellationToken.None)).Kit.Unit;
            foreach (var reading in readings.Where(r => r.Value.Unit != unit))
                return Reply<List<Entry>>.Refused(
                    $"{reading.Value} was entered, but this kit reads {unit.Symbol()}. Enter what the gauge shows."
                );
        }

        return fresh;
    }

    // A run while entries are added to it.
    private sealed record GrowingRun(Guid Id, Guid TesterId, string Setup, bool IsSealed)
    {
        public required LogSize Size { get; set; }

        /// <summary>Of the entries that come, those it has.</summary>
        public Dictionary<Guid, string> Known { get; } = [];

        /// <summary>The run as it was read before, where it is at hand.</summary>
        public RunFile? Read { get; set; }

        public bool IsGrown { get; private set; }

        public void Add(List<Entry> fresh, List<EntryRow> rows)
        {
            if (fresh.Count == 0)
                return;
            foreach (var row in rows)
                Known[row.EntryId] = row.Json;
            Size = Size.With(rows.Select(r => r.Json));
            Read = Read?.With([.. fresh.Zip(rows, (e, r) => new ReceivedEntry(e, r.ReceivedAt))]);
            IsGrown = true;
        }
    }

    /// <summary>The row of an entry.</summary>
    public static EntryRow Row(Guid runId, Entry entry, DateTimeOffset received)
    {
        ArgumentNullException.ThrowIfNull(entry);
        return new()
        {
            RunId = runId,
            EntryId = entry.Id.Value,
            Tick = entry.Tick,
            Json = EntryFormat.Write(entry),
            ReceivedAt = received,
        };
    }

    private static Reading? Reading(Entry entry) =>
        entry.Body switch
        {
            EntryBody.Taken t => t.Reading,
            EntryBody.Corrected c => c.Reading,
            EntryBody.Glimpsed g => g.Reading,
            EntryBody.HoldWatched w => w.Reading,
            EntryBody.HoldStarted { Reading: { } start } => start,
            EntryBody.HoldEnded { Reading: { } end } => end,
            _ => null,
        };
}
