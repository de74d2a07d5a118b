using System.Net;
using Microsoft.AspNetCore.Routing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Mordel.Web.Tests;

/// <summary>
/// Every page and every command is walked with every role: what the bar does not offer is refused by the server, and no
/// address is forgotten.
/// </summary>
[Collection("town")]
public class RolesTests(Town town)
{
    private const string Everybody = "learner instructor tester office owner nobody",
        SignedIn = "learner instructor tester office owner",
        Field = "tester office owner",
        Desk = "office owner",
        Teaching = "instructor office owner",
        Owner = "owner",
        Tester = "tester";

    private static readonly (string Role, string? Persona)[] Roles =
    [
        ("learner", "pia"),
        ("instructor", "tove"),
        ("tester", "ines"),
        ("office", "wilma"),
        ("owner", "hester"),
        ("nobody", null),
    ];

    // Who is let in, by address; the first that fits counts. A page's own commands stand with their handler.
    private static readonly (string Method, string Address, string For)[] Doors =
    [
        ("POST", "/?handler=Settle", Owner),
        ("POST", "/?handler=Hoses", Field),
        ("POST", "/?handler=Calendar", Tester),
        ("POST", "/?handler=NoCalendar", Tester),
        ("GET", "/calendar.ics", Field),
        ("GET", "/calendar/{token}.ics", Everybody),
        ("GET", "/", SignedIn),
        ("*", "/installation", Owner),
        ("*", "/register/new", Desk),
        ("*", "/register/many", Desk),
        ("*", "/register/twice", Desk),
        ("*", "/register/{id}/edit", Desk),
        ("POST", "/register/{id}/edit?handler=Place", Desk),
        ("POST", "/register/{id}/edit?handler=Owner", Desk),
        ("POST", "/register/{id}/edit?handler=Move", Desk),
        ("POST", "/register/{id}/edit?handler=Replace", Desk),
        ("POST", "/register/{id}/edit?handler=Event", Desk),
        ("POST", "/register/{id}/edit?handler=Back", Desk),
        ("POST", "/register/{id}/edit?handler=Stuck", Desk),
        ("*", "/due", Desk),
        ("*", "/rounds", Desk),
        ("*", "/imports", Desk),
        ("*", "/exports", Desk),
        ("*", "/shown", Desk),
        ("*", "/standing", Desk),
        ("*", "/archive", Desk),
        ("POST", "/register/{id}", Desk),
        ("*", "/register", Field),
        ("POST", "/diagnoses/{id}?handler=Link", Desk),
        ("POST", "/diagnoses/{id}?handler=Revoke", Desk),
        ("*", "/diagnoses", Field),
        ("POST", "/parts?handler=Import", Desk),
        ("POST", "/parts?handler=Received", Desk),
        ("*", "/parts", Field),
        ("POST", "/repairs/{id}?handler=Retest", Tester),
        ("*", "/repairs", Field),
        ("*", "/look", Everybody),
        ("*", "/stops", Field),
        ("*", "/runs", Field),
        ("*", "/reports", Field),
        ("*", "/programs", Field),
        ("*", "/papers", Field),
        ("POST", "/kits-and-people?handler=Person", Owner),
        ("POST", "/kits-and-people/{id}?handler=Password", Owner),
        ("POST", "/kits-and-people/{id}?handler=Link", Owner),
        ("POST", "/kits-and-people/{id}?handler=Mail", Owner),
        ("POST", "/kits-and-people/{id}?handler=Roles", Owner),
        ("POST", "/kits-and-people/{id}?handler=Dismiss", Owner),
        ("POST", "/kits-and-people/{id}?handler=TakeBack", Owner),
        ("POST", "/kits-and-people/{id}?handler=Forget", Owner),
        ("GET", "/kits-and-people/{id}?handler=About", Owner),
        ("*", "/kits-and-people", Desk),
        ("*", "/password", SignedIn),
        ("*", "/account", SignedIn),
        ("*", "/show-again", SignedIn),
        ("*", "/new-password", Everybody),
        ("*", "/forgotten", Everybody),
        ("*", "/rules", Desk),
        ("*", "/outbox", Desk),
        ("*", "/notices", Desk),
        ("*", "/owner", Everybody),
        ("*", "/tag", Everybody),
        ("*", "/classes", Teaching),
        ("*", "/bench", SignedIn),
        ("*", "/water", SignedIn),
        ("*", "/run-sheets", SignedIn),
        ("*", "/bench-sheets", SignedIn),
        ("POST", "/api/field", Tester),
        ("*", "/api/field", Field),
        ("*", "/field", Field),
        ("POST", "/api/runs/{id}/entries", Tester),
        ("*", "/api/runs", Field),
        ("*", "/api/repairs", Field),
        ("*", "/api", SignedIn),
        ("*", "/sign-in", Everybody),
        ("*", "/sign-out", Everybody),
        ("*", "/first-account", Everybody),
        ("*", "/problem", Everybody),
        ("*", "/keys", Everybody),
        ("*", "/verify", Everybody),
        ("*", "/formats", Everybody),
        ("*", "/health", Everybody),
    ];

