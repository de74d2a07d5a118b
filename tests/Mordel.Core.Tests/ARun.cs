using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Tests;

/// <summary>A double check run in the tester's own words: <c>ARun.Begun().To("cv1.read").Reads(1.8m)</c>.</summary>
internal sealed class ARun
{
    private static readonly DateTimeOffset Start = new(2031, 4, 2, 8, 0, 0, TimeSpan.Zero);
    private int made;
    private (int Count, RunState? State) known = (-1, null);

    private ARun(RunPlan plan, RunLog log) => (Plan, Log) = (plan, log);

    public RunPlan Plan { get; }
    public RunLog Log { get; private set; }
    // Played once for each length of the log: a log only grows.
    public RunState State => known.Count == Log.Count ? known.State! : (known = (Log.Count, Replay.Of(Plan, Log))).State!;
    public PlannedStep Now => State.Current ?? throw new InvalidOperationException("The run is at its end.");
    public Verdict Verdict => Judge.Weigh(Plan.Subject, State.Results(), null, State.NotTestable);

    public static RunPlan PlanWith(Kit kit, Profile? profile = null) => new(SchoolCatalogue.Named("dc-sight-tube")!, new Rig(AssemblyBody.DoubleCheck, kit),
        profile ?? BuiltInProfiles.PsidStandard, Differential.Psid(0.2m), Differential.Psid(0.1m), Differential.Psid(15m));

    public static ARun Begun(Kit? kit = null) => new(PlanWith(kit ?? Kit.FiveValve), RunLog.Empty);

    public ARun Says(EntryBody body)
    {
        Log = Log.With(Entry(body));
        return this;
    }

    public Entry Entry(EntryBody body, long? tick = null)
    {
        var id = new byte[16];
        BitConverter.TryWriteBytes(id, ++made);
        id[15] = 1;
        return new(new(new Guid(id)), tick ?? Log.LastTick + 1, Start.AddSeconds(20 * made), body);
    }

    public ARun Done()
    {
        var key = Now.Key;
        Says(new EntryBody.Done(key));
        return State.Current?.Key == key ? throw new InvalidOperationException($"{key} cannot simply be done: {State.SetAside.LastOrDefault()?.Why}") : this;
    }

    public ARun Sees(string sight) => Says(new EntryBody.Saw(Now.Key, sight));

    public ARun Reads(decimal psid) => Says(new EntryBody.Taken(Now.Key, new Reading(Differential.Psid(psid))));

    public ARun To(string stepId)
    {
        while (Now.Step.Id != stepId) Done();
        return this;
    }

    public ARun ToTheEnd()
    {
        while (State.Current is not null) Done();
        return this;
    }

    public ARun TakesBackLast() => Says(new EntryBody.TookBack(Log.Entries.Last().Id));

    public decimal? Value(TestItem item) => State.Readings.TryGetValue(item, out var taken) ? taken.Reading.Value.Amount : null;

    public string[] Findings => [.. State.Findings.Select(f => f.Id).OfType<string>()];
}
