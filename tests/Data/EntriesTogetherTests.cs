using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Runs;
using Mordel.Core.Units;
using Mordel.Core.Views;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;

namespace Mordel.Data.Tests;

/// <summary>What waits for the turn to write is written together, and each is answered for itself.</summary>
public sealed class EntriesTogetherTests : IAsyncLifetime, IAsyncDisposable
{
    private static readonly CancellationToken None = CancellationToken.None;

    private readonly SmallInstallation town = new();
    private Guid run;
    private long tick;

    public async Task InitializeAsync()
    {
        await town.Filled(AssemblyTypes.DC);
        run = await town.Begun();
    }

    public ValueTask DisposeAsync() => town.DisposeAsync();

    Task IAsyncLifetime.DisposeAsync() => DisposeAsync().AsTask();

    private Entry Note(string text = "Seen", Guid? id = null) =>
        new(new(id ?? Guid.NewGuid()), ++tick, DateTimeOffset.UtcNow, new EntryBody.Noted("", text));

    private Task<Reply<TakenEntries>> Send(Guid to, Guid tester, CancellationToken cancel, params Entry[] entries) =>
        town.With<Reply<TakenEntries>, TakeEntries>(t => t.Into(to, tester, [.. entries], cancel));

    private Task<IDisposable> Holding() => town.Services.GetRequiredService<WriterQueue>().Take(None);

    [Fact]
    public async Task Fifty_that_wait_are_all_kept_and_what_is_refused_among_them_keeps_nobody_out()
    {
        var same = Note("twice");
        var kPa = new Entry(
            new(Guid.NewGuid()),
            ++tick,
            DateTimeOffset.UtcNow,
            new EntryBody.Taken("cv1.read", new(Differential.Kpa(13)))
        );
        var turn = await Holding();
        var sound = Enumerable.Range(0, 50).Select(_ => Send(run, town.Tester, None, Note(), Note())).ToList();
        var (one, again) = (Send(run, town.Tester, None, same), Send(run, town.Tester, None, same));
        var changed = Send(run, town.Tester, None, Note("otherwise", same.Id.Value));
        var (nobodys, nowhere) = (
            Send(run, Guid.NewGuid(), None, Note()),
            Send(Guid.NewGuid(), town.Tester, None, Note())
        );
        var wrong = Send(run, town.Tester, None, Note(), kPa);
        turn.Dispose();
        Assert.All(await Task.WhenAll(sound), r => Assert.Equal(2, r.Value.Fresh));
        Assert.Equal([0, 1], new[] { (await one).Value.Fresh, (await again).Value.Fresh }.Order());
        Assert.Contains("with another content", (await changed).Refusal, StringComparison.Ordinal);
        Assert.Equal((NotDone.NotFound, NotDone.NotFound), ((await nobodys).Why, (await nowhere).Why));
        Assert.Contains("reads psid", (await wrong).Refusal, StringComparison.Ordinal);
        Assert.All(await Task.WhenAll(sound), r => Assert.False(r.Value.Run.IsSealed));
        Assert.Equal(101, (await Send(run, town.Tester, None, same)).Value.Run.Entries);
        Assert.Equal(101, await town.InStore(s => s.Entries.CountAsync(e => e.RunId == run)));
        // As it was read along the way, and as it is read anew.
        Assert.Equal(101, (await town.Run(run)).Log.Count);
    }

    [Fact]
    public async Task Who_goes_away_while_waiting_takes_nothing_from_those_behind()
    {
        using var gone = new CancellationTokenSource();
        var turn = await Holding();
        var first = Send(run, town.Tester, gone.Token, Note());
        var behind = Enumerable.Range(0, 5).Select(_ => Send(run, town.Tester, None, Note())).ToList();
        await gone.CancelAsync();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => first);
        turn.Dispose();
        Assert.All(await Task.WhenAll(behind), r => Assert.Equal(1, r.Value.Fresh));
        Assert.InRange(await town.InStore(s => s.Entries.CountAsync(e => e.RunId == run)), 5, 6);
    }

    [Fact]
    public async Task A_run_that_is_played_on_tap_by_tap_stands_for_all_who_look_as_one_that_is_read_anew()
    {
        var whole = (await town.Run(await town.Tested()))
            .Log.Entries.Select(e => e with { Id = new(Guid.NewGuid()) })
            .ToList();
        // One comes late, from another device: the run is played anew then.
        (whole[4], whole[5]) = (whole[5], whole[4]);
        foreach (var entry in whole)
        {
            Assert.Equal(1, (await Send(run, town.Tester, None, entry)).Value.Fresh);
            var looks = await Task.WhenAll(Enumerable.Range(0, 3).Select(_ => Task.Run(Look)));
            Assert.Equal(Shown(await town.Run(run)), Assert.Single(looks.Distinct()));
        }

        async Task<string> Look() =>
            Shown((await town.With<RunNow?, FindRun>(f => f.Now(run, new(town.Tester, false), None)))!.Open!);

        static string Shown(RunFile file) =>
            JsonSerializer.Serialize(
                RunViews.Of(file.Setup, file.Log, file.IsSealed, file.State),
                ViewsJson.Border.RunView
            );
    }

    [Trait("Store", "File")]
    [Fact]
    public async Task One_that_cannot_be_written_fails_alone()
    {
        // What no request gets through: the database itself refuses it.
        await town.InStore(s =>
            s.Database.ExecuteSqlRawAsync(
                "CREATE TRIGGER refuses BEFORE INSERT ON Entries WHEN NEW.Json LIKE '%poison%' "
                    + "BEGIN SELECT RAISE(ABORT, 'no'); END"
            )
        );
        var turn = await Holding();
        var sound = Enumerable.Range(0, 6).Select(_ => Send(run, town.Tester, None, Note())).ToList();
        var bad = Send(run, town.Tester, None, Note("poison"));
        sound.AddRange(Enumerable.Range(0, 6).Select(_ => Send(run, town.Tester, None, Note())));
        turn.Dispose();
        Assert.All(await Task.WhenAll(sound), r => Assert.Equal(1, r.Value.Fresh));
        await Assert.ThrowsAnyAsync<System.Data.Common.DbException>(() => bad);
        Assert.Equal(12, await town.InStore(s => s.Entries.CountAsync(e => e.RunId == run)));
        // And the next is written as ever.
        Assert.Equal(1, (await Send(run, town.Tester, None, Note())).Value.Fresh);
    }
}
