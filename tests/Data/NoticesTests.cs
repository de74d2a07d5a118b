using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Notices;
using Mordel.Core.Outside;
using Mordel.Core.Rigs;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;
using Mordel.Simulators;

namespace Mordel.Data.Tests;

/// <summary>Owners, occupants and authorities are told what they must know, once.</summary>
public sealed class NoticesTests : IAsyncLifetime, IAsyncDisposable
{
    private static readonly CancellationToken None = CancellationToken.None;
    private static readonly Author Wilma = new("Wilma");
    private readonly SmallInstallation hamlet = new();

    public async Task InitializeAsync()
    {
        await hamlet.Filled([AssemblyTypes.DC, AssemblyTypes.RP]);
        await Owner("mill@inns.invalid");
    }

    Task IAsyncLifetime.DisposeAsync() => DisposeAsync().AsTask();

    public ValueTask DisposeAsync() => hamlet.DisposeAsync();

    private SimulatedOutside Outside => hamlet.Services.GetRequiredService<SimulatedOutside>();

    private SimulatedMail Mail => hamlet.Services.GetRequiredService<SimulatedMail>();

    private DateOnly Tomorrow => DateOnly.FromDateTime(hamlet.Clock.GetLocalNow().DateTime).AddDays(1);

    private string[] Kept =>
        Directory.Exists(Path.Combine(hamlet.Folder, "files", "letters"))
            ? Directory.GetFiles(Path.Combine(hamlet.Folder, "files", "letters"))
            : [];

    private Task<int> Owner(string mail, string language = "") =>
        hamlet.InStore(s =>
            s.Owners.ExecuteUpdateAsync(o => o.SetProperty(x => x.Mail, mail).SetProperty(x => x.Language, language))
        );

    private Task<Guid> Stop(int assembly, TimeOnly? at, DateOnly? day = null) =>
        hamlet.InStore(async s =>
        {
            var row = new StopRow
            {
                Id = Guid.NewGuid(),
                Day = day ?? Tomorrow,
                TesterId = hamlet.Tester,
                Order = assembly + 1,
                AssemblyId = hamlet.Assemblies[assembly],
                WindowFrom = new(8, 0),
                WindowUntil = new(16, 0),
                PlannedAt = at,
                Minutes = 30,
            };
            s.Stops.Add(row);
            await s.SaveChangesAsync();
            return row.Id;
        });

    private Task<int> Move(Guid stop, DateOnly day, TimeOnly at) =>
        hamlet.InStore(async s =>
        {
            var row = (await s.Stops.FindAsync(stop))!;
            (row.Day, row.PlannedAt, row.Sequence) = (day, at, row.Sequence + 1);
            return await s.SaveChangesAsync();
        });

    private Task<Reply<int>> TellAhead() => hamlet.With<Reply<int>, TellOwners>(t => t.SendAhead(Wilma, None));

    private Task<Reply<int>> Tell(NoticeKind kind, params int[] assemblies) =>
        hamlet.With<Reply<int>, TellOwners>(t =>
            t.Send(kind, [.. assemblies.Select(a => hamlet.Assemblies[a])], Wilma, None)
        );

    private Task<DateTimeOffset?> Deliver(CancellationToken cancel = default) =>
        hamlet.With<DateTimeOffset?, OutboxDelivery>(d => d.Due(cancel));

    private Task<int> TakeIn() => hamlet.With<int, IncomingLetters>(i => i.Take(None));

    private async Task<List<(OutboxRow Row, LetterRow Letter)>> Letters() =>
        [
            .. (
                await hamlet.InStore(s =>
                    (
                        from o in s.Outbox
                        join l in s.Letters on o.Id equals l.OutboxId
                        orderby o.WrittenAt, o.Key
                        select new { o, l }
                    )
                        .AsNoTracking()
                        .ToListAsync()
                )
            ).Select(x => (x.o, x.l)),
        ];

    private async Task<string[]> Kinds() => [.. (await Letters()).Select(l => l.Row.Kind)];

