using System.Collections.Concurrent;
using System.Diagnostics;
using Microsoft.Extensions.Logging.Abstractions;
using Mordel.Data.Commands.Imports;
using Mordel.Data.Processes;
using Npgsql;

namespace Mordel.Data.Tests;

/// <summary>Processes that share a server know of each other, and one goes on where another died.</summary>
[Trait("Store", "Server")]
public sealed class ProcessesTests : IAsyncLifetime
{
    private readonly string folder = Directory.CreateTempSubdirectory("mordel-several-").FullName;
    private StoreAddress address = null!;

    private static CancellationToken None => CancellationToken.None;

    public Task InitializeAsync()
    {
        address = EmptyStore.At(folder);
        return Task.CompletedTask;
    }

    public Task DisposeAsync()
    {
        EmptyStore.End(address);
        Directory.Delete(folder, recursive: true);
        return Task.CompletedTask;
    }

    [Fact]
    public async Task A_duty_has_one_holder_and_goes_on_within_half_a_minute_when_that_one_is_gone()
    {
        var (one, other) = (new PostgresLeases(address.Connection!), new PostgresLeases(address.Connection!));
        var held = await one.Take("outbox", None);
        await using var elsewhere = await other.Take("seals", None);
        var waiting = other.Take("outbox", None);
        Assert.NotSame(waiting, await Task.WhenAny(waiting, Task.Delay(TimeSpan.FromSeconds(1))));
        var clock = Stopwatch.StartNew();
        // As a process dies: its connection is gone.
        await Ask(
            "SELECT pg_terminate_backend(pid) FROM pg_locks WHERE locktype = 'advisory' AND granted AND pid IN "
                + "(SELECT pid FROM pg_stat_activity WHERE datname = current_database()) ORDER BY pid LIMIT 1"
        );
        await using var taken = await waiting.WaitAsync(TimeSpan.FromSeconds(30));
        await Task.WhenAny(Until(held.Lost), Task.Delay(TimeSpan.FromSeconds(30)));
        Assert.True(held.Lost.IsCancellationRequested);
        Assert.False(taken.Lost.IsCancellationRequested);
        Assert.True(clock.Elapsed < TimeSpan.FromSeconds(30), $"{clock.Elapsed}");
    }

    [Fact]
    public async Task What_one_tells_the_others_hear_and_again_after_the_server_was_away()
    {
        using var over = new CancellationTokenSource();
        PostgresNeighbours[] all = [Neighbour(), Neighbour(), Neighbour()];
        var heard = all.Select(_ => new ConcurrentQueue<string>()).ToArray();
        for (var i = 0; i < all.Length; i++)
        {
            var mine = heard[i];
            all[i].Hear("word", mine.Enqueue);
        }

        var running = all.Select(n => n.Run(over.Token)).ToList();
        await Told(all[0], "one two", heard[1], heard[2]);
        Assert.DoesNotContain("one two", heard[0]);
        await Ask(
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() "
                + "AND pid <> pg_backend_pid()"
        );
        await Told(all[2], "after it", heard[0], heard[1]);
        await over.CancelAsync();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => Task.WhenAll(running));
    }

    [Fact]
    public async Task How_far_an_import_is_the_others_know_and_any_of_them_calls_it_off()
    {
        using var over = new CancellationTokenSource();
        var (here, there) = (Neighbour(), Neighbour());
        var (works, looks) = (new RunningImports(here), new RunningImports(there));
        var running = new[] { here.Run(over.Token), there.Run(over.Token) };
        var id = Guid.NewGuid();
        using (var work = works.Begin(id, None))
        {
            Assert.Null(looks.Done(id));
            // What is told before the other listens is missed, and the next is heard.
            await Eventually(() =>
            {
                work.Done += 500;
                return looks.Done(id) > 0;
            });
            looks.Stop(id);
            await Eventually(() => work.Cancel.IsCancellationRequested);
        }

        await Eventually(() => looks.Done(id) is null);
        Assert.Null(works.Done(id));
        await over.CancelAsync();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => Task.WhenAll(running));
    }

    private static async Task Eventually(Func<bool> holds)
    {
        for (var i = 0; i < 100 && !holds(); i++)
            await Task.Delay(100);
        Assert.True(holds());
    }

    [Fact]
    public async Task What_is_counted_in_one_process_counts_in_all_until_its_window_is_over()
    {
        var clock = new Simulators.SimulatedClock();
        WindowCounts[] all =
        [
            new PostgresCounts(address.Connection!, clock),
            new PostgresCounts(address.Connection!, clock),
        ];
        var window = TimeSpan.FromMinutes(1);
        for (var i = 1; i <= 6; i++)
            Assert.Equal(i, await all[i % 2].Add("k", window, None));
        Assert.Equal((6, 6, 0), (await all[0].Of("k", None), await all[1].Of("k", None), await all[1].Of("j", None)));
        var at = await Task.WhenAll(Enumerable.Range(0, 40).Select(i => all[i % 2].Add("race", window, None).AsTask()));
        Assert.Equal(Enumerable.Range(1, 40), at.Order());
        clock.Offset += window;
        Assert.Equal(0, await all[0].Of("k", None));
        Assert.Equal(1, await all[1].Add("k", window, None));
        await all[0].Forget("k", None);
        Assert.Equal(0, await all[1].Of("k", None));
    }

    [Fact]
    public async Task Two_that_write_at_once_write_one_after_the_other()
    {
        await using var one = address.Open();
        await using var other = address.Open();
        var first = await one.BeginWriting(None);
        var second = other.BeginWriting(None);
        Assert.NotSame(second, await Task.WhenAny(second, Task.Delay(TimeSpan.FromMilliseconds(500))));
        await first.CommitAsync(None);
        await first.DisposeAsync();
        await using var then = await second.WaitAsync(TimeSpan.FromSeconds(10));
    }

    private PostgresNeighbours Neighbour() => new(address.Connection!, NullLogger<PostgresNeighbours>.Instance);

    private static Task Until(CancellationToken lost)
    {
        var over = new TaskCompletionSource();
        lost.Register(() => over.TrySetResult());
        return over.Task;
    }

    // Who has not begun to listen yet misses it: it is told until it is heard.
    private static async Task Told(Neighbours by, string says, params ConcurrentQueue<string>[] hearers)
    {
        for (var i = 0; i < 100 && !hearers.All(h => h.Contains(says)); i++)
        {
            by.Tell("word", says);
            await Task.Delay(100);
        }

        Assert.All(hearers, h => Assert.Contains(says, h));
    }

    private async Task Ask(string sql)
    {
        await using var open = new NpgsqlConnection(address.Connection + ";Pooling=false");
        await open.OpenAsync();
        await using var command = new NpgsqlCommand(sql, open);
        await command.ExecuteNonQueryAsync();
    }
}
