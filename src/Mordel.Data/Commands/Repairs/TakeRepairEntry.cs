using Microsoft.EntityFrameworkCore;
using Mordel.Core.Diagnosis;
using Mordel.Core.Repairs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Data.Commands.Diagnoses;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Repairs;

/// <summary>
/// Takes entries into a repair's log, any number of times: what is there already, by its id, is passed over. What it
/// acknowledges is on disk, with what follows from it: the lists, the evidence, the stock.
/// </summary>
public sealed class TakeRepairEntry(Store store, DueProjection dues, TimeProvider clock)
{
    // More than anybody makes at one assembly; takings back count.
    private const int MostEntries = 600,
        MostPhotos = 60;

    /// <summary>Takes one.</summary>
    /// <param name="repairId">The repair.</param>
    /// <param name="entry">What was entered, by whom and when.</param>
    /// <param name="by">Whose van is used.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> Into(Guid repairId, RepairEntry entry, Guid by, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(entry);
        var json = RepairEntryFormat.Write(entry.Body);
        if (RepairEntryFormat.Read(json) != entry.Body)
            return Reply<Guid>.Refused("Something in this cannot be kept as it was written. Say it in other words.");
        await using var transaction = await store.BeginWriting(cancel);
        var row = await store
            .Repairs.Include(r => r.Assembly)
            .Include(r => r.FollowUps)
            .FirstOrDefaultAsync(r => r.Id == repairId, cancel);
        if (row is null)
            return Reply<Guid>.NotFound("There is no such repair.");
        var log = await store
            .RepairEntries.Where(e => e.RepairId == repairId)
            .OrderBy(e => e.Number)
            .ToListAsync(cancel);
        var id = entry.Id.Value;
        if (log.Find(e => e.Id == id) is { } there)
            return there.Json == json
                ? id
                : Reply<Guid>.Refused("This is in the log already with another content. An entry is never changed.");
        if (await store.RepairEntries.AnyAsync(e => e.Id == id, cancel))
            return Reply<Guid>.Refused("This entry is in another repair’s log.");
        if (WhyNot(row, log, entry.Body) is { } why)
            return Reply<Guid>.Refused(why);
        var added = new RepairEntryRow
        {
            Id = id,
            RepairId = repairId,
            Number = log.Count + 1,
            At = entry.At,
            ReceivedAt = clock.Now(),
            By = entry.By,
            Json = json,
        };
        store.RepairEntries.Add(added);
        var closed = row.ClosedAt;
        await Follow(row, [.. log, added], entry, by, cancel);
        await store.SaveChangesAsync(cancel);
        if (row.ClosedAt != closed)
        {
            await dues.Write(row.Assembly!, cancel);
            await store.SaveChangesAsync(cancel);
        }

