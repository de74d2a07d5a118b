using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Reports;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Verdicts;
using Mordel.Data;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Data.Setups;

namespace Mordel.DemoData;

/// <summary>Keeps and signs the visits of the town's past, each as any run is kept and signed.</summary>
public sealed class DemoRecords(
    Store store,
    SealMaker maker,
    SetupReader setups,
    TimeProvider clock,
    DemoPeople people,
    PerformedPast past,
    DemoRepairs repairs
)
{
    private const int AtOnce = 40;

    private readonly Dictionary<Guid, Results> before = [];
    private readonly Dictionary<string, RunSheet> sheets = new(StringComparer.Ordinal);

    /// <summary>The rules by which an assembly of the town is tested.</summary>
    public static Profile ProfileOf(AssemblyRow assembly)
    {
        ArgumentNullException.ThrowIfNull(assembly);
        return BuiltInProfiles.Named(assembly.Authority!.ProfileId)!;
    }

    /// <summary>The school by which it is tested.</summary>
    public static Core.Procedures.Procedure SchoolOf(AssemblyRow assembly) =>
        SchoolCatalogue.Named(ProfileOf(assembly).For(AssemblyTypes.Parse(assembly.Type))!.ProcedureId)!;

    /// <summary>
    /// Performs visits and signs them in their order, some at a time: logs and papers are made by as many processors as
    /// there are.
    /// </summary>
    public async Task Make(IReadOnlyList<PlannedVisit> visits, CancellationToken cancel)
    {
        LetGo();
        foreach (var some in Batches(visits))
        {
            var logs = some.AsParallel()
                .AsOrdered()
                .WithCancellation(cancel)
                .Select(v => past.Log(v, SchoolOf(v.Assembly), ProfileOf(v.Assembly)))
                .ToList();
            // Each look at what is tracked would compare thousands of rows; once, when they are saved, is enough.
            store.ChangeTracker.AutoDetectChangesEnabled = false;
            var runs = new List<(RunRow Row, ToSeal Made)>();
            foreach (var (visit, log) in some.Zip(logs))
                runs.Add(await Keep(visit, log, cancel));
            var records = new RecordToSeal[runs.Count];
            await Parallel.ForAsync(0, runs.Count, cancel, async (i, c) =>
                records[i] = await maker.Record(runs[i].Made, c)
            );
            for (var i = 0; i < runs.Count; i++)
                await maker.Seal(runs[i].Row, records[i], cancel);
            store.ChangeTracker.AutoDetectChangesEnabled = true;
            await store.SaveChangesAsync(cancel);
            LetGo();
        }
    }

    // What follows a repair looks at the test before it, which must be kept by then.
    private static IEnumerable<List<PlannedVisit>> Batches(IEnumerable<PlannedVisit> visits)
    {
        var some = new List<PlannedVisit>();
        foreach (var visit in visits)
        {
            if (some.Count == AtOnce || (visit.After is { } failed && some.Contains(failed)))
            {
                yield return some;
                some = [];
            }

            some.Add(visit);
        }

        if (some.Count > 0)
            yield return some;
    }

    private async Task<(RunRow Row, ToSeal Made)> Keep(PlannedVisit visit, RunLog log, CancellationToken cancel)
    {
        var ((account, kit), assembly) = (visit.Team, visit.Assembly);
        var setup = SetupWriter.Write(
            visit.Id,
            visit.Stop,
            await ReportNumbers.Next(store, assembly.Tag, visit.Start, clock.LocalTimeZone, cancel),
            visit.Start,
            new(assembly, kit, account, people.Certificates(visit.Team)),
            ProfileOf(assembly),
            SheetOf(visit),
            visit.Day
        ) with
        {
            Repair = await repairs.Before(visit, clock.Today(), cancel),
        };
        await setups.Keep(setup, cancel);
        var row = BeginRun.Row(setup);
        (row.Assembly, row.Tester) = (assembly, account);
        var received = log.Entries.Select(e => new ReceivedEntry(e, e.At)).ToList();
        store.Runs.Add(row);
        var state = Replay.Run(setup.Plan, log);
        var previous = before.GetValueOrDefault(assembly.Id);
        var verdict = setup.Plan.VerdictOn(state, previous);
        before[assembly.Id] = verdict.Results;
        var signing = new Signing(
            account.FullName,
            setup.Tester.Certificate!,
            SampleSignature.For(account.FullName),
            log.Entries.Last().At.AddMinutes(2)
        );
        return (row, new(setup, received, state, verdict, previous, signing));
    }

    // A hundred visits share a few sheets, each written out once.
    private RunSheet SheetOf(PlannedVisit visit)
    {
        var (a, kit, school, rules) = (
            visit.Assembly,
            visit.Team.Kit,
            SchoolOf(visit.Assembly),
            ProfileOf(visit.Assembly)
        );
        var key =
            $"{school.Id} {rules.Id} {kit.Kind} {a.Body} {a.Strainer} {a.FittedCocks} {a.BypassLine} "
            + $"{visit.IsSeasonal}";
        if (!sheets.TryGetValue(key, out var sheet))
            sheets[key] = sheet = SetupWriter.Sheet(a, kit, school, rules, visit.IsSeasonal);
        return sheet;
    }

    // Thousands of rows that are done with would be looked through at each step.
    private void LetGo()
    {
        var done = store
            .ChangeTracker.Entries()
            .Where(e => e.Entity is ResultRow or SealRow or RunRow or BroughtTestRow or RepairEntryRow)
            .ToList();
        foreach (var entry in done)
            entry.State = EntityState.Detached;
    }
}