    [Fact]
    public async Task A_visit_is_told_once_and_again_only_when_it_leaves_the_hours_that_were_told()
    {
        var stop = await Stop(0, new(10, 0));
        Assert.Equal(1, (await TellAhead()).Value);
        var (row, letter) = Assert.Single(await Letters());
        Assert.Equal(("visit", "mill@inns.invalid", "Mill Inns"), (row.Kind, row.To, row.Recipient));
        Assert.Contains("between 09:30 and 11:00", letter.Text, StringComparison.Ordinal);
        Assert.Contains(LetterRow.Page, letter.Text, StringComparison.Ordinal);
        Assert.Contains("nobody", (await TellAhead()).Refusal, StringComparison.Ordinal);

        await Move(stop, Tomorrow, new(10, 20));
        Assert.NotNull((await TellAhead()).Refusal);

        await Move(stop, Tomorrow, new(14, 0));
        Assert.Equal(1, (await TellAhead()).Value);
        await Move(stop, Tomorrow, new(10, 0));
        Assert.Equal(1, (await TellAhead()).Value);
        await Move(stop, Tomorrow, new(14, 0));
        Assert.Equal(1, (await TellAhead()).Value);
        var all = await Letters();
        Assert.Equal(["changed", "changed", "changed", "visit"], all.Select(l => l.Row.Kind).Order());
        Assert.Contains(all, l => l.Letter.Text.Contains("09:30 to 11:00. Now", StringComparison.Ordinal));
        Assert.Equal(4, await hamlet.InStore(s => s.Notices.CountAsync(n => n.StopId == stop)));
    }

    [Fact]
    public async Task Owner_and_occupant_each_get_one_letter_about_everything_of_a_day_in_their_language()
    {
        await Owner("mill@inns.invalid", "de");
        await hamlet.InStore(s =>
            s.Places.ExecuteUpdateAsync(p => p.SetProperty(x => x.OccupantMail, "bar@inn.invalid"))
        );
        await Stop(0, new(9, 0));
        await Stop(1, new(9, 30));
        await Stop(0, new(11, 0), Tomorrow.AddDays(1));
        Assert.Equal(4, (await TellAhead()).Value);
        var all = await Letters();
        Assert.Equal(2, all.Count(l => l.Row.To == "bar@inn.invalid"));
        Assert.All(all, l => Assert.Contains("Wasser aus", l.Letter.Subject, StringComparison.Ordinal));
        Assert.Contains(all, l =>
            l.Letter.Text.Contains("DC 1 in", StringComparison.Ordinal)
            && l.Letter.Text.Contains("RP 1 in", StringComparison.Ordinal)
        );
        Assert.Equal(2, await hamlet.InStore(s => s.Links.CountAsync()));
    }

