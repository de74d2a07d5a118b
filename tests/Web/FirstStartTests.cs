using System.Net;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Web.Application;

namespace Mordel.Web.Tests;

public sealed class FirstStartTests : IAsyncDisposable
{
    private readonly Host host = new(demo: false);

    private Visitor Someone() => new(host.CreateClient(new() { AllowAutoRedirect = false }), null);

    private string Code => host.Services.GetRequiredService<FirstAccountCode>().Code;

    public ValueTask DisposeAsync() => host.DisposeAsync();

    [Theory]
    [InlineData("http://127.0.0.1:5170", null)]
    [InlineData("http://localhost:5170;http://[::1]:5170", null)]
    [InlineData(null, null)]
    [InlineData("http://0.0.0.0:5170", "http://0.0.0.0:5170")]
    [InlineData("http://127.0.0.1:5170; http://*:80", "http://*:80")]
    [InlineData("http://+:80", "http://+:80")]
    [InlineData("http://[::]:80", "http://[::]:80")]
    [InlineData("http://tests.example", "http://tests.example")]
    public void The_demonstration_listens_on_this_machine_alone(string? addresses, string? refused) =>
        Assert.Equal(refused, Mordel.Web.Hosting.Launch.Elsewhere(addresses));

    [Fact]
    public async Task A_fresh_installation_has_nobody_and_asks_for_its_first_account()
    {
        await using var bare = new Host(demo: false, bare: true);
        var visitor = new Visitor(bare.CreateClient(new() { AllowAutoRedirect = false }), null);
        Assert.Equal(0, await bare.InStore(s => s.Users.CountAsync()));
        Assert.Equal("/first-account", (await visitor.Client.GetAsync("/sign-in")).Headers.Location!.ToString());
        Assert.Contains("no default password", await visitor.Page("/first-account"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_weak_password_is_refused_in_words_and_nothing_is_made()
    {
        var visitor = Someone();
        var answer = await visitor.PostForm(
            "/first-account",
            "/first-account",
            ("code", Code),
            ("fullName", "Moa Ferrin"),
            ("userName", "moa"),
            ("password", "short")
        );
        Assert.Contains("at least 12 characters", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(0, await host.InStore(s => s.Users.CountAsync()));
    }

    [Fact]
    public async Task The_first_account_owns_the_installation_and_closes_the_door_behind_it()
    {
        var visitor = Someone();
        var made = await visitor.PostForm(
            "/first-account",
            "/first-account",
            ("code", Code),
            ("fullName", "Moa Ferrin"),
            ("userName", "moa"),
            ("password", "a long enough phrase")
        );
        Assert.Equal("/", made.Headers.Location!.ToString());
        Assert.Contains("Moa Ferrin", await visitor.Page("/"), StringComparison.Ordinal);
        Assert.Contains(
            "Nothing stands in the register",
            await visitor.Page("/register"),
            StringComparison.OrdinalIgnoreCase
        );
        var other = Someone();
        Assert.Equal("/sign-in", (await other.Client.GetAsync("/first-account")).Headers.Location!.ToString());
        Assert.DoesNotContain("persona", await other.Page("/sign-in"), StringComparison.Ordinal);
        var wrong = await other.PostForm("/sign-in", "/sign-in", ("userName", "moa"), ("password", "not the phrase"));
        Assert.Contains("do not fit together", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await other.PostForm("/sign-in", "/sign-in", ("userName", "moa"), ("password", "a long enough phrase"))
            ).StatusCode
        );
    }

    [Theory]
    [InlineData("")]
    [InlineData("AAAAA-AAAAA")]
    public async Task Without_the_code_that_was_printed_nobody_becomes_the_owner(string code)
    {
        var visitor = Someone();
        var answer = await visitor.PostForm(
            "/first-account",
            "/first-account",
            ("code", code),
            ("fullName", "Moa Ferrin"),
            ("userName", "moa"),
            ("password", "a long enough phrase")
        );
        Assert.Contains("That is not the code", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(0, await host.InStore(s => s.Users.CountAsync()));
    }

    [Fact]
    public async Task Six_at_once_make_one_owner()
    {
        var visitors = Enumerable.Range(0, 6).Select(_ => Someone()).ToList();
        foreach (var visitor in visitors)
            await visitor.Page("/first-account");
        var answers = await Task.WhenAll(
            visitors.Select(
                (v, i) =>
                    v.PostForm(
                        "/first-account",
                        "/first-account",
                        ("code", Code.ToLowerInvariant()),
                        ("fullName", $"Owner {i}"),
                        ("userName", $"owner{i}"),
                        ("password", "a long enough phrase")
                    )
            )
        );
        Assert.All(answers, a => Assert.Equal(HttpStatusCode.Redirect, a.StatusCode));
        Assert.Single(answers, a => a.Headers.Location!.ToString() == "/");
        Assert.Equal(
            (1, 2),
            await host.InStore(async s => (await s.Users.CountAsync(), await s.UserRoles.CountAsync()))
        );
    }

    [Fact]
    public async Task The_application_says_that_it_is_well_and_that_it_is_not_when_a_seal_is_broken()
    {
        Assert.Equal("Healthy", await Someone().Page("/health"));
        await host.InStore(async s =>
        {
            s.AlarmRows.Add(
                new()
                {
                    Id = Guid.NewGuid(),
                    Subject = "run x",
                    Says = "The seal is not as it was made.",
                }
            );
            return await s.SaveChangesAsync();
        });
        Assert.Equal("Degraded", await Someone().Page("/health"));
    }

    private static readonly (string, string)[] Valve =
    [
        ("Tag", "A-1"),
        ("Type", "DC"),
        ("Hazard", "low"),
        ("Make", "Corvane"),
        ("Model", "Twin 40"),
        ("Size", "1 in"),
        ("Serial", "C-77"),
        ("Serves", "kitchen"),
        ("Location", "Cellar"),
        ("InstalledOn", "2029-05-01"),
        ("Flow", "Upward"),
        ("Protection", "containment"),
        ("PlaceName", "Mill inn"),
        ("Address", "1 Weir Street"),
        ("District", "Millrace"),
        ("Contact", "Landlady"),
        ("Access", "Back door"),
        ("OwnerName", "Mill Inns"),
        ("OwnerAddress", "2 Weir Street"),
        ("OwnerPhone", "0199 100 001"),
        ("Authority", "Water Board"),
        ("Profile", "psid-standard"),
    ];

    [Fact]
    public async Task An_empty_installation_can_be_filled_by_hand_up_to_a_signed_report()
    {
        var visitor = Someone();
        await visitor.PostForm(
            "/first-account",
            "/first-account",
            ("code", Code),
            ("fullName", "Moa Ferrin"),
            ("userName", "moa"),
            ("password", "a long enough phrase")
        );
        // Before there is anything, every room says so.
        foreach (var room in Mordel.Web.Application.Rooms.All)
            await visitor.Page(room.Href);
        Assert.Contains("No tests to tell of", await visitor.Page("/standing"), StringComparison.Ordinal);
        Assert.Contains("Nothing has been signed here yet", await visitor.Page("/exports"), StringComparison.Ordinal);
        var me = await host.InStore(s => s.Users.FirstAsync());
        var today = DateOnly.FromDateTime(DateTime.Now).ToString("yyyy-MM-dd");
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await visitor.PostForm(
                    "/kits-and-people",
                    "/kits-and-people?handler=Kit",
                    ("keeperId", me.Id.ToString()),
                    ("kind", "three-valve"),
                    ("make", "Gallibrand"),
                    ("model", "G3"),
                    ("serial", "K-9"),
                    ("unit", "psid"),
                    ("resolution", "0.1"),
                    ("accuracy", "0.2"),
                    ("calibratedOn", today),
                    ("calibratedBy", "Bench")
                )
            ).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await visitor.PostForm(
                    "/kits-and-people",
                    "/kits-and-people?handler=Certificate",
                    ("accountId", me.Id.ToString()),
                    ("number", "C-1"),
                    ("issuedBy", "Guild"),
                    ("from", today),
                    ("until", "2099-01-01")
                )
            ).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await visitor.PostForm(
                    "/kits-and-people",
                    "/kits-and-people?handler=Person",
                    ("fullName", "Dag Ullen"),
                    ("userName", "dag"),
                    ("role", "office"),
                    ("password", "another long phrase")
                )
            ).StatusCode
        );
        var passport = (await visitor.PostForm("/register/new", "/register/new", Valve)).Headers.Location!.ToString();
        Assert.Equal(
            "/",
            (
                await visitor.PostForm(
                    passport,
                    passport,
                    ("testerId", me.Id.ToString()),
                    ("day", today),
                    ("from", "09:00"),
                    ("until", "11:00"),
                    ("special", "Ring twice.")
                )
            ).Headers.Location!.ToString()
        );
        // The owner sees every round; the stop is theirs as a tester.
        var stop = await host.InStore(s => s.Stops.Select(x => x.Id).FirstAsync());
        Assert.Contains("Ring twice.", await visitor.Page($"/stops/{stop}"), StringComparison.Ordinal);
        var begun = await visitor.PostForm($"/stops/{stop}", $"/stops/{stop}");
        var run = await new RunInHand(
            new(visitor.Client, me),
            Guid.Parse(begun.Headers.Location!.ToString().Split('/')[^1])
        ).Tested();
        Assert.Equal($"/reports/{run.Id}", (await run.Sign()).Headers.Location!.ToString());
        Assert.Matches("Seal number [0-9]+ holds", await visitor.Page($"/reports/{run.Id}"));
    }

