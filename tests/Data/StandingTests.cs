using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Standing;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>The standing says what the tests say: counted once, by what is kept.</summary>
public sealed class StandingTests : IAsyncLifetime, IAsyncDisposable
{
    private readonly SmallInstallation hamlet = new();

    public async Task InitializeAsync()
    {
        await hamlet.Filled(AssemblyTypes.DC, AssemblyTypes.PVB);
        await hamlet.InStore(async s =>
        {
            foreach (var assembly in await s.Assemblies.ToListAsync())
                assembly.InstalledOn = hamlet.Clock.Today().AddYears(-6);
            return await s.SaveChangesAsync();
        });
    }

    public async Task DisposeAsync() => await hamlet.DisposeAsync();

    ValueTask IAsyncDisposable.DisposeAsync() => hamlet.DisposeAsync();

    private async Task<StandingView> Counted(StandingFilter? filter = null)
    {
        await hamlet.With<StandingAge?, StandingProjection>(p => p.Refresh(true, default));
        return await hamlet.With<StandingView, StandingList>(l => l.Of(filter ?? new(), default));
    }

    private Task<int> Brought(int assembly, int yearsAgo, string outcome, string values) =>
        hamlet.InStore(async s =>
        {
            s.BroughtTests.Add(
                new()
                {
                    Id = Guid.NewGuid(),
                    AssemblyId = hamlet.Assemblies[assembly],
                    Day = hamlet.Clock.Today().AddYears(-yearsAgo),
                    Outcome = outcome,
                    Values = values,
                    Source = "A ledger",
                    At = hamlet.Clock.GetUtcNow(),
                    By = "Wilma",
                }
            );
            return await s.SaveChangesAsync();
        });

    [Fact]
    public async Task What_failed_and_what_was_tested_after_it_are_told_apart()
    {
        await Brought(0, 2, "fail", """{"check-1":"0.2 psid","check-2":"1.9 psid"}""");
        await Brought(0, 1, "pass", """{"check-1":"2.0 psid","check-2":"1.9 psid"}""");
        await hamlet.Signed(0, new(1.7, 0.6, 0, 0));
        await hamlet.Signed(0);
        await hamlet.Signed(1);
        var all = await Counted();
        // First tests: brought in and failed, signed and failed, the other assembly's.
        Assert.Equal(new Share(2, 3), all.Failed);
        Assert.Equal(new Share(2, 2), all.AgainPassed);
        Assert.Equal(
            [(AssemblyTypes.DC.Name, new Share(2, 2)), (AssemblyTypes.PVB.Name, new Share(0, 1))],
            all.Outcomes.Select(o => (o.Name, o.Failed))
        );
        var lately = await Counted(new() { Years = 1 });
        Assert.Equal(new Share(1, 2), lately.Failed);
        Assert.Equal(new Share(0, 1), (await Counted(new() { Type = AssemblyTypes.PVB.Name })).Failed);
    }

    [Fact]
    public async Task The_part_that_was_bad_is_named_with_its_age_and_what_was_mended_counts_from_then()
    {
        await Brought(0, 3, "fail", """{"check-1":"0.2 psid","check-2":"1.9 psid"}""");
        await Brought(0, 1, "pass", """{"check-1":"2.0 psid","check-2":"1.9 psid"}""");
        await Brought(0, 0, "", """{"check-1":"0.0 psid"}""");
        var rows = await Rows();
        Assert.Contains(("cv1", false, 3, 1, 1), rows);
        Assert.Contains(("cv1", true, 2, 1, 0), rows);
        Assert.Contains(("cv2", false, 3, 1, 0), rows);
        Assert.Contains(("cv2", false, 5, 1, 0), rows);
        Assert.Equal(4, rows.Count);
        // Sealed here: by the verdict.
        await hamlet.Signed(0, new(1.7, 0.6, 0, 0));
        Assert.Contains(await Rows(), r => r is { Year: 6 or 3, Failed: 1 } && r != ("cv1", false, 3, 1, 1));

        async Task<List<(string Part, bool Mended, int Year, int Seen, int Failed)>> Rows()
        {
            await Counted();
            return await hamlet.InStore(async s =>
                (await s.PartYears.Where(y => y.Part.StartsWith("cv")).ToListAsync())
                    .Select(y => (y.Part, y.Mended, y.Year, y.Seen, y.Failed))
                    .ToList()
            );
        }
    }

    [Fact]
    public async Task Times_are_kept_for_who_tested_and_for_each_step_with_its_name()
    {
        for (var i = 0; i < 3; i++)
            await hamlet.Signed(0);
        var view = await Counted();
        var one = Assert.Single(view.Testers);
        Assert.Equal(3, one.Count);
        Assert.InRange(one.Short, 0, one.Middle);
        Assert.InRange(one.Long, one.Middle, 240);
        Assert.NotEmpty(view.Steps);
        Assert.All(view.Steps, s => Assert.DoesNotContain("/", s.Name, StringComparison.Ordinal));
        Assert.Equal(view.Procedure, Assert.Single(view.Procedures).Value);
    }

    [Fact]
    public async Task It_is_counted_again_when_something_was_added_and_not_when_nothing_was()
    {
        Assert.Equal(0, (await Counted()).Failed.All);
        await hamlet.Signed(0);
        Assert.Equal(1, (await Counted()).Failed.All);
        var at = (await Age())!.Row.At;
        await Counted();
        Assert.Equal(at, (await Age())!.Row.At);
        // Where there are more than are counted at once, who looks is not kept waiting, and hears how many are new.
        await hamlet.Signed(1);
        var late = await hamlet.With<StandingAge?, StandingProjection>(p => p.Refresh(true, default, atOnce: 1));
        Assert.Equal((at, 1L), (late!.Row.At, late.Signed));
        await hamlet.With<StandingAge?, StandingProjection>(p => p.Refresh(false, default, atOnce: 1));
        Assert.Equal(at, (await Age())!.Row.At);

        Task<StandingAge?> Age() => hamlet.With<StandingAge?, StandingProjection>(p => p.Age(default));
    }

    [Fact]
    public async Task What_was_altered_behind_our_back_does_not_stop_the_count()
    {
        await hamlet.Signed(0);
        await hamlet.Alter("UPDATE Results SET Item = 'no-' || Item");
        await hamlet.InStore(s => s.Seals.ExecuteUpdateAsync(u => u.SetProperty(x => x.Record, new byte[1])));
        Assert.Equal(1, (await Counted()).Failed.All);
    }

    [Fact]
    public async Task Each_chart_has_its_table()
    {
        await hamlet.Signed(0);
        var view = await Counted();
        foreach (var chart in new[] { "outcomes", "parts", "repairs", "months", "testers", "steps" })
        {
            var table = StandingExport.Of(view, chart)!;
            await foreach (var line in table.Lines)
                Assert.Equal(table.Heads.Count, line.Length);
        }

        Assert.Null(StandingExport.Of(view, "secrets"));
    }
}
