using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Data.Moving;
using Mordel.Data.Startup;

namespace Mordel.Data.Tests;

/// <summary>An installation moves from a database to another, of its own kind or of the other.</summary>
public sealed class MoveTests : IAsyncLifetime
{
    private readonly string folder = Directory.CreateTempSubdirectory("mordel-move-").FullName;
    private Hamlet hamlet = null!;
    private StoreAddress there = null!;

    private static CancellationToken None => CancellationToken.None;

    public async Task InitializeAsync()
    {
        hamlet = await new SmallInstallation().Filled(AssemblyTypes.DC, AssemblyTypes.RP);
        await hamlet.Amend(await hamlet.Signed(0), "The valve stands in the second cellar.");
        await hamlet.Signed(1);
        // One that is open has entries of its own.
        await hamlet.Tested(0);
        there = new(folder);
    }

    public async Task DisposeAsync()
    {
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
        await hamlet.DisposeAsync();
    }

    [Fact]
    public async Task Every_row_is_there_afterwards_as_it_was_and_every_seal_holds()
    {
        var said = new List<string>();
        var (tables, rows) = await Move(said.Add);
        Assert.InRange(tables, 60, 200);
        Assert.Equal(rows, said.Sum(s => long.Parse(s[(s.LastIndexOf(' ') + 1)..])));
        await using var moved = there.Open();
        Assert.Equal(2, await moved.Runs.CountAsync(r => r.SignedAt != null));
        Assert.False(await MoveStore.IsUnderWay(moved, None));
        foreach (var (before, after) in await Pairs(moved, s => s.Entries.OrderBy(e => e.RunId).ThenBy(e => e.EntryId)))
            Assert.Equal((before.Json, before.Tick), (after.Json, after.Tick));
        foreach (var (before, after) in await Pairs(moved, s => s.Seals.OrderBy(x => x.Number)))
            Assert.Equal((before.Hash, before.Signature, before.Link), (after.Hash, after.Signature, after.Link));
    }

    [Fact]
    public async Task It_goes_there_and_on_to_a_third_and_is_found_by_its_words_there()
    {
        await Move(_ => { });
        var third = EmptyStore.Nothing(Path.Combine(folder, "third"));
        Directory.CreateDirectory(third.Folder);
        try
        {
            await using (var from = there.Open())
            await using (var to = third.Open())
                await new MoveStore(from, to).Run(_ => { }, None);
            await using var moved = third.Open();
            var index = Lists.RegisterIndex.Of(moved);
            await index.Prepare(None);
            var (sql, values) = index.Question(["weir"], "", 10);
            var found = await moved.Database.SqlQueryRaw<Guid>(sql, values).ToListAsync();
            Assert.Equal(hamlet.Assemblies.Order(), found.Order());
        }
        finally
        {
            EmptyStore.End(third);
        }
    }

    [Fact]
    public async Task What_was_broken_off_goes_on_where_it_was_and_a_server_does_not_start_on_it()
    {
        using var breaks = new CancellationTokenSource();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() =>
            Move(
                table =>
                {
                    if (table.StartsWith("Entries", StringComparison.Ordinal))
                        breaks.Cancel();
                },
                breaks.Token
            )
        );
        await using (var half = there.Open())
        {
            Assert.True(await MoveStore.IsUnderWay(half, None));
            // As if the last of them had not come.
            await half
                .Entries.OrderByDescending(e => e.RunId)
                .ThenByDescending(e => e.EntryId)
                .Take(3)
                .ExecuteDeleteAsync();
            var refused = await Assert.ThrowsAsync<StartRefusedException>(() =>
                new OpenStore(half, there, TimeProvider.System).Run(_ => { }, None)
            );
            Assert.Contains("move again", refused.Message, StringComparison.Ordinal);
        }

        await Move(_ => { });
        await using var whole = there.Open();
        Assert.Equal(await hamlet.InStore(s => s.Entries.CountAsync()), await whole.Entries.CountAsync());
        await new OpenStore(whole, there, TimeProvider.System).Run(_ => { }, None);
    }

    [Fact]
    public async Task A_row_that_is_not_what_it_was_is_named_and_the_move_is_not_done()
    {
        using var breaks = new CancellationTokenSource();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() =>
            Move(
                table =>
                {
                    if (table.StartsWith("Seals", StringComparison.Ordinal))
                        breaks.Cancel();
                },
                breaks.Token
            )
        );
        await using var moved = there.Open();
        await moved.Kits.ExecuteUpdateAsync(u => u.SetProperty(k => k.Serial, "altered"));
        var refused = await Assert.ThrowsAsync<StartRefusedException>(() => Move(_ => { }));
        Assert.Equal("Kits, row 1: Serial is not there what it is here.", refused.Message);
        Assert.True(await MoveStore.IsUnderWay(moved, None));
    }

    [Fact]
    public async Task Nothing_is_moved_to_where_an_installation_is()
    {
        await Move(_ => { });
        await using var moved = there.Open();
        var before = await moved.Entries.CountAsync();
        var refused = await Assert.ThrowsAsync<StartRefusedException>(() => Move(_ => { }));
        Assert.Contains("nothing was changed", refused.Message, StringComparison.Ordinal);
        Assert.Equal(before, await moved.Entries.CountAsync());
    }

    [Theory]
    [InlineData("sqlite:")]
    [InlineData("mysql:Host=x")]
    [InlineData("postgres:Database=x")]
    [InlineData("postgres:Host=x;Wishes=many")]
    public void A_store_that_is_none_is_refused_in_a_sentence(string text) =>
        Assert.Matches(
            "^(A store is|The store)",
            Assert.Throws<FormatException>(() => StoreAddress.Read(text, ".")).Message
        );

    [Fact]
    public void What_is_said_of_a_server_never_has_its_password() =>
        Assert.Equal(
            "the database tests on db.example",
            StoreAddress.Read("postgres:Host=db.example;Database=tests;Username=m;Password=secret", ".").Says
        );

    private async Task<(int Tables, long Rows)> Move(Action<string> say, CancellationToken cancel = default)
    {
        await using var from = hamlet.Address.Open();
        await using var to = there.Open();
        return await new MoveStore(from, to).Run(say, cancel);
    }

    private async Task<IEnumerable<(T Before, T After)>> Pairs<T>(Store moved, Func<Store, IQueryable<T>> rows)
        where T : class
    {
        var before = await hamlet.InStore(s => rows(s).AsNoTracking().ToListAsync());
        var after = await rows(moved).AsNoTracking().ToListAsync();
        Assert.Equal(before.Count, after.Count);
        Assert.NotEmpty(before);
        return before.Zip(after);
    }
}
