using System.Collections.Immutable;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Authorities;
using Mordel.Core.Catalogue;
using Mordel.Core.Outside;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>
/// Reports reach an authority's service once, whatever the service does and whoever is killed in between.
/// </summary>
public sealed class IntakeTests : IAsyncLifetime, IAsyncDisposable
{
    private const string Service = "https://board.invalid";
    private readonly SmallInstallation hamlet = new();
    private string Folder => Path.Combine(hamlet.Folder, "authority");

    public async Task InitializeAsync() => await hamlet.Filled(AssemblyTypes.DC);

    public async Task DisposeAsync() => await hamlet.DisposeAsync();

    ValueTask IAsyncDisposable.DisposeAsync() => hamlet.DisposeAsync();

    private async Task<Guid> Signed(string form = ReportForms.Data)
    {
        var board = await hamlet.InStore(s => s.Authorities.Select(a => a.Id).SingleAsync());
        await hamlet.With<Reply<Guid>, SendReports>(s =>
            s.To(board, OutboxWays.Service, Service, [form], new("Wilma"), default)
        );
        return await hamlet.Signed();
    }

    private async Task Deliver(IAuthorityIntake intake, ISecretBox? secrets = null)
    {
        await using var scope = hamlet.Services.CreateAsyncScope();
        object[] with = secrets is null ? [intake] : [intake, secrets];
        await ActivatorUtilities.CreateInstance<OutboxDelivery>(scope.ServiceProvider, with).Due(default);
        await ActivatorUtilities.CreateInstance<LaterRulings>(scope.ServiceProvider, with).Take(default);
    }

    private Task<OutboxRow> Row() => hamlet.InStore(s => s.Outbox.AsNoTracking().SingleAsync());

    private Task<List<OutboxEventRow>> Events() =>
        hamlet.InStore(s => s.OutboxEvents.AsNoTracking().OrderBy(e => e.Id).ToListAsync());

    [Fact]
    public async Task The_key_of_a_service_goes_with_every_call_and_stands_nowhere_in_words()
    {
        var board = await hamlet.InStore(s => s.Authorities.Select(a => a.Id).SingleAsync());
        async Task<Reply<Guid>> Key(string? key)
        {
            await using var scope = hamlet.Services.CreateAsyncScope();
            return await ActivatorUtilities
                .CreateInstance<SendReports>(scope.ServiceProvider, new Backwards())
                .WithKey(board, key, new("Wilma"), default);
        }

        Assert.Contains("Only a service asks", (await Key("sesame")).Errors[0].Says, StringComparison.Ordinal);
        await Signed();
        Assert.NotEmpty((await Key("two words")).Errors);
        Assert.Empty((await Key("sesame")).Errors);
        Assert.Equal("emases", await hamlet.InStore(s => s.Authorities.Select(a => a.ReportsKey).SingleAsync()));
        Assert.DoesNotContain(await hamlet.InStore(s => s.Changes.Select(c => c.To).ToListAsync()), said =>
            said.Contains("sesame", StringComparison.Ordinal)
        );
        using var desk = new AtTheDesk(Folder, hamlet.Clock);
        await Deliver(desk, new Backwards());
        Assert.Equal(["sesame", "sesame"], desk.Said);
        // Keys that were lost are said to be, and nothing goes out without.
        await hamlet.Signed();
        await Deliver(desk, new Backwards { Lost = true });
        var stuck = await hamlet.InStore(s => s.Outbox.SingleAsync(o => o.State == OutboxStates.Refused));
        Assert.Contains("cannot be read any more", stuck.Says, StringComparison.Ordinal);
        Assert.Single(desk.Handed);
        // Another address is another service: it is not told the key of the first.
        await hamlet.With<Reply<Guid>, SendReports>(s =>
            s.To(board, OutboxWays.Service, "https://other.invalid", [ReportForms.Data], new("Wilma"), default)
        );
        Assert.Null(await hamlet.InStore(s => s.Authorities.Select(a => a.ReportsKey).SingleAsync()));
    }

