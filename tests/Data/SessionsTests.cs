using CsCheck;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Runs;
using Mordel.Data.Accounts;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Links;
using Mordel.Data.Lists;
using Mordel.Data.Processes;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>Who is signed in where, what ends it, and what happens to who comes in no more.</summary>
public sealed class SessionsTests : IAsyncDisposable
{
    private static readonly CancellationToken None = CancellationToken.None;
    private static readonly Author Wilma = new("Wilma Quent");

    private readonly Hamlet town = new SmallInstallation();

    public ValueTask DisposeAsync() => town.DisposeAsync();

    private Task<Guid> Begin(Guid who) =>
        town.With<Guid, Sessions>(s => s.Begin(who, "a password", "10.0.0.7", "Firefox on Linux", None));

    private Task<bool> Holds(Guid session, Guid who) => town.With<bool, Sessions>(s => s.Holds(session, who, None));

    private async Task<Guid> Somebody(string name, params string[] roles)
    {
        var made = await town.With<Reply<Guid>, AddPerson>(p =>
            p.With(name, name.Split(' ')[0], roles[0], "Six lanterns 4 Kelp", Wilma, None)
        );
        Assert.Empty(made.Errors);
        var reply = await town.With<Reply<Guid>, KeepRoles>(k => k.Set(made.Value, roles, Wilma, None));
        Assert.Empty(reply.Errors);
        return made.Value;
    }

    [Fact]
    public async Task A_session_holds_for_its_own_person_until_it_is_ended_and_not_a_moment_longer()
    {
        await town.Filled(AssemblyTypes.DC);
        var (one, other) = (await Begin(town.Tester), await Begin(town.Tester));
        Assert.True(await Holds(one, town.Tester));
        Assert.False(await Holds(one, Guid.NewGuid()));
        Assert.False(await Holds(Guid.NewGuid(), town.Tester));
        Assert.False(await town.With<bool, Sessions>(s => s.End(one, Guid.NewGuid(), None)));
        Assert.True(await Holds(one, town.Tester));
        Assert.True(await town.With<bool, Sessions>(s => s.End(one, town.Tester, None)));
        Assert.False(await Holds(one, town.Tester));
        Assert.False(await town.With<bool, Sessions>(s => s.End(one, town.Tester, None)));
        Assert.Equal([other], (await Open()).Select(s => s.Id));
    }

    private Task<IReadOnlyList<SessionRow>> Open() =>
        town.With<IReadOnlyList<SessionRow>, Sessions>(s => s.Open(town.Tester, None));

    [Fact]
    public async Task One_that_is_not_used_for_two_weeks_ends_and_each_ends_after_three_months()
    {
        await town.Filled(AssemblyTypes.DC);
        var (idle, used) = (await Begin(town.Tester), await Begin(town.Tester));
        for (var days = 0; days < 89; days += 10)
        {
            town.Clock.Offset += TimeSpan.FromDays(10);
            Assert.Equal(days < 80, await Holds(used, town.Tester));
        }

        Assert.False(await Holds(idle, town.Tester));
        Assert.Empty(await Open());
        town.Clock.Offset += Sessions.Longest + Sessions.Idle;
        Assert.Equal(2, await town.With<int, Sessions>(s => s.Sweep(None)));
    }

    [Fact]
    public async Task A_new_password_ends_all_others_and_what_was_shown_before_is_known_by_the_minute()
    {
        await town.Filled(AssemblyTypes.DC);
        await town.With<Reply<Guid>, KeepPasswords>(p => p.Give(town.Tester, "Six lanterns 4 Kelp", Wilma, None));
        Assert.True(await town.InStore(s => s.Users.Select(u => u.MustChangePassword).SingleAsync()));
        var (here, there) = (await Begin(town.Tester), await Begin(town.Tester));
        town.Clock.Offset += TimeSpan.FromHours(2);
        Task<DateTimeOffset?> Proved() => town.With<DateTimeOffset?, Sessions>(s => s.ProvedAt(here, None));
        Assert.InRange((town.Clock.Now() - (await Proved())!.Value).TotalMinutes, 120, 125);
        await town.With<int, Sessions>(async s =>
        {
            await s.Prove(here, None);
            return 0;
        });
        Assert.InRange((town.Clock.Now() - (await Proved())!.Value).TotalMinutes, 0, 5);
        var changed = await town.With<Reply<Guid>, KeepPasswords>(p =>
            p.Change(town.Tester, here, "Six lanterns 4 Kelp", "Nine gulls 2 Barrow", "Nine gulls 2 Barrow", None)
        );
        Assert.Empty(changed.Errors);
        Assert.True(await Holds(here, town.Tester));
        Assert.False(await Holds(there, town.Tester));
        Assert.False(await town.InStore(s => s.Users.Select(u => u.MustChangePassword).SingleAsync()));
    }

