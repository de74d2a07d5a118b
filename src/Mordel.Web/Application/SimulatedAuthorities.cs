using System.Collections.Concurrent;
using Mordel.Authorities;

namespace Mordel.Web.Application;

/// <summary>The services of the demo's authorities, each by itself on a port of this machine.</summary>
public sealed class SimulatedAuthorities : IAsyncDisposable
{
    /// <summary>How the addresses of such services begin.</summary>
    public const string Scheme = "simulated://";

    private readonly ConcurrentDictionary<string, AuthorityService> running = new();

    /// <summary>Those that run, by the address that the register has.</summary>
    public IReadOnlyDictionary<string, AuthorityService> Running => running;

    /// <summary>Where a service really is; null where none of that address runs.</summary>
    public Uri? At(string address) => running.GetValueOrDefault(address)?.Address;

    /// <summary>Starts one.</summary>
    /// <param name="address">The address that the register has.</param>
    /// <param name="name">The authority.</param>
    /// <param name="folder">Where it keeps what it was given.</param>
    /// <param name="clock">The time.</param>
    /// <param name="secret">What callers must say; null where anybody may call.</param>
    public async Task Start(string address, string name, string folder, TimeProvider clock, string? secret = null) =>
        running[address] = await AuthorityService.Start(name, folder, 0, clock, secret);

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        foreach (var one in running.Values)
            await one.DisposeAsync();
        running.Clear();
    }
}
