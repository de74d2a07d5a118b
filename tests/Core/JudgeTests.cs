using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Tests;

public class JudgeTests
{
    [Fact]
    public void A_verdict_never_improves_by_removing_evidence() =>
        CsCheck.Check.Sample(
            CsCheck.Gen.Select(CsCheck.Gen.Int[0, 15], CsCheck.Gen.Int[0, 60].Array[14], CsCheck.Gen.Int[0, 13]),
            x =>
            {
                var (which, values, taken) = x;
                var school = BuiltInProfiles.All.SelectMany(p => p.Schools.Select(s => (p, s))).ElementAt(which);
                var results = TestItem
                    .All.Select(
                        (item, i) =>
                            (
                                item,
                                value: (ItemValue)(
                                    item.Kind switch
                                    {
                                        ItemKind.Differential => ItemValue.Of(
                                            values[i] / (school.s.Unit == DifferentialUnit.Psid ? 7m : 1m),
                                            school.s.Unit
                                        ),
                                        ItemKind.TightOrLeaks => new ItemValue.Tightness(values[i] % 4 != 0),
                                        ItemKind.TrueOrFalse => new ItemValue.YesNo(values[i] % 4 != 0),
                                        ItemKind.LinePressure => new ItemValue.Line(new(60m, LinePressureUnit.Psi)),
                                        _ => new ItemValue.Clearance(new(values[i], LengthUnit.Inch)),
                                    }
                                )
                            )
                    )
                    .Where(v => v.item.AppliesTo(school.s.Type) && values[0] % 5 != 0)
                    .Aggregate(Results.None, (r, v) => r.With(v.item, v.value));
                var subject = new Subject(school.s.Type, school.s, school.p);
                var less = new Results(results.Values.Remove(TestItem.All[taken]));
                var (all, fewer) = (Judge.Weigh(subject, results).Overall, Judge.Weigh(subject, less).Overall);
                // A fail may become incomplete when the failing number itself is left out, but nothing becomes a pass,
                // save by leaving out what the profile does not require.
                return fewer != Overall.Pass
                    || all == Overall.Pass
                    || (
                        all != Overall.Pass
                        && school.s.For(TestItem.All[taken]) is not { Requirement: Requirement.Required }
                    );
            },
            iter: 6000
        );

    private static Subject Of(AssemblyType type, Profile profile, decimal? accuracy = null) =>
        new(type, profile.For(type)!, profile, accuracy is { } a ? new(a, profile.For(type)!.Unit) : null);

    private static Results Measured(params (TestItem Item, decimal Value, DifferentialUnit Unit)[] values) =>
        values.Aggregate(Results.None, (r, v) => r.With(v.Item, ItemValue.Of(v.Value, v.Unit)));

    private static Results Checks(decimal cv1, decimal cv2, DifferentialUnit unit = DifferentialUnit.Psid) =>
        Measured((TestItem.Check1, cv1, unit), (TestItem.Check2, cv2, unit));

    [Theory]
    [InlineData("0.9", "psid", ItemResult.Fail)]
    [InlineData("1.0", "psid", ItemResult.Pass)]
    [InlineData("1.1", "psid", ItemResult.Pass)]
    [InlineData("0.9999", "psid", ItemResult.Fail)]
    [InlineData("6.2052813", "kPa", ItemResult.Fail)]
    [InlineData("6.89", "kPa", ItemResult.Fail)]
    [InlineData("6.894757", "kPa", ItemResult.Pass)]
    [InlineData("6.9", "kPa", ItemResult.Pass)]
    [InlineData("7.5842327", "kPa", ItemResult.Pass)]
    public void A_check_of_a_double_check_needs_1_0_psid(string value, string unit, ItemResult expected)
    {
        var verdict = Judge.Weigh(
            Of(AssemblyTypes.DC, BuiltInProfiles.PsidStandard),
            Checks(decimal.Parse(value), 20m, DifferentialUnits.Parse(unit)!.Value)
        );
        Assert.Equal(expected, verdict.Items.Single(i => i.Item == TestItem.Check1).Result);
    }

