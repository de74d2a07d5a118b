using System.Diagnostics;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Data;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Bench;

/// <summary>
/// <c>store DIR [verbose] [--only NAME]</c>: the lists of a filled installation without pages: milliseconds, questions
/// asked, and how long these take by themselves.
/// </summary>
public static class StoreBench
{
    // The compiler settles first: what is asked for thirty times is compiled once more.
    private const int Warm = 50,
        Rounds = 15;

    /// <summary>Prints it.</summary>
    /// <param name="folder">The installation.</param>
    /// <param name="verbose">Whether the questions are printed.</param>
    /// <param name="only">The one list that is asked for; null for all.</param>
    public static async Task<int> Run(string folder, bool verbose, string? only)
    {
        await using var host = await BenchHost.Open(folder);
        async Task<T> In<T, TService>(Func<TService, Task<T>> work)
            where TService : notnull
        {
            await using var scope = host.Services.CreateAsyncScope();
            return await work(scope.ServiceProvider.GetRequiredService<TService>());
        }

        var none = CancellationToken.None;
        var counted = host.Services.GetRequiredService<CountedCommands>();
        // The slowest twentieth, when so many ask at once, some times over.
        async Task<double> Together<TService>(int users, Func<TService, Task> work)
            where TService : notnull
        {
            var all = new List<double>();
            for (var i = 0; i < Math.Max(1, 128 / users / 4); i++)
                all.AddRange(
                    await Task.WhenAll(
                        Enumerable
                            .Range(0, users)
                            .Select(_ =>
                                Task.Run(async () =>
                                {
                                    var from = Stopwatch.GetTimestamp();
                                    await In<int, TService>(async s =>
                                    {
                                        await work(s);
                                        return 0;
                                    });
                                    return Stopwatch.GetElapsedTime(from).TotalMilliseconds;
                                })
                            )
                    )
                );
            all.Sort();
            return all[(int)(all.Count * 0.95)];
        }

        async Task Time<TService>(string what, Func<TService, Task> work)
            where TService : notnull
        {
            if (only is not null && what != only)
                return;
            var times = new List<double>();
            for (var i = -Warm; i < Rounds; i++)
            {
                counted.Clear();
                var from = Stopwatch.GetTimestamp();
                await In<int, TService>(async s =>
                {
                    await work(s);
                    return 0;
                });
                times.Add(Stopwatch.GetElapsedTime(from).TotalMilliseconds);
            }

            var first = times[0];
            times.RemoveRange(0, Warm);
            times.Sort();
            var asked = counted.Asked.ToList();
            var (eight, many) = (await Together(8, work), await Together(64, work));
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{what, -34} median {times[Rounds / 2], 7:0.0} ms, best {times[0], 6:0.0}, "
                        + $"first of all {first, 7:0.0}; "
                        + $"{asked.Count, 2} questions of {asked.Sum(a => a.Ms), 6:0.0} ms; "
                        + $"p95 of eight at once {eight, 7:0.0}, of 64 {many, 7:0.0}"
                )
            );
            if (verbose)
                foreach (var (sql, ms) in asked)
                    Console.WriteLine($"      {ms, 6:0.0} {sql.ReplaceLineEndings(" ")}");
        }

        var wilma = new Asker(
            await In<Guid, Store>(s => s.Users.Where(u => u.UserName == "wilma").Select(u => u.Id).SingleAsync()),
            true
        );
        var ines = await In<Guid, Store>(s => s.Users.Where(u => u.UserName == "ines").Select(u => u.Id).SingleAsync());
        var testers = await In<IReadOnlyList<Account>, KitsAndPeopleList>(k => k.In(Roles.Tester, none));
        var serial = await In<AssemblyRow, Store>(s =>
            s.Assemblies.OrderBy(a => a.Tag).FirstAsync(a => a.Tag.CompareTo("L-1005") > 0)
        );
        var group = await In<Guid, Store>(s => s.Classes.Select(c => c.Id).FirstAsync());
        var amended = await In<Guid, Store>(s => s.Amendments.Select(c => c.RunId).FirstAsync());
        var day = TimeProvider.System.Today();
        await Time<TodayList>("Today of the office", t => t.Lines(testers, day, none));
        await Time<TodayList>("Today of a tester", t => t.For(ines, day, none));
        foreach (
            var words in new[]
            {
                "",
                serial.Serial,
                serial.Serial[3..],
                "kitchen",
                "bakery weir laundry",
                "ba",
                "kitchen ba",
                "kitchen x",
                "k",
                "zeppelin",
                "!",
                "alder dairy mortuary",
            }
        )
            await Time<RegisterSearch>($"register: {words}", r => r.Find(words, null, none));
        await Time<DueList>("due, the year", d => d.Year(new(), none));
        await Time<StandingList>("standing", l => l.Of(new(), none));
        await Time<Passport>("passport", p => p.Of(serial.Id, none));
        await Time<FindRun>("report", f => f.Report(amended, none));
        await Time<RunList>("runs, the desk", r => r.For(wilma, false, null, none));
        await Time<RunList>("open runs, the desk", r => r.For(wilma, true, null, none));
        await Time<RunList>("runs, a tester", r => r.For(new(testers[^1].Id, false), false, null, none));
        await Time<BenchList>("class", b => b.Glance(group, wilma, none));
        await Time<KitsAndPeopleList>("people", k => k.People(none));
        await Time<OutboxList>("outbox", o => o.All(null, none));
        await Time<Alarms>("alarms", a => a.All(none));
        return 0;
    }
}
