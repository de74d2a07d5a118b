using System.Net;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Web.Tests;

/// <summary>What is sealed cannot drift, and what is broken does not go unnoticed.</summary>
public sealed class SealedTruthTests : IAsyncLifetime, IAsyncDisposable
{
    private readonly ServedInstallation hamlet = new();

    public async Task InitializeAsync() => await hamlet.Filled(AssemblyTypes.DC, AssemblyTypes.RP);

    public async Task DisposeAsync() => await hamlet.DisposeAsync();

    ValueTask IAsyncDisposable.DisposeAsync() => hamlet.DisposeAsync();

    private static async Task<(string Page, byte[] Pdf, string Data, string Record)> Everything(
        HttpClient client,
        Guid run
    ) =>
        (
            Stable(await client.GetStringAsync($"/reports/{run}")),
            await client.GetByteArrayAsync($"/reports/{run}/pdf"),
            await client.GetStringAsync($"/reports/{run}/data"),
            await client.GetStringAsync($"/api/runs/{run}/record")
        );

    // The tokens of forms, the proposed day of a return visit and the masthead's name belong to who looks, not to the
    // report.
    private static string Stable(string page) =>
        page[page.IndexOf("<article", StringComparison.Ordinal)..page.IndexOf("</article>", StringComparison.Ordinal)];

