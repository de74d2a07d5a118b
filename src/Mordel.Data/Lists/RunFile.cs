using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Formats;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>Everything about one run: its row, its plan and its log.</summary>
/// <param name="Row">Assembly, place, owner, authority, kit and tester are loaded with it.</param>
/// <param name="Plan">What it is made with.</param>
/// <param name="Log">Its entries.</param>
public sealed record RunFile(RunRow Row, RunPlan Plan, RunLog Log)
{
    /// <summary>How the assembly lies.</summary>
    public FlowDirection Flow => Enum.Parse<FlowDirection>(Row.Assembly!.Flow);

    /// <summary>Where the run stands.</summary>
    public RunState State => field ??= Replay.Of(Plan, Log);

    /// <summary>The verdict on the run as it stands.</summary>
    public Verdict Verdict(Results? previous = null) => Plan.VerdictOn(State, previous);

    /// <summary>What a run is made with, from what the store has of it.</summary>
    public static RunPlan PlanOf(string procedureId, Profile profile, AssemblyRow assembly, KitRow kit)
    {
        ArgumentNullException.ThrowIfNull(assembly);
        ArgumentNullException.ThrowIfNull(kit);
        var unit = DifferentialUnits.Parse(kit.Unit)!.Value;
        return new(
            SchoolCatalogue.Named(procedureId)!, new Rig(BodyOf(assembly), Kit.Named(kit.Kind)!), profile,
            new(kit.Accuracy, unit), new(kit.Resolution, unit), new(kit.FullScale, unit))
        { ReliefPort = assembly.ReliefPort is { } port ? new Length(port, LengthUnit.Millimetre) : null };
    }

    /// <summary>The body of an assembly with what it has beside the usual.</summary>
    public static AssemblyBody BodyOf(AssemblyRow assembly)
    {
        ArgumentNullException.ThrowIfNull(assembly);
        return Bodies.Of(Enum.Parse<AssemblyType>(assembly.Type), assembly.Body, new(assembly.Strainer, assembly.FittedCocks, assembly.BypassLine));
    }

    /// <summary>An entry from its row.</summary>
    public static Entry Parse(string json)
    {
        var faults = new List<Fault>();
        return Node.Root(json, faults) is { } node && EntryFormat.Read(node) is { } entry && faults.Count == 0
            ? entry : throw new InvalidDataException($"A stored entry cannot be read: {string.Join("; ", faults)}");
    }
}

/// <summary>Who asks.</summary>
/// <param name="Id">The account.</param>
/// <param name="SeesAll">Office and owner see everyone's runs.</param>
public readonly record struct Asker(Guid Id, bool SeesAll);

/// <summary>Finds a run for somebody who may see it.</summary>
public sealed class FindRun(Store store)
{
    private readonly ProfileBook profiles = new(store);

    /// <summary>The run, or null when there is none or it is another's.</summary>
    public async Task<RunFile?> For(Guid runId, Asker asker, CancellationToken cancel)
    {
        var row = await store.Runs.AsNoTracking().AsSplitQuery()
            .Include(r => r.Assembly!).ThenInclude(a => a.Place!).ThenInclude(p => p.Owner)
            .Include(r => r.Assembly!).ThenInclude(a => a.Authority)
            .Include(r => r.Kit).Include(r => r.Tester).Include(r => r.Entries).Include(r => r.Amendments)
            .FirstOrDefaultAsync(r => r.Id == runId, cancel);
        return row is null || (row.TesterId != asker.Id && !asker.SeesAll) ? null : await Open(row, cancel);
    }

    /// <summary>A sealed run for its report: a colleague's reports are part of an assembly's passport and open to every tester; an open run is not.</summary>
    public async Task<RunFile?> Report(Guid runId, Asker asker, CancellationToken cancel) =>
        await For(runId, asker with { SeesAll = true }, cancel) is { } run && (run.Row.IsSealed || asker.SeesAll || run.Row.TesterId == asker.Id) ? run : null;

    /// <summary>The answers of the last sealed test of the same assembly before this run; null when there is none.</summary>
    public async Task<Results?> Previous(RunFile run, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(run);
        var before = run.Row.SignedAt ?? DateTimeOffset.MaxValue;
        var row = await store.Runs.AsNoTracking().Include(r => r.Entries).Include(r => r.Kit).Include(r => r.Assembly)
            .Where(r => r.AssemblyId == run.Row.AssemblyId && r.Id != run.Row.Id && r.SignedAt != null && r.SignedAt < before)
            .OrderByDescending(r => r.SignedAt).FirstOrDefaultAsync(cancel);
        return row is null ? null : (await Open(row, cancel)).State.Results();
    }

    private async Task<RunFile> Open(RunRow row, CancellationToken cancel) => new(
        row, RunFile.PlanOf(row.ProcedureId, (await profiles.Version(row.ProfileId, row.ProfileVersion, cancel))!, row.Assembly!, row.Kit!), RunLog.Empty.With(row.Entries.Select(e => RunFile.Parse(e.Json))));
}