    private static readonly string[] Files = ["css", "js", "lib", "core", "icon", "icons", "app", "sw"];

    // Addresses with the commands that a page has under the same address.
    private static readonly Dictionary<string, string[]> Handlers = new()
    {
        ["/"] = ["Settle", "Hoses", "Calendar", "NoCalendar"],
        ["/register/tags"] = [""],
        ["/register/many"] = ["", "Plan", "Do", "Undo"],
        ["/register/twice"] = ["", "Undo"],
        ["/register/{id:guid}/edit"] = ["", "Place", "Owner", "Move", "Replace", "Event", "Back", "Stuck"],
        ["/imports"] = ["", "Back"],
        ["/imports/{id:guid}"] = ["Columns", "Decide", "Confirm", "Stop", "Undo"],
        ["/kits-and-people/kits/{id:guid}"] = ["", "Again", "Compare", "Lend", "Back"],
        ["/kits-and-people/{id:guid}"] =
        [
            "Certificate",
            "Scan",
            "End",
            "CutOff",
            "Password",
            "Link",
            "Mail",
            "Roles",
            "Dismiss",
            "TakeBack",
            "Forget",
        ],
        ["/account"] = ["Ask", "Passkey", "NoPasskey", "BeginCodes", "Codes", "NoCodes", "End"],
        ["/show-again"] = ["", "Ask", "Passkey"],
        ["/installation/sign-ins"] = ["End", "Revoke"],
        ["/kits-and-people/branches"] = ["", "Remove"],
        ["/kits-and-people"] = ["Kit", "Hoses", "Certificate", "Hours", "Person"],
        ["/standing"] = ["Count"],
        ["/rounds"] = ["Choose", "Plan", "Again"],
        ["/rounds/{id:guid}"] = ["Move", "Out", "Pin", "Round", "Undo", "Mend", "Drop", "Accept", "Stop"],
        ["/rules"] = ["", "Name", "Reports", "Key", "Alerts", "Import"],
        ["/rules/{id}/{version:int}/change"] = ["", "Look"],
        ["/outbox"] = ["Again", "Mood", "Seen"],
        ["/outbox/{id:guid}"] = ["Answer"],
        ["/notices"] = ["Switch"],
        ["/notices/{kind}"] = ["", "Try"],
        ["/notices/send"] = ["", "Look"],
        ["/notices/ahead"] = ["", "Phone"],
        ["/owner/{token}"] = [""],
        ["/verify/{code?}"] = ["File"],
        ["/programs"] = ["", "Revoke"],
        ["/diagnoses"] = ["", "Run"],
        ["/parts"] = ["Import", "Van", "Received"],
        ["/repairs/{id:guid}"] = ["", "Rest", "Retest"],
        ["/diagnoses/{id:guid}"] = ["Saw", "Back", "Remark", "Link", "Revoke"],
        ["/reports/{id:guid}"] = ["", "Return"],
        ["/bench/classes/{id:guid}"] = ["Assign", "Join", "Leave"],
        ["/runs/{id:guid}/verdict"] = [""],
    };

