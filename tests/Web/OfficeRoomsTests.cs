using System.Net;
using System.Net.Http.Headers;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;

namespace Mordel.Web.Tests;

/// <summary>The office's rooms: what is due, the register with its map, files in and out, corrections.</summary>
[Collection("second town")]
public sealed partial class OfficeRoomsTests(Town town)
{
    [Fact]
    public async Task The_day_begins_with_what_is_owed_overdue_first_with_its_reason()
    {
        var wilma = await town.As("wilma");
        var page = await wilma.Page("/due");
        var overdue = await town.InStore(s =>
            s.Assemblies.CountAsync(a => a.NextDue < DateOnly.FromDateTime(DateTime.Today))
        );
        Assert.True(overdue > 0);
        Assert.Contains($"{overdue} overdue", page, StringComparison.Ordinal);
        Assert.True(
            page.IndexOf(">Overdue<", StringComparison.Ordinal)
                < page.IndexOf("Within a month", StringComparison.Ordinal)
        );
        Assert.Contains("every 12 months for", page, StringComparison.Ordinal);
        var stuck = await wilma.Page("/due?show=stuck");
        Assert.Contains("Nobody at the desk, twice.", stuck, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_marked_set_goes_into_a_testers_round_once()
    {
        var wilma = await town.As("wilma");
        var (ids, sanna) = await town.InStore(async s =>
            (
                await s
                    .Assemblies.Where(a => a.NextDue != null && !s.Stops.Any(x => x.AssemblyId == a.Id))
                    .OrderBy(a => a.Tag)
                    .Take(2)
                    .Select(a => a.Id)
                    .ToListAsync(),
                (await s.Users.FirstAsync(u => u.UserName == "sanna")).Id
            )
        );
        Task<HttpResponseMessage> Send() =>
            wilma.PostForm(
                "/due",
                "/due",
                ("ids", $"{ids[0]}"),
                ("ids", $"{ids[1]}"),
                ("testerId", $"{sanna}"),
                ("day", DateTime.Today.AddDays(9).ToString("yyyy-MM-dd")),
                ("from", "08:00"),
                ("until", "15:00")
            );
        Assert.Contains("2 stops put into the round", await (await Send()).Content.ReadAsStringAsync());
        var again = await (await Send()).Content.ReadAsStringAsync();
        Assert.Contains("0 stops put into the round", again, StringComparison.Ordinal);
        Assert.Contains("is in a round already", again, StringComparison.Ordinal);
        await town.InStore(s => s.Stops.Where(x => ids.Contains(x.AssemblyId)).ExecuteDeleteAsync());
    }

    [Theory]
    [InlineData("type=RP", "hazard=high")]
    [InlineData("district=Millrace", "due=month")]
    [InlineData("use=fire", "order=Due")]
    [InlineData("outcome=fail", "order=LastTest")]
    [InlineData("q=mill", "type=DC")]
    [InlineData("area=-1000,-1000,2000,2000", "state=in service")]
    public async Task Filters_are_links_that_say_what_they_leave(string one, string two)
    {
        var wilma = await town.As("wilma");
        var all = Count(await wilma.Page($"/register?{one}"));
        var fewer = Count(await wilma.Page($"/register?{one}&{two}"));
        Assert.InRange(fewer, 0, all);
        Assert.InRange(all, 1, 300);
        var csv = await wilma.Client.GetStringAsync($"/shown.csv?{one}");
        Assert.Equal(all + 1, csv.TrimEnd().Split('\n').Length);
    }

    [Theory]
    [InlineData("type=nonsense&authority=x&owner=7&place=&area=1,2,3&order=99&after=%00&due=x")]
    [InlineData("after=2026-02-31 x&order=Due")]
    [InlineData("week=9999-12-31&area=-2147483648,0,2147483647,9")]
    [InlineData("week=0001-01-01&area=-2147483648,-2147483648,-2147483647,-2147483647&after=9999-12-31 x")]
    [InlineData("q=%22%27%3B--&family=%00&state=x")]
    public async Task A_filter_that_is_none_is_no_error(string query)
    {
        var wilma = await town.As("wilma");
        foreach (var page in new[] { "/register", "/register/map", "/due", "/shown.csv" })
            Assert.True((int)(await wilma.Client.GetAsync($"{page}?{query}")).StatusCode < 500, page);
    }

    [Fact]
    public async Task The_map_leads_from_everything_to_a_place()
    {
        var ines = await town.As("ines");
        var map = await ines.Client.GetStringAsync("/register/map");
        var all = await town.InStore(s =>
            s.Assemblies.CountAsync(a => a.ReplacedOn == null && (a.Place!.East != 0 || a.Place.North != 0))
        );
        Assert.Contains($"{all} assemblies here", map, StringComparison.Ordinal);
        var piece = MapLink().Match(map).Groups[1].Value;
        var closer = await ines.Client.GetStringAsync(WebUtility.HtmlDecode(piece));
        var place = PlaceLink().Match(closer + map).Groups[1].Value;
        Assert.True(Count(await ines.Page(place)) >= 1);
    }

    [Fact]
    public async Task A_file_is_brought_in_looked_at_and_undone()
    {
        var wilma = await town.As("wilma");
        using var form = new MultipartFormDataContent
        {
            {
                new StringContent(Visitor.TokenOf(await wilma.Client.GetStringAsync("/imports"))),
                "__RequestVerificationToken"
            },
            { new StringContent("A friend"), "sender" },
        };
        var file = new ByteArrayContent(
            "Our no;Serial;Type;Street\nZ-1;ZZ-100;RPZ;1 Long Lane\nZ-2;ZZ-101;tap;2 Long Lane\n"u8.ToArray()
        );
        file.Headers.ContentType = new MediaTypeHeaderValue("text/csv");
        form.Add(file, "file", "from-a-friend.csv");
        var answer = await wilma.Client.PostAsync("/imports", form);
        var at = answer.Headers.Location!.ToString();
        var columns = await wilma.Page(at);
        Assert.Contains("3 of 4 columns were recognised", columns, StringComparison.Ordinal);
        await wilma.PostForm(
            at,
            $"{at}?handler=Columns",
            ("fields", "tag"),
            ("fields", "serial"),
            ("fields", "type"),
            ("fields", "address"),
            ("authority", "Ravelsund Water Board"),
            ("rules", "psid-standard")
        );
        var seen = await Until(wilma, at, "would change the register");
        Assert.Contains("One line would change the register", seen, StringComparison.Ordinal);
        var back = await wilma.Client.GetStringAsync($"{at}?handler=Back");
        Assert.Contains("Z-2,ZZ-101,tap,2 Long Lane,", back, StringComparison.Ordinal);
        await wilma.PostForm(at, $"{at}?handler=Confirm");
        Assert.Contains("1 new", await Until(wilma, at, "was taken in"), StringComparison.Ordinal);
        var row = await town.InStore(s => s.Assemblies.SingleAsync(a => a.Tag == "Z-1"));
        Assert.Equal("Installed", row.DueCause);
        var passport = await wilma.Page($"/register/{row.Id}");
        Assert.Contains("Never tested here", passport, StringComparison.Ordinal);
        await wilma.PostForm(at, $"{at}?handler=Undo");
        Assert.Contains("Undone on", await wilma.Page(at), StringComparison.Ordinal);
        Assert.False(await town.InStore(s => s.Assemblies.AnyAsync(a => a.Tag == "Z-1")));
    }

    [Fact]
    public async Task The_authoritys_list_waits_with_its_errors()
    {
        var wilma = await town.As("wilma");
        var id = await town.InStore(s =>
            s.Imports.Where(i => i.FileName == "board-list.csv").Select(i => i.Id).SingleAsync()
        );
        var page = await wilma.Page($"/imports/{id}?lines=Wrong");
        Assert.Contains("is not a day that there was or will be", page, StringComparison.Ordinal);
        Assert.Contains("Serial number is missing", page, StringComparison.Ordinal);
        Assert.Contains(">RPZ</span> → RP", await wilma.Page($"/imports/{id}"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_correction_stands_in_the_history_with_its_author_and_is_set_back()
    {
        var wilma = await town.As("wilma");
        var row = await town.InStore(s =>
            s.Assemblies.OrderByDescending(a => a.Tag).FirstAsync(a => a.ReplacedOn == null)
        );
        var at = $"/register/{row.Id}/edit";
        var fields = Inputs().Matches(await wilma.Client.GetStringAsync(at)).Select(m => m.Groups[1].Value).ToList();
        Assert.Contains("how to find", fields);
        async Task Keep(string how)
        {
            var answer = await wilma.PostForm(at, at, ("how to find", how), ("tag", row.Tag), ("serial", row.Serial));
            Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        }

        await Keep("Under the blue lid");
        Assert.Contains("Wilma Quent: How to find it", await wilma.Page(at), StringComparison.Ordinal);
        var wrong = await wilma.PostForm(at, at, ("tag", "F-1002"), ("installed", "soon"));
        var says = WebUtility.HtmlDecode(await wrong.Content.ReadAsStringAsync());
        Assert.Contains("Tag F-1002 is already on another assembly", says, StringComparison.Ordinal);
        Assert.Contains("\"soon\" is not a day", says, StringComparison.Ordinal);
        await Keep(row.HowToFind);
    }

    [Fact]
    public async Task An_assembly_is_put_to_the_place_where_it_stands()
    {
        var wilma = await town.As("wilma");
        var row = await town.InStore(s =>
            s.Assemblies.Include(a => a.Place).OrderBy(a => a.Tag).FirstAsync(a => a.Tag == "F-2002")
        );
        var at = $"/register/{row.Id}/edit";
        var found = await wilma.Page($"{at}?to=net loft");
        var place = PlaceBox().Match(found).Groups[1].Value;
        Task<HttpResponseMessage> Put(string to, string how) =>
            wilma.PostForm(
                $"{at}?to=net loft",
                $"{at}?handler=Move",
                ("placeId", to),
                ("how", how),
                ("to", "net loft")
            );
        var wrong = WebUtility.HtmlDecode(await (await Put(place, "moved")).Content.ReadAsStringAsync());
        Assert.Contains("Moved on must be a day", wrong, StringComparison.Ordinal);
        var done = await Put(place, "wrong");
        Assert.True(done.StatusCode == HttpStatusCode.Redirect, await done.Content.ReadAsStringAsync());
        Assert.Contains($"Place: {row.Place!.Name}", await wilma.Page(at), StringComparison.Ordinal);
        var passport = $"/register/{row.Id}";
        Assert.Contains($"Place: {row.Place.Name}", await wilma.Page(passport), StringComparison.Ordinal);
        var ines = await town.As("ines");
        Assert.DoesNotContain("Who changed what", await ines.Page(passport), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Redirect, (await Put($"{row.PlaceId}", "wrong")).StatusCode);
    }

    [Fact]
    public async Task A_passport_shows_what_was_brought_in_beside_what_was_sealed_here()
    {
        var wilma = await town.As("wilma");
        var (own, failed) = await town.InStore(async s =>
            (
                await s.Assemblies.FirstAsync(a => a.Tag == "F-1001"),
                await s
                    .Assemblies.OrderBy(a => a.Tag)
                    .FirstAsync(a => a.LastOutcome == null && a.BroughtOutcome == "fail")
            )
        );
        var page = await wilma.Page($"/register/{own.Id}");
        Assert.Contains("class=\"dot line-1 elsewhere\"", page, StringComparison.Ordinal);
        Assert.Contains("Brought in: Our paper files", page, StringComparison.Ordinal);
        var other = await wilma.Page($"/register/{failed.Id}");
        Assert.Contains("tested elsewhere", other, StringComparison.Ordinal);
        Assert.Contains("class=\"cross\"", other, StringComparison.Ordinal);
        Assert.Contains("Henrik Kobber", other, StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_authority_gets_another_name_and_the_history_says_by_whom()
    {
        var wilma = await town.As("wilma");
        var board = await town.InStore(s => s.Authorities.OrderBy(a => a.Name).FirstAsync());
        Task<HttpResponseMessage> Name(string name) =>
            wilma.PostForm("/rules", "/rules?handler=Name", ("authorityId", $"{board.Id}"), ("name", name));
        Assert.Equal(HttpStatusCode.Redirect, (await Name("Board of the two rivers")).StatusCode);
        Assert.Contains(
            $"name: {board.Name}, now Board of the two rivers",
            await wilma.Page("/rules"),
            StringComparison.Ordinal
        );
        var empty = await Name(" ");
        Assert.Contains("name is missing", await empty.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Redirect, (await Name(board.Name)).StatusCode);
    }

    [Fact]
    public async Task Who_changed_people_and_kits_stands_beside_them()
    {
        var hester = await town.As("hester");
        var ines = await town.InStore(s => s.Users.FirstAsync(u => u.UserName == "ines"));
        var number = $"RG-{Guid.NewGuid():N}"[..12];
        var added = await hester.PostForm(
            "/kits-and-people",
            "/kits-and-people?handler=Certificate",
            ("accountId", $"{ines.Id}"),
            ("number", number),
            ("issuedBy", "Guild of Testers"),
            ("from", "2020-01-01"),
            ("until", "2021-01-01")
        );
        Assert.Equal(HttpStatusCode.Redirect, added.StatusCode);
        var says = $"certificate {number} of Guild of Testers, 1 Jan 2020 to 1 Jan 2021";
        Assert.Contains(says, await hester.Page($"/kits-and-people?of={ines.Id}"), StringComparison.Ordinal);
        var bram = await town.InStore(s => s.Users.FirstAsync(u => u.UserName == "bram"));
        Assert.DoesNotContain(says, await hester.Page($"/kits-and-people?of={bram.Id}"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Two_entries_that_may_be_one_are_shown_side_by_side()
    {
        var wilma = await town.As("wilma");
        var page = await wilma.Page("/register/twice");
        Assert.Contains("Serials that are alike", page, StringComparison.Ordinal);
        Assert.Contains("F-2001 stands", page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Many_are_shown_before_they_are_changed()
    {
        var wilma = await town.As("wilma");
        var ids = await town.InStore(s => s.Assemblies.OrderBy(a => a.Tag).Take(3).Select(a => a.Id).ToListAsync());
        var answer = await wilma.PostForm(
            "/register",
            "/register/many?handler=Plan",
            [("field", "hazard"), ("value", "H"), .. ids.Select(i => ("ids", $"{i}"))]
        );
        var page = await answer.Content.ReadAsStringAsync();
        Assert.Contains("Becomes", page, StringComparison.Ordinal);
        Assert.DoesNotContain(await town.InStore(s => s.Changes.Select(c => c.How).ToListAsync()), h =>
            h == "many at once"
        );
    }

    [Theory]
    [InlineData("register.csv", "tag,serial,type")]
    [InlineData("register.json", "mordel.register/1")]
    [InlineData("register.geojson", "FeatureCollection")]
    [InlineData("results.csv", "report")]
    [InlineData("due.ics", "BEGIN:VEVENT")]
    [InlineData("places.geojson", "Net loft")]
    [InlineData("kits.csv", "GB-5107")]
    [InlineData("people.csv", "RG-0417")]
    public async Task Everything_goes_out_in_open_forms(string file, string holds)
    {
        var wilma = await town.As("wilma");
        Assert.Contains(holds, await wilma.Client.GetStringAsync($"/exports/{file}"), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("kits.ics")]
    [InlineData("people.geojson")]
    [InlineData("passwords.csv")]
    [InlineData("register.exe")]
    public async Task What_cannot_go_out_so_is_not_found(string file)
    {
        var wilma = await town.As("wilma");
        Assert.Equal(HttpStatusCode.NotFound, (await wilma.Client.GetAsync($"/exports/{file}")).StatusCode);
    }

    private static async Task<string> Until(Visitor visitor, string at, string says)
    {
        for (var i = 0; i < 100; i++)
        {
            var page = await visitor.Page(at);
            if (page.Contains(says, StringComparison.Ordinal))
                return page;
            await Task.Delay(100);
        }

        throw new Xunit.Sdk.XunitException($"{at} never said \"{says}\".");
    }

    private static int Count(string page) => int.Parse(Counted().Match(page).Groups[1].Value);

    [GeneratedRegex("<strong>(\\d+) assembl")]
    private static partial Regex Counted();

    [GeneratedRegex("href=\"(/register/map\\?area=[^\"]+)\"")]
    private static partial Regex MapLink();

    [GeneratedRegex("href=\"(/register\\?place=[^\"]+)\"")]
    private static partial Regex PlaceLink();

    [GeneratedRegex("type=\"radio\" name=\"placeId\" value=\"([^\"]+)\"")]
    private static partial Regex PlaceBox();

    [GeneratedRegex("<input id=\"([^\"]+)\" name")]
    private static partial Regex Inputs();
}
