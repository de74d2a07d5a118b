using System.Net;
using System.Text.RegularExpressions;
using Mordel.Data.Lists;

namespace Mordel.Web.Tests;

/// <summary>The room in which the office sees what all the tests say.</summary>
[Collection("second town")]
public class StandingRoomTests(Town town)
{
    [Fact]
    public async Task Each_question_has_its_figures_and_they_agree_with_the_tests_that_are_kept()
    {
        var wilma = await town.As("wilma");
        var page = await wilma.Page("/standing");
        var kept = await town.InStore(s =>
            Task.FromResult(
                s.Runs.Count(r => r.Outcome == "pass" || r.Outcome == "fail")
                    + s.BroughtTests.Count(t => t.Outcome == "pass" || t.Outcome == "fail")
            )
        );
        var first = Regex.Match(page, """of <span class="num">(\d+)</span> failed""").Groups[1].Value;
        var again = Regex.Match(page, @"of (\d+) tests after a failure").Groups[1].Value;
        Assert.Equal(kept, int.Parse(first, null) + int.Parse(again, null));
        foreach (
            var question in new[]
            {
                "Which types fail the test?",
                "Which part fails, and after how many years?",
                "How long does a repair hold?",
                "Do we keep up with what is owed?",
                "How long does a test take?",
            }
        )
            Assert.Contains(question, page, StringComparison.Ordinal);
        foreach (var dimension in StandingDimensions.All)
            Assert.Contains(
                dimension.Question,
                await wilma.Page($"/standing?by={dimension.Id}"),
                StringComparison.Ordinal
            );
    }

    [Theory]
    [InlineData("outcomes", "what,failed,tests,share,low,high")]
    [InlineData("parts", "part,year,tested,failed,still hold,low,high")]
    [InlineData("repairs", "part,year,tested,failed,still hold,low,high")]
    [InlineData("months", "month,made,owed")]
    [InlineData("testers", "tester,timed,short minutes,middle minutes,long minutes")]
    [InlineData("steps", "step,timed,short minutes,middle minutes,long minutes")]
    public async Task Each_chart_is_given_as_a_table_by_the_same_choices(string chart, string heads)
    {
        var wilma = await town.As("wilma");
        var all = (await wilma.Page($"/standing/{chart}.csv")).TrimStart('\uFEFF');
        Assert.StartsWith(heads, all, StringComparison.Ordinal);
        Assert.True(all.Length > heads.Length + 20, all);
        Assert.NotEqual(all, (await wilma.Page($"/standing/{chart}.csv?type=RP")).TrimStart('\uFEFF'));
    }

    [Theory]
    [InlineData("/standing?type=XYZ&by=colour&years=17&procedure=none")]
    [InlineData("/standing?years=many")]
    [InlineData("/standing?type=DC&by=season&years=1&procedure=dc-sight-tube")]
    public async Task What_nobody_can_choose_is_left_out(string address) =>
        Assert.Contains("pass the first time", await (await town.As("wilma")).Page(address), StringComparison.Ordinal);

    [Fact]
    public async Task A_chart_that_is_not_there_is_not_found() =>
        await (await town.As("wilma")).Page("/standing/secrets.csv", HttpStatusCode.NotFound);

    [Fact]
    public async Task Whoever_asks_has_it_counted_anew()
    {
        var wilma = await town.As("wilma");
        var before = await town.InStore(s => Task.FromResult(s.Standings.FirstOrDefault()?.At ?? default));
        var answer = await wilma.PostForm("/standing", "/standing?by=age&handler=Count");
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        Assert.Equal("/standing?by=age", answer.Headers.Location?.ToString());
        Assert.True(await town.InStore(s => Task.FromResult(s.Standings.Single().At)) > before);
    }

    [Fact]
    public async Task The_office_takes_a_years_reports_along_as_one_file_and_of_a_year_without_any_there_is_none()
    {
        var wilma = await town.As("wilma");
        var page = await wilma.Page("/exports");
        var year = Regex.Match(page, @"/archive/(\d{4})\.zip").Groups[1].Value;
        var signed = await town.InStore(s =>
            Task.FromResult(s.Runs.ToList().Count(r => r.SignedAt?.ToLocalTime().Year == int.Parse(year, null)))
        );
        var answer = await wilma.Client.GetAsync($"/archive/{year}.zip");
        Assert.Equal("application/zip", answer.Content.Headers.ContentType?.MediaType);
        await using var zip = new System.IO.Compression.ZipArchive(await answer.Content.ReadAsStreamAsync());
        Assert.Equal(signed, zip.Entries.Count(e => e.FullName.StartsWith("reports/", StringComparison.Ordinal)));
        await wilma.Page("/archive/1999.zip", HttpStatusCode.NotFound);
        await wilma.Page("/archive/0.zip", HttpStatusCode.NotFound);
    }
}
