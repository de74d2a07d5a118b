using System.Globalization;
using System.Net;
using Microsoft.AspNetCore.Diagnostics.HealthChecks;
using Microsoft.Extensions.Diagnostics.HealthChecks;
using Mordel.Data;
using Mordel.Data.Rows;
using Mordel.Data.Startup;
using Mordel.Web.Application;
using OpenTelemetry.Metrics;
using OpenTelemetry.Resources;
using OpenTelemetry.Trace;
using Prometheus;
using Serilog;
using Serilog.Events;
using Serilog.Formatting.Compact;

namespace Mordel.Web.Hosting;

/// <summary>
/// What can be watched from outside: the log, figures, traces, whether it is well. Requests are named by the pattern of
/// their path, never by the path: some carry a secret.
/// </summary>
public static class Watching
{
    private static readonly string[] Meters =
    [
        Measures.Name,
        "Microsoft.AspNetCore.Hosting",
        "Microsoft.EntityFrameworkCore",
        "System.Runtime",
    ];

    // Bounds of what is told apart among durations, in seconds.
    private static readonly double[] Seconds = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10];

    /// <summary>Adds what the options ask for.</summary>
    public static void AddWatching(this IServiceCollection services, MordelOptions options)
    {
        ArgumentNullException.ThrowIfNull(options);
        services.AddSerilog(log => Configure(log, options));
        services.AddHealthChecks().AddCheck<StoreCheck>("store");
        if (options.Otlp is not { } collector)
            return;
        if (!Uri.TryCreate(collector, UriKind.Absolute, out var address))
            throw new StartRefusedException($"--Mordel:Otlp: {collector} is no address; http://127.0.0.1:4317.");
        services
            .AddOpenTelemetry()
            .ConfigureResource(r => r.AddService("mordel", serviceVersion: Data.Backups.MakeBackup.Version))
            .WithMetrics(m => m.AddMeter(Meters).AddOtlpExporter(o => o.Endpoint = address))
            .WithTracing(t =>
                t.AddAspNetCoreInstrumentation(o =>
                    {
                        o.EnrichWithHttpResponse = (activity, response) =>
                        {
                            activity.SetTag("url.path", Pattern(response.HttpContext));
                            activity.SetTag("url.query", null);
                        };
                    })
                    .AddOtlpExporter(o => o.Endpoint = address)
            );
    }

    /// <summary>Writes a line for each request into a log that programs read.</summary>
    public static void UseWatching(this WebApplication app)
    {
        if (app.Services.GetRequiredService<MordelOptions>().LogAs != "json")
            return;
        app.UseSerilogRequestLogging(o =>
        {
            o.MessageTemplate = "{RequestMethod} {RequestPath} {StatusCode} {Elapsed:0.0} ms";
            o.GetMessageTemplateProperties = (http, _, elapsed, status) =>
                [
                    new("RequestMethod", new ScalarValue(http.Request.Method)),
                    new("RequestPath", new ScalarValue(Pattern(http))),
                    new("StatusCode", new ScalarValue(status)),
                    new("Elapsed", new ScalarValue(elapsed)),
                ];
            o.EnrichDiagnosticContext = (line, http) =>
            {
                line.Set("Request", http.TraceIdentifier);
                if (http.User.Identity?.IsAuthenticated == true)
                    line.Set("Person", http.User.Id());
            };
        });
    }

    /// <summary>Maps the questions whether it is well, and the page of figures.</summary>
    public static void MapWatching(this WebApplication app)
    {
        var methods = new HttpMethodMetadata(["GET", "HEAD"]);
        app.MapHealthChecks("/health").AllowAnonymous().WithMetadata(methods);
        app.MapHealthChecks("/health/live", new() { Predicate = _ => false }).AllowAnonymous().WithMetadata(methods);
        app.MapHealthChecks("/health/ready", new() { ResponseWriter = WriteWhy })
            .AllowAnonymous()
            .WithMetadata(methods);
        var networks = Networks(app.Services.GetRequiredService<MordelOptions>());
        if (networks.Count == 0)
            return;
        Metrics.SuppressDefaultMetrics(
            new()
            {
                SuppressEventCounters = true,
                SuppressDebugMetrics = true,
                SuppressProcessMetrics = false,
            }
        );
        MeterAdapter.StartListening(
            new()
            {
                InstrumentFilterPredicate = i => Meters.Contains(i.Meter.Name, StringComparer.Ordinal),
                ResolveHistogramBuckets = _ => Seconds,
            }
        );
        app.MapMetrics()
            .AllowAnonymous()
            .AddEndpointFilter(
                async (context, next) =>
                    IsFrom(networks, context.HttpContext) ? await next(context) : Results.NotFound()
            );
    }

    private static void Configure(LoggerConfiguration log, MordelOptions options)
    {
        log.MinimumLevel.Information()
            .MinimumLevel.Override("Microsoft", LogEventLevel.Warning)
            // Its keys lie in the data folder, as docs/reliability.md says; the warning at every first start adds
            // nothing.
            .MinimumLevel.Override("Microsoft.AspNetCore.DataProtection", LogEventLevel.Error)
            .MinimumLevel.Override("Microsoft.Hosting.Lifetime", LogEventLevel.Information)
            // Why a start is refused is said in a sentence of our own.
            .MinimumLevel.Override("Microsoft.Extensions.Hosting.Internal.Host", LogEventLevel.Fatal)
            .Enrich.FromLogContext();
        if (options.LogAs == "json")
            log.WriteTo.Console(new CompactJsonFormatter());
        else
            log.WriteTo.Console(formatProvider: CultureInfo.InvariantCulture);
    }

    // What is wrong says much about a machine: to its owner, and to whoever may read the figures.
    private static Task WriteWhy(HttpContext http, HealthReport report)
    {
        var options = http.RequestServices.GetRequiredService<MordelOptions>();
        var says =
            IsFrom(Networks(options), http) || http.User.IsInRole(Roles.Owner) || IsThisMachine(http)
                ? string.Join('\n', report.Entries.Values.Select(e => e.Description).OfType<string>())
                : "";
        return http.Response.WriteAsync($"{report.Status}\n{says}".Trim());
    }

    private static string Pattern(HttpContext http) =>
        (http.GetEndpoint() as RouteEndpoint)?.RoutePattern.RawText ?? "(none)";

    // Behind a proxy that is not said everybody seems to be of this machine.
    private static bool IsThisMachine(HttpContext http) =>
        http.Connection.RemoteIpAddress is { } from
        && IPAddress.IsLoopback(from)
        && !http.Request.Headers.ContainsKey("X-Forwarded-For");

    private static bool IsFrom(IReadOnlyList<IPNetwork> networks, HttpContext http) =>
        http.Connection.RemoteIpAddress is { } from
        && networks.Any(n => n.Contains(from.IsIPv4MappedToIPv6 ? from.MapToIPv4() : from));

    /// <summary>The networks from which the figures may be read.</summary>
    /// <exception cref="StartRefusedException">One of them is no network.</exception>
    public static IReadOnlyList<IPNetwork> Networks(MordelOptions options)
    {
        ArgumentNullException.ThrowIfNull(options);
        return
        [
            .. FrontDoor
                .Words(options.MetricsFrom == "none" ? null : options.MetricsFrom)
                .Select(w =>
                    IPNetwork.TryParse(w.Contains('/', StringComparison.Ordinal) ? w : $"{w}/{Bits(w)}", out var one)
                        ? one
                        : throw new StartRefusedException($"--Mordel:MetricsFrom: {w} is no network; 10.0.0.0/8.")
                ),
        ];
    }

    private static int Bits(string address) => address.Contains(':', StringComparison.Ordinal) ? 128 : 32;
}
