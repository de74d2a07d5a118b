using System.Net;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Audit;
using Mordel.Data.Backups;

namespace Mordel.Web.Tests;

/// <summary>The owner's room: whether it is well, the backups, who did what.</summary>
[Collection("second town")]
public class UpkeepRoomTests(Town town)
{
    [Fact]
    public async Task The_owner_makes_a_backup_by_one_press_and_sees_it_lie_there()
    {
        var owner = await town.As("hester");
        Assert.Contains("/installation", await owner.Page("/"), StringComparison.Ordinal);
        Assert.Contains("Make one now", await owner.Page("/installation"), StringComparison.Ordinal);
        var answer = await owner.PostForm("/installation", "/installation");
        Assert.Equal("/installation?made=true", answer.Headers.Location?.ToString());
        var page = await owner.Page("/installation?made=true");
        var made = new BackupShelf(Path.Combine(town.Folder, "backups")).All()[0];
        Assert.Contains(Path.GetFileName(made.File), page, StringComparison.Ordinal);
        Assert.Contains("The last backup was made just now", page, StringComparison.Ordinal);
        Assert.Contains("takes both", page, StringComparison.Ordinal);
        var line = await town.InStore(s =>
            s.Audit.OrderByDescending(a => a.Number).FirstAsync(a => a.What == AuditKinds.BackedUp)
        );
        Assert.Equal("Hester Fenn", line.Who);
        Assert.Contains(Path.GetFileName(made.File), line.Says, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("wilma")]
    [InlineData("ines")]
    [InlineData("pia")]
    public async Task Nobody_else_has_the_room_or_the_log(string who)
    {
        var visitor = await town.As(who);
        foreach (var url in (string[])["/installation", "/installation/audit", "/installation/audit.csv"])
        {
            var answer = await visitor.Client.GetAsync(url);
            Assert.True(
                answer.StatusCode == HttpStatusCode.Forbidden
                    || answer.Headers.Location?.ToString().Contains("/problem/403", StringComparison.Ordinal) == true,
                $"{who} {url}: {answer.StatusCode}"
            );
        }

        Assert.DoesNotContain("href=\"/installation\"", await visitor.Page("/bench"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Known_and_unknown_names_are_answered_alike_and_a_word_that_may_be_a_password_is_not_written_down()
    {
        var (nobody, words) = (town.Nobody(), new List<string>());
        foreach (var name in (string[])["odd", "correct horse battery"])
        {
            var answer = await nobody.PostForm(
                "/sign-in",
                "/sign-in",
                ("userName", name),
                ("password", "not it at all")
            );
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            var text = await answer.Content.ReadAsStringAsync();
            words.Add(text[text.IndexOf("do not fit", StringComparison.Ordinal)..][..90]);
        }

        Assert.Equal(words[0], words[1]);
        var page = await (await town.As("hester")).Page("/installation/audit?what=sign-in-failed");
        Assert.Contains("by a name that nobody has", page, StringComparison.Ordinal);
        Assert.Contains("as Odd Harrick", page, StringComparison.Ordinal);
        Assert.DoesNotContain("correct horse", page, StringComparison.Ordinal);
        Assert.Empty(await town.With<IReadOnlyList<string>, AuditLog>(log => log.Check(CancellationToken.None)));
    }

    [Fact]
    public async Task Whoever_takes_a_table_of_customers_out_is_written_down_and_the_log_goes_out_too()
    {
        var wilma = await town.As("wilma");
        (await wilma.Client.GetAsync("/exports/people.csv")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, (await wilma.Client.GetAsync("/exports/nothing.csv")).StatusCode);
        var owner = await town.As("hester");
        var page = await owner.Page("/installation/audit?what=exported&who=wilma");
        Assert.Contains("/exports/people.csv", page, StringComparison.Ordinal);
        Assert.DoesNotContain("/exports/nothing.csv", page, StringComparison.Ordinal);
        var table = await owner.Client.GetStringAsync("/installation/audit.csv?what=exported&who=wilma");
        Assert.StartsWith("Number,At,Who,What,On,Says,From,Hash", table, StringComparison.Ordinal);
        Assert.Contains("Wilma Quent,exported", table, StringComparison.Ordinal);
        foreach (var odd in (string[])["?before=x", "?what=%00", "?who=%25_%5C", "?on=%F0%9F%92%A7&before=-9"])
            Assert.True((int)(await owner.Client.GetAsync($"/installation/audit{odd}")).StatusCode < 500, odd);
    }
}