    [Theory]
    [InlineData("6.9", "kPa", ItemResult.Fail)]
    [InlineData("7", "kPa", ItemResult.Pass)]
    [InlineData("7.1", "kPa", ItemResult.Pass)]
    [InlineData("1.0", "psid", ItemResult.Fail)]
    [InlineData("1.1", "psid", ItemResult.Pass)]
    public void Under_the_kPa_profile_it_needs_7_kPa(string value, string unit, ItemResult expected)
    {
        var verdict = Judge.Weigh(
            Of(AssemblyTypes.DC, BuiltInProfiles.KpaIsolationFirst),
            Checks(decimal.Parse(value), 20m, DifferentialUnits.Parse(unit)!.Value)
        );
        Assert.Equal(expected, verdict.Items.Single(i => i.Item == TestItem.Check1).Result);
    }

    [Fact]
    public void Exactly_at_the_limit_the_margin_is_nothing_and_it_passes()
    {
        var item = Judge.Weigh(Of(AssemblyTypes.DC, BuiltInProfiles.PsidStandard), Checks(1.0m, 2.0m)).Items[0];
        Assert.Equal((ItemResult.Pass, 0m), (item.Result, item.Margin!.Value));
        Assert.Contains("exactly at", item.Why, StringComparison.Ordinal);
    }

    [Fact]
    public void One_failed_item_fails_the_assembly_and_is_named()
    {
        var verdict = Judge.Weigh(Of(AssemblyTypes.DC, BuiltInProfiles.PsidStandard), Checks(2.1m, 0.4m));
        Assert.Equal(Overall.Fail, verdict.Overall);
        Assert.Contains("CV2", verdict.Reason, StringComparison.Ordinal);
        Assert.Contains("0.6 psid below", verdict.Items[1].Why, StringComparison.Ordinal);
    }

    [Fact]
    public void Without_a_required_item_the_test_is_incomplete_not_failed()
    {
        var verdict = Judge.Weigh(
            Of(AssemblyTypes.DC, BuiltInProfiles.PsidStandard),
            Measured((TestItem.Check1, 2.0m, DifferentialUnit.Psid))
        );
        Assert.Equal(Overall.Incomplete, verdict.Overall);
        Assert.Equal(ItemResult.Missing, verdict.Items.Single(i => i.Item == TestItem.Check2).Result);
    }

    [Fact]
    public void A_leaking_shutoff_alone_does_not_fail_a_double_check()
    {
        var verdict = Judge.Weigh(
            Of(AssemblyTypes.DC, BuiltInProfiles.PsidStandard),
            Checks(2m, 2m).With(TestItem.Shutoff2, new ItemValue.Tightness(false))
        );
        Assert.Equal(Overall.Pass, verdict.Overall);
        Assert.Equal(ItemResult.Recorded, verdict.Items.Single(i => i.Item == TestItem.Shutoff2).Result);
    }

    [Theory]
    [InlineData("2.3", "5.2", ItemResult.Fail)]
    [InlineData("2.3", "5.3", ItemResult.Pass)]
    [InlineData("2.0", "5.0", ItemResult.Pass)]
    public void CV1_of_an_RP_must_stand_3_0_above_the_relief_opening_point(
        string relief,
        string cv1,
        ItemResult expected
    )
    {
        var verdict = Judge.Weigh(
            Of(AssemblyTypes.RP, BuiltInProfiles.PsidStandard),
            Measured(
                (TestItem.ReliefOpening, decimal.Parse(relief), DifferentialUnit.Psid),
                (TestItem.Check1, decimal.Parse(cv1), DifferentialUnit.Psid)
            )
        );
        Assert.Equal(expected, verdict.Items.Single(i => i.Item == TestItem.Check1).Result);
        Assert.Equal(expected, verdict.Items.Single(i => i.Item == TestItem.ReliefBuffer).Result);
    }

