using System.Net;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;

namespace Mordel.Web.Tests;

[Collection("town")]
public partial class PagesTests(Town town)
{
    private static readonly string[] Rooms =
    [
        "/",
        "/register",
        "/run-sheets",
        "/run-sheets/dc-sight-tube/three-valve",
        "/run-sheets/rp-relief-first",
        "/run-sheets/svb-static-first/two-valve",
        "/programs",
    ];
    private static readonly string[] DeskRooms = ["/rules", "/kits-and-people", "/classes", "/register/new"];

    [Theory]
    [InlineData("ines")]
    [InlineData("odd")]
    [InlineData("wilma")]
    [InlineData("hester")]
    public async Task Every_room_opens_and_defers_to_local_code(string who)
    {
        var visitor = await town.As(who);
        foreach (var room in who is "wilma" or "hester" ? [.. Rooms, .. DeskRooms] : Rooms)
            Assert.Contains("local plumbing code", await visitor.Page(room), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_learner_starts_at_the_bench() =>
        Assert.Equal("/bench", (await (await town.As("pia")).Client.GetAsync("/")).Headers.Location!.ToString());

    [Fact]
    public async Task Today_shows_the_next_stop_what_to_bring_and_the_kits_calibration()
    {
        var page = await (await town.As("ines")).Page("/");
        foreach (
            var wanted in new[]
            {
                "water may be off",
                "sight tube",
                "bleed-off tee",
                "five-valve kit GB-5107",
                "calibration is due in 12 days",
                "Open the stop",
            }
        )
            Assert.Contains(wanted, page, StringComparison.Ordinal);
        Assert.Contains(
            "has no certificate for a DC",
            await (await town.As("bram")).Page("/"),
            StringComparison.Ordinal
        );
        Assert.Contains("out of calibration", await (await town.As("sanna")).Page("/"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Nothing_from_outside_and_nothing_inline_is_in_a_page()
    {
        var visitor = await town.As("ines");
        var run = await town.Begin("ines");
        foreach (var url in Rooms.Append($"/runs/{run.Id}").Append("/sign-in"))
        {
            var answer = await visitor.Client.GetAsync(url);
            var html = await answer.Content.ReadAsStringAsync();
            Assert.Contains(
                "default-src 'none'",
                answer.Headers.GetValues("Content-Security-Policy").Single(),
                StringComparison.Ordinal
            );
            Assert.DoesNotMatch(InlineScript(), html);
            Assert.DoesNotMatch(InlineStyle(), html);
            Assert.All(Address().Matches(html).Select(m => m.Groups[1].Value), a =>
                Assert.False(
                    a.StartsWith("http", StringComparison.Ordinal) || a.StartsWith("//", StringComparison.Ordinal),
                    a
                )
            );
        }
    }

    // Data is no script, nor is the map of scripts, whose text the policy names (KeptFilesTests).
    [GeneratedRegex("<script(?![^>]*(src=|application/json|type=\"importmap\"))|\\son[a-z]+=\"")]
    private static partial Regex InlineScript();

    [GeneratedRegex("<style|\\sstyle=\"")]
    private static partial Regex InlineStyle();

    [GeneratedRegex("(?:src|href|action)=\"([^\"]+)\"")]
    private static partial Regex Address();

    [Theory]
    [InlineData("F-1010")]
    [InlineData("ferry kiosk")]
    [InlineData("old quay kiosk")]
    public async Task The_register_finds_by_anything(string words) =>
        Assert.Contains(
            "Ferry steps",
            await (await town.As("ines")).Page($"/register?q={Uri.EscapeDataString(words)}"),
            StringComparison.Ordinal
        );

    [Fact]
    public async Task What_matches_nothing_says_so_and_what_to_try() =>
        Assert.Contains(
            "Nothing matches",
            await (await town.As("ines")).Page("/register?q=%25zz_"),
            StringComparison.Ordinal
        );

    [Theory]
    [InlineData("/stops/7d444840-9dc0-11d1-b245-5ffdce74fad2")]
    [InlineData("/runs/7d444840-9dc0-11d1-b245-5ffdce74fad2")]
    [InlineData("/runs/7d444840-9dc0-11d1-b245-5ffdce74fad2/verdict")]
    [InlineData("/reports/7d444840-9dc0-11d1-b245-5ffdce74fad2")]
    [InlineData("/reports/7d444840-9dc0-11d1-b245-5ffdce74fad2/pdf")]
    [InlineData("/register/7d444840-9dc0-11d1-b245-5ffdce74fad2")]
    [InlineData("/run-sheets/six-valve")]
    [InlineData("/run-sheets/dc-sight-tube/six-valve")]
    [InlineData("/stops/not-an-id")]
    [InlineData("/nowhere")]
    public async Task What_is_not_there_is_said_in_words(string url) =>
        Assert.Contains(
            "Nothing here",
            await (await town.As("ines")).Page(url, HttpStatusCode.NotFound),
            StringComparison.Ordinal
        );

    [Fact]
    public async Task Another_testers_stop_is_not_in_my_round()
    {
        var stop = await town.NewStop("ines");
        await (await town.As("bram")).Page($"/stops/{stop}", HttpStatusCode.NotFound);
        var office = await town.As("wilma");
        Assert.Contains("Only the tester of this round", await office.Page($"/stops/{stop}"), StringComparison.Ordinal);
        await office.PostForm($"/stops/{stop}", $"/stops/{stop}");
        Assert.False(await town.InStore(s => s.Runs.AnyAsync(r => r.StopId == stop)));
    }

    [Theory]
    [InlineData("ines", "/register/new")]
    [InlineData("pia", "/register/new")]
    public async Task Only_the_desk_adds_to_the_register(string who, string url) =>
        Assert.StartsWith(
            "/problem/403",
            (await (await town.As(who)).Client.GetAsync(url)).Headers.Location!.PathAndQuery,
            StringComparison.Ordinal
        );

    [Fact]
    public async Task Only_the_owner_adds_people_and_only_the_desk_kits_and_stops()
    {
        var (before, kits, stops) = await town.InStore(async s =>
            (await s.Users.CountAsync(), await s.Kits.CountAsync(), await s.Stops.CountAsync())
        );
        var assembly = await town.InStore(s => s.Assemblies.Select(a => a.Id).FirstAsync());
        await (await town.As("wilma")).PostForm(
            "/kits-and-people",
            "/kits-and-people?handler=Person",
            ("fullName", "X"),
            ("userName", "xx"),
            ("role", "owner-of-the-installation"),
            ("password", "a long enough phrase")
        );
        var ines = await town.As("ines");
        await ines.PostForm(
            "/bench",
            "/kits-and-people?handler=Kit",
            ("keeperId", ines.Account.Id.ToString()),
            ("kind", "five-valve"),
            ("make", "m"),
            ("model", "m"),
            ("serial", "s"),
            ("unit", "psid"),
            ("resolution", "0.1"),
            ("accuracy", "0.2"),
            ("calibratedOn", "2030-01-01"),
            ("calibratedBy", "me")
        );
        await ines.PostForm(
            $"/register/{assembly}",
            $"/register/{assembly}",
            ("testerId", ines.Account.Id.ToString()),
            ("day", "2031-01-01"),
            ("from", "09:00"),
            ("until", "10:00")
        );
        Assert.Equal(
            (before, kits, stops),
            await town.InStore(async s =>
                (await s.Users.CountAsync(), await s.Kits.CountAsync(), await s.Stops.CountAsync())
            )
        );
    }

    [Fact]
    public async Task A_colleagues_signed_report_can_be_read_by_testers()
    {
        var signed = await town.InStore(s =>
            s.Runs.Include(r => r.Tester)
                .Where(r => r.SignedAt != null && r.Tester!.UserName == "ines")
                .Select(r => r.Id)
                .FirstAsync()
        );
        Assert.Matches("Seal number [0-9]+ holds", await (await town.As("odd")).Page($"/reports/{signed}"));
    }

    [Fact]
    public async Task Nothing_that_a_client_can_send_breaks_the_server()
    {
        var run = await town.Begin("ines");
        string[] paths =
        [
            "/",
            "/register",
            "/register?q=",
            $"/runs/{run.Id}",
            $"/runs/{run.Id}/verdict",
            $"/reports/{run.Id}",
            $"/api/runs/{run.Id}/view",
            $"/api/runs/{run.Id}/weigh?step=cv1.read&value=",
            $"/api/runs/{run.Id}/entries",
            "/sign-in",
            "/sign-in?handler=As",
            "/first-account",
            "/problem/500",
            "/problem/9999999",
            "/formats/",
            "/run-sheets/",
            "/register/new",
            "/kits-and-people?handler=Kit",
        ];
        HttpMethod[] methods = [HttpMethod.Get, HttpMethod.Post, HttpMethod.Put, HttpMethod.Delete, HttpMethod.Head];
        var random = new Random(11);
        for (var i = 0; i < 400; i++)
        {
            var tail =
                random.Next(3) == 0
                    ? Uri.EscapeDataString(
                        new string([
                            .. Enumerable.Range(0, random.Next(1, 40)).Select(_ => (char)random.Next(1, 0x2fff)),
                        ])
                    )
                    : "";
            var path = paths[random.Next(paths.Length)] + tail;
            if (path.StartsWith("/problem/500", StringComparison.Ordinal))
                continue;
            using var request = new HttpRequestMessage(methods[random.Next(methods.Length)], path);
            if (request.Method == HttpMethod.Post || request.Method == HttpMethod.Put)
                request.Content = new ByteArrayContent([
                    .. Enumerable.Range(0, random.Next(0, 300)).Select(_ => (byte)random.Next(256)),
                ])
                {
                    Headers =
                    {
                        {
                            "Content-Type",
                            random.Next(2) == 0 ? "application/json" : "application/x-www-form-urlencoded"
                        },
                    },
                };
            var status = (int)(await run.Visitor.Client.SendAsync(request)).StatusCode;
            Assert.True(status < 500, $"{request.Method} {path}: {status}");
        }
    }

    [Theory]
    [InlineData("\u0000")]
    [InlineData("{\"entries\":[{}]}")]
    [InlineData("{\"entries\":[null]}")]
    [InlineData("{\"entries\":[{\"id\":\"\\ud800\"}]}")]
    [InlineData("[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[")]
    public async Task Damaged_batches_are_refused_with_their_place(string body)
    {
        var run = await town.Begin("ines");
        Assert.NotEmpty(await run.Refused(HttpStatusCode.BadRequest, body));
    }
}