    private sealed class Backwards : ISecretBox
    {
        public bool Lost { get; init; }

        public string Hide(string words) => new([.. words.Reverse()]);

        public string? Show(string kept) => Lost ? null : Hide(kept);
    }

    [Theory]
    [InlineData(ReportForms.Pdf, "application/pdf", "%PDF")]
    [InlineData(ReportForms.Data, "application/json", "{\"format\":\"mordel.sealed-report/1\"")]
    [InlineData(ReportForms.Table, "text/csv", "report,signed,outcome")]
    public async Task A_report_goes_in_the_form_that_the_authority_asks_for(string form, string type, string begins)
    {
        await Signed(form);
        using var desk = new AtTheDesk(Folder, hamlet.Clock);
        await Deliver(desk);
        var handed = Assert.Single(desk.Handed);
        Assert.Equal(type, handed.Form);
        Assert.StartsWith(begins, Encoding.UTF8.GetString(handed.Bytes), StringComparison.Ordinal);
        var row = await Row();
        Assert.Equal((OutboxStates.Delivered, "B-000001"), (row.State, row.Receipt));
    }

    [Fact]
    public async Task The_table_has_a_line_for_each_item_and_no_formula()
    {
        var run = await Signed(ReportForms.Table);
        using var desk = new AtTheDesk(Folder, hamlet.Clock);
        await Deliver(desk);
        var items = await hamlet.InStore(s => s.Set<ResultRow>().CountAsync(r => r.RunId == run));
        var lines = Encoding.UTF8.GetString(Assert.Single(desk.Handed).Bytes).TrimEnd().Split('\n');
        Assert.Equal(items + 1, lines.Length);
        Assert.All(lines, l => Assert.DoesNotContain(",=", l, StringComparison.Ordinal));
    }

    [Fact]
    public async Task An_authority_that_changes_its_mind_makes_the_report_stuck_and_it_can_be_sent_again()
    {
        await Signed();
        using var desk = new AtTheDesk(Folder, hamlet.Clock);
        desk.Desk.Behave(AuthorityMood.TakesThenRefuses, null);
        await Deliver(desk);
        Assert.Equal(OutboxStates.Delivered, (await Row()).State);
        hamlet.Clock.Offset += AuthorityDesk.LooksAgainAfter;
        await Deliver(desk);
        var row = await Row();
        Assert.Equal(OutboxStates.Refused, row.State);
        Assert.Contains("second look", row.Says, StringComparison.Ordinal);
        desk.Desk.Behave(AuthorityMood.Takes, null);
        var again = await hamlet.With<Reply<Guid>, SendAgain>(s => s.It(row.Id, new("Wilma"), default));
        Assert.Null(again.Refusal);
        await Deliver(desk);
        Assert.Equal(OutboxStates.Delivered, (await Row()).State);
        Assert.Equal(["delivered", "refused", "waiting", "delivered"], (await Events()).Select(e => e.State));
        Assert.Equal("Wilma", (await Events())[2].By);
    }

    [Fact]
    public async Task What_was_refused_and_then_taken_is_delivered_without_anybody_s_doing()
    {
        await Signed();
        using var desk = new AtTheDesk(Folder, hamlet.Clock);
        desk.Desk.Behave(AuthorityMood.RefusesThenTakes, "No such meter.");
        await Deliver(desk);
        Assert.Contains("No such meter.", (await Row()).Says, StringComparison.Ordinal);
        hamlet.Clock.Offset += AuthorityDesk.LooksAgainAfter;
        await Deliver(desk);
        var row = await Row();
        Assert.Equal((OutboxStates.Delivered, (string?)null, 1), (row.State, row.Says, row.Tries));
        Assert.NotNull(row.Receipt);
    }

