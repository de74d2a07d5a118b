using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Outside;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;
using Mordel.Simulators;

namespace Mordel.Data.Tests;

/// <summary>A signed report leaves the house by itself, once, whatever the outside does.</summary>
public sealed class OutboxTests : IAsyncLifetime, IAsyncDisposable
{
    private readonly SmallInstallation hamlet = new();

    public async Task InitializeAsync() => await hamlet.Filled(AssemblyTypes.DC);

    public async Task DisposeAsync() => await hamlet.DisposeAsync();

    ValueTask IAsyncDisposable.DisposeAsync() => hamlet.DisposeAsync();

    private SimulatedOutside Outside => hamlet.Services.GetRequiredService<SimulatedOutside>();

    private int Taken => ((SimulatedIntake)hamlet.Services.GetRequiredService<IAuthorityIntake>()).Taken;

    private async Task<IReadOnlyList<FieldError>> ReportsGo(string? by, string? to, params string[] forms)
    {
        if (forms.Length == 0)
            forms = ReportForms.Of(null, by ?? OutboxWays.Mail);
        var board = await hamlet.InStore(s => s.Authorities.Select(a => a.Id).SingleAsync());
        return (
            await hamlet.With<Reply<Guid>, SendReports>(s =>
                s.To(board, by, to, forms, new("Wilma"), CancellationToken.None)
            )
        ).Errors;
    }

    private Task<DateTimeOffset?> Deliver() =>
        hamlet.With<DateTimeOffset?, OutboxDelivery>(d => d.Due(CancellationToken.None));

    private Task<List<OutboxRow>> Rows() =>
        hamlet.InStore(s => s.Outbox.AsNoTracking().OrderBy(o => o.WrittenAt).ToListAsync());

    private async Task<OutboxRow> Row() => Assert.Single(await Rows());

    [Fact]
    public async Task Nothing_is_written_for_an_authority_that_takes_no_reports()
    {
        await hamlet.Signed();
        Assert.Empty(await Rows());
        Assert.Null(await Deliver());
    }