    private async Task<HttpClient> SignedIn()
    {
        var client = hamlet.CreateClient();
        await hamlet.InStore(async s =>
        {
            var moa = await s.Users.FirstAsync(u => u.Id == hamlet.Tester);
            moa.PasswordHash = new Microsoft.AspNetCore.Identity.PasswordHasher<Account>().HashPassword(
                moa,
                "a long enough phrase"
            );
            return await s.SaveChangesAsync();
        });
        var visitor = new Visitor(client, null);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await visitor.PostForm(
                    "/sign-in",
                    "/sign-in",
                    ("userName", "moa"),
                    ("password", "a long enough phrase")
                )
            ).StatusCode
        );
        return client;
    }

    [Fact]
    public async Task Whatever_is_corrected_afterwards_a_sealed_report_its_PDF_and_its_data_stay_the_same_to_the_byte()
    {
        var run = await hamlet.Signed(1);
        await hamlet.Amend(run, "The valve stands in the second cellar.");
        var client = await SignedIn();
        var before = await Everything(client, run);
        foreach (
            var change in new[]
            {
                "UPDATE Kits SET Serial = 'OTHER', Unit = 'kPa', Resolution = '1.0', Accuracy = '9.9', "
                    + "CalibratedBy = 'nobody', CalibrationDue = '1999-01-01', Kind = 'two-valve'",
                "UPDATE Assemblies SET Serial = 'OTHER', Make = 'Other', Size = '9 in', Serves = 'other', Location "
                    + "= 'moved', Tag = Tag || 'X', Flow = 'Downward', Body = NULL, Hazard = 'low', Strainer = TRUE, "
                    + "FireLine = TRUE, InstalledOn = '1990-01-01', ReliefPort = '99.0'",
                "UPDATE Owners SET Name = 'Other owner', Address = 'elsewhere', Phone = '0'",
                "UPDATE Places SET Name = 'Other place', Address = 'elsewhere', District = 'Other', Contact = 'nobody'",
                "UPDATE Authorities SET Name = 'Other authority', ProfileId = 'kpa-isolation-first'",
                "UPDATE AspNetUsers SET FullName = 'Somebody Else'",
                "UPDATE Certificates SET Number = 'X', IssuedBy = 'X', ValidUntil = '1999-01-01'",
                "DELETE FROM Certificates",
                "UPDATE Stops SET Special = 'other', Minutes = 1",
                """INSERT INTO Profiles (Id, ProfileId, Version, Json, MadeAt, MadeBy) VALUES ('0193EA4C-0000-7000-8000-000000000001', 'psid-standard', 2, '{"broken', '2026-01-01T00:00:00.000Z', 'x')""",
            }
        )
        {
            await hamlet.Alter(change.Replace("{", "{{", StringComparison.Ordinal));
            var after = await Everything(client, run);
            Assert.Equal(before.Page, after.Page);
            Assert.True(before.Pdf.AsSpan().SequenceEqual(after.Pdf), change);
            Assert.Equal(before.Data, after.Data);
            Assert.Equal(before.Record, after.Record);
        }

        foreach (var years in new[] { -9, 11 })
        {
            hamlet.Clock.Offset = TimeSpan.FromDays(365 * years);
            var again = (await hamlet.Report(run))!;
            Assert.True(again.Holds);
            var papers = await hamlet.With<byte[], SealedPapers>(async p => (await p.Pdf(again, default))!);
            Assert.True(before.Pdf.AsSpan().SequenceEqual(papers), $"the clock {years} years off");
        }
    }

    [Fact]
    public async Task The_printed_seal_is_the_hash_of_the_record_that_the_API_gives()
    {
        var run = await hamlet.Signed();
        var client = await SignedIn();
        var (page, pdf, _, record) = await Everything(client, run);
        Assert.Contains(ContentHash.Compute(record), page, StringComparison.Ordinal);
        var (pages, seal) = Mordel.Core.Seals.SealedPdf.Detach(pdf)!.Value;
        var link = SealFormat.ReadLink(SealedFileFormat.ReadPaper(seal)!.Link)!;
        Assert.Equal((ContentHash.Compute(record), ContentHash.Compute(pages)), (link.Record, link.Paper));
        Assert.Null(SealedFileFormat.ReadPaper(seal)!.Attested);
    }

    [Fact]
    public async Task A_broken_seal_is_said_wherever_the_report_stands_and_nothing_green_stands_beside_it()
    {
        var (broken, whole) = (await hamlet.Signed(0), await hamlet.Signed(1));
        var client = await SignedIn();
        await hamlet.Alter("UPDATE Results SET Value = '9.9' WHERE RunId = {0} AND Item = 'check-1'", broken);
        var page = await client.GetStringAsync($"/reports/{broken}");
        Assert.Contains("SEAL BROKEN", page, StringComparison.Ordinal);
        Assert.DoesNotContain("outcome-pass", page, StringComparison.Ordinal);
        var pdf = await client.GetAsync($"/reports/{broken}/pdf");
        Assert.StartsWith(
            "SEAL-BROKEN",
            pdf.Content.Headers.ContentDisposition!.FileName!.Trim('"'),
            StringComparison.Ordinal
        );
        using var read = UglyToad.PdfPig.PdfDocument.Open(await pdf.Content.ReadAsByteArrayAsync());
        Assert.Contains(
            "SEAL BROKEN",
            string.Join(' ', read.GetPage(1).GetWords().Select(w => w.Text)),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "\"state\":\"SEAL BROKEN\"",
            await client.GetStringAsync($"/reports/{broken}/data"),
            StringComparison.Ordinal
        );
        foreach (var what in new[] { "record", "verdict", "log", "view", "setup" })
        {
            var answer = await client.GetAsync($"/api/runs/{broken}/{what}");
            Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode);
            Assert.Contains("SEAL BROKEN", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }

        using var list = JsonDocument.Parse(await client.GetStringAsync("/api/runs"));
        Assert.Equal(
            "seal-broken",
            list.RootElement.EnumerateArray()
                .Single(l => l.GetProperty("id").GetGuid() == broken)
                .GetProperty("outcome")
                .GetString()
        );
        var passport = await client.GetStringAsync($"/register/{hamlet.Assemblies[0]}");
        Assert.Contains("Seal broken", passport, StringComparison.Ordinal);
        Assert.DoesNotContain("outcome-pass", passport, StringComparison.Ordinal);
        Assert.Contains("outcome-seal-broken", await client.GetStringAsync("/register"), StringComparison.Ordinal);
        Assert.Contains("Seals are broken", await client.GetStringAsync("/"), StringComparison.Ordinal);
        // Another assembly's report, and a new test of the same one, go on.
        Assert.DoesNotContain(
            "SEAL BROKEN",
            await client.GetStringAsync($"/reports/{whole}"),
            StringComparison.Ordinal
        );
        var next = await hamlet.Signed(0);
        Assert.True((await hamlet.Report(next))!.Holds);
    }

    [Fact]
    public async Task A_run_whose_row_says_it_is_not_signed_any_more_is_still_sealed_and_said_to_be_broken()
    {
        var run = await hamlet.Signed();
        await hamlet.Alter("UPDATE Runs SET SignedAt = NULL, Outcome = NULL");
        var client = await SignedIn();
        Assert.Contains("SEAL BROKEN", await client.GetStringAsync($"/reports/{run}"), StringComparison.Ordinal);
        Assert.Equal($"/reports/{run}", (await client.GetAsync($"/runs/{run}")).Headers.Location!.ToString());
        var refused = await hamlet.With<
            Data.Commands.Reply<Data.Commands.Runs.TakenEntries>,
            Data.Commands.Runs.TakeEntries
        >(t =>
            t.Into(
                run,
                hamlet.Tester,
                [new(new(Guid.NewGuid()), 999, DateTimeOffset.UtcNow, new EntryBody.Remarks("other"))],
                CancellationToken.None
            )
        );
        Assert.Contains("sealed", refused.Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_clock_that_goes_back_makes_no_fork_in_the_chain()
    {
        var first = await hamlet.Signed();
        hamlet.Clock.Offset -= TimeSpan.FromDays(20);
        var second = await hamlet.Signed();
        var chain = await hamlet.InStore(s => s.Seals.OrderBy(x => x.Sequence).ToListAsync());
        Assert.Equal([first, second], chain.Select(c => c.RunId));
        Assert.Equal(chain[0].Hash, SealFormat.ReadLink(chain[1].Link)!.Previous);
        Assert.True((await hamlet.CheckAll()).Holds);
    }

    [Fact]
    public async Task Seals_made_at_the_same_moment_take_their_places_one_after_the_other()
    {
        var runs = new List<Guid>();
        for (var i = 0; i < 6; i++)
            runs.Add(await hamlet.Tested(i % 2));
        var signed = await Task.WhenAll(runs.Select(r => hamlet.Sign(r)));
        Assert.All(signed, s => Assert.Null(s.Refusal));
        var found = await hamlet.CheckAll();
        Assert.Equal((true, 6L, 6), (found.Holds, found.Seals, found.Runs));
    }
}