    [Fact]
    public async Task An_authority_that_changes_its_name_in_between_is_still_the_one_that_rules()
    {
        await Signed();
        using var desk = new AtTheDesk(Folder, hamlet.Clock);
        desk.Desk.Behave(AuthorityMood.TakesThenRefuses, null);
        await Deliver(desk);
        await hamlet.InStore(s =>
            s.Authorities.ExecuteUpdateAsync(a => a.SetProperty(x => x.Name, "The board, renamed"))
        );
        hamlet.Clock.Offset += AuthorityDesk.LooksAgainAfter;
        await Deliver(desk);
        var row = await Row();
        Assert.Equal((OutboxStates.Refused, "Water Board"), (row.State, row.Recipient));
        await hamlet.With<Reply<Guid>, SendAgain>(s => s.It(row.Id, new("Wilma"), default));
        Assert.Equal("The board, renamed", (await Row()).Recipient);
    }

    [Fact]
    public async Task A_ruling_counts_once_however_often_it_is_said()
    {
        await Signed();
        using var desk = new AtTheDesk(Folder, hamlet.Clock) { ForgetsWhatWasAsked = true };
        await Deliver(desk);
        desk.Desk.Repeat(desk.Journal.All[0]);
        await Deliver(desk);
        await Deliver(desk);
        Assert.Single(await Events());
        Assert.Equal(OutboxStates.Delivered, (await Row()).State);
        Assert.Equal(3, await hamlet.InStore(s => s.Authorities.Select(a => a.RulingsSeen).SingleAsync()));
    }

    [Fact]
    public async Task An_intake_that_is_down_for_an_hour_gets_the_report_when_it_is_back()
    {
        await Signed();
        using var desk = new AtTheDesk(Folder, hamlet.Clock);
        desk.Desk.Behave(AuthorityMood.Down, null);
        for (var minutes = 0; minutes < 120 && (await Row()).State == OutboxStates.Waiting; minutes += 10)
        {
            await Deliver(desk);
            hamlet.Clock.Offset += TimeSpan.FromMinutes(10);
        }

        var row = await Row();
        Assert.Equal(OutboxStates.Delivered, row.State);
        Assert.InRange(row.Tries, 3, 12);
        Assert.Single(desk.Journal.All);
    }

    [Trait("Turn", "0")]
    [Fact]
    public async Task Two_hundred_reports_and_fifty_kills_and_each_arrives_exactly_once()
    {
        const int Reports = 200,
            Kills = 50;
        var run = await Signed();
        await hamlet.InStore(async s =>
        {
            var like = await s.Outbox.AsNoTracking().SingleAsync();
            var board = await s.Authorities.Select(a => a.Id).SingleAsync();
            for (var i = 1; i < Reports; i++)
                s.Outbox.Add(
                    new()
                    {
                        Id = Guid.CreateVersion7(),
                        Key = OutboxRow.KeyOf(run, Guid.CreateVersion7(), board),
                        Way = like.Way,
                        To = like.To,
                        Recipient = like.Recipient,
                        Title = like.Title,
                        RunId = run,
                        WrittenAt = like.WrittenAt,
                        State = OutboxStates.Waiting,
                        NextTryAt = like.NextTryAt,
                        ExpiresAt = like.ExpiresAt,
                    }
                );
            return await s.SaveChangesAsync();
        });
        var (chance, killed, rounds) = (new Random(4711), 0, 0);
        AuthorityMood[] moods = [AuthorityMood.Takes, AuthorityMood.Refuses, AuthorityMood.RefusesThenTakes];
        while (await hamlet.InStore(s => s.Outbox.AnyAsync(o => o.State != OutboxStates.Delivered)))
        {
            Assert.InRange(++rounds, 1, 400);
            // Each round the service was started anew, and has only what its journal has.
            using var desk = new AtTheDesk(Folder, hamlet.Clock);
            desk.Desk.Behave(moods[chance.Next(moods.Length)], null);
            if (killed < Kills)
                desk.KilledAfter = chance.Next(1, 9);
            try
            {
                await Deliver(desk);
            }
            catch (OperationCanceledException)
            {
                // As when the process is killed: nothing of this try was written down here.
                killed++;
            }

            hamlet.Clock.Offset += TimeSpan.FromMinutes(1);
            if (rounds % 5 != 0)
                continue;
            foreach (
                var id in await hamlet.InStore(s =>
                    s.Outbox.Where(o => o.State == OutboxStates.Refused).Select(o => o.Id).ToListAsync()
                )
            )
                await hamlet.With<Reply<Guid>, SendAgain>(s => s.It(id, new("Wilma"), default));
        }

        Assert.Equal(Kills, killed);
        using var after = new AuthorityJournal(Folder);
        var byKey = after.All.GroupBy(e => e.Key).ToList();
        Assert.Equal(Reports, byKey.Count);
        Assert.All(byKey, g => Assert.Single(g, e => e.Ruling == Ruling.Taken));
        var receipts = await hamlet.InStore(s => s.Outbox.ToDictionaryAsync(o => o.Key, o => o.Receipt));
        Assert.All(byKey, g => Assert.Equal(g.Single(e => e.Ruling == Ruling.Taken).Receipt, receipts[g.Key]));
    }

