using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Mordel.Bench;
using Mordel.Bench.Fill;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Simulation;
using Mordel.Core.Units;
using Mordel.Core.Views;

if (args is ["water"])
    return WaterBench.Print() ? 0 : 1;
if (args is ["past", var file])
    return await PastCommand.Run(file);
if (args is ["diagnosis", ..])
    return DiagnosisBench.Run(
        Number("--faults", 1_000),
        Array.IndexOf(args, "--atlases") is >= 0 and var at ? args[at + 1] : null,
        args.Contains("verbose")
    );
if (args is ["plan", ..])
    return PlanBench.Run(Number("--times", 4));
if (args is ["forecast", ..])
    return ForecastBench.Run(Number("--histories", 2_000));
if (args is ["store", var filled, ..])
    return await StoreBench.Run(
        filled,
        args.Contains("verbose"),
        Array.IndexOf(args, "--only") is >= 0 and var named ? args[named + 1] : null
    );
if (args is ["seal", var sealed_, ..])
    return await SealBench.Run(sealed_, Number("--runs", 24));
if (args is ["papers", var installation])
    return await PaperBench.Run(installation);
if (args is ["arrivals", ..])
    return await ArrivalsBench.Run(Number("--reports", 200), Number("--kills", 50));
if (args is ["fill", var folder, ..])
    return await FillCommand.Run(
        folder,
        new(
            Number("--assemblies", 100_000),
            Number("--runs", 1_000_000),
            Number("--testers", 200),
            Math.Min(20_000, Number("--runs", 1_000_000) / 50),
            1_800
        )
    );

// Prints how long things take here and, since machines differ, how that compares with reading the same log from JSON
// and with what was promised.
var (plan, log) = Longest();
var lines = log.Entries.Select(EntryFormat.Write).ToArray();
Console.WriteLine(
    $"Longest run: {plan.Procedure.Id}, {plan.Rig.Kit.Name} kit, {plan.Profile.Id}: {plan.Sheet.Steps.Length} "
        + $"steps, {log.Count} entries"
);
var parse = Median("read the log from JSON", () => lines.Sum(l => EntryFormat.Read(Node.Root(l, [])!.Value)!.Tick));
var replay = Median("replay and verdict", () => plan.VerdictOn(Replay.Run(plan, log)).Items.Length);
var write = Median("write the run sheet", () =>
    new RunPlan(
        SchoolCatalogue.Named(plan.Procedure.Id)!,
        plan.Rig,
        plan.Profile,
        plan.Accuracy,
        plan.Resolution,
        plan.FullScale
    )
        .Sheet
        .Steps
        .Length
);
var view = Median("view with drawing", () =>
    RunViews.Build(plan, log, FlowDirection.LeftToRight, false).Drawing.Length
);
var taps = Median("all its taps, each played on and shown", () =>
{
    var (played, drawn) = (new PlayedLog(plan), 0L);
    foreach (var entry in log.Entries)
    {
        played.Take([entry]);
        drawn += RunViews
            .Build(plan, played.Log, FlowDirection.LeftToRight, false, played: played.State)
            .Drawing.Length;
    }

    return drawn;
});
var shown = RunViews.Build(plan, log, FlowDirection.LeftToRight, false);
var json = Median("a view written as JSON", () =>
    JsonSerializer.SerializeToUtf8Bytes(shown, ViewsJson.Border.RunView).Length
);
Console.WriteLine();
Ratio("replay and verdict, of the promised 1 ms", replay / 1000);
Ratio("replay and verdict, of reading the log", replay / parse);
Ratio("run sheet, of reading the log", write / parse);
Ratio("view with drawing, of reading the log", view / parse);
Ratio("a tap played on and shown, of reading the log", taps / log.Count / parse);
Ratio("a view written as JSON, of reading the log", json / parse);
Console.WriteLine();
var water = WaterBench.Print();
Console.WriteLine("\nA class at the bench");
ClassBench.Run();
return replay < 1000 && water ? 0 : 1;

int Number(string name, int otherwise) =>
    Array.IndexOf(args, name) is >= 0 and var at ? int.Parse(args[at + 1], CultureInfo.InvariantCulture) : otherwise;

static (RunPlan Plan, RunLog Log) Longest()
{
    var runs =
        from school in SchoolCatalogue.All
        from kit in Kit.All.Where(k => school.Kits.Contains(k.Kind))
        from profile in BuiltInProfiles.All.Where(p => p.School(school.Id) is not null)
        let plan = new RunPlan(
            school,
            new Rig(SchoolCatalogue.BodyOf(school, new(true, false, true)), kit),
            profile,
            Differential.Psid(0.2m),
            Differential.Psid(0.1m),
            Differential.Psid(15m)
        )
        let situation = new Situation
        {
            Rig = plan.Rig,
            Springs = Springs.Healthy(school.Type),
            FullScale = 15,
        }
        let visit = new SimulatedVisit
        {
            Start = new(2031, 4, 2, 8, 0, 0, TimeSpan.Zero),
            NewId = Guid.NewGuid,
            Contact = "the caretaker",
            Papers = 20,
        }
        select (plan, new SimulatedTester(plan, situation, visit: visit).Perform().Log);
    return runs.MaxBy(r => r.Item2.Count);
}

// The median of many single timings, in microseconds, after a warm-up long enough for the compiler to settle.
static double Median(string what, Func<long> work)
{
    long kept = 0;
    for (var until = Stopwatch.StartNew(); until.ElapsedMilliseconds < 1500; )
        kept += work();
    var times = new double[1501];
    for (var i = 0; i < times.Length; i++)
    {
        var from = Stopwatch.GetTimestamp();
        kept += work();
        times[i] = Stopwatch.GetElapsedTime(from).TotalMicroseconds;
    }

    Array.Sort(times);
    var median = times[times.Length / 2];
    Console.WriteLine(
        string.Create(
            CultureInfo.InvariantCulture,
            $"  {what, -28} {median, 9:0.0} µs median, {times[(int)(times.Length * 0.95)], 9:0.0} µs "
                + $"p95{(kept == 0 ? " (nothing done)" : "")}"
        )
    );
    return median;
}

static void Ratio(string what, double ratio) =>
    Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {what, -44} {ratio, 8:0.00}"));
