using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Tests;

/// <summary>Whatever a profile can require can fail.</summary>
public class RulesTests
{
    private static readonly Criterion[] Demands =
    [
        new Criterion.AtLeast(Differential.Psid(1m)),
        new Criterion.AtLeast(Differential.Psid(0m), Strict: true),
        new Criterion.AtLeastAbove(TestItem.ReliefOpening, Differential.Psid(3m)),
        new Criterion.Tight(),
        new Criterion.Yes(),
        new Criterion.Clearance(new(25m, LengthUnit.Millimetre), 2m),
        new Criterion.LineAtLeast(new(0m, LinePressureUnit.Psi), Strict: true),
    ];

    // An answer that no demand of its kind is content with.
    private static ItemValue Bad(TestItem item) =>
        item.Kind switch
        {
            ItemKind.Differential => ItemValue.Of(-5m, DifferentialUnit.Psid),
            ItemKind.TightOrLeaks => new ItemValue.Tightness(false),
            ItemKind.TrueOrFalse => new ItemValue.YesNo(false),
            ItemKind.LinePressure => new ItemValue.Line(new(0m, LinePressureUnit.Psi)),
            _ => new ItemValue.Clearance(new(0m, LengthUnit.Millimetre)),
        };

    [Fact]
    public void Every_rule_that_can_be_made_and_judges_can_be_failed() =>
        Gen.Select(
                Gen.Int[0, TestItem.All.Length - 1].Select(i => TestItem.All[i]),
                Gen.Enum<Requirement>(),
                Gen.Int[0, Demands.Length - 1].Select(i => Demands[i]).Array[0, 3]
            )
            .Sample(
                (item, requirement, demands) =>
                {
                    if (ItemRule.WhyNot(item, requirement, [.. demands]) is { } why)
                    {
                        Assert.Throws<ArgumentException>(() =>
                        {
                            _ = new ItemRule(item, requirement, [.. demands]);
                        });
                        return why.Length > 0;
                    }

                    var rule = new ItemRule(item, requirement, [.. demands]);
                    if (requirement == Requirement.Recorded)
                        return demands.Length == 0;
                    var type = AssemblyTypes.All.Select(t => t.Type).First(item.AppliesTo);
                    if (SchoolRules.WhyNot(type, [rule]) is not null)
                        return true;
                    var school = BuiltInProfiles.PsidStandard.For(type)!;
                    var only = new SchoolRules(school.ProcedureId, type, DifferentialUnit.Psid, [rule]);
                    var results = Results
                        .None.With(TestItem.ReliefOpening, ItemValue.Of(2m, DifferentialUnit.Psid))
                        .With(item, Bad(item));
                    return Judge
                            .Weigh(new(type, only, BuiltInProfiles.PsidStandard), results)
                            .Items.Single(i => i.Item == item)
                            .Result == ItemResult.Fail;
                },
                iter: 4_000
            );

    [Theory]
    [InlineData("check-1", Requirement.Required, -1, "needs a limit that it can fail")]
    [InlineData("shutoff-2", Requirement.Optional, 0, "cannot be asked of it")]
    [InlineData("check-1", Requirement.Recorded, 0, "only recorded has no limit")]
    [InlineData("static", Requirement.Required, 3, "cannot be asked of it")]
    [InlineData("line-pressure", Requirement.Required, 0, "cannot be asked of it")]
    public void A_rule_that_nothing_could_fail_cannot_be_made_and_says_why(
        string item,
        Requirement requirement,
        int demand,
        string says
    ) =>
        Assert.Contains(
            says,
            ItemRule.WhyNot(TestItem.Named(item)!, requirement, demand < 0 ? [] : [Demands[demand]]),
            StringComparison.Ordinal
        );

    [Fact]
    public void The_same_rules_are_equal_whoever_made_them() => Assert.All(BuiltInProfiles.All, profile =>
        {
            var read = ProfileFormat.Read(ProfileFormat.Write(profile), out _)!;
            Assert.Equal(profile, read);
            Assert.Equal(profile.GetHashCode(), read.GetHashCode());
            Assert.NotEqual(profile, read with { RetestDays = read.RetestDays + 1 });
        });

