using System.Diagnostics;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Simulation;
using Mordel.Core.Units;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Bench;

/// <summary>
/// <c>seal DIR [--runs N]</c>: begins tests of an installation with the demo's town, performs them on the water, and
/// times what is kept of them: a whole log taken in, the signature, one by one and eight at once.
/// </summary>
public static class SealBench
{
    private const int AtOnce = 8;
    private static readonly CancellationToken None = CancellationToken.None;

    /// <summary>Prints it.</summary>
    public static async Task<int> Run(string folder, int runs)
    {
        await using var host = await BenchHost.Open(folder);
        async Task<T> In<T, TService>(Func<TService, Task<T>> work)
            where TService : notnull
        {
            await using var scope = host.Services.CreateAsyncScope();
            return await work(scope.ServiceProvider.GetRequiredService<TService>());
        }

        var tester = await In<Account, Store>(s => s.Users.SingleAsync(u => u.UserName == "ines"));
        async Task<Guid> Tested(Guid assembly, List<double> took)
        {
            var stop = await In<Guid, Store>(async s =>
            {
                var row = new StopRow
                {
                    Id = Guid.CreateVersion7(),
                    Day = new(2030, 1, 1),
                    TesterId = tester.Id,
                    AssemblyId = assembly,
                    Minutes = 20,
                };
                s.Stops.Add(row);
                await s.SaveChangesAsync();
                return row.Id;
            });
            var id = (await In<Reply<Guid>, BeginRun>(b => b.For(stop, tester.Id, true, None))).Value;
            var run = (await In<RunFile?, FindRun>(f => f.For(id, new(tester.Id, false), None)))!;
            var situation = new Situation
            {
                Rig = run.Plan.Rig,
                Springs = Springs.Healthy(run.Plan.Rig.Body.Type),
                FullScale = (double)run.Plan.FullScale.In(DifferentialUnit.Psid),
            };
            var visit = new SimulatedVisit
            {
                // Behind the clock: what is signed now was tested before.
                Start = run.Setup.BegunAt,
                Contact = "the caretaker",
                Papers = 10,
                NewId = Guid.NewGuid,
            };
            var log = new SimulatedTester(SchoolCatalogue.Afresh(run.Plan), situation, visit: visit).Perform().Log;
            var from = Stopwatch.GetTimestamp();
            await In<Reply<TakenEntries>, TakeEntries>(t => t.Into(id, tester.Id, [.. log.Entries], None));
            took.Add(Stopwatch.GetElapsedTime(from).TotalMilliseconds);
            return id;
        }

        async Task<double> Signed(Guid id)
        {
            var run = (await In<RunFile?, FindRun>(f => f.For(id, new(tester.Id, false), None)))!;
            var from = Stopwatch.GetTimestamp();
            var reply = await In<Reply<Guid>, SealRun>(s =>
                s.By(id, tester.Id, new(tester.FullName, "M10 10 L200 90 L300 40 L420 120", run.Log.Count, []), None)
            );
            var ms = Stopwatch.GetElapsedTime(from).TotalMilliseconds;
            return reply.Refusal is { } why ? throw new InvalidOperationException(why) : ms;
        }

        var assemblies = await In<List<Guid>, Store>(s =>
            s.Assemblies.Where(a =>
                    a.Type == "DC"
                    && a.ReplacedOn == null
                    && a.State == AssemblyStates.InService
                    && a.Authority!.ProfileId == "psid-standard"
                )
                .OrderBy(a => a.Tag)
                .Select(a => a.Id)
                .Take(2 * runs)
                .ToListAsync()
        );
        var taken = new List<double>();
        var ids = new List<Guid>();
        foreach (var assembly in assemblies)
            ids.Add(await Tested(assembly, taken));
        var alone = new List<double>();
        foreach (var id in ids.Take(ids.Count / 2))
            alone.Add(await Signed(id));
        var began = Stopwatch.GetTimestamp();
        var together = new List<double>();
        var rest = ids.Skip(ids.Count / 2).ToList();
        foreach (var eight in rest.Chunk(AtOnce))
            together.AddRange(await Task.WhenAll(eight.Select(id => Task.Run(() => Signed(id)))));
        var all = Stopwatch.GetElapsedTime(began).TotalSeconds;
        Say("a whole log taken in", taken);
        Say("signed and sealed, one by one", alone);
        Say("signed and sealed, eight at once", together);
        Console.WriteLine(
            string.Create(CultureInfo.InvariantCulture, $"{rest.Count / all:0} seals a second, eight at once")
        );
        return 0;
    }

    private static void Say(string what, List<double> times)
    {
        times.Sort();
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{what, -34} median {times[times.Count / 2], 6:0.0} ms, p95 {times[(int)(times.Count * 0.95)], 6:0.0}"
            )
        );
    }
}