    [Fact]
    public async Task A_link_sets_a_password_once_and_the_one_before_it_none()
    {
        await town.Filled(AssemblyTypes.DC);
        Task<Reply<string>> Link() =>
            town.With<Reply<string>, KeepPasswords>(p => p.Link(town.Tester, KeepPasswords.LinkGiven, Wilma, None));
        Task<Reply<Guid>> Use(string? secret, string wanted = "Nine gulls 2 Barrow") =>
            town.With<Reply<Guid>, KeepPasswords>(p => p.ByLink(secret, wanted, wanted, None));
        var (old, link) = ((await Link()).Value!, (await Link()).Value!);
        Assert.Equal(NotDone.NotFound, (await Use(old)).Why);
        Assert.Equal(NotDone.NotFound, (await Use("0123")).Why);
        Assert.Equal(NotDone.NotFound, (await Use(null)).Why);
        Assert.Equal(NotDone.Wrong, (await Use(link, "passwordpassword")).Why);
        var session = await Begin(town.Tester);
        Assert.Null((await Use(link)).Why);
        Assert.False(await Holds(session, town.Tester));
        Assert.Equal(NotDone.NotFound, (await Use(link)).Why);
        var late = (await Link()).Value!;
        town.Clock.Offset += KeepPasswords.LinkGiven;
        Assert.Equal(NotDone.NotFound, (await Use(late)).Why);
        Assert.DoesNotContain(await town.InStore(s => s.Audit.Select(a => a.Says).ToListAsync()), says =>
            says.Contains(late, StringComparison.Ordinal) || says.Contains("gulls", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task Somebody_always_owns_the_installation()
    {
        await town.Filled(AssemblyTypes.DC);
        Task<Reply<Guid>> Set(Guid who, params string[] roles) =>
            town.With<Reply<Guid>, KeepRoles>(k => k.Set(who, roles, Wilma, None));
        Task<Reply<Guid>> Dismiss(Guid who) => town.With<Reply<Guid>, KeepRoles>(k => k.Dismiss(who, Wilma, None));
        Assert.Equal(NotDone.Refused, (await Set(town.Tester, Roles.Tester)).Why);
        Assert.Equal(NotDone.Refused, (await Dismiss(town.Tester)).Why);
        Assert.Equal(NotDone.Wrong, (await Set(town.Tester)).Why);
        Assert.Equal(NotDone.Wrong, (await Set(town.Tester, "king")).Why);
        Assert.Equal(NotDone.NotFound, (await Set(Guid.NewGuid(), Roles.Tester)).Why);
        var second = await Somebody("Ines Tarrow", Roles.Owner, Roles.Office);
        Assert.Null((await Set(town.Tester, Roles.Tester)).Why);
        Assert.Equal(NotDone.Refused, (await Dismiss(second)).Why);
        // Whoever was dismissed owns nothing.
        Assert.Null((await Set(town.Tester, Roles.Tester, Roles.Owner)).Why);
        Assert.Null((await Dismiss(second)).Why);
        Assert.Equal(NotDone.Refused, (await Set(town.Tester, Roles.Tester)).Why);
    }

    [Fact]
    public async Task Whoever_is_dismissed_is_out_at_once_with_every_key_and_link_and_the_work_stays()
    {
        await town.Filled(AssemblyTypes.DC);
        await Somebody("Wilma Quent", Roles.Owner);
        var run = await town.Signed();
        var session = await Begin(town.Tester);
        var key = await town.With<Reply<string>, ApiKeys>(k => k.Issue(town.Tester, "van", ApiKeys.Write, 30, None));
        var link = await town.With<Reply<string>, KeepPasswords>(p =>
            p.Link(town.Tester, KeepPasswords.LinkGiven, Wilma, None)
        );
        Assert.NotNull(await town.With<TokenRow?, ApiKeys>(k => k.Find(key.Value!, None)));
        Assert.Null((await town.With<Reply<Guid>, KeepRoles>(k => k.Dismiss(town.Tester, Wilma, None))).Why);
        Assert.False(await Holds(session, town.Tester));
        Assert.Null(await town.With<TokenRow?, ApiKeys>(k => k.Find(key.Value!, None)));
        Assert.Null(await town.With<Account?, KeepPasswords>(p => p.Whose(link.Value, None)));
        Assert.Equal(
            NotDone.Refused,
            (
                await town.With<Reply<string>, KeepPasswords>(p =>
                    p.Link(town.Tester, KeepPasswords.LinkGiven, Wilma, None)
                )
            ).Why
        );
        Assert.Empty(await town.With<IReadOnlyList<Account>, KitsAndPeopleList>(l => l.In(Roles.Tester, None)));
        Assert.True((await town.Report(run))!.Holds);
        Assert.False(await Holds(await Begin(town.Tester), town.Tester));
        Assert.Null((await town.With<Reply<Guid>, KeepRoles>(k => k.TakeBack(town.Tester, Wilma, None))).Why);
        Assert.True(await Holds(await Begin(town.Tester), town.Tester));
        Assert.Single(await town.With<IReadOnlyList<Account>, KitsAndPeopleList>(l => l.In(Roles.Tester, None)));
        Assert.True((await town.CheckAll()).Holds);
    }

    [Fact]
    public async Task What_the_law_of_records_does_not_keep_is_deleted_of_who_was_dismissed()
    {
        await town.Filled(AssemblyTypes.DC);
        await Somebody("Wilma Quent", Roles.Owner);
        var run = await town.Signed();
        var learner = await Somebody("Pia Lund", Roles.Learner);
        Task<Reply<Guid>> Forget(Guid who) => town.With<Reply<Guid>, ForgetPerson>(f => f.Of(who, Wilma, None));
        Task<IReadOnlyDictionary<string, object>?> About(Guid who) =>
            town.With<IReadOnlyDictionary<string, object>?, AboutPerson>(a => a.All(who, None));
        foreach (var who in (Guid[])[town.Tester, learner])
        {
            await Begin(who);
            await town.With<Reply<Guid>, KeepRoles>(k => k.Mail(who, "somebody@post.invalid", Wilma, None));
            Assert.Equal(NotDone.Refused, (await Forget(who)).Why);
            Assert.Contains(
                "somebody@post.invalid",
                System.Text.Json.JsonSerializer.Serialize(await About(who)),
                StringComparison.Ordinal
            );
            Assert.Null((await town.With<Reply<Guid>, KeepRoles>(k => k.Dismiss(who, Wilma, None))).Why);
            Assert.Null((await Forget(who)).Why);
            Assert.Null((await Forget(who)).Why);
            Assert.Equal(
                NotDone.Refused,
                (await town.With<Reply<Guid>, KeepRoles>(k => k.TakeBack(who, Wilma, None))).Why
            );
        }

        var left = await town.InStore(s => s.Users.Where(u => u.ForgottenAt != null).ToListAsync());
        Assert.All(left, a =>
            Assert.True(
                a is { Email: null, PasswordHash: null } && a.UserName!.StartsWith("left-", StringComparison.Ordinal)
            )
        );
        Assert.Equal(["Moa Ferrin", ForgetPerson.Nameless], left.Select(a => a.FullName).Order());
        Assert.Equal(0, await town.InStore(s => s.Sessions.CountAsync()));
        Assert.True((await town.Report(run))!.Holds);
        Assert.Equal("Moa Ferrin", (await town.Report(run))!.Run!.Setup.Tester.Name);
        Assert.True((await town.CheckAll()).Holds);
        Assert.Null(await About(Guid.NewGuid()));
    }

    [Fact]
    public async Task A_stranger_who_tries_a_name_keeps_nobody_out_who_was_here_before()
    {
        var tries = Tries();
        for (var i = 0; i < 3 * SignInTries.MostOfAName; i++)
            if (!await tries.Rests("MOA", "10.9.9.9", null))
                await tries.Wrong("MOA", "10.9.9.9", null);
        Assert.True(await tries.Rests("MOA", "10.1.1.1", null));
        Assert.False(await tries.Rests("MOA", "10.1.1.1", "her phone"));
        for (var i = 0; i < SignInTries.MostOfAName; i++)
            await tries.Wrong("MOA", "10.1.1.1", "her phone");
        Assert.True(await tries.Rests("MOA", "10.1.1.1", "her phone"));
        Assert.False(await tries.Rests("ODD", "10.1.1.1", null));
        town.Clock.Offset += SignInTries.Window;
        Assert.False(await tries.Rests("MOA", "10.1.1.1", null));
    }

    [Fact]
    public async Task However_many_names_are_tried_from_one_address_it_rests_after_some()
    {
        var tries = Tries();
        await Gen.String[1, 200]
            .Array[SignInTries.MostOfAnAddress]
            .SampleAsync(
                async names =>
                {
                    town.Clock.Offset += SignInTries.Window;
                    foreach (var name in names)
                        await tries.Wrong(name, "10.9.9.9", null);
                    return await tries.Rests("SOMEBODY ELSE", "10.9.9.9", null)
                        && !await tries.Rests("SOMEBODY ELSE", "10.9.9.8", null);
                },
                iter: 50,
                threads: 1
            );
    }

    [Fact]
    public void A_door_ends_with_what_it_stands_on_and_nobody_has_too_many()
    {
        var doors = new OpenDoors(new());
        var (moa, run, session) = (Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid());
        using var one = doors.Open(moa, 2, [run, session], None)!;
        using var two = doors.Open(moa, 2, [Guid.NewGuid()], None)!;
        Assert.Null(doors.Open(moa, 2, [run], None));
        using var others = doors.Open(Guid.NewGuid(), 2, [run], None)!;
        doors.Close(session);
        Assert.True(one.Over.IsCancellationRequested);
        Assert.False(two.Over.IsCancellationRequested || others.Over.IsCancellationRequested);
        doors.Close(run);
        Assert.True(others.Over.IsCancellationRequested);
        one.Dispose();
        using var again = doors.Open(moa, 2, [run], None)!;
        Assert.Equal(3, doors.Count);
        // Ended after it was closed: nothing happens.
        one.Dispose();
        doors.Close(run);
    }

    [Fact]
    public async Task A_run_that_somebody_fills_without_end_is_full_at_some_point_and_what_it_holds_stays()
    {
        await town.Filled(AssemblyTypes.DC);
        var run = await town.Begun();
        Task<Reply<TakenEntries>> Notes(int many) =>
            town.With<Reply<TakenEntries>, TakeEntries>(t =>
                t.Into(
                    run,
                    town.Tester,
                    [
                        .. Enumerable
                            .Range(0, many)
                            .Select(i => new Entry(
                                new(Guid.NewGuid()),
                                i,
                                DateTimeOffset.UtcNow,
                                new EntryBody.Noted("", "x")
                            )),
                    ],
                    None
                )
            );
        Assert.Equal(TakeEntries.MostEntries - 1, (await Notes(TakeEntries.MostEntries - 1)).Value.Fresh);
        Assert.Equal(NotDone.Refused, (await Notes(2)).Why);
        Assert.Equal(1, (await Notes(1)).Value.Fresh);
        Assert.Contains("4000 entries", (await Notes(1)).Refusal, StringComparison.Ordinal);
        Assert.Equal(TakeEntries.MostEntries, await town.InStore(s => s.Entries.CountAsync(e => e.RunId == run)));
    }

    private SignInTries Tries() => new(town.Services.GetRequiredService<WindowCounts>());
}
