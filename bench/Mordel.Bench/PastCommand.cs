using Microsoft.Extensions.DependencyInjection;
using Mordel.DemoData;
using Mordel.Simulators;

namespace Mordel.Bench;

/// <summary><c>past FILE</c>: performs the demo's past and its class on the water, and writes it down.</summary>
public static class PastCommand
{
    private static readonly int[] DaysFromNow = [0, 60, 120, 150, 165, 180, 195, 210, 240, 300];

    /// <summary>Does it.</summary>
    public static async Task<int> Run(string file)
    {
        var past = new PerformedPast(anew: true);
        // What is seasonal falls otherwise in spring than in autumn.
        foreach (var days in DaysFromNow)
        {
            var folder = Directory.CreateTempSubdirectory("mordel-past-").FullName;
            var clock = new SimulatedClock { Offset = TimeSpan.FromDays(days) };
            await using (var host = await BenchHost.Open(folder, past, clock))
            await using (var scope = host.Services.CreateAsyncScope())
                await scope.ServiceProvider.GetRequiredService<DemoTown>().Prepare(CancellationToken.None);
            Directory.Delete(folder, recursive: true);
            Console.WriteLine($"in {days} days: {past.Performed} performed so far");
        }

        past.Save(file);
        Console.WriteLine($"{past.Performed} visits and attempts performed; {new FileInfo(file).Length / 1000} KB");
        return 0;
    }
}
