using System.Globalization;
using System.Net.Http.Headers;
using System.Reflection;
using System.Text;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Routing;
using Microsoft.AspNetCore.Routing.Patterns;
using Microsoft.AspNetCore.TestHost;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Training;
using Mordel.Data;
using Mordel.Data.Moving;

namespace Mordel.Web.Tests;

/// <summary>
/// Requests that were nearly right, over every route and method, by somebody of every role and by nobody: whatever
/// comes, the server answers it. How many is asked by <c>MORDEL_REQUESTS</c>; an ordinary run sends a sample.
/// </summary>
[Collection("town")]
public sealed partial class MutatedRequestsTests(Town town) : IAsyncLifetime, IDisposable
{
    private static readonly int Count = int.TryParse(
        Environment.GetEnvironmentVariable("MORDEL_REQUESTS"),
        out var asked
    )
        ? asked
        : 1_200;
    private static readonly string[] People = ["ines", "hester", "wilma", "pia", "odd", ""];
    private static readonly string[] Methods =
    [
        "GET",
        "GET",
        "GET",
        "POST",
        "POST",
        "POST",
        "POST",
        "PUT",
        "DELETE",
        "HEAD",
        "PATCH",
        "OPTIONS",
    ];

    private static readonly string[] Odd =
    [
        "",
        " ",
        "0",
        "-1",
        "1e-28",
        "1e999",
        "79228162514264337593543950335",
        "NaN",
        "2.1",
        "2,1",
        "true",
        "on",
        "null",
        "[]",
        "{}",
        "\0",
        "\ud800",
        "%00",
        "../..",
        "'; DROP TABLE Runs; --",
        "<b>x</b>",
        "9999-12-31",
        "0001-01-01",
        "2031-02-29",
        "23:59:60",
        "12:00",
        "9999-12-31T23:59:59-14:00",
        "00000000-0000-0000-0000-000000000000",
        "required",
        "five-valve",
        "psid",
        "RP",
        "DC XX",
        new('a', 3_000),
        new('9', 60),
        "漢字",
        "M10 10 L200 90 L300 40",
        "\u202e",
    ];

    private readonly Copy copy = new();
    private readonly Random random = new(20_260);
    private readonly List<string> ids = [];
    private string[] fields = [],
        handlers = [];

    /// <summary>A second town, grown from the first, free to be ruined.</summary>
    private sealed class Copy() : Host(demo: true)
    {
        /// <summary>What went wrong last, so that a failure can be told.</summary>
        public Seen LastSeen { get; } = new();

        protected override void ConfigureWebHost(IWebHostBuilder builder)
        {
            base.ConfigureWebHost(builder);
            builder.ConfigureTestServices(s => s.AddSingleton<IExceptionHandler>(LastSeen));
        }

        public async Task From(Town town)
        {
            if (!Address.IsServer)
                await town.InStore(s => s.Database.ExecuteSqlAsync($"VACUUM INTO {Address.DatabaseFile}"));
            else
                await using (var from = town.Address.Open())
                await using (var to = Address.Open())
                    await new MoveStore(from, to).Run(_ => { }, CancellationToken.None);
            foreach (var key in Directory.EnumerateFiles(town.Folder, "*.pem"))
                File.Copy(key, Path.Combine(Folder, Path.GetFileName(key)));
        }
    }

    private sealed class Seen : IExceptionHandler
    {
        public Exception? Last { get; private set; }

        public ValueTask<bool> TryHandleAsync(
            HttpContext httpContext,
            Exception exception,
            CancellationToken cancellationToken
        )
        {
            Last = exception;
            return ValueTask.FromResult(false);
        }
    }

    private sealed record Session(HttpClient Client, string Token);

    public async Task InitializeAsync()
    {
        _ = town.Server;
        await copy.From(town);
        var pages = typeof(Program).Assembly.GetTypes().Where(t => t.IsSubclassOf(typeof(PageModel))).ToList();
        var methods = pages
            .SelectMany(t => t.GetMethods(BindingFlags.Public | BindingFlags.Instance | BindingFlags.DeclaredOnly))
            .Where(m => m.Name.StartsWith("On", StringComparison.Ordinal))
            .ToList();
        handlers =
        [
            .. methods.Select(m => HandlerName().Match(m.Name).Groups[1].Value).Where(n => n.Length > 0).Distinct(),
        ];
        var bound = pages
            .SelectMany(t => t.GetProperties())
            .Where(p => p.GetCustomAttribute<BindPropertyAttribute>() is not null)
            .ToList();
        fields =
        [
            .. methods
                .SelectMany(m => m.GetParameters())
                .Select(p => p.Name!)
                .Concat(bound.Select(p => p.Name))
                .Concat(bound.SelectMany(p => p.PropertyType.GetProperties()).Select(p => p.Name))
                .Concat(["q", "after", "step", "value", "speed", "needle", "profile", "kit", "before", "open", "take"])
                .Distinct(),
        ];
        ids.AddRange(
            await copy.InStore(async s =>
                (await s.Runs.Select(r => r.Id).Take(40).ToListAsync())
                    .Concat(await s.Runs.Where(r => r.SignedAt == null).Select(r => r.Id).ToListAsync())
                    .Concat(await s.Assemblies.Select(a => a.Id).Take(20).ToListAsync())
                    .Concat(await s.Stops.Select(a => a.Id).Take(20).ToListAsync())
                    .Concat(await s.Users.Select(a => a.Id).ToListAsync())
                    .Concat(await s.Kits.Select(a => a.Id).ToListAsync())
                    .Concat(await s.Attempts.Select(a => a.Id).Take(9).ToListAsync())
                    .Concat(await s.Assignments.Select(a => a.Id).ToListAsync())
                    .Select(id => id.ToString())
                    .ToList()
            )
        );
        ids.AddRange(
            SchoolCatalogue
                .All.Select(s => s.Id)
                .Concat(Kit.All.Select(k => k.Name))
                .Concat(["psid-standard", "psid-strict", "1", "404", "verdict.schema.json"])
        );
    }

