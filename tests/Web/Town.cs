using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Options;
using Mordel.Data;
using Mordel.Data.Commands.Bench;
using Mordel.Data.Rows;
using Mordel.Simulators;

namespace Mordel.Web.Tests;

/// <summary>The whole application in this process, on a data folder of its own.</summary>
/// <param name="demo">Whether it holds the demo town.</param>
/// <param name="clock">The time; the system's where none is given.</param>
/// <param name="links">How many links a minute are opened, and answers taken.</param>
/// <param name="bare">Whether it makes its database itself; else there is an empty one.</param>
public class Host(bool demo, TimeProvider? clock = null, string links = "100000", bool bare = false)
    : WebApplicationFactory<Program>,
        IInstallation
{
    private readonly string folder = Directory.CreateTempSubdirectory("mordel-web-").FullName;

    // Rounds of a password's hash in tests.
    private const int HashRounds = 5_000;

    // Enough for every honest recording of the tests.
    private const long MostWork = 250_000;

    private StoreAddress? address;

    /// <summary>The data folder.</summary>
    public string Folder => folder;

    /// <summary>Where its rows lie.</summary>
    public StoreAddress Address => address ??= demo || bare ? EmptyStore.Nothing(folder) : EmptyStore.At(folder);

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.UseSetting("Mordel:Data", folder);
        builder.UseSetting("Mordel:Demo", demo.ToString());
        // All tests come from one address.
        builder.UseSetting("Mordel:SignInsPerMinute", "100000");
        builder.UseSetting("Mordel:LinksPerMinute", links);
        builder.UseSetting("Mordel:AnswersPerMinute", links);
        // What a test breaks on purpose is found when it is looked at, not by a watch that happens to pass.
        builder.UseSetting("Mordel:WatchSeals", "False");
        builder.UseSetting("Serilog:MinimumLevel", "Error");
        if (Address.Connection is { } server)
            builder.UseSetting("Mordel:StoredAt", $"postgres:{server}");
        builder.ConfigureTestServices(s =>
        {
            if (clock is not null)
                s.AddSingleton(clock);
            // What takes a second on purpose takes less here: a password, and a recording that is too much work.
            s.PostConfigure<PasswordHasherOptions>(o => o.IterationCount = HashRounds);
            s.AddSingleton(new RequestWork(MostWork));
        });
    }

    /// <summary>Passwords are hashed with as many rounds as elsewhere, from now on.</summary>
    public void HashAsShipped()
    {
        var options = Services.GetRequiredService<IOptions<PasswordHasherOptions>>().Value;
        foreach (var shipped in Services.GetServices<IConfigureOptions<PasswordHasherOptions>>())
            shipped.Configure(options);
    }

    protected override void Dispose(bool disposing)
    {
        base.Dispose(disposing);
        if (disposing && address is not null)
            EmptyStore.End(address);
        if (disposing && Directory.Exists(folder))
            Directory.Delete(folder, recursive: true);
    }
}

/// <summary>The hamlet behind the web.</summary>
public sealed class ServedInstallation : Hamlet
{
    private readonly Host host;

    public ServedInstallation()
        : this(new()) { }

    private ServedInstallation(SimulatedClock clock)
        : this(new Host(demo: false, clock), clock) { }

    private ServedInstallation(Host host, SimulatedClock clock)
        : base(host, clock)
    {
        this.host = host;
    }

    /// <summary>A browser that follows no redirection by itself.</summary>
    public HttpClient CreateClient() => host.CreateClient(new() { AllowAutoRedirect = false });
}

/// <summary>
/// The demo town, shared by the tests that do not spoil it for each other: filled here, or, in a file, copied from the
/// folder that <c>MORDEL_TOWN</c> names, which the server has filled today.
/// </summary>
public sealed class Town() : Host(demo: true), IAsyncLifetime
{
    /// <summary>What its assemblies were before any test added to them.</summary>
    public IReadOnlyList<string> AsMade { get; private set; } = [];

    public async Task InitializeAsync()
    {
        if (Environment.GetEnvironmentVariable("MORDEL_TOWN") is { Length: > 0 } made && Address.Connection is null)
            foreach (var file in Directory.EnumerateFiles(made, "*", SearchOption.AllDirectories))
            {
                var copy = Path.Combine(Folder, Path.GetRelativePath(made, file));
                Directory.CreateDirectory(Path.GetDirectoryName(copy)!);
                File.Copy(file, copy);
            }

        AsMade = await Assemblies(this);
    }