    [Fact]
    public async Task A_signed_report_goes_to_the_authority_s_service_with_its_seal_and_its_receipt_is_kept()
    {
        Assert.Empty(await ReportsGo(OutboxWays.Service, "simulated://intake.invalid/reports"));
        var run = await hamlet.Signed();
        var row = await Row();
        Assert.Equal((OutboxStates.Waiting, 0, run, "Water Board"), (row.State, row.Tries, row.RunId, row.Recipient));
        Assert.Null(await Deliver());
        row = await Row();
        Assert.Equal((OutboxStates.Delivered, 1, (string?)null), (row.State, row.Tries, row.Says));
        Assert.StartsWith("R-", row.Receipt, StringComparison.Ordinal);
        // Nothing is left to do, and nothing goes out twice.
        await Deliver();
        Assert.Equal((1, 1), ((await Row()).Tries, Taken));
        var again = await hamlet.With<Reply<Guid>, SendAgain>(s => s.It(row.Id, new("Wilma"), CancellationToken.None));
        Assert.Contains("delivered", again.Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_test_that_could_not_be_signed_leaves_nothing_in_the_outbox()
    {
        await ReportsGo(OutboxWays.Service, "https://board.invalid/reports");
        var begun = await hamlet.Begun();
        Assert.NotNull((await hamlet.Sign(begun)).Refusal);
        Assert.Empty(await Rows());
    }

    [Fact]
    public async Task What_is_written_disappears_with_its_cause_when_the_transaction_fails()
    {
        await ReportsGo(OutboxWays.Service, "https://board.invalid/reports");
        var run = await hamlet.Tested();
        await hamlet.InStore(async s =>
        {
            await using var transaction = await s.Database.BeginTransactionAsync();
            var row = await s.Runs.Include(r => r.Assembly).FirstAsync(r => r.Id == run);
            await new OutboxWriter(s, hamlet.Clock).Report(row, null, CancellationToken.None);
            return await s.SaveChangesAsync();
        });
        Assert.Empty(await Rows());
    }

    [Fact]
    public async Task While_the_service_is_down_it_waits_longer_and_longer_and_goes_out_when_it_is_up_again()
    {
        await ReportsGo(OutboxWays.Service, "https://board.invalid/reports");
        await hamlet.Signed();
        Outside.Mood = OutsideMood.Down;
        var waits = new List<TimeSpan>();
        for (var i = 0; i < 6; i++)
        {
            var next = await Deliver();
            Assert.NotNull(next);
            waits.Add(TimeSpan.FromSeconds(Math.Round((next.Value - hamlet.Clock.GetUtcNow()).TotalSeconds)));
            // Before it is due nothing is tried.
            await Deliver();
            Assert.Equal(i + 1, (await Row()).Tries);
            hamlet.Clock.Offset += waits[^1] + TimeSpan.FromSeconds(1);
        }

        Assert.Equal(waits.Order(), waits);
        Assert.True(waits[^1] > 20 * waits[0]);
        Assert.Contains("cannot be reached", (await Row()).Says, StringComparison.Ordinal);
        Outside.Mood = OutsideMood.Works;
        await Deliver();
        Assert.Equal(OutboxStates.Delivered, (await Row()).State);
    }

    [Fact]
    public async Task When_the_answer_is_lost_it_is_sent_again_under_the_same_key_and_taken_once()
    {
        await ReportsGo(OutboxWays.Service, "https://board.invalid/reports");
        await hamlet.Signed();
        Outside.Mood = OutsideMood.LosesAnswers;
        await Deliver();
        Assert.Equal((OutboxStates.Waiting, 1), ((await Row()).State, Taken));
        Outside.Mood = OutsideMood.Works;
        hamlet.Clock.Offset += TimeSpan.FromMinutes(1);
        await Deliver();
        Assert.Equal((OutboxStates.Delivered, 2, 1), ((await Row()).State, (await Row()).Tries, Taken));
    }

    [Fact]
    public async Task After_three_days_it_is_given_up_says_why_and_can_be_sent_again_by_hand()
    {
        await ReportsGo(OutboxWays.Mail, "reports@board.invalid");
        await hamlet.Signed();
        Outside.Mood = OutsideMood.Garbles;
        hamlet.Clock.Offset += OutboxWriter.Patience + TimeSpan.FromMinutes(1);
        Assert.Null(await Deliver());
        var row = await Row();
        Assert.Equal(OutboxStates.Expired, row.State);
        Assert.Contains("unreadable", row.Says, StringComparison.Ordinal);
        Outside.Mood = OutsideMood.Works;
        Assert.Null((await hamlet.With<Reply<Guid>, SendAgain>(s => s.It(row.Id, new("Wilma"), default))).Refusal);
        await Deliver();
        Assert.Equal(OutboxStates.Delivered, (await Row()).State);
    }

    [Fact]
    public async Task What_is_refused_is_not_tried_again_by_itself()
    {
        await ReportsGo(OutboxWays.Service, "https://board.invalid/reports");
        await hamlet.Signed();
        Outside.Mood = OutsideMood.Refuses;
        Assert.Null(await Deliver());
        hamlet.Clock.Offset += TimeSpan.FromHours(5);
        Outside.Mood = OutsideMood.Works;
        await Deliver();
        Assert.Equal((OutboxStates.Refused, 1), ((await Row()).State, (await Row()).Tries));
    }

    [Fact]
    public async Task A_letter_carries_the_report_with_its_pdf_and_is_kept_as_a_file_that_says_it_was_not_sent()
    {
        await ReportsGo(OutboxWays.Mail, "reports@board.invalid");
        var run = await hamlet.Signed();
        await Deliver();
        var files = hamlet.Services.GetRequiredService<IFiles>();
        var row = await Row();
        var letter = System.Text.Encoding.UTF8.GetString(
            (await files.Read(SimulatedMail.FileOf(row.Key), CancellationToken.None))!
        );
        Assert.Contains("was not sent", letter, StringComparison.Ordinal);
        Assert.Contains("To: reports@board.invalid", letter, StringComparison.Ordinal);
        var number = (await hamlet.Report(run))!.Run!.Report.Number;
        using var bytes = new MemoryStream(System.Text.Encoding.UTF8.GetBytes(letter));
        var message = await MimeKit.MimeMessage.LoadAsync(bytes);
        Assert.Contains(number, message.TextBody, StringComparison.Ordinal);
        Assert.Equal(
            [$"{number.Replace('/', '-')}.pdf", $"{number.Replace('/', '-')}.json"],
            message.Attachments.Select(a => a.ContentDisposition?.FileName)
        );
    }

    [Fact]
    public async Task An_amendment_goes_after_its_report_as_a_thing_of_its_own()
    {
        await ReportsGo(OutboxWays.Service, "https://board.invalid/reports");
        var run = await hamlet.Signed();
        await hamlet.Amend(run, "It stands in the second cellar.");
        await Deliver();
        var rows = await Rows();
        Assert.Equal(["Report", "Amendment"], rows.Select(r => r.Title.Split(' ')[0]));
        Assert.Equal(2, rows.Select(r => r.Key).Distinct().Count());
        Assert.All(rows, r => Assert.Equal(OutboxStates.Delivered, r.State));
    }

    [Fact]
    public async Task A_report_whose_seal_is_broken_does_not_leave_the_house()
    {
        await ReportsGo(OutboxWays.Service, "https://board.invalid/reports");
        await hamlet.Signed();
        await hamlet.Alter("UPDATE Results SET Value = '9.9'");
        await hamlet.Alter("UPDATE Seals SET Signature = 'AAAA'");
        await Deliver();
        var row = await Row();
        Assert.Equal((OutboxStates.Refused, 0), (row.State, Taken));
        Assert.Contains("seal", row.Says, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("mail", "no address", "@")]
    [InlineData("mail", "", "missing")]
    [InlineData("service", "ftp://board.invalid", "https://")]
    [InlineData("pigeon", "the loft", "choose one of")]
    public async Task An_address_that_cannot_be_one_is_refused_and_nothing_changes(string by, string to, string says)
    {
        var errors = await ReportsGo(by, to);
        Assert.Contains(errors, e => e.Says.Contains(says, StringComparison.Ordinal));
        Assert.Null(await hamlet.InStore(s => s.Authorities.Select(a => a.ReportsBy).SingleAsync()));
    }

    [Fact]
    public async Task What_the_service_gets_is_the_sealed_report_as_data()
    {
        var got = new Remembering();
        await ReportsGo(OutboxWays.Service, "https://board.invalid/reports");
        await hamlet.Signed();
        await using var scope = hamlet.Services.CreateAsyncScope();
        await ActivatorUtilities.CreateInstance<OutboxDelivery>(scope.ServiceProvider, got).Due(default);
        using var report = JsonDocument.Parse(Assert.Single(got.Submissions).File.Bytes.AsMemory());
        Assert.Equal("mordel.sealed-report/1", report.RootElement.GetProperty("format").GetString());
    }

    [Fact]
    public async Task A_carrier_that_throws_is_one_that_failed_and_the_outbox_goes_on()
    {
        var got = new Remembering { Throws = true };
        await ReportsGo(OutboxWays.Service, "https://board.invalid/reports");
        await hamlet.Signed();
        await using var scope = hamlet.Services.CreateAsyncScope();
        await ActivatorUtilities.CreateInstance<OutboxDelivery>(scope.ServiceProvider, got).Due(default);
        Assert.Equal(OutboxStates.Waiting, (await Row()).State);
        Assert.Contains("a wire is cut", (await Row()).Says, StringComparison.Ordinal);
    }

    private sealed class Remembering : IAuthorityIntake
    {
        public List<Submission> Submissions { get; } = [];
        public List<IntakeRuling> Ruled { get; } = [];
        public bool Throws { get; init; }

        // As a careless service would: everything again, whatever was asked for.
        public Task<ImmutableArray<IntakeRuling>> Rulings(
            string address,
            string? secret,
            long after,
            CancellationToken cancel
        ) => Task.FromResult(Ruled.ToImmutableArray());

        public Task<Delivery> Submit(Submission submission, CancellationToken cancel)
        {
            Submissions.Add(submission);
            return Throws
                ? throw new InvalidOperationException("a wire is cut")
                : Task.FromResult<Delivery>(new Delivery.Accepted("R-1"));
        }
    }
}
