using Mordel.Core.Catalogue;
using Mordel.Core.Dues;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Tests;

/// <summary>The table of limits of handbook chapter 3, row by row: just below, at, and just above.</summary>
public class ProfilesTests
{
    public static TheoryData<string, AssemblyType, string, string, string, string> Limits =>
        new()
        {
            // profile, type, item, just below, at the limit, unit
            { "psid-standard", AssemblyTypes.RP, "relief-opening", "1.9", "2.0", "psid" },
            { "psid-strict", AssemblyTypes.RP, "relief-opening", "1.9", "2.0", "psid" },
            { "psid-check-first", AssemblyTypes.RP, "relief-opening", "1.9", "2.0", "psid" },
            { "kpa-isolation-first", AssemblyTypes.RP, "relief-opening", "13.9", "14", "kPa" },
            { "psid-strict", AssemblyTypes.RP, "apparent", "4.9", "5.0", "psid" },
            { "psid-standard", AssemblyTypes.RP, "check-2", "0.9", "1.0", "psid" },
            { "kpa-isolation-first", AssemblyTypes.RP, "check-1", "34.9", "35", "kPa" },
            { "kpa-isolation-first", AssemblyTypes.RP, "check-2", "6.9", "7", "kPa" },
            { "psid-standard", AssemblyTypes.DC, "check-1", "0.9", "1.0", "psid" },
            { "psid-standard", AssemblyTypes.DC, "check-2", "0.9", "1.0", "psid" },
            { "psid-strict", AssemblyTypes.DC, "check-2", "0.9", "1.0", "psid" },
            { "psid-check-first", AssemblyTypes.DC, "check-1", "0.9", "1.0", "psid" },
            { "kpa-isolation-first", AssemblyTypes.DC, "check-2", "6.9", "7", "kPa" },
            { "psid-standard", AssemblyTypes.PVB, "air-inlet-opening", "0.9", "1.0", "psid" },
            { "psid-standard", AssemblyTypes.PVB, "check-1", "0.9", "1.0", "psid" },
            { "psid-check-first", AssemblyTypes.PVB, "check-1", "0.9", "1.0", "psid" },
            { "kpa-isolation-first", AssemblyTypes.PVB, "air-inlet-opening", "6.9", "7", "kPa" },
            { "psid-standard", AssemblyTypes.SVB, "check-1", "0.9", "1.0", "psid" },
            { "psid-standard", AssemblyTypes.SVB, "air-inlet-opening", "0.9", "1.0", "psid" },
            { "psid-check-first", AssemblyTypes.SVB, "air-inlet-opening", "0.9", "1.0", "psid" },
            { "kpa-isolation-first", AssemblyTypes.SVB, "check-1", "6.9", "7", "kPa" },
        };

    [Theory]
    [MemberData(nameof(Limits))]
    public void Below_the_limit_fails_and_at_the_limit_passes(
        string profile,
        AssemblyType type,
        string item,
        string below,
        string at,
        string unit
    )
    {
        Assert.Equal(
            (ItemResult.Fail, ItemResult.Pass),
            (Result(profile, type, item, below, unit), Result(profile, type, item, at, unit))
        );
    }

    [Theory]
    [MemberData(nameof(Limits))]
    public void The_same_limit_holds_for_the_same_pressure_in_the_other_unit(
        string profile,
        AssemblyType type,
        string item,
        string below,
        string at,
        string unit
    )
    {
        var other = DifferentialUnits.Parse(unit)!.Value.Other();
        string In(string amount) =>
            decimal.Round(
                    new Differential(decimal.Parse(amount), DifferentialUnits.Parse(unit)!.Value).In(other)
                        + (amount == at ? 0.0001m : 0m),
                    4
                )
                .ToString();
        Assert.Equal(
            (ItemResult.Fail, ItemResult.Pass),
            (
                Result(profile, type, item, In(below), other.Symbol()),
                Result(profile, type, item, In(at), other.Symbol())
            )
        );
    }

    private static ItemResult Result(string profileId, AssemblyType type, string item, string value, string unit)
    {
        var profile = BuiltInProfiles.Named(profileId)!;
        var results = Results.None.With(
            TestItem.Named(item)!,
            ItemValue.Of(decimal.Parse(value), DifferentialUnits.Parse(unit)!.Value)
        );
        return Judge.Weigh(new(type, profile.For(type)!, profile), results).Items.Single(i => i.Item.Id == item).Result;
    }