    [Fact]
    public void Every_item_a_built_in_profile_requires_fails_on_a_bad_answer() =>
        Assert.All(BuiltInProfiles.All.SelectMany(p => p.Schools.Elements.Select(s => (p, s))), x =>
            Assert.All(
                x.s.Items.Elements.Where(r =>
                    r.Requirement == Requirement.Required
                    && r.Item != TestItem.CheckAboveInlet
                    && r.Item != TestItem.ReliefBuffer
                ),
                rule =>
                {
                    var results = Results
                        .None.With(TestItem.ReliefOpening, ItemValue.Of(2m, DifferentialUnit.Psid))
                        .With(rule.Item, Bad(rule.Item));
                    var verdict = Judge.Weigh(new(x.s.Type, x.s, x.p), results);
                    Assert.NotEqual(Overall.Pass, verdict.Overall);
                    Assert.Contains(
                        verdict.Items.Single(i => i.Item == rule.Item).Result,
                        new[] { ItemResult.Fail, ItemResult.Missing }
                    );
                }
            )
        );

    [Theory]
    [InlineData("\"value\": 1.0,", "\"value\": 1.00000000000000000000000001,", "digits")]
    [InlineData("\"value\": 1.0,", "\"value\": 1e-28,", "digits")]
    [InlineData("\"value\": 1.0,", "\"value\": -1.0,", "")]
    [InlineData("\"value\": 1.0,", "\"value\": 1e9,", "")]
    public void A_limit_that_would_not_come_back_as_it_was_written_is_refused_with_its_place(
        string right,
        string wrong,
        string says
    )
    {
        var text = ProfileFormat.Write(BuiltInProfiles.PsidStandard);
        Assert.Contains(right, text, StringComparison.Ordinal);
        Assert.Null(ProfileFormat.Read(text.Replace(right, wrong, StringComparison.Ordinal), out var errors));
        Assert.All(errors, f => Assert.StartsWith("schools[", f.Place, StringComparison.Ordinal));
        Assert.Contains(errors, f => f.Says.Contains(says, StringComparison.Ordinal));
    }

    private static JudgedItem DrawnDown(decimal psid)
    {
        var profile = BuiltInProfiles.PsidCheckFirst;
        var verdict = Judge.Weigh(
            new(AssemblyTypes.DC, profile.School("dc-draw-down")!, profile),
            Results.None.With(TestItem.Check1, ItemValue.Of(psid, DifferentialUnit.Psid))
        );
        return verdict.Items.Single(i => i.Item == TestItem.Check1);
    }

    [Theory]
    [InlineData("0.9", ItemResult.Fail)]
    [InlineData("2.0", ItemResult.Pass)]
    [InlineData("2.5", ItemResult.Pass)]
    [InlineData("2.6", ItemResult.Missing)]
    [InlineData("9.4", ItemResult.Missing)]
    public void A_draw_down_that_stands_well_above_the_set_2_is_no_result(string psid, ItemResult result) =>
        Assert.Equal(result, DrawnDown(decimal.Parse(psid)).Result);

    [Theory]
    [InlineData("15", "14.1", "1.4", true)]
    [InlineData("35.5", "14.0", "1.4", false)]
    [InlineData("36.0", "35.2", "1.0", true)]
    public void An_RP_whose_buffer_the_gauge_can_hardly_tell_is_warned_about(
        string check,
        string relief,
        string accuracy,
        bool warned
    )
    {
        var profile = BuiltInProfiles.KpaIsolationFirst;
        ItemValue Kpa(string value) => ItemValue.Of(decimal.Parse(value), DifferentialUnit.Kpa);
        var verdict = Judge.Weigh(
            new(AssemblyTypes.RP, profile.For(AssemblyTypes.RP)!, profile, Differential.Kpa(decimal.Parse(accuracy))),
            Results.None.With(TestItem.Check1, Kpa(check)).With(TestItem.ReliefOpening, Kpa(relief))
        );
        Assert.Equal(
            warned,
            verdict.Warnings.Any(w =>
                w.Code == "within-accuracy" && w.Text.Contains("hardly be told apart", StringComparison.Ordinal)
            )
        );
    }
}
