using System.Net;
using Microsoft.AspNetCore.HostFiltering;
using Microsoft.AspNetCore.HttpOverrides;
using Mordel.Web.Application;

namespace Mordel.Web.Hosting;

/// <summary>Under which names it answers, behind which proxies, and what browsers are told about TLS.</summary>
public static class FrontDoor
{
    private static readonly string[] ThisMachine = ["localhost", "127.0.0.1", "[::1]"];

    /// <summary>Adds the names and the proxies.</summary>
    public static void AddFrontDoor(this IServiceCollection services, MordelOptions options, string? urls)
    {
        ArgumentNullException.ThrowIfNull(options);
        services.PostConfigure<HostFilteringOptions>(o => o.AllowedHosts = [.. Names(options, urls)]);
        services.AddHsts(o => (o.MaxAge, o.IncludeSubDomains) = (TimeSpan.FromDays(365), false));
        if (Proxies(options) is { Count: > 0 } proxies)
            services.Configure<ForwardedHeadersOptions>(o =>
            {
                o.ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
                o.KnownIPNetworks.Clear();
                o.KnownProxies.Clear();
                foreach (var proxy in proxies)
                    o.KnownProxies.Add(proxy);
            });
    }

    /// <summary>Takes what a proxy says of a request, and tells browsers to stay with TLS.</summary>
    public static void UseFrontDoor(this WebApplication app)
    {
        var options = app.Services.GetRequiredService<MordelOptions>();
        if (Proxies(options).Count > 0)
            app.UseForwardedHeaders();
        if (options.IsReachedByTls)
            app.UseHsts();
    }

    /// <summary>
    /// The names under which it answers: those that were said and this machine's. Whoever listens for others and says
    /// none is answered under any: nobody knows then what it is called.
    /// </summary>
    public static IReadOnlyList<string> Names(MordelOptions options, string? urls)
    {
        ArgumentNullException.ThrowIfNull(options);
        var said = Words(options.Hosts).ToList();
        if (Uri.TryCreate(options.Address, UriKind.Absolute, out var address))
            said.Add(address.Host);
        return said.Count == 0 && Launch.Elsewhere(urls) is not null ? ["*"] : [.. ThisMachine, .. said];
    }

    /// <summary>The proxies that are believed.</summary>
    /// <exception cref="Data.Startup.StartRefusedException">One of them is no address.</exception>
    public static IReadOnlyList<IPAddress> Proxies(MordelOptions options)
    {
        ArgumentNullException.ThrowIfNull(options);
        return
        [
            .. Words(options.Proxies)
                .Select(w =>
                    IPAddress.TryParse(w, out var one)
                        ? one
                        : throw new Data.Startup.StartRefusedException(
                            $"--Mordel:Proxies: {w} is no network address; 127.0.0.1 for a proxy on this machine."
                        )
                ),
        ];
    }

    internal static IEnumerable<string> Words(string? text) =>
        (text ?? "").Split([' ', ','], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
}