    public async Task DisposeAsync() => await copy.DisposeAsync();

    public void Dispose() => copy.Dispose();

    private string Pick(params string[] of) => of[random.Next(of.Length)];

    private async Task<Session> SignIn(string who)
    {
        var client = copy.CreateClient(new() { AllowAutoRedirect = false });
        var visitor = new Visitor(client, null);
        if (who.Length > 0)
        {
            var id = await copy.InStore(s => s.Users.Where(u => u.UserName == who).Select(u => u.Id).FirstAsync());
            await visitor.PostForm("/sign-in", "/sign-in?handler=As", ("id", id.ToString()));
        }

        var page = await client.GetStringAsync(
            who switch
            {
                "" => "/sign-in",
                "pia" => "/bench",
                _ => "/keys",
            }
        );
        return new(client, Visitor.TokenOf(page));
    }

    private string Value() =>
        random.Next(4) switch
        {
            0 => ids[random.Next(ids.Count)],
            1 => random.Next(-3, 400).ToString(CultureInfo.InvariantCulture),
            _ => Pick(Odd),
        };

    private string Address(RoutePattern pattern)
    {
        var path = new StringBuilder();
        foreach (var segment in pattern.PathSegments)
        {
            path.Append('/');
            foreach (var part in segment.Parts)
                path.Append(
                    part is RoutePatternLiteralPart literal
                        ? literal.Content
                        : Uri.EscapeDataString(Printable(random.Next(5) > 0 ? ids[random.Next(ids.Count)] : Value()))
                );
        }

        if (path.Length == 0)
            path.Append('/');
        if (random.Next(3) == 0)
            path.Append("?handler=").Append(Pick(handlers));
        for (var more = random.Next(3); more > 0; more--)
            path.Append(path.ToString().Contains('?', StringComparison.Ordinal) ? '&' : '?')
                .Append(Pick(fields))
                .Append('=')
                .Append(Uri.EscapeDataString(Printable(Value())));
        return path.ToString();
    }

    // What reaches the application in a URI: the server itself refuses the rest.
    private static string Printable(string text) => new([.. text.Where(c => c > 0 && !char.IsSurrogate(c))]);

    private static readonly RandomRig Drawn = new(
        SchoolCatalogue.Named("dc-sight-tube")!,
        Kit.FiveValve,
        RandomRigRules.Exam,
        5
    );

    private static readonly string[] Right =
    [
        """{"entries":[{"id":"0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0077","tick":3,"at":"2031-04-02T08:00:00.000Z","kind":"reading","step":"cv1.read","reading":{"value":1.8,"unit":"psid","resolution":0.1}}]}""",
        """{"entries":[{"id":"0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0078","tick":9,"at":"2026-04-02T08:00:00+02:00","kind":"as-left","part":"so1","standing":"open"},{"id":"0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0079","tick":10,"at":"2026-04-02T08:00:01Z","kind":"agreed","about":"permission","who":"x"}]}""",
        """{"format":"mordel.test-record/1","assembly":{"type":"RP"},"profile":"psid-strict","kit":{"kind":"digital","accuracy":{"value":0.2,"unit":"psid"}},"results":{"check-1":{"value":7.1,"unit":"psid"},"relief-opening":{"value":2.1,"unit":"psid"},"shutoff-2":"not-shown","static":null}}""",
        """{"format":"mordel.scenario/1","assembly":{"type":"DC"},"supply":{"value":60,"unit":"psi"},"site":{"demand":"open"},"faults":[{"part":"so2","fault":"leaks","size":"weep"}],"kit":"five-valve","seed":3}""",
        $$"""{"assignment":null,"tape":{{RecordingFormat.Write(new Recording(Drawn.Scenario, [new(60, new BenchAction.Turn(new("so2"), new(0m), 60)), new(200, new BenchAction.Turn(new("tc3"), new(1m), 30))], 400), RecordingFormat.Write(Drawn))}}}""",
    ];

