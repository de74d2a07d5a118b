using System.Net;
using Microsoft.EntityFrameworkCore;

namespace Mordel.Web.Tests;

/// <summary>
/// Branches as the office sees them. The town has none; a test makes them, and takes them away again.
/// </summary>
[Collection("town")]
public sealed class BranchRoomsTests(Town town) : IAsyncLifetime
{
    private string harbour = "";
    private string other = "";

    public async Task InitializeAsync()
    {
        var (districts, wilma) = await town.InStore(async s =>
            (
                await s.Places.Select(p => p.District).Distinct().OrderBy(d => d).Take(2).ToListAsync(),
                await s.Users.Where(u => u.UserName == "wilma").Select(u => u.Id).SingleAsync()
            )
        );
        (harbour, other) = (districts[0], districts[1]);
        var hester = await town.As("hester");
        await Make(hester, ("name", "Seaward"), ("districts", harbour), ("people", $"{wilma}"));
        await Make(hester, ("name", "Inland"), ("districts", other));
    }

    public async Task DisposeAsync()
    {
        var hester = await town.As("hester");
        foreach (var id in await town.InStore(s => s.Branches.Select(b => b.Id).ToListAsync()))
            await hester.PostForm(
                "/kits-and-people/branches",
                "/kits-and-people/branches?handler=Remove",
                ("id", $"{id}")
            );
        Assert.Equal(0, await town.InStore(s => s.BranchPeople.CountAsync()));
    }

    private static async Task Make(Visitor who, params (string, string)[] fields) =>
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await who.PostForm("/kits-and-people/branches", "/kits-and-people/branches", fields)).StatusCode
        );

    private Task<Guid> In(string district) =>
        town.InStore(s =>
            s.Assemblies.Where(a => a.Place!.District == district && a.ReplacedOn == null)
                .OrderBy(a => a.Tag)
                .Select(a => a.Id)
                .FirstAsync()
        );

    private Task<string> Id(string name) =>
        town.InStore(async s => $"{await s.Branches.Where(b => b.Name == name).Select(b => b.Id).SingleAsync()}");

    [Fact]
    public async Task Lists_begin_with_the_own_branch_and_one_link_leads_to_all()
    {
        var wilma = await town.As("wilma");
        var count = await town.InStore(s =>
            s.Assemblies.CountAsync(a => a.Place!.District == harbour && a.ReplacedOn == null)
        );
        var register = await wilma.Page("/register");
        Assert.Contains($"{count} assembl", register, StringComparison.Ordinal);
        Assert.Contains("Branch: Seaward, show all", register, StringComparison.Ordinal);
        Assert.DoesNotContain("Seaward, show all", await wilma.Page("/register?branch=all"), StringComparison.Ordinal);
        // What is not in one's own branch is found by one link more.
        var tag = await town.InStore(s =>
            s.Assemblies.Where(a => a.Place!.District == other && a.ReplacedOn == null).Select(a => a.Tag).FirstAsync()
        );
        Assert.Contains("in all branches", await wilma.Page($"/register?q={tag}"), StringComparison.Ordinal);
        Assert.Contains(tag, await wilma.Page($"/register?q={tag}&branch=all"), StringComparison.Ordinal);
        var csv = await wilma.Client.GetStringAsync($"/shown.csv?branch={await Id("Seaward")}");
        Assert.Equal(count + 1, csv.Split('\n', StringSplitOptions.RemoveEmptyEntries).Length);
        foreach (var page in new[] { "/", "/due", "/rounds", "/outbox", "/kits-and-people", "/standing?by=branch" })
            Assert.Contains("Seaward", await wilma.Page(page), StringComparison.Ordinal);
        // Whatever list is shown, the own testers go; there are none in it yet.
        Assert.DoesNotContain("Ines Tarrow</option>", await wilma.Page("/due?branch=all"), StringComparison.Ordinal);
        Assert.Contains(
            "Ines Tarrow</option>",
            await (await town.As("hester")).Page("/due?branch=all"),
            StringComparison.Ordinal
        );
        // A tester looks for anything anywhere.
        Assert.DoesNotContain(
            "Seaward, show all",
            await (await town.As("ines")).Page("/register"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task What_belongs_to_another_branch_is_seen_and_offers_no_door_to_change_it()
    {
        var wilma = await town.As("wilma");
        var (mine, theirs) = (await In(harbour), await In(other));
        Assert.Contains($"/register/{mine}/edit", await wilma.Page($"/register/{mine}"), StringComparison.Ordinal);
        var page = await wilma.Page($"/register/{theirs}");
        Assert.Contains("Branch: Inland. Its own desk changes this; you see it.", page, StringComparison.Ordinal);
        Assert.DoesNotContain($"/register/{theirs}/edit", page, StringComparison.Ordinal);
        // Who goes there all the same is told why not, and nothing is changed.
        var answer = await wilma.PostForm(
            $"/register/{mine}/edit",
            $"/register/{theirs}/edit?handler=Stuck",
            ("reason", "no access"),
            ("note", "")
        );
        Assert.Equal(HttpStatusCode.Forbidden, answer.StatusCode);
        Assert.Contains(
            "belongs to the branch Inland. You work for Seaward. Nothing was changed.",
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()),
            StringComparison.Ordinal
        );
        Assert.Null(
            await town.InStore(s => s.Assemblies.Where(a => a.Id == theirs).Select(a => a.Stuck).SingleAsync())
        );
        Assert.Contains(
            $"/register/{theirs}/edit",
            await (await town.As("hester")).Page($"/register/{theirs}"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Who_works_for_a_branch_sees_what_each_has_and_makes_none()
    {
        var wilma = await town.As("wilma");
        var page = await wilma.Page("/kits-and-people/branches");
        Assert.Contains("2 branches", page, StringComparison.Ordinal);
        Assert.Contains("Who works for all says what each has", page, StringComparison.Ordinal);
        Assert.DoesNotContain("Make a branch", page, StringComparison.Ordinal);
        Assert.Contains($"Hester Fenn (branch): district {other}: Inland", page, StringComparison.Ordinal);
        Assert.Contains(
            $"district {other}: Inland",
            await (await town.As("hester")).Page("/installation/audit?what=branch"),
            StringComparison.Ordinal
        );
        var answer = await wilma.PostForm(
            "/kits-and-people",
            "/kits-and-people/branches",
            ("name", "Mine alone"),
            ("districts", other)
        );
        Assert.Equal(HttpStatusCode.Forbidden, answer.StatusCode);
        Assert.Equal(2, await town.InStore(s => s.Branches.CountAsync()));
    }

    [Fact]
    public async Task A_name_that_is_taken_is_said_and_what_was_marked_stays_marked()
    {
        var hester = await town.As("hester");
        var answer = await hester.PostForm(
            "/kits-and-people/branches",
            "/kits-and-people/branches",
            ("name", "Seaward"),
            ("districts", other)
        );
        var page = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        Assert.Contains("There is a branch Seaward already.", page, StringComparison.Ordinal);
        Assert.Matches($"value=\"{other}\"\\s+checked", page);
    }

    [Fact]
    public async Task A_program_asks_for_the_runs_of_a_branch()
    {
        var hester = await town.As("hester");
        var all = await hester.Page("/api/runs");
        var some = await hester.Page($"/api/runs?branch={await Id("Inland")}");
        Assert.InRange(some.Length, 2, all.Length - 1);
        await hester.Page("/api/runs?branch=inland", HttpStatusCode.BadRequest);
    }
}
