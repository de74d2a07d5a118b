using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;

namespace Mordel.Web.Tests;

/// <summary>
/// The office copies a profile, changes values, and an authority works by it; and what testers do after a test that did
/// not pass.
/// </summary>
[Collection("second town")]
public class RulesTests(Town town)
{
    private const RegexOptions Across = RegexOptions.Singleline;
    private static readonly Regex Inputs = new("<input [^>]*>", RegexOptions.Compiled);

    // What a browser would send for the form as it stands, with some fields changed.
    private static async Task<(string Name, string Value)[]> Form(
        Visitor visitor,
        string url,
        params (string Name, string Value)[] changes
    )
    {
        var html = await visitor.Page(url);
        var form = html[html.IndexOf("<h1>", StringComparison.Ordinal)..];
        var fields = new Dictionary<string, string>();
        foreach (Match m in Inputs.Matches(form))
        {
            if (
                m.Value.Contains("checkbox", StringComparison.Ordinal)
                && !m.Value.Contains(" checked", StringComparison.Ordinal)
            )
                continue;
            fields.TryAdd(Attribute(m.Value, "name"), Attribute(m.Value, "value"));
        }

        foreach (Match t in Regex.Matches(form, "<textarea[^>]* name=\"([^\"]+)\"[^>]*>(.*?)</textarea>", Across))
            fields.TryAdd(t.Groups[1].Value, t.Groups[2].Value);
        foreach (Match s in Regex.Matches(form, "<select name=\"([^\"]+)\".*?</select>", Across))
            fields.TryAdd(s.Groups[1].Value, Regex.Match(s.Value, "value=\"([^\"]+)\" selected").Groups[1].Value);
        foreach (var (name, value) in changes)
            fields[name] = value;
        fields.Remove("__RequestVerificationToken");
        return [.. fields.Select(f => (f.Key, f.Value))];
    }

    private static string Attribute(string tag, string name) =>
        Regex.Match(tag, $" {name}=\"([^\"]*)\"").Groups[1].Value;

    private static string Today(int days = 0) =>
        DateOnly.FromDateTime(DateTime.Now).AddDays(days).ToString("yyyy-MM-dd");

