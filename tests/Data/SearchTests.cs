using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Mordel.Core.Catalogue;
using Mordel.Data.Lists;

namespace Mordel.Data.Tests;

public sealed class SearchTests(StillHamlet still) : IClassFixture<StillHamlet>
{
    private static readonly CancellationToken None = CancellationToken.None;

    private static Task<string[]> Found(SmallInstallation hamlet, string words, string? after = null) =>
        hamlet.With<string[], RegisterSearch>(async r =>
            [.. (await r.Find(words, after, None)).Select(l => l.Assembly.Tag)]
        );

    internal static async Task<SmallInstallation> Three()
    {
        var hamlet = new SmallInstallation();
        await hamlet.Filled(AssemblyTypes.DC, AssemblyTypes.RP, AssemblyTypes.PVB);
        return hamlet;
    }

    [Theory]
    [InlineData("", "A-1 A-2 A-3")]
    [InlineData("C-70", "A-1")]
    [InlineData("-71", "A-2")]
    [InlineData("ITCHE", "A-1 A-2 A-3")]
    [InlineData("weir mill", "A-1 A-2 A-3")]
    [InlineData("mill weir corvane kitchen", "A-1 A-2 A-3")]
    [InlineData("ki", "A-1 A-2 A-3")]
    [InlineData("tc", "")]
    [InlineData("C-70 ki", "A-1")]
    [InlineData("C-70 zz", "")]
    [InlineData("zeppelin", "")]
    [InlineData("-", "A-1 A-2 A-3")]
    [InlineData("\"", "")]
    [InlineData("a\"b OR", "")]
    [InlineData("kit* NEAR(", "")]
    [InlineData("%%%", "")]
    [InlineData("___", "")]
    public async Task Every_word_must_occur_three_letters_anywhere_fewer_at_the_beginning_of_a_word(
        string words,
        string tags
    )
    {
        Assert.Equal(tags, string.Join(' ', await Found(still.Hamlet, words)));
    }

    [Fact]
    public async Task What_is_added_changed_moved_or_replaced_is_found_as_it_is_now_in_the_order_of_tags()
    {
        await using var hamlet = await Three();
        Assert.Equal(["A-1", "A-2", "A-3"], await Found(hamlet, "weir"));
        await hamlet.InStore(async s =>
        {
            var like = await s.Assemblies.AsNoTracking().FirstAsync(a => a.Tag == "A-1");
            (like.Id, like.Tag, like.Serial) = (Guid.NewGuid(), "A-15", "NEW-1");
            s.Assemblies.Add(like);
            (await s.Assemblies.FirstAsync(a => a.Tag == "A-2")).Serial = "STAMPED-9";
            (await s.Assemblies.FirstAsync(a => a.Tag == "A-3")).ReplacedOn = new(2026, 1, 1);
            return await s.SaveChangesAsync();
        });
        Assert.Equal(["A-1", "A-15", "A-2"], await Found(hamlet, "weir"));
        Assert.Equal(["A-15", "A-2"], await Found(hamlet, "weir", after: "A-1"));
        Assert.Equal(["A-2"], await Found(hamlet, "stamped"));
        Assert.Empty(await Found(hamlet, "C-71"));
        await hamlet.InStore(async s =>
        {
            (await s.Owners.FirstAsync()).Name = "Dairy and sons";
            (await s.Places.FirstAsync()).Address = "4 Mole Row";
            return await s.SaveChangesAsync();
        });
        Assert.Equal(["A-1", "A-15", "A-2"], await Found(hamlet, "dairy mole"));
        Assert.Empty(await Found(hamlet, "weir"));
    }

    [Fact]
    public async Task Two_tags_that_change_hands_are_found_where_they_hang_now()
    {
        await using var hamlet = await Three();
        Assert.Equal(3, (await Found(hamlet, "weir")).Length);
        await hamlet.Alter(
            "UPDATE Assemblies SET Tag = 'X' WHERE Tag = 'A-1'; UPDATE Assemblies SET Tag = 'A-1' WHERE Tag = 'A-2'; "
                + "UPDATE Assemblies SET Tag = 'A-2' WHERE Tag = 'X'"
        );
        Assert.Equal(["A-1", "A-2", "A-3"], await Found(hamlet, "weir"));
        Assert.Equal(["A-2"], await Found(hamlet, "C-70"));
    }