    [Fact]
    public void A_journal_that_was_cut_off_in_the_middle_of_a_line_goes_on_behind_the_last_whole_one()
    {
        var handed = new HandedIn("report/1", "T-1", "application/pdf", "%PDF-1.7"u8.ToArray());
        using (var desk = new AtTheDesk(Folder, hamlet.Clock))
            desk.Desk.Decide(handed);
        var file = Path.Combine(Folder, "journal.jsonl");
        File.AppendAllText(file, "{\"Number\":2,\"At\":\"2030-0");
        using var again = new AtTheDesk(Folder, hamlet.Clock);
        Assert.Equal("B-000001", again.Desk.Decide(handed).Receipt);
        Assert.Equal(2, again.Desk.Decide(handed with { Key = "report/2" }).Number);
    }

    /// <summary>
    /// Hands reports to a simulated authority without a wire between, and can be killed on either side.
    /// </summary>
    private sealed class AtTheDesk(string folder, TimeProvider clock) : IAuthorityIntake, IDisposable
    {
        private AuthorityDesk? desk;
        private int tries;

        public AuthorityJournal Journal { get; } = new(folder);
        public AuthorityDesk Desk => desk ??= new(Journal, clock, 'B');
        public List<HandedIn> Handed { get; } = [];
        public List<string?> Said { get; } = [];
        public int KilledAfter { get; set; } = int.MaxValue;
        public bool ForgetsWhatWasAsked { get; init; }

        public Task<Delivery> Submit(Submission submission, CancellationToken cancel)
        {
            if (Desk.DownUntil is not null)
                return Task.FromResult<Delivery>(new Delivery.Later("closed", TimeSpan.FromMinutes(10)));
            Said.Add(submission.Secret);
            var last = ++tries >= KilledAfter;
            if (last && tries % 2 == 0)
                throw new OperationCanceledException("killed before it was handed in");
            var handed = new HandedIn(
                submission.Key,
                submission.Number,
                submission.File.MediaType,
                [.. submission.File.Bytes]
            );
            Handed.Add(handed);
            var said = Desk.Decide(handed);
            if (last)
                throw new OperationCanceledException("killed before the answer was written down");
            return Task.FromResult<Delivery>(
                said.Ruling == Ruling.Taken ? new Delivery.Accepted(said.Receipt) : new Delivery.Declined(said.Why!)
            );
        }

        public Task<ImmutableArray<IntakeRuling>> Rulings(
            string address,
            string? secret,
            long after,
            CancellationToken cancel
        )
        {
            Said.Add(secret);
            return Task.FromResult<ImmutableArray<IntakeRuling>>([
                .. Desk.Rulings(ForgetsWhatWasAsked ? 0 : after)
                    .Select(e => new IntakeRuling(e.Number, e.Key, e.Ruling == Ruling.Taken, e.Receipt, e.Why)),
            ]);
        }

        public void Dispose() => Journal.Dispose();
    }
}