    [Theory]
    [InlineData("psid-standard", "RP", "relief-opening check-1 check-2-back-pressure")]
    [InlineData(
        "psid-strict",
        "RP",
        "line-pressure apparent relief-opening check-1 buffer check-2-back-pressure relief-clearance"
    )]
    [InlineData("psid-check-first", "RP", "check-1 relief-opening buffer check-2-back-pressure shutoff-2")]
    [InlineData(
        "kpa-isolation-first",
        "RP",
        "shutoff-1 shutoff-2 check-1 relief-opening check-2-back-pressure check-2"
    )]
    [InlineData("psid-standard", "DC", "check-1 check-2")]
    [InlineData("psid-strict", "DC", "line-pressure check-1 check-2")]
    [InlineData("psid-standard", "PVB", "air-inlet-opening air-inlet-fully-open check-1")]
    [InlineData("psid-standard", "SVB", "check-1 air-inlet-opening check-above-inlet")]
    [InlineData("psid-check-first", "SVB", "static check-1 air-inlet-opening air-inlet-fully-open")]
    public void Without_anything_taken_just_the_required_items_are_missing(
        string profileId,
        string typeName,
        string items
    )
    {
        var type = AssemblyTypes.Parse(typeName);
        var profile = BuiltInProfiles.Named(profileId)!;
        var verdict = Judge.Weigh(new(type, profile.For(type)!, profile), Results.None);
        Assert.Equal(items.Split(' '), verdict.Items.Where(i => i.Result == ItemResult.Missing).Select(i => i.Item.Id));
        Assert.Equal(Overall.Incomplete, verdict.Overall);
    }

    [Fact]
    public void A_profile_holds_from_its_first_day_to_its_last()
    {
        var profile = BuiltInProfiles.PsidStandard with
        {
            InForceFrom = new(2030, 1, 1),
            InForceUntil = new(2030, 12, 31),
        };
        Assert.Equal(
            [false, true, true, false],
            new[] { new DateOnly(2029, 12, 31), new(2030, 1, 1), new(2030, 12, 31), new(2031, 1, 1) }.Select(
                profile.InForceOn
            )
        );
    }

    [Fact]
    public void A_pass_starts_the_interval_and_anything_else_the_deadline_for_another_test()
    {
        var tested = new DateOnly(2031, 3, 31);
        DueFacts facts = new(AssemblyTypes.DC, "low", null, null, new(2020, 1, 1));
        DateOnly After(bool passed) => DueEngine.After(facts, tested, passed, BuiltInProfiles.PsidStandard);
        Assert.Equal(
            (new DateOnly(2032, 3, 31), new DateOnly(2031, 4, 30)),
            (After(passed: true), After(passed: false))
        );
    }

    [Fact]
    public void A_profile_that_says_more_than_fails_equality()
    {
        var strict = new SchoolRules(
            "dc-sight-tube",
            AssemblyTypes.DC,
            DifferentialUnit.Psid,
            [new(TestItem.Check1, Requirement.Required, new Criterion.AtLeast(Differential.Psid(1.0m), Strict: true))]
        );
        ItemResult At(decimal value) =>
            Judge
                .Weigh(
                    new(AssemblyTypes.DC, strict, BuiltInProfiles.PsidStandard),
                    Results.None.With(TestItem.Check1, ItemValue.Of(value, DifferentialUnit.Psid))
                )
                .Items.Single()
                .Result;
        Assert.Equal((ItemResult.Fail, ItemResult.Pass), (At(1.0m), At(1.1m)));
    }

    private static string Told(SchoolRules s) =>
        $"{s.HoldSeconds} {string.Join(' ', s.VoidsTheRest.Select(v => v.Id))} "
        + $"{string.Join(' ', s.Items.Where(i => s.Asks(i.Item)).Select(i => i.Item.Id))}";

    [Fact]
    public void A_profile_is_read_as_it_was_written() => Assert.All(BuiltInProfiles.All, profile =>
        {
            var read = Serialization.ProfileFormat.Read(Serialization.ProfileFormat.Write(profile), out var errors);
            Assert.Empty(errors);
            Assert.Equal(Serialization.ProfileFormat.Write(profile), Serialization.ProfileFormat.Write(read!));
            Assert.All(profile.Schools, s => Assert.Equal(Told(s), Told(read!.School(s.ProcedureId)!)));
        });

    [Theory]
    [InlineData("\"requirement\": \"required\"", "\"requirement\": \"perhaps\"", "schools[0].items[0].requirement")]
    [InlineData("\"version\": 1", "\"version\": 0", "version")]
    [InlineData("\"procedure\": \"rp-relief-first\"", "\"procedure\": \"rp-none\"", "schools[0].procedure")]
    [InlineData("\"inForceFrom\": \"2015-01-01\"", "\"inForceFrom\": \"soon\"", "inForceFrom")]
    public void What_is_wrong_in_a_profile_is_named_with_its_place(string right, string wrong, string place)
    {
        Assert.Null(
            Serialization.ProfileFormat.Read(
                Serialization
                    .ProfileFormat.Write(BuiltInProfiles.PsidStrict)
                    .Replace(right, wrong, StringComparison.Ordinal),
                out var errors
            )
        );
        Assert.Contains(errors, f => f.Place == place);
    }
}
