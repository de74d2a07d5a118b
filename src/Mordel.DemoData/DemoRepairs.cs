using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Outside;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Data;
using Mordel.Data.Commands.Diagnoses;
using Mordel.Data.Commands.Repairs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.DemoData;

/// <summary>
/// The repairs of the town's past: what failed was opened by its sheet, what lay there was put right, and the test
/// after it followed. Each goes step by step through the same replay as a repair that somebody enters.
/// </summary>
public sealed class DemoRepairs(
    Store store,
    DemoDiagnoses diagnoses,
    ModelBuilds builds,
    BeginRetest retest,
    IFiles files,
    IPhotoReader reader
)
{
    private const int Drawings = 3;

    private readonly Dictionary<(OpenedFinding, int), string> drawn = [];

    // Beside the town's own lot: it must draw the same whether this stands or not.
    private readonly SeededChance chance = new(20433);

    /// <summary>The repair before a visit, kept; null where nothing was mended before it.</summary>
    public async Task<RepairFacts?> Before(PlannedVisit visit, DateOnly today, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(visit);
        if (visit.After is not { } failed)
            return null;
        var at = visit.Start.AddMinutes(-80);
        var job = await Begin(failed, visit.Team.Account, at, cancel);
        var part = failed.Inside.Faults[0].Part;
        var lay = diagnoses.Found.TryGetValue(failed.Id, out var found) ? found.Lay : (OpenedFinding?)null;
        // A cut disc was turned until a new one came; the latest still waits for it.
        if (lay is not null && visit.Day.AddDays(60) >= today)
            lay = OpenedFinding.DiscCut;
        await Work(job, part, lay, turn: lay == OpenedFinding.DiscCut, toTheEnd: true, cancel);
        if (lay == OpenedFinding.DiscCut && visit.Day.AddDays(60) < today)
            Settle(job);
        Keep(job, visit.Id);
        return await retest.Facts(job.Play(), cancel);
    }

    /// <summary>The repair that is under way: opened this morning, and waiting for a part.</summary>
    public async Task UnderWay(PlannedVisit failed, DateTimeOffset at, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(failed);
        var job = await Begin(failed, failed.Team.Account, at, cancel);
        await Work(job, failed.Inside.Faults[0].Part, OpenedFinding.SeatNicked, turn: false, toTheEnd: false, cancel);
        job.Add(new RepairBody.LeftOff("No seat in the van, one is ordered; the water stays off at this line"));
        Keep(job, null);
    }

    private async Task<Job> Begin(PlannedVisit failed, Account by, DateTimeOffset at, CancellationToken cancel)
    {
        var assembly = failed.Assembly;
        var search = diagnoses.Found.TryGetValue(failed.Id, out var found) ? found.Search : New(assembly, by, at);
        var sheets = BenchSheets.For(SetupWriter.Facts(assembly).Parts, await builds.Of(assembly, cancel));
        var row = new RepairRow
        {
            Id = chance.NewId(),
            AssemblyId = assembly.Id,
            Assembly = assembly,
            RunId = failed.Id,
            DiagnosisId = search.Id,
            Sheets = string.Join(' ', sheets.Select(s => s.Id)),
            OpenedAt = at,
            OpenedBy = by.FullName,
            OpenedById = by.Id,
            Stage = nameof(RepairStage.Prepare),
        };
        return new(row, search, by.FullName, failed.Contact, chance);
    }

    private DiagnosisRow New(AssemblyRow assembly, Account by, DateTimeOffset at)
    {
        var row = DiagnosisLog.New(assembly.Id, by.FullName, at);
        row.Id = chance.NewId();
        store.Diagnoses.Add(row);
        return row;
    }

    // Goes on as a careful hand does, one thing at a time, until it is closed up or what was found is seen.
    private async Task Work(
        Job job,
        PartId part,
        OpenedFinding? lay,
        bool turn,
        bool toTheEnd,
        CancellationToken cancel
    )
    {
        for (var state = job.State; state.Stage != RepairStage.Retest; state = job.State)
            switch (state.Stage)
            {
                case RepairStage.Prepare when state.Steps[0].Key == RepairPlan.Permission:
                    job.Add(new RepairBody.Agreed(job.Contact));
                    break;
                case RepairStage.Choose when state.Openings.Length == 0:
                    job.Add(Choice(state, part, lay));
                    break;
                case RepairStage.Choose:
                    job.Add(Done(new(RepairPlan.CloseUp, state.Plan.Closing[0].Step)));
                    break;
                case RepairStage.Inspect:
                    await Inspect(job, state.Now!, part, lay, cancel);
                    break;
                case RepairStage.Do when !toTheEnd:
                    return;
                case RepairStage.Do:
                    await PutRight(job, state.Now!, turn, cancel);
                    break;
                default:
                    job.Add(Done(state.Steps[0]));
                    break;
            }
    }

    private static RepairBody.Done Done(RepairStep step) => new(step.Key, step.Step.Does);

    // A shutoff is mended from outside; a check under the cover that it lies under.
    private static RepairBody.CoverOpened Choice(RepairState state, PartId part, OpenedFinding? lay)
    {
        var choice = lay is null
            ? state.Plan.Choices[^1]
            : state.Plan.Choices.First(c =>
                c.Part == part
                || (c.Part is null && state.Plan.SheetOf(c.Sheet)?.Family.OutOf(state.Plan.Body).Contains(part) == true)
            );
        return new(choice.Sheet, choice.Part);
    }

    private async Task Inspect(Job job, RepairOpening open, PartId part, OpenedFinding? lay, CancellationToken cancel)
    {
        var here = open.Parts.First(p => p.Found is null);
        // It lies in one place: on the disc, where that is a part of its own.
        var lies = open
            .Parts.Where(p => p.Of == part && Finding(p, lay) is not null)
            .OrderBy(p => p.Part.Form == PartForm.Disc ? 0 : 1)
            .FirstOrDefault();
        var found = here == lies ? Finding(here, lay) : null;
        job.Add(new RepairBody.Inspected(open.Number, here.Part.Id, found is null ? [] : [found]));
        if (found is not null && lay is { } seen)
            await Picture(job, $"{here.Part.Name} as it was found (drawn)", seen, cancel);
    }

    private static string? Finding(OpenedPart part, OpenedFinding? lay) =>
        part
            .LookFor.FirstOrDefault(f =>
                lay is null ? f.Id == "will-not-close" : RepairEvidence.Lay(part.Part.Form, f.Id) == lay
            )
            ?.Id;

    private async Task PutRight(Job job, RepairOpening open, bool turn, CancellationToken cancel)
    {
        var here = open.Parts.First(p => p.WantsAct);
        if (here.WantsFollowUp)
        {
            job.Add(
                new RepairBody.Stopgap(
                    open.Number,
                    here.Part.Id,
                    DateOnly.FromDateTime(job.At.DateTime).AddDays(30),
                    "CV1 check kit",
                    job.Contact
                )
            );
            return;
        }

        var best = here.Found!.Value[0].Best;
        var act = turn && Inspections.Acts(here.Part).Contains(RepairAct.Turned) ? RepairAct.Turned : best;
        job.Add(new RepairBody.Acted(open.Number, here.Part.Id, act));
        if (act == RepairAct.Replaced)
            await Use(job, here.Of, cancel);
    }

    // A kit for this make, model and size, where the list has one.
    private async Task Use(Job job, PartId? of, CancellationToken cancel)
    {
        var (assembly, part) = (job.Play().Row.Assembly!, of?.Value);
        var item = await store.PartItems.FirstOrDefaultAsync(
            i => i.Make == assembly.Make && i.Model == assembly.Model && i.Size == assembly.Size && i.Part == part,
            cancel
        );
        if (item is null)
            return;
        job.Add(new RepairBody.PartUsed(item.Name, 1, item.Id));
        store.PartMoves.Add(
            new()
            {
                Id = job.Rows[^1].Id,
                ItemId = item.Id,
                HolderId = null,
                Count = -1,
                At = job.At,
                By = job.Rows[^1].By,
                Why = $"Used in a repair of {assembly.Tag}",
            }
        );
    }

    private async Task Picture(Job job, string of, OpenedFinding found, CancellationToken cancel)
    {
        // A few drawings of each finding are enough for all the repairs of the years.
        var seed = chance.Next(1_000_000) % Drawings;
        if (!drawn.TryGetValue((found, seed), out var hash))
        {
            var photo = reader.Read(DrawnPhotos.Disc(found, seed), out _)!;
            drawn[(found, seed)] = hash = Convert.ToHexStringLower(SHA256.HashData(photo.Jpeg));
            var (large, small) = PhotoNames.Of(hash);
            await files.Keep(large, photo.Jpeg, cancel);
            await files.Keep(small, photo.Thumbnail, cancel);
        }

        job.Add(new RepairBody.Pictured(hash, of));
    }

    private static void Settle(Job job)
    {
        foreach (var next in job.State.FollowUps)
            job.Add(new RepairBody.Settled(next.Id, "The new disc was put in, and the assembly tested"));
    }

    // Kept as the command keeps it: the rows, what lists show, what counts as evidence.
    private void Keep(Job job, Guid? testId)
    {
        var file = job.Play();
        file.Row.RetestId = testId;
        store.Repairs.Add(file.Row);
        store.RepairEntries.AddRange(job.Rows);
        TakeRepairEntry.Project(store, file.Row, file.State, job.At);
        foreach (var seen in RepairEvidence.Of(file.State))
        {
            var entry = DiagnosisLog.Entry(
                job.Search.Id,
                job.Search.Observations.Count + 1,
                job.At,
                new(file.Row.OpenedBy, ObservationWays.Repair),
                seen
            );
            entry.Id = chance.NewId();
            job.Search.Observations.Add(entry);
            store.Observations.Add(entry);
        }
    }

    // A log in the making: what it was made with stands, and it is played once for each entry.
    private sealed class Job(RepairRow row, DiagnosisRow search, string by, string contact, SeededChance chance)
    {
        private readonly RepairPlan plan = RepairList.PlanOf(row);
        private readonly List<RepairEntry> log = [];
        private RepairState? state;

        public List<RepairEntryRow> Rows { get; } = [];
        public DateTimeOffset At { get; private set; } = row.OpenedAt;
        public string Contact => contact;
        public DiagnosisRow Search => search;
        public RepairState State => state ??= RepairReplay.Run(plan, log);

        public RepairFile Play() => new(row, log, State);

        public void Add(RepairBody body)
        {
            At = At.AddSeconds(chance.Next(25, 110));
            var entry = new RepairEntry(new(chance.NewId()), At, by, body);
            log.Add(entry);
            state = null;
            Rows.Add(
                new()
                {
                    Id = entry.Id.Value,
                    RepairId = row.Id,
                    Number = Rows.Count + 1,
                    At = At,
                    ReceivedAt = At,
                    By = by,
                    Json = RepairEntryFormat.Write(body),
                }
            );
        }
    }
}
