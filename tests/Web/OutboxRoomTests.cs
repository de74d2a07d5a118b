using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Web.Tests;

/// <summary>The room of what leaves the house.</summary>
[Collection("town")]
public class OutboxRoomTests(Town town)
{
    private async Task<OutboxRow> Settled(Guid run, Func<OutboxRow, bool> as_)
    {
        for (var tries = 0; tries < 200; tries++)
        {
            var row = await town.InStore(s =>
                s.Outbox.AsNoTracking().FirstOrDefaultAsync(o => o.RunId == run && o.Kind == OutboxRow.Report)
            );
            if (row is not null && as_(row))
                return row;
            await Task.Delay(50);
        }

        throw new Xunit.Sdk.XunitException("The outbox did not come to that.");
    }

    [Fact]
    public async Task A_signed_report_goes_out_by_itself_and_the_office_sees_what_the_outside_did()
    {
        var wilma = await town.As("wilma");
        Task Outside(string mood) => wilma.PostForm("/outbox", "/outbox?handler=Mood", ("mood", mood));
        await Outside("Refuses");
        try
        {
            var run = await (await town.Begin("ines")).Tested();
            await run.Sign();
            var row = await Settled(run.Id, o => o.State == OutboxStates.Refused);
            var page = await wilma.Page("/outbox");
            Assert.Contains(" stuck</h1>", page, StringComparison.Ordinal);
            Assert.Contains($"/reports/{run.Id}", page, StringComparison.Ordinal);
            Assert.Contains("stuck.", await wilma.Page($"/reports/{run.Id}"), StringComparison.Ordinal);
            await Outside("Works");
            await wilma.PostForm("/outbox", "/outbox?handler=Again", ("id", row.Id.ToString()));
            row = await Settled(run.Id, o => o.State == OutboxStates.Delivered);
            Assert.Contains(row.Receipt!, await wilma.Page("/outbox"), StringComparison.Ordinal);
            Assert.Contains(row.Receipt!, await wilma.Page($"/reports/{run.Id}"), StringComparison.Ordinal);
        }
        finally
        {
            await Outside("Works");
        }
    }

    [Fact]
    public async Task The_office_says_how_an_authority_takes_reports_and_nonsense_is_answered_in_place()
    {
        var wilma = await town.As("wilma");
        var valley = await town.InStore(s => s.Authorities.FirstAsync(a => a.ReportsAs == ReportForms.Pdf));
        async Task<string> Set(string by, string to, string? form = ReportForms.Pdf)
        {
            var answer = await wilma.PostForm(
                "/rules",
                "/rules?handler=Reports",
                ("authorityId", valley.Id.ToString()),
                ("by", by),
                ("to", to),
                ("forms", form ?? "")
            );
            return await answer.Content.ReadAsStringAsync();
        }

        Assert.Contains("has an @", await Set("mail", "the mill"), StringComparison.Ordinal);
        Assert.Equal("", await Set("mail", "desk@eastfell-valley.invalid"));
        Assert.Contains("desk@eastfell-valley.invalid", await wilma.Page("/rules"), StringComparison.Ordinal);
        Assert.Contains(
            "Reports go as",
            await Set("mail", "desk@eastfell-valley.invalid", "stone"),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "at least one form",
            await Set("mail", "desk@eastfell-valley.invalid", null),
            StringComparison.Ordinal
        );
        Assert.Equal("", await Set("service", valley.ReportsTo!));
    }

    [Fact]
    public async Task Today_says_how_long_the_way_from_the_stop_before_takes() =>
        Assert.Contains("min on the road", await (await town.As("ines")).Page("/"), StringComparison.Ordinal);
}