    [Fact]
    public async Task A_password_is_changed_by_its_keeper_and_given_anew_by_the_owner()
    {
        var (owner, dag) = (Someone(), Someone());
        await owner.PostForm(
            "/first-account",
            "/first-account",
            ("code", Code),
            ("fullName", "Moa Ferrin"),
            ("userName", "moa"),
            ("password", "a long enough phrase")
        );
        const string people = "user,name,roles,certificate,class,issued by,authority,types,valid from,valid until\n";
        using var form = new MultipartFormDataContent
        {
            { new StringContent(Visitor.TokenOf(await owner.Page("/imports"))), "__RequestVerificationToken" },
            { new StringContent($"{people}dag,Dag Ullen,office,,,,,,,\n"), "file", "people.csv" },
        };
        var brought = await owner.Client.PostAsync("/imports?handler=Back", form);
        Assert.Matches(@"It brought\s+1 new people", await brought.Content.ReadAsStringAsync());
        async Task<bool> Enters(string password) =>
            (await dag.PostForm("/sign-in", "/sign-in", ("userName", "dag"), ("password", password))).StatusCode
            == HttpStatusCode.Redirect;
        Assert.False(await Enters(""));
        var id = await host.InStore(s => s.Users.Where(u => u.UserName == "dag").Select(u => u.Id).SingleAsync());
        var page = $"/kits-and-people/{id}";
        var weak = await owner.PostForm(page, $"{page}?handler=Password", ("wanted", "short"));
        Assert.Contains("12", await weak.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        await owner.PostForm(page, $"{page}?handler=Password", ("wanted", "given by the owner"));
        Assert.True(await Enters("given by the owner"));
        (string, string)[] wanted = [("wanted", "kept by himself alone"), ("again", "kept by himself alone")];
        var wrong = await dag.PostForm("/password", "/password", [("current", "a guess"), .. wanted]);
        Assert.Contains("That is not your password", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var changed = await dag.PostForm("/password", "/password", [("current", "given by the owner"), .. wanted]);
        Assert.Equal("/password?changed=true", changed.Headers.Location!.ToString());
        // Here he goes on; elsewhere the new one is asked for.
        Assert.Contains("It was changed", await dag.Page("/password?changed=true"), StringComparison.Ordinal);
        dag = Someone();
        Assert.False(await Enters("given by the owner"));
        Assert.True(await Enters("kept by himself alone"));
    }

    [Fact]
    public async Task A_form_names_every_field_it_lacks_and_keeps_what_was_typed()
    {
        var visitor = Someone();
        await visitor.PostForm(
            "/first-account",
            "/first-account",
            ("code", Code),
            ("fullName", "Moa Ferrin"),
            ("userName", "moa"),
            ("password", "a long enough phrase")
        );
        var page = WebUtility.HtmlDecode(
            await (
                await visitor.PostForm(
                    "/register/new",
                    "/register/new",
                    ("Tag", "A-1"),
                    ("Type", "DC"),
                    ("Hazard", "low"),
                    ("Serial", "C-77"),
                    ("InstalledOn", "no day")
                )
            ).Content.ReadAsStringAsync()
        );
        foreach (
            var wanted in new[]
            {
                "Make is missing.",
                "Owner is missing.",
                "Day of installation must be a day.",
                "value=\"C-77\"",
                "href=\"#Make\"",
            }
        )
            Assert.Contains(wanted, page, StringComparison.Ordinal);
        Assert.Equal(0, await host.InStore(s => s.Assemblies.CountAsync()));
        var kit = WebUtility.HtmlDecode(
            await (
                await visitor.PostForm(
                    "/kits-and-people",
                    "/kits-and-people?handler=Kit",
                    ("keeperId", "nobody"),
                    ("resolution", "-1")
                )
            ).Content.ReadAsStringAsync()
        );
        foreach (
            var wanted in new[]
            {
                "Make is missing.",
                "Resolution must be a number from 0.01 to 10.",
                "Choose who has the kit.",
            }
        )
            Assert.Contains(wanted, kit, StringComparison.Ordinal);
        await visitor.PostForm("/register/new", "/register/new", Valve);
        Assert.Contains(
            "already on another assembly",
            WebUtility.HtmlDecode(
                await (await visitor.PostForm("/register/new", "/register/new", Valve)).Content.ReadAsStringAsync()
            ),
            StringComparison.Ordinal
        );
    }
}