    [Fact]
    public void In_the_check_first_school_5_0_is_needed_even_where_relief_plus_3_is_less()
    {
        var verdict = Judge.Weigh(
            Of(AssemblyTypes.RP, BuiltInProfiles.PsidCheckFirst),
            Measured(
                (TestItem.ReliefOpening, 1.5m, DifferentialUnit.Psid),
                (TestItem.Check1, 4.9m, DifferentialUnit.Psid)
            )
        );
        var check = verdict.Items.Single(i => i.Item == TestItem.Check1);
        Assert.Equal((ItemResult.Fail, 5.0m), (check.Result, check.Limit!.Value));
    }

    [Fact]
    public void A_leaking_SO2_voids_what_was_read_in_the_check_first_school()
    {
        var verdict = Judge.Weigh(
            Of(AssemblyTypes.RP, BuiltInProfiles.PsidCheckFirst),
            Measured(
                    (TestItem.ReliefOpening, 2.5m, DifferentialUnit.Psid),
                    (TestItem.Check1, 8m, DifferentialUnit.Psid)
                )
                .With(TestItem.Shutoff2, new ItemValue.Tightness(false))
        );
        Assert.Equal(Overall.Fail, verdict.Overall);
        Assert.Equal(ItemResult.Missing, verdict.Items.Single(i => i.Item == TestItem.Check1).Result);
    }

    [Fact]
    public void What_could_not_become_static_is_not_testable()
    {
        var verdict = Judge.Weigh(
            Of(AssemblyTypes.SVB, BuiltInProfiles.PsidCheckFirst),
            Measured((TestItem.Check1, 2m, DifferentialUnit.Psid)).With(TestItem.Static, new ItemValue.YesNo(false))
        );
        Assert.Equal(Overall.NotTestable, verdict.Overall);
    }

    [Fact]
    public void The_clearance_of_an_RP_is_twice_its_relief_port_and_never_under_an_inch()
    {
        var subject = Of(AssemblyTypes.RP, BuiltInProfiles.PsidStandard) with
        {
            ReliefPort = new Length(20m, LengthUnit.Millimetre),
        };
        ItemResult At(decimal mm) =>
            Judge
                .Weigh(
                    subject,
                    Results.None.With(TestItem.ReliefClearance, new ItemValue.Clearance(new(mm, LengthUnit.Millimetre)))
                )
                .Items.Single(i => i.Item == TestItem.ReliefClearance)
                .Result;
        Assert.Equal((ItemResult.Fail, ItemResult.Pass), (At(39.9m), At(40m)));
    }

    [Fact]
    public void An_SVBs_check_must_be_above_its_inlet_where_the_school_says_so()
    {
        ItemResult At(decimal check) =>
            Judge
                .Weigh(
                    Of(AssemblyTypes.SVB, BuiltInProfiles.PsidStandard),
                    Measured(
                        (TestItem.Check1, check, DifferentialUnit.Psid),
                        (TestItem.AirInletOpening, 1.8m, DifferentialUnit.Psid)
                    )
                )
                .Items.Single(i => i.Item == TestItem.CheckAboveInlet)
                .Result;
        Assert.Equal((ItemResult.Fail, ItemResult.Pass), (At(1.8m), At(1.9m)));
    }

    public static TheoryData<string, Results, string> Warned =>
        new()
        {
            { "within-accuracy", Checks(1.2m, 2m), "DC" },
            { "within-accuracy", Checks(0.8m, 2m), "DC" },
            { "zero-reading", Checks(0m, 2m), "DC" },
            { "at-full-scale", Checks(15m, 2m), "DC" },
            { "unit-suspect", Checks(13.8m, 2m), "DC" },
            {
                "check-not-above-relief",
                Measured(
                    (TestItem.Check1, 2.2m, DifferentialUnit.Psid),
                    (TestItem.ReliefOpening, 2.2m, DifferentialUnit.Psid)
                ),
                "RP"
            },
            {
                "inlet-above-check",
                Measured(
                    (TestItem.Check1, 1.5m, DifferentialUnit.Psid),
                    (TestItem.AirInletOpening, 1.5m, DifferentialUnit.Psid)
                ),
                "SVB"
            },
            {
                "too-fast",
                Results.None.With(
                    TestItem.Check1,
                    new ItemValue.Measured(new Reading(Differential.Psid(2m), null, Differential.Psid(0.21m)))
                ),
                "DC"
            },
        };

