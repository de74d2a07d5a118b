using Microsoft.EntityFrameworkCore;
using Mordel.Data;
using Mordel.Data.Backups;
using Mordel.Data.Hosting;
using Mordel.Data.Setups;
using Mordel.Data.Startup;
using Mordel.DemoData;
using Mordel.Web.Application;

namespace Mordel.Web.Hosting;

/// <summary>What happens before the first request is taken, and what is said when it cannot be.</summary>
public static class Launch
{
    /// <summary>
    /// Takes hold of the data folder, brings the database up to date, opens the signing key and, in the demo, fills the
    /// invented town.
    /// </summary>
    /// <exception cref="StartRefusedException">The installation cannot be started; the message says what to
    /// do.</exception>
    public static async Task Prepare(this WebApplication app)
    {
        var (services, options) = (app.Services, app.Services.GetRequiredService<MordelOptions>());
        if (options.Demo && Elsewhere(app.Configuration["urls"]) is { } address)
            throw new StartRefusedException(
                $"The demonstration lets everybody in as anybody, so it listens on this machine alone and not on "
                    + $"{address}. Use http://127.0.0.1 with a port."
            );
        _ = services.GetRequiredService<FolderLock>();
        if (RestoreBackup.Finish(options.Data))
            Say("A backup was being put back when that was ended; it is in place now.");
        await using var scope = services.CreateAsyncScope();
        var store = scope.ServiceProvider.GetRequiredService<Store>();
        await scope.ServiceProvider.PrepareStore(Say, CancellationToken.None);
        if (options.Demo)
            await scope.ServiceProvider.GetRequiredService<DemoTown>().Prepare(CancellationToken.None);
        if (services.GetService<SimulatedAuthorities>() is { } authorities)
            await authorities.Start(store, options, services.GetRequiredService<TimeProvider>());
        await scope.ServiceProvider.EnsureRoles();
        if (!options.Demo && !await store.Users.AnyAsync())
            Say(
                $"Nobody is in this installation yet. Open /first-account in a browser; the code is "
                    + $"{services.GetRequiredService<FirstAccountCode>().Code}"
            );
    }

    /// <summary>The first address of a list, split by semicolons, that others can reach; null where none can.</summary>
    public static string? Elsewhere(string? addresses) =>
        addresses
            ?.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .FirstOrDefault(address =>
                !Uri.TryCreate(address, UriKind.Absolute, out var uri) || !(uri.IsLoopback || uri.Host == "localhost")
            );

    /// <summary>Why a start failed, in a sentence; null for what nobody has foreseen.</summary>
    public static string? Refusal(Exception e) =>
        e switch
        {
            StartRefusedException refused => refused.Message,
            DamagedException damaged =>
                $"Something kept cannot be read: {damaged.Message} Keep a copy of the data folder and put the last "
                    + $"backup back in its place.",
            IOException { InnerException: Microsoft.AspNetCore.Connections.AddressInUseException } taken =>
                $"{taken.Message.TrimEnd('.')}. Stop what uses the port, or start with another: --port N.",
            System.Net.Sockets.SocketException socket =>
                $"The address cannot be used: {socket.Message.TrimEnd('.')}. Start with another port: --port N.",
            _ when StoreTrouble.Says(e) is { } says => says,
            UnauthorizedAccessException or IOException => $"{e.Message.TrimEnd('.')}. Mend that and start again.",
            _ => null,
        };

    private static async Task Start(
        this SimulatedAuthorities authorities,
        Store store,
        MordelOptions options,
        TimeProvider clock
    )
    {
        var served = await store
            .Authorities.Where(a => a.ReportsTo != null && a.ReportsTo.StartsWith(SimulatedAuthorities.Scheme))
            .OrderBy(a => a.Name)
            .ToListAsync();
        foreach (var authority in served)
        {
            var address = authority.ReportsTo!;
            var folder = Path.Combine(options.Data, "authorities", authority.Id.ToString("N"));
            // What the valley's intake was told to expect; what the office types later may be wrong.
            var secret = authority.ReportsKey is null ? null : TownData.ValleyKey;
            await authorities.Start(address, authority.Name, folder, clock, secret);
            Say($"{authority.Name} has a simulated intake on {authorities.At(address)}");
        }
    }

    private static void Say(string text) => Console.Error.WriteLine(text);
}