    private static string Plain(string pattern) =>
        System.Text.RegularExpressions.Regex.Replace(
            $"/{pattern.TrimStart('/')}",
            @"\{(\w+):?[^}]*(\([^)]*\))?\)?\}",
            "{$1}"
        );

    private IEnumerable<(string Pattern, string Method)> Addresses()
    {
        foreach (
            var endpoint in town.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
        )
        {
            var pattern = $"/{endpoint.RoutePattern.RawText!.TrimStart('/')}";
            if (pattern.Contains("**", StringComparison.Ordinal) || Files.Contains(pattern.Split('/', '.')[1]))
                continue;
            var methods = endpoint.Metadata.GetMetadata<HttpMethodMetadata>()?.HttpMethods ?? ["GET", "POST"];
            foreach (var method in methods.Where(m => m is "GET" or "POST"))
                yield return (pattern, method);
        }
    }

    private static string WhoMay(string method, string address)
    {
        foreach (var (m, a, who) in Doors)
        {
            var fits =
                a == address
                || (
                    a.Contains('?', StringComparison.Ordinal)
                        ? address.StartsWith(a, StringComparison.Ordinal)
                        : a != "/"
                            && !a.Contains('{', StringComparison.Ordinal)
                            && (
                                address == a
                                || address.StartsWith($"{a}/", StringComparison.Ordinal)
                                || address.StartsWith($"{a}?", StringComparison.Ordinal)
                                || address.StartsWith($"{a}.", StringComparison.Ordinal)
                            )
                );
            if ((m == "*" || m == method) && fits)
                return who;
        }

        return method == "POST" && address == "/"
            ? Field
            : throw new Xunit.Sdk.XunitException($"Nobody has said who may {method} {address}.");
    }

