using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace Mordel.Authorities;

/// <summary>
/// A simulated authority's intake as a web service of its own, on this machine only: <c>docs/papers.md</c> says what it
/// speaks.
/// </summary>
public sealed class AuthorityService : IAsyncDisposable
{
    private const int LargestFile = 16 * 1024 * 1024,
        LongestKey = 200;

    private static readonly TimeSpan Slowness = TimeSpan.FromSeconds(6);

    private readonly WebApplication app;
    private readonly AuthorityJournal journal;

    private readonly string? secret;

    private AuthorityService(
        string name,
        WebApplication app,
        AuthorityJournal journal,
        AuthorityDesk desk,
        string? secret
    ) => (Name, this.app, this.journal, Desk, this.secret) = (name, app, journal, desk, secret);

    /// <summary>Whether it asks who calls.</summary>
    public bool AsksWho => secret is not null;

    /// <summary>The authority.</summary>
    public string Name { get; }

    /// <summary>What it decides.</summary>
    public AuthorityDesk Desk { get; }

    /// <summary>Where it is, with a slash at the end.</summary>
    public Uri Address =>
        new(
            app.Services.GetRequiredService<IServer>()
                .Features.Get<IServerAddressesFeature>()!
                .Addresses.First()
                .TrimEnd('/') + "/"
        );

    /// <summary>Starts it.</summary>
    /// <param name="name">The authority's name.</param>
    /// <param name="folder">Where it keeps its journal.</param>
    /// <param name="port">The port on this machine; 0 for any that is free.</param>
    /// <param name="clock">The time.</param>
    /// <param name="secret">What callers must say; null where anybody may call.</param>
    public static async Task<AuthorityService> Start(
        string name,
        string folder,
        int port,
        TimeProvider clock,
        string? secret = null
    )
    {
        ArgumentException.ThrowIfNullOrEmpty(name);
        var journal = new AuthorityJournal(folder);
        try
        {
            var builder = WebApplication.CreateSlimBuilder();
            builder.Logging.ClearProviders();
            builder.WebHost.UseUrls($"http://127.0.0.1:{port}");
            builder.WebHost.ConfigureKestrel(k =>
            {
                k.AddServerHeader = false;
                k.Limits.MaxRequestBodySize = LargestFile;
            });
            builder.Services.AddRazorComponents();
            var app = builder.Build();
            var service = new AuthorityService(
                name,
                app,
                journal,
                new(journal, clock, char.ToUpperInvariant(name[0])),
                secret
            );
            app.Use(Alone);
            app.MapPost("/reports", service.Take);
            app.MapGet("/rulings", service.Rulings);
            app.MapGet("/", service.Inbox);
            app.MapPost("/mood", service.Behave).DisableAntiforgery();
            app.MapGet("/inbox.css", () =>
                Results.Stream(typeof(AuthorityService).Assembly.GetManifestResourceStream("inbox.css")!, "text/css")
            );
            await app.StartAsync();
            return service;
        }
        catch
        {
            journal.Dispose();
            throw;
        }
    }

    /// <summary>Waits until it is stopped.</summary>
    public Task Ended(CancellationToken cancel) => ((IHost)app).WaitForShutdownAsync(cancel);

    // The page is for who sits at this machine: no other site may post to it or frame it.
    private static Task Alone(HttpContext http, RequestDelegate next)
    {
        http.Response.Headers.ContentSecurityPolicy =
            "default-src 'none'; style-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";
        http.Response.Headers.XContentTypeOptions = "nosniff";
        if (http.Request.Headers["Sec-Fetch-Site"] != "cross-site")
            return next(http);
        http.Response.StatusCode = StatusCodes.Status403Forbidden;
        return Task.CompletedTask;
    }

    private async Task<IResult> Take(HttpContext http, CancellationToken cancel)
    {
        if (Desk.DownUntil is { } until)
        {
            http.Response.Headers.RetryAfter = "600";
            return Said(
                StatusCodes.Status503ServiceUnavailable,
                $"The intake is closed until {until.ToLocalTime():HH:mm}."
            );
        }

        if (Stranger(http) is { } unknown)
            return unknown;
        var headers = http.Request.Headers;
        if (headers["Idempotency-Key"].ToString() is not { Length: > 0 and <= LongestKey } key)
            return Said(StatusCodes.Status400BadRequest, "Each report needs a key of its own: Idempotency-Key.");
        using var copy = new MemoryStream();
        await http.Request.Body.CopyToAsync(copy, cancel);
        if (Desk.Mood == AuthorityMood.Garbles)
            return Results.Text("<!doctype html><title>?</title>", "text/html");
        var form = http.Request.ContentType?.Split(';')[0].Trim().ToLowerInvariant() ?? "";
        var decided = Desk.Decide(new(key, headers["Report-Number"].ToString(), form, copy.ToArray()));
        if (Desk.Mood == AuthorityMood.HangsUp)
        {
            http.Abort();
            return Results.Empty;
        }

        if (Desk.Mood == AuthorityMood.Slow)
            await Task.Delay(Slowness, cancel);
        if (Desk.Mood == AuthorityMood.RepeatsItself && decided is { Ruling: Ruling.Taken, Later: false })
            Desk.Repeat(decided);
        return decided.Ruling == Ruling.Taken
            ? Results.Json(new { receipt = decided.Receipt }, statusCode: StatusCodes.Status201Created)
            : Said(StatusCodes.Status422UnprocessableEntity, decided.Why!);
    }

    private IResult Rulings(HttpContext http, long after = 0) =>
        Stranger(http) is { } unknown ? unknown
        : Desk.DownUntil is not null ? Said(StatusCodes.Status503ServiceUnavailable, "The intake is closed.")
        : Results.Json(
            new
            {
                rulings = Desk.Rulings(after)
                    .Select(e => new
                    {
                        number = e.Number,
                        key = e.Key,
                        taken = e.Ruling == Ruling.Taken,
                        receipt = e.Ruling == Ruling.Taken ? e.Receipt : null,
                        why = e.Why,
                    }),
            }
        );

    // Who does not say the key that was agreed is told so; nothing of it is kept.
    private IResult? Stranger(HttpContext http) =>
        secret is null || http.Request.Headers.Authorization == $"Bearer {secret}"
            ? null
            : Said(
                StatusCodes.Status401Unauthorized,
                http.Request.Headers.Authorization.Count == 0 ? "A key is wanted." : "That key is not known here."
            );

    private RazorComponentResult<Inbox> Inbox() =>
        new(new { Service = this, Entries = journal.All.Reverse().Take(200) });

    private IResult Behave([FromForm] AuthorityMood mood, [FromForm] string? why)
    {
        if (!Enum.IsDefined(mood) || why?.Length > 300)
            return Said(StatusCodes.Status400BadRequest, "It cannot behave so.");
        Desk.Behave(mood, why);
        return Results.Redirect("/");
    }

    private static IResult Said(int status, string detail) => Results.Problem(detail, statusCode: status);

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        await app.DisposeAsync();
        journal.Dispose();
    }
}
