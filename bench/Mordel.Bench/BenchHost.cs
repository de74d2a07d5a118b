using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Outside;
using Mordel.Core.Reports;
using Mordel.Data;
using Mordel.Data.Files;
using Mordel.Data.Hosting;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Data.Startup;
using Mordel.DemoData;
using Mordel.Documents.Interchange;
using Mordel.Documents.Letters;
using Mordel.Documents.Photos;
using Mordel.Documents.Reports;
using Mordel.Simulators;

namespace Mordel.Bench;

/// <summary>The store of a data folder with all that stands on it, without the web.</summary>
public sealed class BenchHost : IAsyncDisposable
{
    private readonly FolderLock held;
    private readonly ServiceProvider services;

    private BenchHost(FolderLock held, ServiceProvider services) => (this.held, this.services) = (held, services);

    /// <summary>What can be asked for.</summary>
    public IServiceProvider Services => services;

    /// <summary>Opens a data folder, and makes it when it is not there.</summary>
    public static async Task<BenchHost> Open(string folder, PerformedPast? past = null, TimeProvider? clock = null)
    {
        Directory.CreateDirectory(folder);
        var held = FolderLock.Take(folder);
        var all = new ServiceCollection();
        all.AddLogging();
        all.AddSingleton(clock ?? TimeProvider.System);
        all.AddSingleton<IPaperSetter, ReportPdf>();
        all.AddSingleton<IPhotoReader, PhotoReader>();
        all.AddSingleton<ITableReader, TableReader>();
        all.AddSingleton<CountedCommands>();
        all.AddIdentityCore<Account>().AddRoles<IdentityRole<Guid>>().AddEntityFrameworkStores<Store>();
        all.AddLetters(new("The testers", "office@testers.invalid"));
        all.AddMordelData(
            StoreAddress.Read(Environment.GetEnvironmentVariable("MORDEL_STORE"), folder),
            new(Simulated: true),
            (s, o) => o.AddInterceptors(s.GetRequiredService<CountedCommands>())
        );
        all.AddSimulatedOutside();
        all.AddDemoTown();
        if (past is not null)
            all.AddSingleton(past);
        var host = new BenchHost(held, all.BuildServiceProvider());
        await using var scope = host.Services.CreateAsyncScope();
        await scope.ServiceProvider.PrepareStore(Console.WriteLine, CancellationToken.None);
        return host;
    }

    public async ValueTask DisposeAsync()
    {
        await services.DisposeAsync();
        held.Dispose();
    }
}