    async Task IAsyncLifetime.DisposeAsync() => await DisposeAsync();

    public static Task<List<string>> Assemblies(Host host) =>
        host.InStore(s => s.Assemblies.OrderBy(a => a.Tag).Select(a => a.Tag + a.Serial + a.Flow).ToListAsync());

    public async Task<Visitor> As(string userName)
    {
        var account = await this.InStore(s => s.Users.FirstAsync(u => u.UserName == userName));
        var visitor = new Visitor(CreateClient(new() { AllowAutoRedirect = false }), account);
        var answer = await visitor.PostForm("/sign-in", "/sign-in?handler=As", ("id", account.Id.ToString()));
        visitor.Cookies = [.. answer.Headers.GetValues("Set-Cookie").Select(c => c.Split(';')[0])];
        return visitor;
    }

    public Visitor Nobody() => new(CreateClient(new() { AllowAutoRedirect = false }), null);

    /// <summary>A stop on the assembly that has the fewest; of those that were tested before.</summary>
    public Task<Guid> NewStop(string userName, string type = "DC") =>
        this.InStore(async s =>
        {
            var tester = await s.Users.FirstAsync(u => u.UserName == userName);
            var kpa = userName == "odd" ? "kpa-isolation-first" : "psid-standard";
            var assembly = await s
                .Assemblies.Where(a => a.Authority!.ProfileId == kpa && a.Type == type)
                .Where(a => s.Seals.Any(x => x.AssemblyId == a.Id))
                .OrderBy(a => s.Stops.Count(x => x.AssemblyId == a.Id))
                .ThenBy(a => a.Tag)
                .FirstAsync();
            var stop = new StopRow
            {
                Id = Guid.NewGuid(),
                Day = new DateOnly(2030, 1, 1),
                TesterId = tester.Id,
                Order = 1,
                AssemblyId = assembly.Id,
                Minutes = 20,
            };
            s.Stops.Add(stop);
            await s.SaveChangesAsync();
            return stop.Id;
        });

    /// <summary>A run that has just begun.</summary>
    public async Task<RunInHand> Begin(string userName, string type = "DC")
    {
        var visitor = await As(userName);
        var stop = await NewStop(userName, type);
        var answer = await visitor.PostForm($"/stops/{stop}", $"/stops/{stop}", ("unsigned", "true"));
        var id = Guid.Parse(answer.Headers.Location!.ToString().Split('/')[^1]);
        return new(visitor, id);
    }
}

/// <summary>Somebody at a browser.</summary>
public sealed partial class Visitor(HttpClient client, Account? account)
{
    public HttpClient Client => client;
    public Account Account => account!;

    /// <summary>The cookies that the visitor carries, for doors that are no ordinary request.</summary>
    public IReadOnlyList<string> Cookies { get; set; } = [];

    public async Task<string> Page(string url, HttpStatusCode expected = HttpStatusCode.OK)
    {
        var answer = await client.GetAsync(url);
        Assert.Equal(expected, answer.StatusCode);
        // As it is shown: a browser makes one space of any number of them and of line ends.
        return Spaces().Replace(WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()), " ");
    }

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();

    public async Task<HttpResponseMessage> PostForm(string page, string to, params (string Name, string Value)[] fields)
    {
        var token = TokenOf(await client.GetStringAsync(page));
        return await client.PostAsync(
            to,
            new FormUrlEncodedContent([
                new("__RequestVerificationToken", token),
                .. fields.Select(f => new KeyValuePair<string, string>(f.Name, f.Value)),
            ])
        );
    }

    /// <summary>The token of a page's form; empty when it has none.</summary>
    public static string TokenOf(string page) => FormToken().Match(page).Groups[1].Value;

    [GeneratedRegex("name=\"__RequestVerificationToken\" type=\"hidden\" value=\"([^\"]+)\"")]
    private static partial Regex FormToken();

    [GeneratedRegex("data-token=\"([^\"]+)\"")]
    public static partial Regex PageToken();
}

