using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Reports;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Core.Views;
using Mordel.Data.Accounts;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Field;
using Mordel.Data.Commands.Repairs;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>What a device takes along, and what comes of it when it is brought home.</summary>
public sealed class FieldTests : IAsyncLifetime, IAsyncDisposable
{
    private static readonly CancellationToken None = CancellationToken.None;
    private readonly Hamlet town = new SmallInstallation();

    public async Task InitializeAsync() => await town.Filled(AssemblyTypes.DC, AssemblyTypes.RP);

    Task IAsyncLifetime.DisposeAsync() => DisposeAsync().AsTask();

    public ValueTask DisposeAsync() => town.DisposeAsync();

    private DateOnly Today => town.Clock.Today();
    private DateTimeOffset Now => town.Clock.Now();

    private Task<Guid> Stop(int assembly = 0, int ahead = 0, Guid? tester = null) =>
        town.InStore(async s =>
        {
            var row = new StopRow
            {
                Id = Guid.NewGuid(),
                Day = Today.AddDays(ahead),
                TesterId = tester ?? town.Tester,
                Order = 1,
                AssemblyId = town.Assemblies[assembly],
                Minutes = 20,
            };
            s.Stops.Add(row);
            await s.SaveChangesAsync();
            return row.Id;
        });

    private Task<Aboard> TakeAlong(Guid? who = null) =>
        town.With<Aboard, RoundAboard>(r => r.For(who ?? town.Tester, "Moa Ferrin", None));

    private static BroughtRun Brought(AboardStop stop, DateTimeOffset at) =>
        new(stop.Run!.Value, stop.Setup!, stop.Pass!, at, null);

    private Task<Reply<BegunRun>> Bring(BroughtRun run, Guid? who = null) =>
        town.With<Reply<BegunRun>, BringRun>(b => b.Take(run, who ?? town.Tester, None));

    // A sound double check, entered on the device by its numbers.
    private static DeviceRun Tested(AboardStop stop, DateTimeOffset at, decimal check2 = 1.5m)
    {
        var device = DeviceRun.Open(stop.Setup!, at, out _)!;
        void Says(params EntryBody[] bodies)
        {
            foreach (var body in bodies)
            {
                at = at.AddMinutes(2);
                var entry = new Entry(new(Guid.NewGuid()), device.Log.LastTick + 1, at.ToMillisecond(), body);
                Assert.Empty(device.Take($"{{\"entries\":[{EntryFormat.Write(entry)}]}}"));
            }
        }

        Says(
            new EntryBody.Taken("cv1.read", new Reading(Differential.Psid(1.8m))),
            new EntryBody.Taken("cv2.read", new Reading(Differential.Psid(check2)))
        );
        while (device.State.Current is { } step)
            Says(new EntryBody.Done(step.Key));
        return device;
    }

    private Task<Reply<TakenEntries>> Send(Guid run, DeviceRun device) =>
        town.With<Reply<TakenEntries>, TakeEntries>(t => t.Into(run, town.Tester, [.. device.Log.Entries], None));

    private Task<Reply<Guid>> Sign(Guid run, VerdictView shown, DateTimeOffset at) =>
        town.With<Reply<Guid>, SealRun>(s =>
            s.By(
                run,
                town.Tester,
                new(shown.Name, Signing.TypedName, shown.Entries, []) { There = new(at, shown.Log, shown.Overall) },
                None
            )
        );