        await transaction.CommitAsync(cancel);
        return id;
    }

    private static string? WhyNot(RepairRow row, List<RepairEntryRow> log, RepairBody body)
    {
        if (log.Count >= MostEntries)
            return "This repair’s log is full. Begin another from the passport.";
        var file = RepairList.Play(row, log);
        if (body is RepairBody.Pictured)
            return file.Log.Count(e => e.Body is RepairBody.Pictured) < MostPhotos
                ? null
                : $"A repair may have {MostPhotos} pictures.";
        if (body is RepairBody.Settled or RepairBody.Noted)
            return null;
        if (row.RetestId is not null)
            return "The test after this repair has begun: what stands here goes into its report. Begin another repair "
                + "from the passport.";
        var state = file.State;
        return body switch
        {
            RepairBody.CoverOpened when state.Stage is RepairStage.Prepare =>
                "The body may be under pressure: do what stands before opening it first.",
            RepairBody.CoverOpened when state.Stage is not RepairStage.Choose =>
                "One at a time, so that parts do not mix: close what is open first.",
            RepairBody.CoverOpened o when !state.Plan.Choices.Any(c => c.Sheet == o.Sheet && c.Part == o.Part) =>
                "That cannot be opened on this assembly.",
            RepairBody.Inspected i when Part(state, i.Opening, i.Part) is null => "There is no such part open.",
            RepairBody.Inspected i when i.Found.Any(f => Part(state, i.Opening, i.Part)!.LookFor.All(l => l.Id != f)) =>
                "That cannot be found at this part.",
            RepairBody.Acted a
                when Part(state, a.Opening, a.Part) is not { } part || !Inspections.Acts(part.Part).Contains(a.Act) =>
                "That is not done to this part.",
            RepairBody.Stopgap s when Part(state, s.Opening, s.Part) is null => "There is no such part open.",
            RepairBody.TookBack t when log.TrueForAll(e => e.Id != t.Of.Value) => "There is no such entry.",
            _ => null,
        };
    }

    private static OpenedPart? Part(RepairState state, int opening, string part) =>
        state.Openings.FirstOrDefault(o => o.Number == opening)?.Parts.FirstOrDefault(p => p.Part.Id == part);

    // What follows from the log: projections, evidence, stock.
    private async Task Follow(
        RepairRow row,
        IReadOnlyList<RepairEntryRow> log,
        RepairEntry entry,
        Guid by,
        CancellationToken cancel
    )
    {
        var state = RepairList.Play(row, log).State;
        Project(store, row, state, entry.At);
        if (entry.Body is RepairBody.PartUsed { Item: { } item } used)
            await Move(entry, item, by, -used.Count, $"Used in a repair of {row.Assembly!.Tag}", cancel);
        if (entry.Body is RepairBody.TookBack back)
            await PutBack(entry, back.Of.Value, cancel);
        await Observe(row, state, entry, cancel);
    }

    /// <summary>Writes what lists show of a repair; its follow-ups are loaded.</summary>
    public static void Project(Store store, RepairRow row, RepairState state, DateTimeOffset at)
    {
        ArgumentNullException.ThrowIfNull(store);
        ArgumentNullException.ThrowIfNull(row);
        ArgumentNullException.ThrowIfNull(state);
        row.Stage = state.Stage.ToString();
        row.Summary = RepairSummary.Line(state);
        row.ClosedAt = state.IsClosedUp ? row.ClosedAt ?? at : null;
        store.FollowUps.RemoveRange(row.FollowUps.Where(f => state.FollowUps.All(s => s.Id.Value != f.Id)));
        foreach (var next in state.FollowUps)
        {
            var kept = row.FollowUps.Find(f => f.Id == next.Id.Value);
            if (kept is null)
                row.FollowUps.Add(
                    kept = new()
                    {
                        Id = next.Id.Value,
                        RepairId = row.Id,
                        AssemblyId = row.AssemblyId,
                        What = next.What,
                        Order = next.Order,
                        Told = next.Told,
                    }
                );
            (kept.What, kept.Due, kept.How) = (next.What, next.Due, next.How);
        }
    }

    private async Task Move(RepairEntry entry, Guid item, Guid by, int count, string why, CancellationToken cancel)
    {
        if (!await store.PartItems.AnyAsync(i => i.Id == item, cancel))
            return;
        // Out of the van first; what it has not comes from the store.
        var held = await store
            .PartMoves.Where(m => m.ItemId == item && m.HolderId == by)
            .SumAsync(m => m.Count, cancel);
        store.PartMoves.Add(
            new()
            {
                Id = entry.Id.Value,
                ItemId = item,
                HolderId = held >= -count ? by : null,
                Count = count,
                At = entry.At,
                By = entry.By,
                Why = why,
            }
        );
    }

    private async Task PutBack(RepairEntry entry, Guid taken, CancellationToken cancel)
    {
        if (await store.PartMoves.AsNoTracking().FirstOrDefaultAsync(m => m.Id == taken, cancel) is not { } move)
            return;
        store.PartMoves.Add(
            new()
            {
                Id = entry.Id.Value,
                ItemId = move.ItemId,
                HolderId = move.HolderId,
                Count = -move.Count,
                At = entry.At,
                By = entry.By,
                Why = "Not used after all",
            }
        );
    }

    // What lies in an opened part is evidence, and counts for the rates once it is looked at.
    private async Task Observe(RepairRow row, RepairState state, RepairEntry entry, CancellationToken cancel)
    {
        if (entry.Body is not (RepairBody.Inspected or RepairBody.TookBack))
            return;
        var all = await store.Observations.Where(o => o.DiagnosisId == row.DiagnosisId).ToListAsync(cancel);
        var back = all.Select(o => o.TakesBack).OfType<Guid>().ToHashSet();
        var stands = all.Where(o => o.Way == ObservationWays.Repair && o.Json is not null && !back.Contains(o.Id))
            .ToList();
        var number = all.Count == 0 ? 0 : all.Max(o => o.Number);
        var found = RepairEvidence.Of(state).Distinct().ToDictionary(ObservationFormat.Write);
        ObservationRow Next(Observed? observed) =>
            DiagnosisLog.Entry(row.DiagnosisId, ++number, entry.At, new(entry.By, ObservationWays.Repair), observed);
        foreach (var gone in stands.Where(o => !found.ContainsKey(o.Json!)))
        {
            var takingBack = Next(null);
            takingBack.TakesBack = gone.Id;
            store.Observations.Add(takingBack);
        }

        store.Observations.AddRange(found.Where(f => !stands.Exists(o => o.Json == f.Key)).Select(f => Next(f.Value)));
    }
}