    [Theory]
    [MemberData(nameof(Warned))]
    public void A_careful_tester_is_warned(string code, Results results, string type)
    {
        var verdict = Judge.Weigh(Of(AssemblyTypes.Parse(type), BuiltInProfiles.PsidStandard, 0.2m), results);
        Assert.Contains(code, verdict.Warnings.Select(w => w.Code));
    }

    [Fact]
    public void An_ordinary_good_set_raises_no_warning() =>
        Assert.Empty(
            Judge
                .Weigh(Of(AssemblyTypes.DC, BuiltInProfiles.PsidStandard, 0.2m), Checks(2.1m, 1.7m), Checks(2.2m, 1.7m))
                .Warnings
        );

    [Fact]
    public void Readings_equal_to_last_years_to_the_digit_are_named() =>
        Assert.Contains(
            "same-as-last-time",
            Judge
                .Weigh(Of(AssemblyTypes.DC, BuiltInProfiles.PsidStandard), Checks(2.1m, 1.7m), Checks(2.1m, 1.7m))
                .Warnings.Select(w => w.Code)
        );

    [Fact]
    public void Half_the_accuracy_is_just_not_too_fast() =>
        Assert.DoesNotContain(
            "too-fast",
            Judge
                .Weigh(
                    Of(AssemblyTypes.DC, BuiltInProfiles.PsidStandard, 0.2m),
                    Results.None.With(
                        TestItem.Check1,
                        new ItemValue.Measured(new Reading(Differential.Psid(2m), null, Differential.Psid(0.2m)))
                    )
                )
                .Warnings.Select(w => w.Code)
        );

    [Fact]
    public void A_larger_reading_never_fails_where_a_smaller_one_passes() =>
        Gen.Select(Gen.Int[0, 150], Gen.Int[0, 150], Gen.Int[0, 50])
            .Sample(
                (a, b, more) =>
                {
                    var subject = Of(AssemblyTypes.DC, BuiltInProfiles.PsidStandard);
                    var low = Judge.Weigh(subject, Checks(a / 10m, b / 10m)).Overall;
                    var high = Judge.Weigh(subject, Checks((a + more) / 10m, b / 10m)).Overall;
                    return low != Overall.Pass || high == Overall.Pass;
                },
                iter: 3_000
            );

    [Fact]
    public void Taking_evidence_away_never_makes_a_pass() =>
        Gen.Select(Gen.Int[0, 40], Gen.Int[0, 40], Gen.Bool)
            .Sample(
                (a, b, first) =>
                {
                    var subject = Of(AssemblyTypes.DC, BuiltInProfiles.PsidStandard);
                    var less = first
                        ? Measured((TestItem.Check2, b / 10m, DifferentialUnit.Psid))
                        : Measured((TestItem.Check1, a / 10m, DifferentialUnit.Psid));
                    return Judge.Weigh(subject, less).Overall != Overall.Pass;
                },
                iter: 1_000
            );

    [Fact]
    public void Every_profile_has_a_school_for_every_type_and_requires_something_of_it() =>
        Assert.All(BuiltInProfiles.All, profile =>
            Assert.All(AssemblyTypes.All.Select(t => t.Type), type =>
                Assert.Contains(profile.For(type)!.Items, r =>
                    r.Requirement == Requirement.Required && r.Criteria.Length > 0
                )
            )
        );

    [Fact]
    public void The_draw_down_school_says_what_it_cannot_see() =>
        Assert.Contains(
            "spring",
            Judge.Weigh(Of(AssemblyTypes.DC, BuiltInProfiles.PsidCheckFirst), Checks(2m, 2m)).Notes.Single(),
            StringComparison.Ordinal
        );
}