    [Trait("Store", "File")]
    [Fact]
    public async Task Where_no_room_is_left_between_two_tags_the_index_is_made_anew()
    {
        await using var hamlet = await Three();
        var tag = "A-1";
        for (var i = 0; i < 24; i++)
        {
            tag += "0";
            await hamlet.InStore(async s =>
            {
                var like = await s.Assemblies.AsNoTracking().FirstAsync(a => a.Tag == "A-1");
                (like.Id, like.Tag) = (Guid.NewGuid(), tag);
                s.Assemblies.Add(like);
                return await s.SaveChangesAsync();
            });
            Assert.Equal(4 + i, (await Found(hamlet, "weir")).Length);
        }

        var tags = await Found(hamlet, "weir");
        Assert.Equal(tags.Order(StringComparer.Ordinal), tags);
    }

    [Trait("Store", "File")]
    [Fact]
    public async Task A_table_that_has_lost_its_triggers_is_indexed_anew_at_the_next_start()
    {
        await using var hamlet = await Three();
        Assert.Equal(3, (await Found(hamlet, "weir")).Length);
        await hamlet.InStore(s =>
            s.Database.ExecuteSqlRawAsync(
                "DROP TRIGGER SearchChanged; UPDATE Assemblies SET Serial = 'UNSEEN-1' WHERE Tag = 'A-1'"
            )
        );
        Assert.Empty(await Found(hamlet, "unseen"));
        await hamlet.With<bool, RegisterIndex>(async i =>
        {
            await i.Prepare(None);
            return true;
        });
        Assert.Equal(["A-1"], await Found(hamlet, "unseen"));
    }

    // dotnet ef dbcontext optimize --project src/Mordel.Data --output-dir CompiledModel
    //   --namespace Mordel.Data.CompiledModel
    [Trait("Store", "File")]
    [Fact]
    public void The_compiled_model_is_that_of_the_store()
    {
        static string Described(bool compiled)
        {
            var options = new DbContextOptionsBuilder<Store>().UseMordelFile(Path.GetTempPath());
            if (!compiled)
                options.UseModel(Fresh());
            using var store = new Store((DbContextOptions<Store>)options.Options);
            return store.Model.ToDebugString(MetadataDebugStringOptions.LongDefault);
        }

        var (fresh, kept) = (Described(compiled: false), Described(compiled: true));
        Assert.Contains("EntityType: RunRow", fresh, StringComparison.Ordinal);
        Assert.Equal(Comparable(fresh), Comparable(kept));
    }

    private static Microsoft.EntityFrameworkCore.Metadata.IModel Fresh()
    {
        using var design = new Store(
            (DbContextOptions<Store>)new DbContextOptionsBuilder<Store>().UseMordelFile(Path.GetTempPath()).Options
        );
        return design.GetService<Microsoft.EntityFrameworkCore.Metadata.IDesignTimeModel>().Model;
    }

    // Annotations are for those who make migrations; what is left are types, properties, keys, indexes.
    private static string Comparable(string model) =>
        string.Join(
            '\n',
            model
                .Split('\n')
                .Select(l => l.Trim())
                .Where(l =>
                    l.Length > 0
                        && !l.StartsWith("Annotations", StringComparison.Ordinal)
                        && !l.Contains(": ", StringComparison.Ordinal)
                    || l.StartsWith("EntityType:", StringComparison.Ordinal)
                )
        );
}

/// <summary>Three valves that nobody changes.</summary>
public sealed class StillHamlet : IAsyncLifetime
{
    public SmallInstallation Hamlet { get; private set; } = null!;

    public async Task InitializeAsync() => Hamlet = await SearchTests.Three();

    public async Task DisposeAsync() => await Hamlet.DisposeAsync();
}
