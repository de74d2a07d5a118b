using CsCheck;
using Mordel.Core.Repairs;
using Xunit;

namespace Mordel.Core.Tests;

/// <summary>Clean, kit or replace; and what to carry.</summary>
public class RepairCostTests
{
    private const string KitCosts = "the kit costs ";

    // An hour costs 60, so that a minute costs 1: figures that can be followed with a pencil.
    private static CostAssumptions Plain { get; } =
        new()
        {
            LabourHour = 60,
            Travel = 50,
            KitPrice = 200,
            AssemblyPrice = 1_000,
            CleanMinutes = 40,
            KitMinutes = 60,
            ReplaceMinutes = 180,
            TestMinutes = 25,
            CleanFails = 0.5,
            KitFails = 0.1,
            NewFails = 0,
            Years = 2,
        };

    // By hand. Clean now: 40 + 25 = 65. First year half of them fail; second year the half that have not fail by half
    // again, the half that have by a tenth: 0.5 + 0.5 × 0.5 + 0.5 × 0.1 = 0.8. A failure: 50 + 60 + 25 + 200 = 335.
    // Kit now: 200 + 60 + 25 = 285; failures 0.1 + 0.1 = 0.2. New: 1,000 + 180 + 25 + 50 = 1,255.
    [Fact]
    public void A_worked_example_comes_out_as_by_hand()
    {
        var compared = RepairCosts.Compare(Plain);
        Assert.Equal(
            [(RepairOption.Clean, 65m, 268m), (RepairOption.Kit, 285m, 67m), (RepairOption.Replace, 1_255m, 0m)],
            compared.Options.Select(o => (o.Option, o.Now, o.LaterYears))
        );
        Assert.Equal([0.8, 0.2, 0], compared.Options.Select(o => Math.Round(o.Failures, 9)));
        Assert.Equal(RepairOption.Clean, compared.Best.Option);
        Assert.StartsWith("Clean it", compared.Says, StringComparison.Ordinal);
    }

    [Fact]
    public void A_kit_that_must_be_ordered_costs_the_way_twice_and_one_that_is_not_made_is_not_offered()
    {
        Assert.Equal(335, RepairCosts.Of(RepairOption.Kit, Plain with { KitDays = 9 }).Now);
        Assert.DoesNotContain(RepairCosts.Compare(Plain with { KitIsMade = false }).Options, o =>
            o.Option == RepairOption.Kit
        );
    }

    [Fact]
    public void Repeats_age_and_falling_readings_make_cleaning_fail_oftener_never_seldomer() =>
        Gen.Select(Gen.Double[0, 40], Gen.Int[0, 6], Gen.Double[0, 1])
            .Sample(
                (age, repeats, forecast) =>
                {
                    var known = new CostAssumptions().With(age, repeats, forecast);
                    Assert.InRange(known.CleanFails, 0.11, 0.95);
                    Assert.True(known.CleanFails >= new CostAssumptions().With(age, 0, 0).CleanFails);
                    Assert.True(known.KitFails <= known.CleanFails);
                    Assert.True(known.NewFails <= known.KitFails);
                }
            );

    [Fact]
    public void The_best_is_the_one_that_costs_least_and_what_is_said_to_change_it_does() =>
        Gen.Select(Gen.Int[20, 3_000], Gen.Int[300, 20_000], Gen.Int[1, 90], Gen.Int[1, 12])
            .Sample(
                (kit, whole, percent, years) =>
                {
                    var a = Plain with
                    {
                        KitPrice = kit,
                        AssemblyPrice = whole,
                        CleanFails = percent / 100.0,
                        Years = years,
                    };
                    var compared = RepairCosts.Compare(a);
                    Assert.All(compared.Options, o => Assert.True(compared.Best.Total <= o.Total));
                    foreach (var says in compared.Changes.Where(c => c.Contains(KitCosts, StringComparison.Ordinal)))
                    {
                        var figure = says.Split(KitCosts)[1].Split(", not")[0];
                        var at = int.Parse(
                            figure.Replace(",", "", StringComparison.Ordinal),
                            System.Globalization.CultureInfo.InvariantCulture
                        );
                        Assert.NotEqual(
                            compared.Best.Option,
                            RepairCosts.Compare(a with { KitPrice = at }).Best.Option
                        );
                    }
                }
            );

    [Fact]
    public void What_is_near_is_said_to_cost_about_the_same() =>
        Assert.Contains(
            "about the same",
            RepairCosts.Compare(Plain with { CleanFails = 0.56 }).Says,
            StringComparison.Ordinal
        );

    private static CarryStop Stop(string tag, bool failed, int? chance, params string[] orders) =>
        new(tag, "Corvane", "Lock 40", "1 in", failed, chance, "cv1", [.. orders]);

    private static CarryPart Kit(int van, int inStore, int used = 0) =>
        new(
            Guid.NewGuid(),
            new("Corvane", "Lock 40", "1 in", "CV1 check kit", "cv1", 210, "C-1", 3, 2, inStore),
            van,
            used
        );

    [Fact]
    public void A_part_is_carried_for_what_was_ordered_what_failed_and_what_will_likely_fail_and_says_why()
    {
        var carried = Assert.Single(
            CarryProposal.For(
                [
                    Stop("F-1", false, null, "CV1 check kit"),
                    Stop("F-2", true, null),
                    Stop("F-3", false, 40),
                    Stop("F-4", false, 4),
                ],
                [Kit(1, 1)]
            )
        );
        Assert.Equal((3, 1, 1), (carried.Count, carried.ToTake, carried.Missing));
        Assert.Equal(
            ["F-1: ordered for the stopgap there", "F-2: failed at its last test", "F-3: will likely fail: 40 in 100"],
            carried.Why.AsEnumerable()
        );
    }

    [Fact]
    public void What_was_ordered_and_is_in_no_list_is_named_and_what_nobody_needs_stays_in_the_store()
    {
        var ordered = CarryProposal.For([Stop("F-1", false, 3, "a gasket")], [Kit(0, 5)]);
        Assert.Equal("a gasket", Assert.Single(ordered).Name);
        Assert.Empty(CarryProposal.For([Stop("F-1", false, 3)], [Kit(0, 5, used: 1)]));
        Assert.Single(CarryProposal.For([Stop("F-1", false, 3)], [Kit(0, 5, used: 2)]));
    }
}
