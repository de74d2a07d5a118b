using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Dues;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>
/// A kit that is found wrong makes the tests doubtful that it made since it was last known to be right.
/// </summary>
public sealed class KitTests : IAsyncLifetime, IAsyncDisposable
{
    private static readonly Author Wilma = new("Wilma");
    private readonly SmallInstallation hamlet = new();

    public async Task InitializeAsync() => await hamlet.Filled(AssemblyTypes.DC, AssemblyTypes.DC);

    public async Task DisposeAsync() => await hamlet.DisposeAsync();

    ValueTask IAsyncDisposable.DisposeAsync() => hamlet.DisposeAsync();

    private DateOnly Today => hamlet.Clock.Today();

    private Task<KitRow> Kit() =>
        hamlet.InStore(s => s.Kits.AsNoTracking().SingleAsync(k => k.KeeperId == hamlet.Tester));

    private Task<Reply<Guid>> Calibrated(Guid kit, DateOnly on, decimal? high) =>
        hamlet.With<Reply<Guid>, Calibrate>(c =>
            c.With(kit, new(on, "A bench", on.AddYears(1), high), null, Wilma, default)
        );

    private Task<KitDoubt?> Doubt(Guid kit) =>
        hamlet.With<KitDoubt?, KitPage>(async p =>
        {
            var view = (await p.Of(kit, default))!;
            return await p.Doubt(view, view.Calibrations[0], default);
        });

    [Fact]
    public async Task A_calibration_puts_the_kit_back_into_use_and_keeps_the_one_before()
    {
        var kit = await Kit();
        Assert.Empty((await Calibrated(kit.Id, Today, 0m)).Errors);
        var after = await Kit();
        Assert.Equal(
            (Today, Today.AddYears(1), "A bench"),
            (after.CalibratedOn, after.CalibrationDue, after.CalibratedBy)
        );
        var view = (await hamlet.With<KitView?, KitPage>(p => p.Of(kit.Id, default)))!;
        Assert.Equal([Today, kit.CalibratedOn], view.Calibrations.Select(c => c.On));
        Assert.Null(await Doubt(kit.Id));
        Assert.NotEmpty((await Calibrated(kit.Id, Today, 0m)).Errors);
        Assert.NotEmpty((await Calibrated(kit.Id, Today.AddDays(1), 0m)).Errors);
        Assert.NotEmpty((await Calibrated(kit.Id, Today.AddDays(-1), 900m)).Errors);
    }

    [Fact]
    public async Task What_passed_only_because_the_gauge_read_high_is_named_and_asked_for_again_once()
    {
        var kit = await Kit();
        var run = await hamlet.Signed();
        var passed = (await hamlet.Report(run))!.Run!;
        Assert.Equal(Overall.Pass, passed.Verdict.Overall);
        // By more than the margin of its weakest item.
        var margin = passed.Verdict.Items.Min(i => i.Margin ?? 99m);
        await Calibrated(kit.Id, Today, margin + 0.2m);
        var doubt = (await Doubt(kit.Id))!;
        var test = Assert.Single(doubt.Tests);
        Assert.Equal((run, Overall.Pass, Overall.Fail, true), (test.Run, test.Was, test.Would, test.IsOwed));
        var calibration = await hamlet.InStore(s => s.Calibrations.OrderByDescending(c => c.On).FirstAsync());
        Task<Reply<int>> Again() =>
            hamlet.With<Reply<int>, Calibrate>(c => c.TestAgain(kit.Id, calibration.Id, Wilma, default));
        Assert.Equal(1, (await Again()).Value);
        Assert.Equal(0, (await Again()).Value);
        var row = await hamlet.InStore(s => s.Assemblies.SingleAsync(a => a.Id == test.Assembly.Id));
        Assert.Equal(nameof(DueCause.Doubted), row.DueCause);
        Assert.Contains("found wrong", row.DueWhy, StringComparison.Ordinal);
        // What was signed stands as it was signed.
        Assert.Equal("pass", (await hamlet.Report(run))!.Outcome);
    }

    [Fact]
    public async Task A_gauge_that_read_low_or_within_its_accuracy_makes_nothing_doubtful()
    {
        var kit = await Kit();
        await hamlet.Signed();
        await Calibrated(kit.Id, Today, -0.6m);
        Assert.All((await Doubt(kit.Id))!.Tests, t => Assert.False(t.IsOwed));
        var first = await hamlet.InStore(s => s.Calibrations.OrderBy(c => c.On).FirstAsync());
        var none = await hamlet.With<Reply<int>, Calibrate>(c => c.TestAgain(kit.Id, first.Id, Wilma, default));
        Assert.Contains("nothing is in doubt", none.Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public void An_error_is_taken_off_in_the_unit_of_each_reading_and_off_nothing_else()
    {
        var results = Results
            .None.With(TestItem.Check1, ItemValue.Of(2.1m, DifferentialUnit.Psid))
            .With(TestItem.Shutoff2, new ItemValue.Tightness(true));
        var true_ = KitWhatIf.Without(results, new(0.4m, DifferentialUnit.Psid));
        Assert.Equal(1.7m, true_.Differential(TestItem.Check1)!.Value.Amount);
        Assert.Equal(results[TestItem.Shutoff2], true_[TestItem.Shutoff2]);
        Assert.Equal(results, KitWhatIf.Without(true_, new(-0.4m, DifferentialUnit.Psid)));
    }
}