    [Fact]
    public async Task A_copy_with_other_limits_and_steps_judges_the_next_run_and_a_sealed_one_keeps_its_own()
    {
        var desk = await town.As("wilma");
        var old = await (await town.Begin("ines")).Tested("1.1", "1.7");
        const string url = "/rules/psid-standard/1/change";
        var fields = await Form(
            desk,
            url,
            ("short", "harbour-board"),
            ("name", "Harbour board"),
            ("from", Today()),
            ("s1.check-1.limit", "1.5"),
            ("s1.hold", "0"),
            ("s0.check-2.ask", "true"),
            ("w.title", "Annual test & proof"),
            ("w.declaration", "I tested it as the board asks."),
            ("w.fail", "Unsatisfactory"),
            ("w.check-1", "First check")
        );
        Assert.Equal("/rules", (await desk.PostForm(url, url, fields)).Headers.Location!.ToString());
        Assert.Contains("Harbour board", await desk.Page("/rules"), StringComparison.Ordinal);
        var board = await town.InStore(s => s.Authorities.FirstAsync(a => a.ProfileId == "psid-standard"));
        await desk.PostForm("/rules", "/rules", ("authorityId", board.Id.ToString()), ("profileId", "harbour-board"));
        try
        {
            var stop = await town.InStore(async s =>
            {
                var tester = await s.Users.FirstAsync(u => u.UserName == "ines");
                var assembly = await s.Assemblies.FirstAsync(a => a.AuthorityId == board.Id && a.Type == "DC");
                var made = new Data.Rows.StopRow
                {
                    Id = Guid.NewGuid(),
                    Day = new DateOnly(2030, 2, 2),
                    TesterId = tester.Id,
                    Order = 1,
                    AssemblyId = assembly.Id,
                    Minutes = 20,
                };
                s.Stops.Add(made);
                await s.SaveChangesAsync();
                return made.Id;
            });
            var ines = await town.As("ines");
            var begun = await ines.PostForm($"/stops/{stop}", $"/stops/{stop}");
            var run = await new RunInHand(ines, Guid.Parse(begun.Headers.Location!.ToString().Split('/')[^1])).Tested(
                "1.1",
                "1.7"
            );
            Assert.Equal(
                "fail",
                (await ines.Client.GetFromJsonAsync<JsonElement>($"/api/runs/{run.Id}/verdict"))
                    .GetProperty("overall")
                    .GetString()
            );
            Assert.Equal(
                "pass",
                (await ines.Client.GetFromJsonAsync<JsonElement>($"/api/runs/{old.Id}/verdict"))
                    .GetProperty("overall")
                    .GetString()
            );
            Assert.Contains(
                "CV2 in the direction of flow",
                await ines.Page("/run-sheets/rp-relief-first?profile=harbour-board"),
                StringComparison.Ordinal
            );
            Assert.Equal($"/reports/{run.Id}", (await run.Sign()).Headers.Location!.ToString());
            var report = await ines.Page($"/reports/{run.Id}");
            Assert.All(
                new[]
                {
                    "Harbour board (harbour-board), version 1",
                    "Annual test & proof",
                    "Unsatisfactory",
                    "First check",
                    "I tested it as the board asks.",
                },
                said => Assert.Contains(said, report, StringComparison.Ordinal)
            );
            using var pdf = UglyToad.PdfPig.PdfDocument.Open(
                await ines.Client.GetByteArrayAsync($"/reports/{run.Id}/pdf")
            );
            var paper = string.Join(' ', pdf.GetPages().SelectMany(p => p.GetWords()).Select(w => w.Text));
            Assert.All(
                new[] { "Annual test & proof", "Unsatisfactory", "First check", "I tested it as the board asks." },
                said => Assert.Contains(said, paper, StringComparison.Ordinal)
            );
        }
        finally
        {
            await desk.PostForm(
                "/rules",
                "/rules",
                ("authorityId", board.Id.ToString()),
                ("profileId", "psid-standard")
            );
        }

        const string next = "/rules/harbour-board/1/change";
        Assert.Equal(
            "/rules",
            (
                await desk.PostForm(next, next, await Form(desk, next, ("from", Today(5)), ("s1.check-1.limit", "1.2")))
            ).Headers.Location!.ToString()
        );
        Assert.Contains("version 2", await desk.Page("/rules"), StringComparison.Ordinal);
        // Beside each other they differ in that one limit; a version that nobody has is said to be none.
        var beside = await desk.Page("/rules/compare?one=harbour-board.1&other=harbour-board.2");
        Assert.Contains("One thing differs", beside, StringComparison.Ordinal);
        Assert.Contains("required, at least 1.2 psid", beside, StringComparison.Ordinal);
        Assert.Contains(
            "Choose two to compare",
            await desk.Page("/rules/compare?one=harbour-board.9&other=x"),
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("short", "psid-standard", "name of its own")]
    [InlineData("short", "Not Good", "small letters")]
    [InlineData("name", "", "Name is missing")]
    [InlineData("from", "1999-01-01", "today or later")]
    [InlineData("s1.check-1.limit", "a lot", "must be a number")]
    [InlineData("s0.hold", "99999", "must be a number")]
    [InlineData("s1.check-1.limit", "", "what is judged needs a limit that it can fail")]
    [InlineData("s1.check-1.limit", "0.00000000000000000000000001", "up to 3 digits behind the point")]
    public async Task What_is_wrong_in_a_profile_is_said_and_nothing_is_kept(string field, string value, string says)
    {
        var desk = await town.As("wilma");
        const string url = "/rules/psid-strict/1/change";
        var fields = await Form(
            desk,
            url,
            ("short", "not-kept"),
            ("name", "Not kept"),
            ("from", Today()),
            (field, value)
        );
        var page = WebUtility.HtmlDecode(await (await desk.PostForm(url, url, fields)).Content.ReadAsStringAsync());
        Assert.True(
            page.Contains(says, StringComparison.Ordinal),
            string.Join(
                "\n",
                page.Split('\n')
                    .Where(l =>
                        l.Contains("fault", StringComparison.Ordinal) || l.Contains("<li>", StringComparison.Ordinal)
                    )
                    .Take(12)
            )
        );
        Assert.False(await town.InStore(s => s.Profiles.AnyAsync(p => p.ProfileId == "not-kept")));
    }

    [Fact]
    public async Task What_rules_would_change_is_shown_and_nothing_is_kept()
    {
        var desk = await town.As("wilma");
        const string url = "/rules/psid-standard/1/change";
        var profiles = await town.InStore(s => s.Profiles.CountAsync());
        var fields = await Form(
            desk,
            url,
            ("short", "half-yearly"),
            ("name", "Half a year"),
            ("from", Today()),
            ("interval", "6"),
            ("s0.check-1.limit", "4.5")
        );
        var answer = await desk.PostForm(url, $"{url}?handler=Look", fields);
        var page = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        Assert.Matches(@"\d+ assemblies would become due", page);
        Assert.Contains("Nothing is kept yet", page, StringComparison.Ordinal);
        Assert.Contains("Half a year", page, StringComparison.Ordinal);
        Assert.Equal(profiles, await town.InStore(s => s.Profiles.CountAsync()));
        var early = await desk.PostForm(url, $"{url}?handler=Look", [.. fields, ("from", Today(-3))]);
        Assert.Contains("today or later", await early.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Rules_go_out_as_a_file_and_come_in_again_and_a_broken_file_is_told_place_by_place()
    {
        var desk = await town.As("wilma");
        var json = await desk.Client.GetStringAsync("/rules/psid-strict/1.json");
        async Task<string> Bring(string text)
        {
            using var form = new MultipartFormDataContent
            {
                { new StringContent(Visitor.TokenOf(await desk.Page("/rules"))), "__RequestVerificationToken" },
                { new StringContent(Today(1)), "from" },
                { new StringContent(text), "file", "rules.json" },
            };
            var answer = await desk.Client.PostAsync("/rules?handler=Import", form);
            return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        }

        Assert.Contains("give the copy a name of its own", await Bring(json), StringComparison.Ordinal);
        Assert.Equal("", await Bring(json.Replace("\"psid-strict\"", "\"from-elsewhere\"", StringComparison.Ordinal)));
        Assert.Contains("from-elsewhere", await desk.Page("/rules"), StringComparison.Ordinal);
        Assert.Contains("intervalMonths", await Bring(Regex.Replace(json, "(\"intervalMonths\": ?)\\d+", "${1}0")));
        Assert.Contains("JSON", await Bring("hello"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await desk.Client.GetAsync("/rules/psid-strict/9.json")).StatusCode);
    }

    [Fact]
    public async Task Only_the_desk_changes_rules()
    {
        var ines = await town.As("ines");
        Assert.Equal(
            "/problem/403",
            new Uri(
                (await ines.Client.GetAsync("/rules/psid-standard/1/change")).Headers.Location!.ToString(),
                UriKind.RelativeOrAbsolute
            )
                is var to
            && to.IsAbsoluteUri
                ? to.AbsolutePath
                : to.ToString().Split('?')[0]
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await (await town.As("wilma")).Client.GetAsync("/rules/none/1/change")).StatusCode
        );
    }

    [Fact]
    public async Task After_a_test_that_could_not_be_made_a_return_visit_goes_into_ones_own_round()
    {
        var run = await town.Begin("ines", "PVB");
        await run.Accepted(run.Entry("\"kind\":\"stopped\",\"reason\":\"No access\""), run.Done("finish.tell"));
        Assert.Equal($"/reports/{run.Id}", (await run.Sign()).Headers.Location!.ToString());
        var url = $"/reports/{run.Id}";
        Assert.Contains("Return visit: No access", await run.Visitor.Page(url), StringComparison.Ordinal);
        await run.Visitor.PostForm(
            url,
            url + "?handler=Return",
            ("day", Today(9)),
            ("from", "10:00"),
            ("until", "11:00"),
            ("special", "Return visit")
        );
        Assert.True(
            await town.InStore(s =>
                s.Stops.AnyAsync(x => x.Special == "Return visit" && x.TesterId == run.Visitor.Account.Id)
            )
        );
        Assert.Contains(
            "lies ahead",
            await (
                await run.Visitor.PostForm(
                    url,
                    url + "?handler=Return",
                    ("day", Today(-1)),
                    ("from", "10:00"),
                    ("until", "11:00")
                )
            ).Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("RP", "apparent")]
    [InlineData("PVB", "air-inlet-opening")]
    [InlineData("SVB", "check-1")]
    public async Task A_whole_run_of_every_type_is_guided_signed_and_on_the_passport(string type, string item)
    {
        var run = await town.Begin("ines", type);
        for (var i = 0; i < 60; i++)
        {
            var view = await run.Visitor.Client.GetFromJsonAsync<JsonElement>($"/api/runs/{run.Id}/view");
            if (!view.TryGetProperty("now", out var now) || now.ValueKind != JsonValueKind.Object)
                break;
            var key = now.GetProperty("key").GetString()!;
            var good = now.GetProperty("sights")
                .EnumerateArray()
                .FirstOrDefault(s => s.GetProperty("good").GetBoolean());
            var capture =
                now.TryGetProperty("capture", out var c)
                && c.ValueKind == JsonValueKind.Object
                && c.GetProperty("key").GetString() == key
                    ? c
                    : default;
            await run.Accepted(
                now.GetProperty("mustAnswer").GetBoolean()
                    ? run.Entry(
                        $"\"kind\":\"sight\",\"step\":\"{key}\",\"sight\":\"{good.GetProperty("id").GetString()}\""
                    )
                : capture.ValueKind == JsonValueKind.Object
                    ? run.Reading(
                        key,
                        type != "RP"
                            ? key == "ai.read"
                                ? "1.4"
                                : "2.1"
                            : key == "rv.feed"
                                ? "2.6"
                                : "7.4"
                    )
                : run.Done(key)
            );
        }

        Assert.Equal($"/reports/{run.Id}", (await run.Sign()).Headers.Location!.ToString());
        var report = await run.Visitor.Page($"/reports/{run.Id}");
        Assert.Matches("Seal number [0-9]+ holds", report);
        Assert.True(await town.InStore(s => s.JudgedItems.AnyAsync(r => r.RunId == run.Id && r.Item == item)));
        Assert.Equal(HttpStatusCode.OK, (await run.Visitor.Client.GetAsync($"/reports/{run.Id}/pdf")).StatusCode);
    }

    [Fact]
    public async Task A_replacement_keeps_the_body_so_that_its_sealed_run_is_read_by_the_same_taps()
    {
        var run = await town.Begin("odd", "RP");
        await run.Accepted(
            run.Entry("\"kind\":\"serial\",\"serial\":\"N-NEW-1\",\"replaced\":true"),
            run.Entry("\"kind\":\"stopped\",\"reason\":\"No access\""),
            run.Done("finish.tell")
        );
        Assert.Equal($"/reports/{run.Id}", (await run.Sign()).Headers.Location!.ToString());
        var fresh = await town.InStore(s => s.Assemblies.FirstAsync(a => a.Serial == "N-NEW-1"));
        Assert.Equal(("RP", "three-tap", 20m), (fresh.Type, fresh.Body, fresh.ReliefPort));
        Assert.Matches("Seal number [0-9]+ holds", await run.Visitor.Page($"/reports/{run.Id}"));
    }

    [Fact]
    public async Task A_test_broken_off_cannot_be_signed_before_it_is_taken_up_again()
    {
        var run = await town.Begin("ines");
        await run.Accepted(run.Entry("\"kind\":\"paused\",\"reason\":\"window over\""), run.Done("finish.tell"));
        Assert.Contains("broken off for today", await run.SignRefused(), StringComparison.Ordinal);
    }
}