    private string Json()
    {
        var text = Pick(Right);
        for (var times = random.Next(4); times > 0; times--)
        {
            var at = random.Next(text.Length);
            text = random.Next(6) switch
            {
                0 => text.Remove(at, Math.Min(random.Next(1, 30), text.Length - at)),
                1 => text.Insert(at, Pick(Odd)),
                2 => Number()
                    .Replace(
                        text,
                        _ =>
                            Pick(
                                "1e-28",
                                "1e999",
                                "-0",
                                "79228162514264337593543950335",
                                "0.0000000000000000001",
                                "null",
                                "\"7\""
                            ),
                        1,
                        at
                    ),
                3 => Word().Replace(text, _ => $"\"{Value()}\"", 1, at),
                4 => text.Insert(at, text[..at]),
                _ => text[..at] + (char)random.Next(1, 0x2fff) + text[Math.Min(text.Length, at + 1)..],
            };
        }

        return text;
    }

    private HttpContent Body(string token)
    {
        if (random.Next(3) == 0)
        {
            var bytes =
                random.Next(8) == 0
                    ? [.. Enumerable.Range(0, random.Next(300)).Select(_ => (byte)random.Next(256))]
                    : Encoding.UTF8.GetBytes(Json());
            return new ByteArrayContent(bytes)
            {
                Headers =
                {
                    ContentType = MediaTypeHeaderValue.Parse(
                        Pick(
                            "application/json",
                            "application/json; charset=utf-8",
                            "text/plain",
                            "application/x-www-form-urlencoded"
                        )
                    ),
                },
            };
        }

        var form = new List<KeyValuePair<string, string>> { new("__RequestVerificationToken", token) };
        for (var more = random.Next(12); more > 0; more--)
            form.Add(new(Pick(fields), Value()));
        if (random.Next(9) > 0)
            return new FormUrlEncodedContent(form);
        var parts = new MultipartFormDataContent();
        foreach (var (name, value) in form)
            parts.Add(new StringContent(value), name);
        return parts;
    }

    [Trait("Turn", "0")]
    [Fact]
    public async Task Whatever_comes_nearly_right_over_every_route_is_answered_and_never_by_a_failure()
    {
        var sessions = new Dictionary<string, Session>();
        foreach (var who in People)
            sessions[who] = await SignIn(who);
        var routes = copy
            .Services.GetServices<EndpointDataSource>()
            .SelectMany(s => s.Endpoints)
            .OfType<RouteEndpoint>()
            .Select(e => e.RoutePattern)
            .Where(p => p.RawText is { } raw && !raw.StartsWith("problem/500", StringComparison.OrdinalIgnoreCase))
            .DistinctBy(p => p.RawText!.TrimEnd('/'))
            .ToList();
        Assert.InRange(routes.Count, 40, 600);
        var (answers, failures) = (new SortedDictionary<int, int>(), new List<string>());
        var asked = new HashSet<string?>();
        for (var i = 0; i < Count; i++)
        {
            var (who, pattern) = (Pick(People), routes[i < routes.Count ? i : random.Next(routes.Count)]);
            var path = Address(pattern);
            asked.Add(pattern.RawText);
            using var request = new HttpRequestMessage(new(Pick(Methods)), path);
            var session = sessions[who];
            if (request.Method != HttpMethod.Get && request.Method != HttpMethod.Head)
                request.Content = Body(session.Token);
            if (random.Next(8) > 0 && session.Token.Length > 0)
                request.Headers.Add("X-Mordel-Token", session.Token);
            using var answer = await session.Client.SendAsync(request);
            var status = (int)answer.StatusCode;
            answers[status] = answers.GetValueOrDefault(status) + 1;
            if (status >= 500)
                failures.Add($"{who} {request.Method} {path}: {status} {copy.LastSeen.Last}");
            // Whoever was signed out on the way signs in again.
            if (
                answer.Headers.TryGetValues("Set-Cookie", out var cookies)
                && cookies.Any(c => c.Contains("Identity.Application", StringComparison.Ordinal))
            )
                sessions[who] = await SignIn(who);
        }

        Assert.True(failures.Count == 0, $"{failures.Count} of {Count}:\n{string.Join("\n", failures.Take(20))}");
        Assert.Equal(Math.Min(routes.Count, Count), asked.Count);
        if (Environment.GetEnvironmentVariable("MORDEL_FIGURES") is { Length: > 0 } file)
            await File.AppendAllTextAsync(
                file,
                $"{Count} mutated requests over {routes.Count} routes: "
                    + $"{string.Join(", ", answers.Select(a => $"{a.Key} {a.Value}"))}\n"
            );
        // Some got through and some were refused: what is sent is neither all nonsense nor all right.
        Assert.All(new[] { 200, 400, 404, 405 }, status => Assert.Contains(status, answers.Keys));
        // And it works on: somebody comes and sees the day.
        Assert.Equal(System.Net.HttpStatusCode.OK, (await (await SignIn("ines")).Client.GetAsync("/")).StatusCode);
    }

    [GeneratedRegex("^On(?:Post|Get)(.*?)(?:Async)?$")]
    private static partial Regex HandlerName();

    [GeneratedRegex("-?[0-9]+(\\.[0-9]+)?")]
    private static partial Regex Number();

    [GeneratedRegex("\"[^\"]*\"")]
    private static partial Regex Word();
}
