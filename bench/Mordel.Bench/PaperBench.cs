using System.Diagnostics;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Data;
using Mordel.Data.Lists;
using Mordel.Data.Seals;

namespace Mordel.Bench;

/// <summary>
/// <c>papers DIR</c>: what a report costs, by processor time: read and checked, set on paper, with its seal behind.
/// </summary>
public static class PaperBench
{
    private const int Reports = 40,
        Rounds = 12;

    /// <summary>Prints it.</summary>
    public static async Task<int> Run(string folder)
    {
        await using var host = await BenchHost.Open(folder);
        await using var scope = host.Services.CreateAsyncScope();
        var of = scope.ServiceProvider;
        var none = CancellationToken.None;
        var ids = await of.GetRequiredService<Store>()
            .Runs.Where(r => r.SignedAt != null)
            .OrderBy(r => r.Id)
            .Select(r => r.Id)
            .Take(Reports)
            .ToListAsync();
        var (find, papers) = (of.GetRequiredService<FindRun>(), of.GetRequiredService<SealedPapers>());
        var plain = of.GetRequiredService<ReportPapers>();
        var installation = of.GetRequiredService<Installation>();
        var reports = new List<SealedReport>();
        var bytes = 0L;
        await Time("read and checked", async () =>
        {
            reports.Clear();
            foreach (var id in ids)
                reports.Add((await find.Report(id, none))!);
        });
        var read = reports.ToList();
        await Time("set on paper", async () =>
        {
            bytes = 0;
            foreach (var report in read)
                bytes += (await plain.Set(report.Run!.Report, report.Record, report.RecordText, [], [], none)).Length;
        });
        await Time("the code on it alone", () =>
        {
            foreach (var report in read)
                Documents.Reports.QrPattern.Of(installation.CheckOf(report.Record!)!.Link);
            return Task.CompletedTask;
        });
        await Time("set, with its seal behind", async () =>
        {
            bytes = 0;
            foreach (var report in read)
                bytes += (await papers.Pdf(report, none))!.Length;
        });
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{bytes / read.Count} bytes a report"));
        return 0;

        async Task Time(string what, Func<Task> work)
        {
            var times = new List<double>();
            for (var i = 0; i < Rounds; i++)
            {
                var from = Process.GetCurrentProcess().TotalProcessorTime;
                await work();
                times.Add((Process.GetCurrentProcess().TotalProcessorTime - from).TotalMilliseconds / ids.Count);
            }

            times.Sort();
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{what, -28} {times[Rounds / 2], 6:0.00} ms of a core, at first {times[^1], 6:0.00}"
                )
            );
        }
    }
}
