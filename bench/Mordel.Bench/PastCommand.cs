using Microsoft.Extensions.DependencyInjection;
using Mordel.DemoData;

namespace Mordel.Bench;

/// <summary><c>past FILE</c>: performs the demo's past and its class on the water, and writes it down.</summary>
public static class PastCommand
{
    /// <summary>Does it.</summary>
    public static async Task<int> Run(string file)
    {
        var folder = Directory.CreateTempSubdirectory("mordel-past-").FullName;
        var past = new PerformedPast(anew: true);
        await using (var host = await BenchHost.Open(folder, past))
        await using (var scope = host.Services.CreateAsyncScope())
            await scope.ServiceProvider.GetRequiredService<DemoTown>().Prepare(CancellationToken.None);
        Directory.Delete(folder, recursive: true);
        past.Save(file);
        Console.WriteLine($"{past.Performed} visits and attempts performed; {new FileInfo(file).Length / 1000} KB");
        return 0;
    }
}
