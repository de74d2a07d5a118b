using System.Net;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace Mordel.Web.Tests;

/// <summary>
/// A phone on a slow line fetches scripts, styles and typefaces once: what it keeps for good has a name that changes
/// with its content.
/// </summary>
[Collection("town")]
public sealed partial class KeptFilesTests(Town town)
{
    [GeneratedRegex("<script type=\"importmap\">(.*?)</script>")]
    private static partial Regex ImportMap();

    [GeneratedRegex("rel=\"modulepreload\" href=\"([^\"]+)\"")]
    private static partial Regex Preloaded();

    [GeneratedRegex("(?:rel=\"stylesheet\"|type=\"module\")\\s+(?:href|src)=\"([^\"]+)\"")]
    private static partial Regex Asked();

    [Theory]
    [InlineData("/bench/exam?procedure=dc-sight-tube&kit=five-valve&rules=exam&seed=11", "/js/bench/desk.")]
    [InlineData("/bench", "/css/shell.")]
    public async Task Whatever_a_page_asks_for_has_a_name_that_changes_with_its_content(string path, string wanted)
    {
        var pia = await town.As("pia");
        var page = await pia.Client.GetStringAsync(path);
        var asked = Asked().Matches(page).Concat(Preloaded().Matches(page)).Select(m => m.Groups[1].Value).ToList();
        Assert.NotEmpty(asked);
        Assert.Contains(asked, a => a.Contains(wanted, StringComparison.Ordinal));
        foreach (var file in asked)
        {
            var answer = await pia.Client.GetAsync(file);
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            Assert.Matches(@"^/[\w/-]+(\.min|\.esm)*\.[a-z0-9]{8,}\.(css|js)$", file);
        }
    }

    [Fact]
    public async Task Scripts_that_name_each_other_are_led_to_the_kept_names_and_the_policy_allows_that_map_alone()
    {
        var ines = await town.Begin("ines");
        var answer = await ines.Visitor.Client.GetAsync($"/runs/{ines.Id}");
        var page = await answer.Content.ReadAsStringAsync();
        var map = ImportMap().Match(page).Groups[1].Value;
        var policy = string.Join(' ', answer.Headers.GetValues("Content-Security-Policy"));
        Assert.Contains(
            $"'sha256-{Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(map)))}'",
            policy,
            StringComparison.Ordinal
        );
        Assert.DoesNotContain("unsafe-inline", policy, StringComparison.Ordinal);
        using var read = JsonDocument.Parse(map);
        var kept = read.RootElement.GetProperty("imports");
        Assert.Matches(@"^/js/run/link\.[^./]+\.js$", kept.GetProperty("/js/run/link.js").GetString()!);
        // All that the run needs is asked for at once.
        var preloaded = Preloaded().Matches(page).Select(m => m.Groups[1].Value).ToList();
        Assert.Equal(preloaded.Distinct(), preloaded);
        foreach (var needed in new[] { "/js/run/link.js", "/js/run/watch.js", "/lib/idb.js", "/lib/alpine.esm.min.js" })
            Assert.Contains(kept.GetProperty(needed).GetString(), preloaded);
        // An older page that is still open asks by the plain name.
        Assert.Equal(HttpStatusCode.OK, (await ines.Visitor.Client.GetAsync("/js/run/link.js")).StatusCode);
    }

    [Fact]
    public async Task Typefaces_are_kept_for_good()
    {
        var font = await town.Nobody().Client.GetAsync("/lib/fonts/next-400.woff2");
        Assert.Equal(HttpStatusCode.OK, font.StatusCode);
        Assert.Contains("immutable", font.Headers.CacheControl!.ToString(), StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await town.Nobody().Client.GetAsync("/lib/fonts/none.woff2")).StatusCode
        );
    }
}