    [Fact]
    public async Task A_device_takes_along_the_own_round_of_these_days_and_nothing_of_anybody_elses()
    {
        var other = Guid.NewGuid();
        await town.InStore(async s =>
        {
            s.Users.Add(
                new()
                {
                    Id = other,
                    UserName = "odd",
                    NormalizedUserName = "ODD",
                    FullName = "Odd Harrick",
                    SecurityStamp = "y",
                }
            );
            return await s.SaveChangesAsync();
        });
        var mine = await Stop();
        var tomorrow = await Stop(1, ahead: 1);
        await Stop(1, tester: other);
        await Stop(1, ahead: RoundAboard.Days);
        await Stop(1, ahead: -1);
        var round = await TakeAlong();
        Assert.Equal([mine, tomorrow], round.Stops.Select(s => s.Id));
        Assert.All(round.Stops, s => Assert.NotNull(s.Setup));
        Assert.All(round.Stops, s => Assert.NotEmpty(s.Repair.Sheets));
        Assert.All(round.Stops, s => Assert.Equal("five-valve kit K-9", s.Bring[0]));
        Assert.Contains("sight tube", round.Stops[0].Bring);
        Assert.Empty((await TakeAlong(Guid.NewGuid())).Stops);
        // Every device has the same run for a stop.
        Assert.Equal(round.Stops[0].Run, (await TakeAlong()).Stops[0].Run);
        Assert.Null((await TakeAlong(other)).Stops.Single().Setup);
        Assert.Contains("No kit", (await TakeAlong(other)).Stops.Single().WhyNot, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_test_made_without_a_signal_is_sealed_as_it_was_signed()
    {
        await Stop();
        var stop = (await TakeAlong()).Stops[0];
        var begun = Now.AddMinutes(5);
        var device = Tested(stop, begun);
        var shown = device.Verdict(stop.Previous, TimeSpan.Zero);
        town.Clock.Offset += TimeSpan.FromHours(6);
        var there = await Bring(Brought(stop, begun));
        Assert.Equal(new BegunRun(stop.Run!.Value, null), there.Value);
        Assert.Null((await Send(there.Value!.Run, device)).Why);
        Assert.Null((await Sign(there.Value.Run, shown, begun.AddHours(1))).Refusal);
        var report = (await town.Report(there.Value.Run))!;
        Assert.True(report.Holds);
        Assert.Equal(begun.ToMillisecond(), report.Run!.Setup.BegunAt);
        Assert.Equal(begun.AddHours(1).ToMillisecond(), report.Run.Signing.At);
        Assert.Equal(shown.Overall, report.Run.Verdict.Overall.Id());
        Assert.Contains("A-1/", report.Run.Setup.Number, StringComparison.Ordinal);
        Assert.True((await town.CheckAll()).Broken.Count == 0);
    }

    [Fact]
    public async Task Whatever_is_brought_twice_is_there_once()
    {
        await Stop();
        var stop = (await TakeAlong()).Stops[0];
        var device = Tested(stop, Now);
        var shown = device.Verdict(stop.Previous, TimeSpan.Zero);
        for (var i = 0; i < 3; i++)
        {
            var there = (await Bring(Brought(stop, Now))).Value!;
            Assert.Null((await Send(there.Run, device)).Why);
        }

        town.Clock.Offset += TimeSpan.FromHours(2);
        Assert.Null((await Sign(stop.Run!.Value, shown, Now)).Refusal);
        Assert.Equal(1, await town.InStore(s => s.Runs.CountAsync()));
        Assert.Equal(device.Log.Count, (await town.Report(stop.Run.Value))!.Run!.Log.Length);
        // After the seal the same is acknowledged again, and nothing else is taken.
        Assert.Null((await Bring(Brought(stop, Now))).Why);
        Assert.Null((await Send(stop.Run.Value, device)).Why);
        Assert.Contains("already signed", (await Sign(stop.Run.Value, shown, Now)).Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Nothing_is_taken_in_that_was_not_given_out_to_this_tester_word_for_word()
    {
        await Stop();
        var stop = (await TakeAlong()).Stops[0];
        var good = Brought(stop, Now);
        foreach (
            var bad in new[]
            {
                good with
                {
                    Setup = good.Setup.Replace("Mill inn", "Mill out", StringComparison.Ordinal),
                },
                good with
                {
                    Pass = "marked:round-pass/1|nothing",
                },
                good with
                {
                    Pass = "anything",
                },
                good with
                {
                    Run = Guid.NewGuid(),
                },
                good with
                {
                    Setup = "{}",
                },
            }
        )
            Assert.Contains("not begun with what", (await Bring(bad)).Refusal, StringComparison.Ordinal);
        Assert.Contains("not begun with what", (await Bring(good, Guid.NewGuid())).Refusal, StringComparison.Ordinal);
        Assert.Equal(0, await town.InStore(s => s.Runs.CountAsync()));
    }

    [Fact]
    public async Task A_stop_that_was_begun_on_another_device_too_has_one_log()
    {
        var id = await Stop();
        var stop = (await TakeAlong()).Stops[0];
        var begun = await town.With<Reply<Guid>, BeginRun>(b => b.For(id, town.Tester, false, None));
        Assert.NotEqual(stop.Run, begun.Value);
        var there = (await Bring(Brought(stop, Now))).Value!;
        Assert.Equal(begun.Value, there.Run);
        Assert.Contains("one log", there.Says, StringComparison.Ordinal);
        Assert.Null((await Send(there.Run, Tested(stop, Now))).Why);
        // It is on board from then on as it stands.
        var again = (await TakeAlong()).Stops[0];
        Assert.Equal((begun.Value, true), (again.Run!.Value, again.IsBegun));
        Assert.NotEmpty(again.Log);
    }

    [Fact]
    public async Task A_stop_that_somebody_else_has_now_keeps_the_test_beside_the_round_and_says_so()
    {
        var id = await Stop();
        var stop = (await TakeAlong()).Stops[0];
        await town.InStore(s => s.Stops.Where(x => x.Id == id).ExecuteDeleteAsync());
        var there = (await Bring(Brought(stop, Now))).Value!;
        Assert.Contains("beside the round", there.Says, StringComparison.Ordinal);
        Assert.Null(await town.InStore(s => s.Runs.Select(r => r.StopId).SingleAsync()));
        Assert.Equal(stop.Run, there.Run);
    }

    [Fact]
    public async Task A_log_that_is_not_the_one_that_was_signed_is_not_sealed()
    {
        await Stop();
        var stop = (await TakeAlong()).Stops[0];
        var device = Tested(stop, Now);
        var shown = device.Verdict(stop.Previous, TimeSpan.Zero);
        await Bring(Brought(stop, Now));
        await Send(stop.Run!.Value, device);
        town.Clock.Offset += TimeSpan.FromHours(2);
        var note = new Entry(new(Guid.NewGuid()), device.Log.LastTick + 1, Now, new EntryBody.Noted("end", "More."));
        Assert.Contains(
            "another outcome",
            (await Sign(stop.Run.Value, shown with { Overall = "fail" }, Now)).Refusal,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "not the one that was signed",
            (await Sign(stop.Run.Value, shown with { Log = new('0', 64) }, Now)).Refusal,
            StringComparison.Ordinal
        );
        await town.With<Reply<TakenEntries>, TakeEntries>(t => t.Into(stop.Run.Value, town.Tester, [note], None));
        Assert.Contains(
            "has changed since you looked",
            (await Sign(stop.Run.Value, shown, Now)).Refusal,
            StringComparison.Ordinal
        );
        Assert.Null(await town.InStore(s => s.Runs.Select(r => r.SignedAt).SingleAsync()));
    }

    [Fact]
    public async Task A_certificate_that_ended_meanwhile_is_said_and_nothing_is_lost_and_a_new_one_lets_it_be_sealed()
    {
        await Stop();
        var stop = (await TakeAlong()).Stops[0];
        await town.InStore(s => s.Certificates.ExecuteUpdateAsync(c => c.SetProperty(x => x.Types, "PVB")));
        var without = (await TakeAlong()).Stops[0];
        Assert.Contains("no certificate", without.WhyNot, StringComparison.Ordinal);
        // What was given out before names the certificate of that day, and what it was begun with holds.
        var device = Tested(without, Now);
        var shown = device.Verdict(without.Previous, TimeSpan.Zero);
        Assert.NotEmpty(shown.Obstacles);
        await Bring(Brought(without, Now));
        await Send(without.Run!.Value, device);
        town.Clock.Offset += TimeSpan.FromHours(2);
        Assert.Contains(
            "no certificate",
            (await Sign(without.Run.Value, shown, Now)).Refusal,
            StringComparison.Ordinal
        );
        Assert.Equal(device.Log.Count, await town.InStore(s => s.Entries.CountAsync()));
        await town.InStore(s => s.Certificates.ExecuteUpdateAsync(c => c.SetProperty(x => x.Types, "DC PVB")));
        Assert.Null((await Sign(without.Run.Value, shown, Now)).Refusal);
    }

    [Fact]
    public async Task Rules_that_changed_before_the_day_of_the_test_are_said_and_nothing_is_lost()
    {
        await Stop();
        var stop = (await TakeAlong()).Stops[0];
        // Under rules that had ended by then.
        var ended = DeviceRun.Open(stop.Setup!, Now, out _)!.Setup;
        ended = ended with { Profile = ended.Profile with { InForceUntil = Today.AddDays(-1) } };
        var setup = RunSetupFormat.WriteComplete(ended);
        var pass = await town.With<string, RoundPasses>(p =>
            Task.FromResult(p.Give(new(stop.Run!.Value, stop.Id, town.Tester, ContentHash.Compute(setup), Now)))
        );
        var old = stop with { Setup = setup, Pass = pass };
        var device = Tested(old, Now);
        var shown = device.Verdict("", TimeSpan.Zero);
        Assert.Contains(shown.Obstacles, o => o.Contains("is not in force", StringComparison.Ordinal));
        Assert.Null((await Bring(Brought(old, Now))).Why);
        await Send(stop.Run!.Value, device);
        town.Clock.Offset += TimeSpan.FromHours(2);
        Assert.Contains("is not in force", (await Sign(stop.Run.Value, shown, Now)).Refusal, StringComparison.Ordinal);
        Assert.Equal(device.Log.Count, await town.InStore(s => s.Entries.CountAsync()));
    }

    [Fact]
    public async Task A_clock_that_is_a_day_wrong_begins_nothing_before_it_was_given_out_or_after_now()
    {
        await Stop();
        await Stop(1);
        var stops = (await TakeAlong()).Stops;
        var given = Now;
        Assert.Null((await Bring(Brought(stops[0], Now.AddDays(-1)))).Why);
        Assert.Null((await Bring(Brought(stops[1], Now.AddDays(1)))).Why);
        var began = await town.InStore(s => s.Runs.Select(r => r.StartedAt).ToListAsync());
        Assert.All(began, at => Assert.InRange(at, given.AddMinutes(-1), Now.AddMinutes(1)));
    }

    [Fact]
    public async Task A_repair_and_the_test_after_it_come_home_by_their_own_ids()
    {
        await Stop();
        var stop = (await TakeAlong()).Stops[0];
        var (job, retest, at) = (Guid.NewGuid(), Guid.NewGuid(), Now);
        Task<Reply<Guid>> Begin(Guid id) =>
            town.With<Reply<Guid>, BeginRepair>(b =>
                b.On(stop.Assembly, null, town.Tester, "Moa Ferrin", None, (id, at))
            );
        Assert.Equal((job, job), ((await Begin(job)).Value, (await Begin(job)).Value));
        // One that is open there already is the same job.
        Assert.Equal(job, (await Begin(Guid.NewGuid())).Value);
        var brought = Brought(stop, at) with { Run = retest, Repair = job };
        Assert.Contains("not closed", (await Bring(brought)).Refusal, StringComparison.Ordinal);
        var (file, log) = (stop.Repair, new List<Mordel.Core.Repairs.RepairEntry>());
        RepairView View() => file.View(Bodies.Find(AssemblyTypes.DC), log, Today);
        for (var i = 0; i < 60 && !View().IsClosedUp; i++)
        {
            var view = View();
            var typed = view.Fields.ToDictionary(f => f.Name, f => f.Value);
            foreach (var draft in view.Acts[0].Entries.Select(e => EntryTemplate.Fill(e, typed)))
            {
                draft!["id"] = Guid.NewGuid().ToString("D");
                draft["at"] = "2031-04-02T12:00:00.000Z";
                var read = RepairEntryFormat.ReadBatch($"{{\"entries\":[{draft.ToJsonString()}]}}", "Moa", out _);
                log.AddRange(read);
                var taken = await town.With<Reply<Guid>, TakeRepairEntry>(t => t.Into(job, read[0], town.Tester, None));
                Assert.Null(taken.Refusal);
            }
        }

        Assert.Equal(new BegunRun(retest, null), (await Bring(brought)).Value);
        Assert.Equal(retest, (await Bring(brought)).Value!.Run);
        var setup = (await town.Run(retest)).Setup;
        Assert.Equal((job, at.ToMillisecond()), (setup.Repair!.Repair, setup.BegunAt));
    }

    [Fact]
    public async Task A_device_that_is_cut_off_is_out_and_told_so_as_often_as_it_is_heard_of()
    {
        var session = await town.With<Guid, Sessions>(s => s.Begin(town.Tester, "a password", "::1", "A phone", None));
        Task<IReadOnlyList<SessionRow>> Devices() =>
            town.With<IReadOnlyList<SessionRow>, Sessions>(s => s.WithRounds(town.Tester, None));
        Task<bool> IsCutOff() => town.With<bool, Sessions>(s => s.IsCutOff(session, None));
        Assert.Empty(await Devices());
        await town.With<int, Sessions>(s => s.TookAlong(session, None));
        Assert.Equal(session, Assert.Single(await Devices()).Id);
        Assert.Null(await town.With<SessionRow?, Sessions>(s => s.CutOff(session, Guid.NewGuid(), None)));
        Assert.False(await IsCutOff());
        Assert.NotNull(await town.With<SessionRow?, Sessions>(s => s.CutOff(session, town.Tester, None)));
        Assert.True(await IsCutOff());
        Assert.False(await town.With<bool, Sessions>(s => s.Holds(session, town.Tester, None)));
        Assert.Empty(await Devices());
    }
}
