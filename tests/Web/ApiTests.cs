using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;

namespace Mordel.Web.Tests;

/// <summary>What a program can do with a key, and what it cannot.</summary>
[Collection("town")]
public class ApiTests(Town town)
{
    private async Task<(HttpClient Client, string Key)> Program(string who, string scope)
    {
        var visitor = await town.As(who);
        var page = WebUtility.HtmlDecode(
            await (
                await visitor.PostForm(
                    "/programs",
                    "/programs",
                    ("name", $"test {Guid.NewGuid():N}"),
                    ("scope", scope),
                    ("days", "30")
                )
            ).Content.ReadAsStringAsync()
        );
        var key = Regex.Match(page, "data-key>([^<]+)<").Groups[1].Value;
        Assert.StartsWith("mordel_", key, StringComparison.Ordinal);
        var client = town.Nobody().Client;
        client.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", key);
        return (client, key);
    }

    [Fact]
    public async Task A_key_to_read_adds_no_picture_to_a_repair_and_reads_its_log()
    {
        var job = await town.InStore(s => s.Repairs.Where(r => r.RetestId != null).Select(r => r.Id).FirstAsync());
        var (client, _) = await Program("ines", "read");
        using var form = new MultipartFormDataContent
        {
            { new StringContent(Guid.NewGuid().ToString()), "entry" },
            { new StringContent("CV1"), "of" },
            {
                new ByteArrayContent(DemoData.DrawnPhotos.Disc(Core.Diagnosis.OpenedFinding.Debris, 1)),
                "photo",
                "x.png"
            },
        };
        Assert.Equal(HttpStatusCode.Forbidden, (await client.PostAsync($"/api/repairs/{job}/photos", form)).StatusCode);
        var log = await client.GetFromJsonAsync<JsonElement>($"/api/repairs/{job}/log");
        Assert.Equal("agreed", log[0].GetProperty("kind").GetString());
    }

    [Fact]
    public async Task A_key_to_read_sees_runs_procedures_profiles_and_verdicts()
    {
        var run = await town.Begin("ines");
        var (client, _) = await Program("ines", "read");
        var runs = await client.GetFromJsonAsync<JsonElement>("/api/runs");
        Assert.Contains(runs.EnumerateArray(), r => r.GetProperty("id").GetGuid() == run.Id);
        Assert.Equal(8, (await client.GetFromJsonAsync<JsonElement>("/api/procedures")).GetArrayLength());
        Assert.Superset(
            new HashSet<string?>(["psid-standard", "psid-strict", "psid-check-first", "kpa-isolation-first"]),
            (await client.GetFromJsonAsync<JsonElement>("/api/profiles"))
                .EnumerateArray()
                .Select(p => p.GetProperty("profile").GetString())
                .ToHashSet()
        );
        Assert.Equal(
            "mordel.profile/1",
            (await client.GetFromJsonAsync<JsonElement>("/api/profiles/psid-strict")).GetProperty("format").GetString()
        );
        Assert.Equal(
            "three-valve",
            (await client.GetFromJsonAsync<JsonElement>("/api/procedures/rp-check-first?kit=three-valve"))
                .GetProperty("kit")
                .GetString()
        );
        Assert.Equal(
            "mordel.verdict/1",
            (await client.GetFromJsonAsync<JsonElement>($"/api/runs/{run.Id}/verdict"))
                .GetProperty("format")
                .GetString()
        );
    }