/// <summary>A run and the tester at it.</summary>
public sealed class RunInHand(Visitor visitor, Guid id)
{
    public const string Drawn = Hamlet.Drawn;
    private string? token;
    private long tick;

    public Visitor Visitor => visitor;
    public Guid Id => id;

    public async Task<HttpResponseMessage> Send(string body, bool withToken = true, string? prefer = null)
    {
        token ??= Visitor.PageToken().Match(await visitor.Client.GetStringAsync($"/runs/{id}")).Groups[1].Value;
        using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/runs/{id}/entries")
        {
            Content = new StringContent(body, Encoding.UTF8, "application/json"),
        };
        if (withToken)
            request.Headers.Add("X-Mordel-Token", token);
        if (prefer is not null)
            request.Headers.Add("Prefer", prefer);
        return await visitor.Client.SendAsync(request);
    }

    /// <summary>Asks where the run stands, as a screen does that knows a tag.</summary>
    public async Task<HttpResponseMessage> Look(string tag, string? prefer)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, $"/api/runs/{id}/view");
        request.Headers.Add("If-None-Match", tag);
        if (prefer is not null)
            request.Headers.Add("Prefer", prefer);
        return await visitor.Client.SendAsync(request);
    }

    /// <summary>The time of the next entry, by the device's clock; hands and water need some between two.</summary>
    public DateTimeOffset At { get; set; } = DateTimeOffset.UtcNow;

    public string Entry(string members, Guid? entry = null)
    {
        At += TimeSpan.FromSeconds(90);
        return $$"""{"id":"{{entry ?? Guid.NewGuid()}}","tick":{{++tick}},"at":"{{At:O}}",{{members}}}""";
    }

    public static string Batch(params string[] entries) => $$"""{"entries":[{{string.Join(",", entries)}}]}""";

    public string Reading(string step, string value, string unit = "psid") =>
        Entry(
            $$"""
            "kind":"reading","step":"{{step}}","reading":{"value":{{value}},"unit":"{{unit}}"}
            """
        );

    public string Done(string step) => Entry($"\"kind\":\"done\",\"step\":\"{step}\"");

    public async Task<JsonElement> Accepted(params string[] entries)
    {
        var answer = await Send(Batch(entries));
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        return await answer.Content.ReadFromJsonAsync<JsonElement>();
    }

    public async Task<string> Refused(HttpStatusCode expected, string body, bool withToken = true)
    {
        var answer = await Send(body, withToken);
        Assert.Equal(expected, answer.StatusCode);
        var json = await answer.Content.ReadFromJsonAsync<JsonElement>();
        return json.GetProperty("error").GetString()
            + " "
            + string.Join(
                " ",
                json.GetProperty("faults")
                    .EnumerateArray()
                    .Select(f => $"{f.GetProperty("place")}: {f.GetProperty("says")}")
            );
    }

    /// <summary>A whole healthy run, up to the signature.</summary>
    public async Task<RunInHand> Tested(string cv1 = "2.1", string cv2 = "1.7", string unit = "psid")
    {
        await Accepted(
            Reading("cv1.read", cv1, unit),
            Reading("cv2.read", cv2, unit),
            Done("cv2.leave"),
            Done("finish.tell")
        );
        return this;
    }

    public async Task<HttpResponseMessage> Sign(
        string? name = null,
        string ink = Drawn,
        int? seen = null,
        string remarks = "",
        params (string Name, string Value)[] beside
    ) =>
        await visitor.PostForm(
            $"/runs/{id}/verdict",
            $"/runs/{id}/verdict",
            [
                ("name", name ?? visitor.Account.FullName),
                ("ink", ink),
                ("seen", (seen ?? (int)tick).ToString()),
                ("remarks", remarks),
                .. beside,
            ]
        );

    public async Task<string> SignRefused(string? name = null, string ink = Drawn, int? seen = null)
    {
        var answer = await Sign(name, ink, seen);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
    }
}

[CollectionDefinition("town")]
public sealed class DemoInstallationCollection : ICollectionFixture<Town>;

/// <summary>The same town once more, for half of its tests: they run beside the others.</summary>
[CollectionDefinition("second town")]
public sealed class SecondTownCollection : ICollectionFixture<Town>;
