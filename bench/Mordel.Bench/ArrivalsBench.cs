using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Authorities;
using Mordel.Data;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;
using Mordel.DemoData;

namespace Mordel.Bench;

/// <summary>
/// <c>arrivals [--reports N] [--kills N]</c>: reports go to a simulated authority's service while its process and the
/// server's are killed in turn, without a goodbye, at moments of chance. Each report must have been taken exactly once,
/// and each receipt must be the one that the service's journal has. Wants the application built: <c>./mordel help</c>.
/// </summary>
public sealed class ArrivalsBench : IDisposable
{
    private const int Seed = 50;
    private static readonly string App = Path.GetFullPath("artifacts/app");

    private readonly string folder = Directory.CreateTempSubdirectory("mordel-arrivals-").FullName;
    private readonly int servicePort = FreePort(),
        serverPort = FreePort();
    private readonly HttpClient http = new() { Timeout = TimeSpan.FromSeconds(2) };
    private readonly Random chance = new(Seed);
    private Process? server,
        service;

    private string Journal => Path.Combine(folder, "journal");
    private string DataFolder => Path.Combine(folder, "data");

    /// <summary>Does it; 0 when each arrived once.</summary>
    public static async Task<int> Run(int reports, int kills)
    {
        using var bench = new ArrivalsBench();
        return await bench.Arrive(reports, kills);
    }

    private async Task<int> Arrive(int reports, int kills)
    {
        reports = await Written(reports);
        var clock = Stopwatch.StartNew();
        service = StartService();
        server = await StartServer();
        var (killed, atWork) = (0, 0);
        while (true)
        {
            await Task.Delay(chance.Next(20, 400));
            var waiting = await Hurry();
            if (killed < kills)
            {
                atWork += waiting > 0 ? 1 : 0;
                if (killed++ % 2 == 0)
                {
                    Kill(server);
                    server = await StartServer();
                }
                else
                {
                    Kill(service);
                    service = StartService();
                }
            }
            else if (waiting == 0)
                break;
            if (clock.Elapsed > TimeSpan.FromMinutes(30))
                break;
        }

        Kill(server);
        Kill(service);
        return await Told(reports, killed, atWork, clock.Elapsed);
    }

    // The demo's sealed reports, as if they had all been signed now.
    private async Task<int> Written(int reports)
    {
        await using var host = await BenchHost.Open(DataFolder);
        await using (var scope = host.Services.CreateAsyncScope())
            await scope.ServiceProvider.GetRequiredService<DemoTown>().Prepare(CancellationToken.None);
        await using var writing = host.Services.CreateAsyncScope();
        var store = writing.ServiceProvider.GetRequiredService<Store>();
        await store.Outbox.ExecuteDeleteAsync();
        await store.Authorities.ExecuteUpdateAsync(a =>
            a.SetProperty(x => x.ReportsBy, OutboxWays.Service)
                .SetProperty(x => x.ReportsTo, $"http://127.0.0.1:{servicePort}")
                .SetProperty(x => x.ReportsKey, (string?)null)
        );
        var runs = await store
            .Runs.Include(r => r.Assembly)
            .Where(r => r.SignedAt != null)
            .OrderBy(r => r.Id)
            .Take(reports)
            .ToListAsync();
        var writer = writing.ServiceProvider.GetRequiredService<OutboxWriter>();
        foreach (var run in runs)
            await writer.Report(run, null, CancellationToken.None);
        await store.SaveChangesAsync();
        return runs.Count;
    }

    // What waits for its turn after a failure is due at once: hours of patience pressed into minutes.
    private async Task<int> Hurry()
    {
        await using var store = Opened();
        try
        {
            await store
                .Outbox.Where(o => o.State == OutboxStates.Waiting)
                .ExecuteUpdateAsync(o => o.SetProperty(x => x.NextTryAt, DateTimeOffset.UtcNow.AddSeconds(-1)));
        }
        catch (Microsoft.Data.Sqlite.SqliteException)
        {
            // Somebody else writes: the next look hurries them.
        }

        return await store.Outbox.CountAsync(o => o.State == OutboxStates.Waiting);
    }

    private async Task<int> Told(int reports, int killed, int atWork, TimeSpan took)
    {
        await using var store = Opened();
        var rows = await store.Outbox.AsNoTracking().ToListAsync();
        var taken = File.ReadAllLines(Path.Combine(Journal, "journal.jsonl"))
            .Select(l => JsonSerializer.Deserialize<JournalEntry>(l)!)
            .Where(e => e.Ruling == Ruling.Taken)
            .ToList();
        var twice = taken.GroupBy(e => e.Key).Count(g => g.Count() > 1);
        var never = rows.Count(r => taken.All(e => e.Key != r.Key));
        var otherwise = rows.Count(r =>
            r.State != OutboxStates.Delivered || taken.Find(e => e.Key == r.Key)?.Receipt != r.Receipt
        );
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{reports} reports, {killed} kills of server and service in turn ({atWork} while reports waited), "
                    + $"{took.TotalSeconds:0} s: {taken.Count} taken, {twice} twice, {never} never; {otherwise} "
                    + $"without the service's own receipt; {rows.Sum(r => r.Tries)} tries"
            )
        );
        return rows.Count == reports && taken.Count == reports && twice + never + otherwise == 0 ? 0 : 1;
    }

    private Store Opened()
    {
        var options = new DbContextOptionsBuilder<Store>();
        options.UseMordelFile(DataFolder);
        return new(options.Options);
    }

    private Process StartService() =>
        Start(
            Path.GetFullPath("artifacts/bin/Mordel.Cli/release"),
            ["Mordel.Cli.dll", "authority", "--journal", Journal, "--port", $"{servicePort}"]
        );

    private async Task<Process> StartServer()
    {
        var started = Start(
            Path.Combine(App, "web"),
            [
                "Mordel.Web.dll",
                "--urls",
                $"http://127.0.0.1:{serverPort}",
                "--Mordel:Data",
                DataFolder,
                "--Mordel:WatchSeals",
                "False",
            ]
        );
        for (var i = 0; i < 600; i++)
        {
            try
            {
                if ((await http.GetAsync(new Uri($"http://127.0.0.1:{serverPort}/health"))).IsSuccessStatusCode)
                    return started;
            }
            catch (Exception e) when (e is HttpRequestException or TaskCanceledException)
            {
                await Task.Delay(50);
            }

            if (started.HasExited)
                throw new InvalidOperationException($"The server ended with {started.ExitCode}.");
        }

        throw new TimeoutException("The server does not answer.");
    }

    private static Process Start(string at, string[] what)
    {
        var start = new ProcessStartInfo("dotnet", what)
        {
            WorkingDirectory = at,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        var process = Process.Start(start)!;
        process.OutputDataReceived += (_, _) => { };
        process.ErrorDataReceived += (_, _) => { };
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
        return process;
    }

    private static void Kill(Process? process)
    {
        if (process is null)
            return;
        process.Kill();
        process.WaitForExit();
        process.Dispose();
    }

    private static int FreePort()
    {
        using var probe = new TcpListener(IPAddress.Loopback, 0);
        probe.Start();
        return ((IPEndPoint)probe.LocalEndpoint).Port;
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        http.Dispose();
        server?.Dispose();
        service?.Dispose();
        Directory.Delete(folder, recursive: true);
    }
}
