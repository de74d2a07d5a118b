using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Planning;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Units;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Tests;

/// <summary>Kits that are lent by day, read beside each other, and looked at before each test.</summary>
public sealed class KitsBesideTests : IAsyncLifetime, IAsyncDisposable
{
    private static readonly Author Wilma = new("Wilma");
    private readonly SmallInstallation hamlet = new();
    private Guid other,
        friend;

    public async Task InitializeAsync()
    {
        await hamlet.Filled(AssemblyTypes.DC, AssemblyTypes.DC);
        (other, friend) = (Guid.NewGuid(), Guid.NewGuid());
        await hamlet.InStore(s =>
        {
            s.Users.Add(
                new()
                {
                    Id = friend,
                    UserName = "ulf",
                    NormalizedUserName = "ULF",
                    FullName = "Ulf Marn",
                    SecurityStamp = "x",
                }
            );
            s.Kits.Add(
                new()
                {
                    Id = other,
                    KeeperId = friend,
                    Kind = Kit.ThreeValve.Name,
                    Make = "Gallibrand",
                    Model = "G3 metric",
                    Serial = "K-3",
                    Unit = "kPa",
                    Resolution = 1m,
                    Accuracy = 1.5m,
                    FullScale = 100m,
                    CalibratedOn = Today.AddDays(-20),
                    CalibratedBy = "The bench",
                    CalibrationDue = Today.AddDays(340),
                }
            );
            return s.SaveChangesAsync();
        });
    }

    public async Task DisposeAsync() => await hamlet.DisposeAsync();

    ValueTask IAsyncDisposable.DisposeAsync() => hamlet.DisposeAsync();

    private DateOnly Today => hamlet.Clock.Today();

    private Task<Guid> Own() =>
        hamlet.InStore(s => s.Kits.Where(k => k.Serial == "K-9").Select(k => k.Id).SingleAsync());

    private Task<Reply<Guid>> Lend(Guid kit, Guid to, int from, int until) =>
        hamlet.With<Reply<Guid>, LendKit>(l =>
            l.With(kit, to, Today.AddDays(from), Today.AddDays(until), Wilma, default)
        );

    private Task<KitRow?> TestsWith(Guid person, int day) =>
        hamlet.InStore(async s =>
            (await KitsInHand.On(s, [person], Today.AddDays(day), default)).Best(person, Today.AddDays(day))
        );

    private Task<KitView> View(Guid kit) => hamlet.With<KitView, KitPage>(async p => (await p.Of(kit, default))!);

    [Fact]
    public async Task A_lent_kit_is_the_others_on_its_days_and_the_keepers_before_and_after()
    {
        Assert.Empty((await Lend(other, hamlet.Tester, 2, 4)).Errors);
        foreach (
            var (day, mine, theirs) in new[]
            {
                (1, "K-9", "K-3"),
                (2, "K-3", null),
                (4, "K-3", null),
                (5, "K-9", "K-3"),
            }
        )
        {
            Assert.Equal(mine, (await TestsWith(hamlet.Tester, day))?.Serial);
            Assert.Equal(theirs, (await TestsWith(friend, day))?.Serial);
        }

        // One that ran out is not what is tested with, lent or not.
        await hamlet.InStore(s =>
            s.Kits.Where(k => k.Id == other).ExecuteUpdateAsync(u => u.SetProperty(k => k.CalibrationDue, Today))
        );
        Assert.Equal("K-9", (await TestsWith(hamlet.Tester, 3))?.Serial);
    }

    [Fact]
    public async Task A_test_is_begun_with_the_lent_kit_and_a_round_planned_with_what_is_there_on_its_day()
    {
        await Lend(other, hamlet.Tester, 0, 0);
        await Lend(await Own(), friend, 0, 3);
        var run = await hamlet.Run(await hamlet.Begun());
        Assert.Equal("K-3", run.Setup.Kit.Serial);
        var problem = await hamlet.With<PlanProblem, RoundProblems>(r =>
            r.Of(new([Today.AddDays(1), Today.AddDays(4)], [hamlet.Tester, friend], [.. hamlet.Assemblies]), default)
        );
        PlanKit Of(Guid person, string serial) =>
            problem
                .Testers.Elements.Single(t => t.Id == person.ToString())
                .Kits.Elements.Single(k => k.Serial == serial);
        Assert.Equal([Today.AddDays(4)], Of(hamlet.Tester, "K-9").Days);
        Assert.Equal([Today.AddDays(1)], Of(friend, "K-9").Days);
        Assert.Equal([], Of(friend, "K-3").Days);
        var limits = Fitness.Against(
            problem.Stops[0],
            problem.Testers.Elements.Single(t => t.Name == "Moa Ferrin"),
            Today.AddDays(1)
        );
        Assert.Contains(PlanLimit.Kit, limits);
    }