    [Fact]
    public async Task Each_role_is_let_in_where_its_rooms_are_and_refused_everywhere_else()
    {
        var wrong = new List<string>();
        var asked = 0;
        var ids = await town.InStore(async s => new Dictionary<string, string>
        {
            ["runs"] = (await s.Runs.FirstAsync()).Id.ToString(),
            ["reports"] = (await s.Runs.FirstAsync()).Id.ToString(),
            ["stops"] = (await s.Stops.FirstAsync()).Id.ToString(),
            ["register"] = (await s.Assemblies.FirstAsync()).Id.ToString(),
            ["attempts"] = Guid.NewGuid().ToString(),
            ["imports"] = (await s.Imports.FirstAsync()).Id.ToString(),
            ["rounds"] = Guid.NewGuid().ToString(),
            ["classes"] = (await s.Classes.FirstAsync()).Id.ToString(),
        });
        foreach (var (role, persona) in Roles)
        {
            var visitor = persona is null ? town.Nobody() : await town.As(persona);
            var token = persona is null
                ? Visitor.TokenOf(await visitor.Client.GetStringAsync("/sign-in"))
                : Visitor.TokenOf(await visitor.Client.GetStringAsync("/bench"));
            foreach (var (pattern, method) in Addresses().Distinct())
            {
                // Signing out ends the walk; a gauge wants a socket; the first account is only made once; nobody comes
                // to the code without a password.
                if (
                    pattern == "/sign-in/code"
                    || pattern.Contains("sign-out", StringComparison.Ordinal)
                    || pattern.Contains("gauge", StringComparison.Ordinal)
                    || pattern == "/first-account"
                )
                    continue;
                foreach (var handler in method == "POST" ? Handlers.GetValueOrDefault(pattern, [""]) : [""])
                {
                    var address = $"{Plain(pattern)}{(handler.Length > 0 ? $"?handler={handler}" : "")}";
                    var room = pattern.Split('/').FirstOrDefault(ids.ContainsKey) ?? "register";
                    // A command by who may goes to a thing that is not there, so that the town stays as it is.
                    var url = address
                        .Replace(
                            "{id}",
                            method == "GET" && pattern.Contains("guid", StringComparison.Ordinal) ? ids[room]
                                : method == "GET" ? "psid-standard"
                                : Guid.NewGuid().ToString(),
                            StringComparison.Ordinal
                        )
                        .Replace("{version}", "1", StringComparison.Ordinal)
                        .Replace("{year}", "1999", StringComparison.Ordinal)
                        .Replace("{chart}", "months", StringComparison.Ordinal)
                        .Replace("{secret}", new('0', 48), StringComparison.Ordinal)
                        .Replace("{mode}", "free", StringComparison.Ordinal)
                        .Replace("{code}", "404", StringComparison.Ordinal)
                        .Replace("{school}", "dc-sight-tube", StringComparison.Ordinal)
                        .Replace("{kit}", "five-valve", StringComparison.Ordinal)
                        .Replace("{what}", "due", StringComparison.Ordinal)
                        .Replace("{ending}", "csv", StringComparison.Ordinal)
                        .Replace("{name}", "verdict.schema.json", StringComparison.Ordinal);
                    using var request = new HttpRequestMessage(
                        new(method),
                        url.Replace("?}", "}", StringComparison.Ordinal)
                    );
                    if (method == "POST" && pattern.StartsWith("/api", StringComparison.Ordinal))
                        request.Content = new StringContent("{}", System.Text.Encoding.UTF8, "application/json");
                    else if (method == "POST")
                        request.Content = new FormUrlEncodedContent([new("__RequestVerificationToken", token)]);
                    if (method == "POST")
                        request.Headers.Add("X-Mordel-Token", token);
                    var answer = await visitor.Client.SendAsync(request);
                    asked++;
                    var to = answer.Headers.Location?.ToString() ?? "";
                    var refused =
                        answer.StatusCode is HttpStatusCode.Forbidden or HttpStatusCode.Unauthorized
                        || to.Contains("/problem/403", StringComparison.Ordinal)
                        || (role == "nobody" && to.Contains("/sign-in", StringComparison.Ordinal));
                    var may = WhoMay(method, address).Split(' ').Contains(role);
                    if (refused == may)
                        wrong.Add($"{role} {method} {address}: {(int)answer.StatusCode} {to}");
                    if ((int)answer.StatusCode >= 500)
                        wrong.Add($"{role} {method} {address}: {(int)answer.StatusCode}");
                }
            }
        }

        Assert.True(wrong.Count == 0, string.Join("\n", wrong));
        Assert.True(asked > 200, $"only {asked} were asked");
    }

    [Theory]
    [InlineData("pia", "Bench Sheets")]
    [InlineData("tove", "Classes Bench Sheets")]
    [InlineData("ines", "Today Register It drips Bench Sheets")]
    [InlineData("wilma", "Today Due Rounds Register It drips Classes Bench Sheets Rules Outbox Kits & people Standing")]
    public async Task The_bar_offers_the_rooms_of_the_role_and_each_of_them_opens(string persona, string rooms)
    {
        var visitor = await town.As(persona);
        var page = await visitor.Page("/bench");
        var bar = page.Split("<nav aria-label=\"Rooms\">")[1].Split("</nav>")[0];
        var links = System
            .Text.RegularExpressions.Regex.Matches(bar, "<a href=\"([^\"]+)\"[^>]*>([^<]+)</a>")
            .Select(m => (Href: m.Groups[1].Value, Name: m.Groups[2].Value))
            .ToList();
        Assert.Equal(rooms, string.Join(" ", links.Select(l => l.Name)));
        foreach (var (href, _) in links)
            await visitor.Page(href);
    }

    [Fact]
    public async Task A_learner_reads_no_customer_anywhere()
    {
        var pia = await town.As("pia");
        var places = await town.InStore(s => s.Places.Select(p => p.Address).ToListAsync());
        foreach (
            var url in new[]
            {
                "/bench",
                "/run-sheets",
                "/bench/water",
                "/bench/free",
                "/api/procedures",
                "/api/profiles",
            }
        )
        {
            var page = await pia.Page(url);
            Assert.DoesNotContain(places, p => page.Contains(p, StringComparison.Ordinal));
        }
    }
}
