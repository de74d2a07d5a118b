using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Runs;
using Mordel.Data.Backups;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>Once a run is sealed, its record alone has its entries.</summary>
public sealed class SealedLogsTests : IAsyncLifetime, IAsyncDisposable
{
    private readonly SmallInstallation town = new();
    private Guid run;
    private IReadOnlyList<Entry> log = [];

    private static CancellationToken None => CancellationToken.None;

    public async Task InitializeAsync()
    {
        await town.Filled(AssemblyTypes.DC);
        run = await town.Signed();
        log = [.. (await town.Report(run))!.Run!.Log.Select(e => e.Entry)];
    }

    async Task IAsyncLifetime.DisposeAsync() => await DisposeAsync();

    public ValueTask DisposeAsync() => town.DisposeAsync();

    [Fact]
    public async Task A_sealed_run_has_no_rows_of_entries_and_its_report_has_them_all()
    {
        Assert.Equal(0, await Rows());
        Assert.True(log.Count > 10, $"{log.Count} entries");
        var report = (await town.Report(run))!;
        Assert.True(report.Holds);
    }

    [Fact]
    public async Task What_a_device_sends_again_after_the_seal_is_acknowledged_again_and_nothing_else_is_taken()
    {
        var again = await Send([.. log]);
        Assert.Equal((0, true, log.Count), (again.Value.Fresh, again.Value.Run.IsSealed, again.Value.Run.Entries));
        var other = log[0] with { Body = new EntryBody.Noted("", "something else") };
        Assert.Contains("another content", (await Send([other])).Refusal, StringComparison.Ordinal);
        var late = log[0] with { Id = new(Guid.CreateVersion7()), Tick = 999 };
        Assert.Contains("sealed", (await Send([late])).Refusal, StringComparison.Ordinal);
        Assert.Equal(0, await Rows());
    }

    [Fact]
    public async Task A_row_that_is_put_beside_the_record_breaks_the_seal()
    {
        await town.InStore(s =>
        {
            s.Entries.Add(
                TakeEntries.Row(
                    run,
                    new(new(Guid.CreateVersion7()), 999, town.Clock.GetUtcNow(), new EntryBody.Noted("", "late")),
                    town.Clock.GetUtcNow()
                )
            );
            return s.SaveChangesAsync();
        });
        Assert.Contains((await town.Report(run))!.Broken, b =>
            b.Contains("added to the log", StringComparison.Ordinal)
        );
        Assert.False((await town.CheckAll()).Holds);
    }

    [Fact]
    public async Task What_an_earlier_version_left_beside_the_record_must_be_the_same_and_goes_with_the_next_rebuild()
    {
        var sealedLog = (await town.Report(run))!.Run!.Log;
        await town.InStore(s =>
        {
            s.Entries.AddRange(sealedLog.Select(e => TakeEntries.Row(run, e.Entry, e.Received)));
            return s.SaveChangesAsync();
        });
        Assert.True((await town.Report(run))!.Holds);
        await town.InStore(s => s.Entries.Take(1).ExecuteUpdateAsync(u => u.SetProperty(e => e.Tick, 77)));
        Assert.Contains((await town.Report(run))!.Broken, b =>
            b.Contains("not as it was sealed", StringComparison.Ordinal)
        );
        await Rebuild();
        Assert.Equal(sealedLog.Length, await Rows());
        await town.InStore(s => s.Entries.Where(e => e.Tick == 77).ExecuteDeleteAsync());
        Assert.Contains((await town.Report(run))!.Broken, b =>
            b.Contains("missing from the log", StringComparison.Ordinal)
        );
        await town.InStore(s => s.Entries.ExecuteDeleteAsync());
        await town.InStore(s =>
        {
            s.Entries.AddRange(sealedLog.Select(e => TakeEntries.Row(run, e.Entry, e.Received)));
            return s.SaveChangesAsync();
        });
        await Rebuild();
        Assert.Equal(0, await Rows());
        Assert.True((await town.CheckAll()).Holds);
    }

    private Task<int> Rows() => town.InStore(s => s.Entries.CountAsync(e => e.RunId == run));

    private Task<Reply<TakenEntries>> Send(Entry[] entries) =>
        town.With<Reply<TakenEntries>, TakeEntries>(t => t.Into(run, town.Tester, [.. entries], None));

    private Task<int> Rebuild() => town.With<int, RebuildLists>(async lists => (await lists.All(_ => { }, None)).Runs);
}