    [Fact]
    public async Task Who_has_no_address_is_named_and_can_be_told_by_telephone()
    {
        await Owner("");
        var stop = await Stop(0, new(9, 0));
        Assert.Contains("Mill Inns, 0199 100 001", (await TellAhead()).Refusal, StringComparison.Ordinal);
        var owner = await hamlet.InStore(s => s.Owners.Select(o => o.Id).SingleAsync());
        Assert.Equal(1, (await hamlet.With<Reply<int>, TellOwners>(t => t.ByTelephone(owner, Wilma, None))).Value);
        Assert.Empty(await Letters());
        Assert.Equal(Tomorrow, (await hamlet.InStore(s => s.Stops.FindAsync(stop).AsTask()))!.ToldDay);
        Assert.Contains("nobody", (await TellAhead()).Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Where_nothing_carries_letters_everybody_is_to_be_telephoned_and_nothing_is_written()
    {
        var stop = await Stop(0, new(9, 0));
        await using var scope = hamlet.Services.CreateAsyncScope();
        T Of<T>()
            where T : notnull => scope.ServiceProvider.GetRequiredService<T>();
        var silent = new NoticeWriter(
            Of<Store>(),
            Of<NoticeTemplates>(),
            Of<NoticeLetters>(),
            Of<Links.KeepLinks>(),
            hamlet.Clock
        );
        var told = await silent.Visits([(await Of<Store>().Stops.FindAsync(stop))!], None);
        Assert.Empty(told.Letters);
        var untold = Assert.Single(told.Untold);
        Assert.NotNull(untold.Owner);
        Assert.Equal("Mill Inns, 0199 100 001, is to be telephoned: Mill inn.", untold.Says);
    }

    [Fact]
    public async Task The_day_before_they_are_reminded_once_and_never_in_the_night()
    {
        await Stop(0, new(10, 0));
        await TellAhead();
        Task<int> Remind() => hamlet.With<int, Reminders>(r => r.Write(None));
        var here = hamlet.Clock.GetLocalNow();
        hamlet.Clock.Offset += here.Date.AddHours(22) - here.DateTime;
        Assert.Equal(0, await Remind());
        hamlet.Clock.Offset -= TimeSpan.FromHours(10);
        Assert.Equal((1, 0), (await Remind(), await Remind()));
        Assert.Contains("reminder", await Kinds());
        // It is of no use once the visit is over, and then nobody gets it.
        var reminder = (await Letters()).First(l => l.Row.Kind == "reminder").Row;
        Assert.True(reminder.ExpiresAt < reminder.WrittenAt + OutboxWriter.Patience);
    }

    [Fact]
    public async Task What_came_of_a_test_goes_to_its_owner_with_the_sealed_report()
    {
        var run = await hamlet.Signed();
        await Deliver();
        var (row, letter) = Assert.Single(await Letters());
        Assert.Equal(("passed", run, OutboxStates.Delivered), (row.Kind, row.RunId, row.State));
        Assert.Contains("passed", letter.Text, StringComparison.Ordinal);
        await using var file = File.OpenRead(Assert.Single(Kept));
        var message = await MimeKit.MimeMessage.LoadAsync(file);
        Assert.EndsWith(
            ".pdf",
            Assert.Single(message.Attachments).ContentDisposition!.FileName,
            StringComparison.Ordinal
        );
        Assert.Contains("/owner/", message.TextBody, StringComparison.Ordinal);
        Assert.DoesNotContain(LetterRow.Page, message.TextBody + message.HtmlBody, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_failure_on_a_high_hazard_is_told_at_once_to_owner_occupant_and_authority()
    {
        await hamlet.InStore(async s =>
        {
            await s.Places.ExecuteUpdateAsync(p => p.SetProperty(x => x.OccupantMail, "bar@inn.invalid"));
            return await s.Authorities.ExecuteUpdateAsync(a => a.SetProperty(x => x.AlertsTo, "alerts@board.invalid"));
        });
        await hamlet.Signed(1, Springs.Healthy(AssemblyTypes.RP) with { Relief = 1.2 });
        var all = await Letters();
        Assert.Equal(["alert", "failed", "failed"], all.Select(l => l.Row.Kind).Order());
        Assert.Equal(
            ["alerts@board.invalid", "bar@inn.invalid", "mill@inns.invalid"],
            all.Select(l => l.Row.To).Order()
        );
        var alert = all.First(l => l.Row.Kind == "alert");
        Assert.Null(alert.Letter.LinkId);
        Assert.Contains("Relief", alert.Letter.Text, StringComparison.OrdinalIgnoreCase);
        await Deliver();
        Assert.Equal(3, Kept.Length);
    }

    [Fact]
    public async Task A_second_notice_follows_a_day_that_is_over_and_a_warning_follows_the_second_notice()
    {
        await hamlet.InStore(s =>
            s.Assemblies.ExecuteUpdateAsync(a =>
                a.SetProperty(x => x.NextDue, Tomorrow.AddDays(-20)).SetProperty(x => x.DueThen, "The board may act.")
            )
        );
        await hamlet.InStore(s =>
            s.Assemblies.Where(a => a.Type == "RP")
                .ExecuteUpdateAsync(a => a.SetProperty(x => x.NextDue, Tomorrow.AddDays(20)))
        );
        Assert.Contains("no second notice", (await Tell(NoticeKind.ShutOff, 0)).Refusal, StringComparison.Ordinal);
        Assert.Contains("not overdue", (await Tell(NoticeKind.Second, 1)).Refusal, StringComparison.Ordinal);
        Assert.Equal(1, (await Tell(NoticeKind.Due, 0, 1)).Value);
        Assert.Equal(1, (await Tell(NoticeKind.Second, 0, 1)).Value);
        Assert.Contains("sent already", (await Tell(NoticeKind.Second, 0)).Refusal, StringComparison.Ordinal);
        Assert.Equal(1, (await Tell(NoticeKind.ShutOff, 0)).Value);
        Assert.Equal(["due", "second", "shut-off"], (await Kinds()).Order());
        Assert.Contains(await Letters(), l => l.Letter.Text.Contains("The board may act.", StringComparison.Ordinal));
        Assert.NotNull((await Tell(NoticeKind.Passed, 0)).Refusal);
    }

    [Theory]
    [InlineData(OutsideMood.Slow)]
    [InlineData(OutsideMood.Down)]
    [InlineData(OutsideMood.LosesAnswers)]
    [InlineData(OutsideMood.Garbles)]
    public async Task A_letter_arrives_once_though_the_server_dies_while_it_is_sent(OutsideMood mood)
    {
        await Stop(0, new(10, 0));
        await TellAhead();
        (Outside.Mood, Outside.Slowness) = (mood, TimeSpan.FromSeconds(30));
        using (var dying = new CancellationTokenSource(TimeSpan.FromMilliseconds(600)))
            try
            {
                await Deliver(dying.Token);
            }
            catch (OperationCanceledException) { }

        Assert.Equal(OutboxStates.Waiting, (await Letters())[0].Row.State);
        Outside.Mood = OutsideMood.Works;
        hamlet.Clock.Offset += TimeSpan.FromMinutes(2);
        await Deliver();
        await Deliver();
        Assert.Equal(OutboxStates.Delivered, (await Letters())[0].Row.State);
        Assert.Single(Kept);
    }

    [Fact]
    public async Task What_comes_back_twice_is_taken_in_once_and_goes_out_again_when_the_address_is_mended()
    {
        await Owner($"gone@{SimulatedMail.Closed}");
        await Stop(0, new(10, 0));
        await TellAhead();
        await Deliver();
        Assert.Equal((1, 0), (await TakeIn(), await TakeIn()));
        var (row, _) = Assert.Single(await Letters());
        Assert.Equal(OutboxStates.Returned, row.State);
        Assert.Contains("no mailbox", row.Says, StringComparison.Ordinal);
        await Owner("");
        Task<Reply<Guid>> Again() => hamlet.With<Reply<Guid>, SendAgain>(k => k.It(row.Id, new("Wilma"), None));
        Assert.Contains("no address", (await Again()).Refusal, StringComparison.Ordinal);
        await Owner("mill@inns.invalid");
        Assert.Null((await Again()).Refusal);
        await Deliver();
        Assert.Equal(
            ("mill@inns.invalid", OutboxStates.Delivered),
            ((await Letters())[0].Row.To, (await Letters())[0].Row.State)
        );
        Assert.Equal(2, Kept.Length);
        Assert.Contains("not go out twice", (await Again()).Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_answer_finds_the_letter_it_belongs_to_until_somebody_puts_it_away()
    {
        await Stop(0, new(10, 0));
        await TellAhead();
        await Deliver();
        var (row, _) = Assert.Single(await Letters());
        Assert.True(await Mail.Answer(row.Key, "Ring the bell twice.", bounce: false, None));
        Assert.False(await Mail.Answer("notice/none", "x", bounce: false, None));
        Assert.Equal(1, await TakeIn());
        var came = await hamlet.InStore(s => s.Incoming.SingleAsync());
        Assert.Equal((row.Id, "Ring the bell twice.", "mill@inns.invalid"), (came.OutboxId, came.Text, came.From));
        await hamlet.With<Reply<Guid>, KeepNotices>(k => k.Seen(came.Id, Wilma, None));
        Assert.Equal("Wilma", (await hamlet.InStore(s => s.Incoming.SingleAsync())).SeenBy);
    }

    [Fact]
    public async Task A_kind_that_is_switched_off_is_not_sent_and_not_counted_as_told()
    {
        var stop = await Stop(0, new(10, 0));
        await hamlet.With<Reply<string>, KeepNotices>(k => k.Switch("visit", true, None));
        await hamlet.With<Reply<string>, KeepNotices>(k => k.Switch("passed", true, None));
        Assert.NotNull((await TellAhead()).Refusal);
        Assert.Null((await hamlet.InStore(s => s.Stops.FindAsync(stop).AsTask()))!.ToldDay);
        await hamlet.Signed(1);
        Assert.Empty(await Letters());
        Assert.Equal(
            NotDone.NotFound,
            (await hamlet.With<Reply<string>, KeepNotices>(k => k.Switch("x", true, None))).Why
        );
    }

    [Fact]
    public async Task Own_words_stand_for_their_rules_and_language_and_an_end_gives_the_word_back()
    {
        Task<Reply<Guid>> Say(string? profile, string language, string subject, string text) =>
            hamlet.With<Reply<Guid>, KeepNotices>(k =>
                k.Words("visit", profile, language, new(subject, text), Wilma, None)
            );
        Task<NoticeTemplate> Words(string? profile, string language) =>
            hamlet.With<NoticeTemplate, NoticeTemplates>(t => t.For(NoticeKind.Visit, profile, language, None));
        Assert.Contains(
            "no such word",
            (await Say(null, "en", "x", "{{ weather }}")).Refusal,
            StringComparison.Ordinal
        );
        Assert.NotNull((await Say("rules nobody has", "en", "x", "x")).Refusal);
        Assert.NotNull((await Say(null, "xx", "x", "x")).Refusal);
        Assert.Null((await Say(null, "en", "All", "all {{ to }}")).Refusal);
        Assert.Null((await Say("psid-standard", "en", "Board", "board {{ to }}")).Refusal);
        Assert.Equal("Board", (await Words("psid-standard", "en")).Subject);
        Assert.Equal("All", (await Words("other", "en")).Subject);
        Assert.Equal(BuiltInNotices.Of(NoticeKind.Visit, "de"), await Words("psid-standard", "de"));
        await Stop(0, new(10, 0));
        await TellAhead();
        Assert.Equal("board Mill Inns", Assert.Single(await Letters()).Letter.Text);
        Assert.Null((await Say("psid-standard", "en", "", "")).Refusal);
        Assert.Equal("All", (await Words("psid-standard", "en")).Subject);
        // What an earlier version kept and this one cannot set keeps nobody from being told.
        await hamlet.InStore(s =>
            s.NoticeTemplates.ExecuteUpdateAsync(t =>
                t.SetProperty(x => x.Text, "{% broken").SetProperty(x => x.Subject, "x")
            )
        );
        await Stop(1, new(12, 0));
        Assert.Equal(1, (await TellAhead()).Value);
    }

    [Theory]
    [InlineData("a@b", true)]
    [InlineData("a.b+c@d.invalid", true)]
    [InlineData("", false)]
    [InlineData("a", false)]
    [InlineData("@b", false)]
    [InlineData("a@", false)]
    [InlineData("a@b@c", false)]
    [InlineData("a@b, c@d", false)]
    [InlineData("a@b\r\nBcc: c@d", false)]
    [InlineData("<a@b>", false)]
    public void An_address_for_letters_is_one_mailbox(string address, bool holds) =>
        Assert.Equal(holds, Recipient.IsMail(address));
}