    [Fact]
    public async Task What_cannot_be_lent_says_why_and_what_is_back_is_back_today()
    {
        Assert.NotEmpty((await Lend(other, friend, 0, 1)).Errors);
        Assert.NotEmpty((await Lend(other, hamlet.Tester, -1, 1)).Errors);
        Assert.NotEmpty((await Lend(other, hamlet.Tester, 3, 2)).Errors);
        Assert.NotEmpty((await Lend(other, Guid.NewGuid(), 0, 2)).Errors);
        Assert.Equal(NotDone.NotFound, (await Lend(Guid.NewGuid(), hamlet.Tester, 0, 2)).Why);
        var loan = (await Lend(other, hamlet.Tester, 0, 6)).Value;
        Assert.Contains("Moa Ferrin", (await Lend(other, hamlet.Tester, 6, 9)).Refusal, StringComparison.Ordinal);
        hamlet.Clock.Offset += TimeSpan.FromDays(2);
        var back = await hamlet.With<Reply<Guid>, LendKit>(l => l.Back(other, loan, Wilma, default));
        Assert.Equal(other, back.Value);
        Assert.Equal("K-9", (await TestsWith(hamlet.Tester, 0))?.Serial);
        Assert.Equal("K-3", (await TestsWith(hamlet.Tester, -1))?.Serial);
        Assert.Empty((await Lend(other, hamlet.Tester, 0, 0)).Errors);
        Assert.Contains(
            "came back",
            (await hamlet.With<Reply<Guid>, LendKit>(l => l.Back(other, loan, Wilma, default))).Refusal,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_comparison_stands_with_both_kits_each_in_its_own_unit()
    {
        var own = await Own();
        Task<Reply<Guid>> Compare(params (decimal? One, decimal? Other)[] read) =>
            hamlet.With<Reply<Guid>, CompareKits>(c =>
                c.With(
                    own,
                    new(other, Today, "The rig", [.. read.Select(r => r.One)], [.. read.Select(r => r.Other)]),
                    Wilma,
                    default
                )
            );
        Assert.Empty((await Compare((5.4m, 34m), (8.9m, 58m), (null, null))).Errors);
        var (mine, theirs) = (await View(own), await View(other));
        Assert.Equal(0.478m, mine.Above(mine.Comparisons[0]).Amount);
        Assert.Equal(-3.296m, theirs.Above(theirs.Comparisons[0]).Amount);
        Assert.False(mine.Agrees(mine.Comparisons[0]));
        Assert.Equal("K-9", theirs.Beside(theirs.Comparisons[0]).Serial);
        Assert.Equal((0.478m, "beside K-3"), (mine.Points[^1].High, mine.Points[^1].Says));
        Assert.NotEmpty((await Compare()).Errors);
        Assert.NotEmpty((await Compare((5m, null))).Errors);
        Assert.NotEmpty((await Compare((16m, 30m))).Errors);
        Assert.Single(await hamlet.InStore(s => s.Comparisons.ToListAsync()));
    }

    [Fact]
    public async Task What_the_needle_stood_at_before_each_test_is_collected_at_the_kit()
    {
        var own = await Own();
        await hamlet.Signed();
        await hamlet.Signed(1, beside: new EntryBody.KitZero(new(Differential.Psid(0.2m))));
        var view = await View(own);
        Assert.Equal((1, 1, 2), (view.AtZero, view.OffZero, view.Tests));
        Assert.Equal((0.2m, KitPointKind.Zero), (view.Points[^1].High, view.Points[^1].Kind));
    }
}