    [Fact]
    public async Task A_record_is_judged_as_on_the_command_line()
    {
        var (client, _) = await Program("ines", "read");
        using var body = new StringContent(
            """{"format":"mordel.test-record/1","assembly":{"type":"RP"},"profile":"psid-standard","results":{"relief-opening":{"value":2.3,"unit":"psid"},"check-1":{"value":5.2,"unit":"psid"},"check-2-back-pressure":"tight"}}""",
            Encoding.UTF8,
            "application/json"
        );
        var answer = await (await client.PostAsync("/api/verdicts", body)).Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal("fail", answer.GetProperty("overall").GetString());
        using var bad = new StringContent("{}", Encoding.UTF8, "application/json");
        var refused = await client.PostAsync("/api/verdicts", bad);
        // Problem details for who knows them, and beside them what every answer of the API has.
        Assert.Equal(
            (HttpStatusCode.BadRequest, "application/problem+json"),
            (refused.StatusCode, refused.Content.Headers.ContentType!.MediaType)
        );
        var problem = await refused.Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal(400, problem.GetProperty("status").GetInt32());
        Assert.Equal(problem.GetProperty("error").GetString(), problem.GetProperty("title").GetString());
        Assert.All(problem.GetProperty("faults").EnumerateArray(), f =>
            Assert.NotEqual("", f.GetProperty("says").GetString())
        );
        using var scenario = new StringContent(
            """{"format":"mordel.scenario/1","assembly":{"type":"DC"},"kit":"two-valve","faults":[{"part":"cv1","fault":"leaks"}]}""",
            Encoding.UTF8,
            "application/json"
        );
        var outcome = await (
            await client.PostAsync("/api/simulations?needle=5", scenario)
        ).Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal(
            ("cv1-leaks", "fail"),
            (
                outcome.GetProperty("findings")[0].GetString(),
                outcome.GetProperty("verdict").GetProperty("overall").GetString()
            )
        );
        Assert.True(outcome.GetProperty("needle").GetArrayLength() > 50);
        using var bent = new StringContent(
            """{"format":"mordel.scenario/1","assembly":{"type":"DC"},"kit":"spoon"}""",
            Encoding.UTF8,
            "application/json"
        );
        Assert.Equal(HttpStatusCode.BadRequest, (await client.PostAsync("/api/simulations", bent)).StatusCode);
        using var often = new StringContent("{}", Encoding.UTF8, "application/json");
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await client.PostAsync("/api/simulations?needle=0.001", often)).StatusCode
        );
        using var latin = new ByteArrayContent([0x22, 0xE9, 0x22])
        {
            Headers = { ContentType = new("application/json") },
        };
        Assert.Equal(HttpStatusCode.BadRequest, (await client.PostAsync("/api/simulations", latin)).StatusCode);
    }

    [Fact]
    public async Task A_key_to_read_adds_nothing_and_a_key_to_write_adds_to_its_owners_runs_only()
    {
        var (mine, other) = (await town.Begin("ines"), await town.Begin("sanna"));
        var body = RunInHand.Batch(
            mine.Entry("\"kind\":\"note\",\"step\":\"before.notify\",\"text\":\"from a program\"")
        );
        async Task<HttpStatusCode> Send(HttpClient client, Guid run)
        {
            using var content = new StringContent(body, Encoding.UTF8, "application/json");
            return (await client.PostAsync($"/api/runs/{run}/entries", content)).StatusCode;
        }

        Assert.Equal(HttpStatusCode.Forbidden, await Send((await Program("ines", "read")).Client, mine.Id));
        var (writer, _) = await Program("ines", "write");
        Assert.Equal(HttpStatusCode.OK, await Send(writer, mine.Id));
        Assert.Equal(HttpStatusCode.NotFound, await Send(writer, other.Id));
        Assert.Equal(HttpStatusCode.Forbidden, await Send((await Program("wilma", "write")).Client, mine.Id));
    }

    [Fact]
    public async Task A_key_is_kept_only_as_a_hash_and_ends_when_it_is_revoked_or_its_time_is_over()
    {
        var (client, key) = await Program("bram", "read");
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/api/runs")).StatusCode);
        var row = await town.InStore(s =>
            s.Tokens.OrderByDescending(t => t.CreatedAt).FirstAsync(t => t.Account!.UserName == "bram")
        );
        Assert.DoesNotContain(key, row.Hash, StringComparison.Ordinal);
        Assert.Equal(64, row.Hash.Length);
        var visitor = await town.As("bram");
        await visitor.PostForm("/programs", "/programs?handler=Revoke", ("id", row.Id.ToString()));
        Assert.Equal(HttpStatusCode.Unauthorized, (await client.GetAsync("/api/runs")).StatusCode);
        var (late, _) = await Program("bram", "read");
        await town.InStore(async s =>
        {
            (
                await s
                    .Tokens.OrderByDescending(t => t.CreatedAt)
                    .FirstAsync(t => t.RevokedAt == null && t.Account!.UserName == "bram")
            ).ExpiresAt = DateTimeOffset.UtcNow.AddMinutes(-1);
            return await s.SaveChangesAsync();
        });
        Assert.Equal(HttpStatusCode.Unauthorized, (await late.GetAsync("/api/runs")).StatusCode);
    }

    [Theory]
    [InlineData("mordel_nonsense")]
    [InlineData("")]
    [InlineData("something else")]
    public async Task A_key_that_is_not_known_opens_nothing(string key)
    {
        var client = town.Nobody().Client;
        client.DefaultRequestHeaders.TryAddWithoutValidation("Authorization", $"Bearer {key}");
        Assert.Equal(HttpStatusCode.Unauthorized, (await client.GetAsync("/api/profiles")).StatusCode);
    }

    [Fact]
    public async Task Nobody_revokes_the_key_of_another()
    {
        await Program("sanna", "read");
        var row = await town.InStore(s =>
            s.Tokens.OrderByDescending(t => t.CreatedAt).FirstAsync(t => t.Account!.UserName == "sanna")
        );
        var visitor = await town.As("ines");
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await visitor.PostForm("/programs", "/programs?handler=Revoke", ("id", row.Id.ToString()))).StatusCode
        );
    }

    [Fact]
    public async Task The_document_names_every_endpoint_and_the_page_shows_them()
    {
        var visitor = await town.As("ines");
        var document = await visitor.Client.GetFromJsonAsync<JsonElement>("/api/openapi.json");
        var paths = document.GetProperty("paths").EnumerateObject().Select(p => p.Name).ToList();
        string[] wanted =
        [
            "/api/runs",
            "/api/runs/{id}/view",
            "/api/runs/{id}/entries",
            "/api/runs/{id}/verdict",
            "/api/procedures",
            "/api/procedures/{id}",
            "/api/profiles/{id}",
            "/api/verdicts",
            "/api/simulations",
        ];
        Assert.All(wanted, w => Assert.Contains(w, paths));
        var page = await visitor.Page("/programs");
        Assert.All(wanted, w => Assert.Contains(w, page, StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("/api/runs?open=maybe", "open")]
    [InlineData("/api/runs?before=yesterday", "before")]
    [InlineData("/api/procedures/rp-relief-first?kit=two-valve", "bypass hose")]
    [InlineData("/api/procedures/rp-relief-first?kit=bucket", "kit")]
    [InlineData("/api/procedures/rp-relief-first?profile=psid-check-first", "profile")]
    public async Task What_cannot_be_understood_is_said_with_its_place(string url, string says)
    {
        var visitor = await town.As("ines");
        var answer = await visitor.Client.GetAsync(url);
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(says, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_colours_of_a_kits_hoses_are_its_keepers_to_set()
    {
        var visitor = await town.As("sanna");
        var kit = await town.InStore(s => s.Kits.FirstAsync(k => k.KeeperId == visitor.Account.Id));
        await visitor.PostForm(
            "/",
            "/?handler=Hoses",
            ("kitId", kit.Id.ToString()),
            ("high", "orange"),
            ("low", "white"),
            ("bypass", "green")
        );
        var run = await town.Begin("sanna");
        Assert.Contains("data-h=\"orange\"", await visitor.Page($"/runs/{run.Id}"), StringComparison.Ordinal);
        var other = await town.As("ines");
        Assert.Contains(
            "no such kit",
            await (
                await other.PostForm(
                    "/",
                    "/?handler=Hoses",
                    ("kitId", kit.Id.ToString()),
                    ("high", "red"),
                    ("low", "red"),
                    ("bypass", "red")
                )
            ).Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
    }
}
