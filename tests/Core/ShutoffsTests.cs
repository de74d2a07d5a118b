using System.Text.Json;
using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;
using Mordel.Validation;

namespace Mordel.Core.Tests;

/// <summary>A shutoff is called tight only where the test could have shown a leak of it.</summary>
public class ShutoffsTests
{
    private static readonly string[] Sites =
    [
        """{"demand":"none"}""",
        """{"demand":"open"}""",
        """{"demand":"open","outlet":{"value":-3,"unit":"ft"}}""",
        """{"back-pressure":{"value":20,"unit":"psi"}}""",
    ];

    public static TheoryData<string, string> SchoolsAndKits => SimulatedTesterTests.Everything;

    private static Gen<string> One(params string[] of) => Gen.Int[0, of.Length - 1].Select(i => of[i]);

    /// <summary>What a careful tester's report says of a shutoff.</summary>
    private static string Said(
        string school,
        string kit,
        string site,
        string? part,
        string size,
        int supply,
        string item
    )
    {
        var errors = part is null ? "" : $$""","faults":[{"part":"{{part}}","fault":"leaks","size":"{{size}}"}]""";
        var scenario = ScenarioFormat.Read(
            $$"""{"format":"mordel.scenario/1","assembly":{"type":"{{SchoolCatalogue.Named(school)!.Type}}"},"supply":{"value":{{supply}},"unit":"psi"},"site":{{site}},"procedure":"{{school}}","kit":"{{kit}}"{{errors}}}""",
            out var wrong
        );
        Assert.Empty(wrong);
        using var outcome = JsonDocument.Parse(OutcomeFormat.Perform(scenario!, 0));
        return
            outcome.RootElement.GetProperty("results").TryGetProperty(item, out var said)
            && said.GetString() is { } text
            ? text
            : "nothing";
    }

    [Theory]
    [MemberData(nameof(SchoolsAndKits))]
    public void A_shutoff_that_leaks_is_never_called_tight_whatever_the_site_hides(string school, string kit) =>
        Gen.Select(One("so1", "so2"), One("small", "large", "gush"), One(Sites), Gen.Int[35, 120])
            .Sample(
                (part, size, site, supply) =>
                {
                    var said = Said(school, kit, site, part, size, supply, part == "so1" ? "shutoff-1" : "shutoff-2");
                    return said == "tight"
                        ? throw new InvalidOperationException(
                            $"{part} leaks ({size}, {site}, {supply} psi) and is called tight."
                        )
                        : true;
                },
                iter: Cases.Of(24)
            );

    [Theory]
    [InlineData("dc-sight-tube")]
    [InlineData("dc-draw-down")]
    [InlineData("pvb-inlet-first")]
    [InlineData("svb-check-first")]
    [InlineData("svb-static-first")]
    public void On_a_closed_site_a_large_leak_of_SO2_is_found_or_not_shown(string school)
    {
        Assert.NotEqual("tight", Said(school, "five-valve", Sites[0], "so2", "large", 60, "shutoff-2"));
    }

    [Theory]
    [MemberData(nameof(SchoolsAndKits))]
    public void A_sound_shutoff_is_never_said_to_leak(string school, string kit) =>
        Gen.Select(One(Sites), Gen.Int[35, 120])
            .Sample(
                (site, supply) =>
                    new[] { "shutoff-1", "shutoff-2" }.All(item =>
                        Said(school, kit, site, null, "", supply, item) != "leaks"
                    ),
                iter: Cases.Of(8)
            );

    [Theory]
    [InlineData("rp-check-first", "shutoff-2", ItemResult.Missing, Overall.Incomplete)]
    [InlineData("dc-sight-tube", "shutoff-2", ItemResult.Recorded, Overall.Pass)]
    public void What_was_not_shown_counts_as_nothing_taken_where_it_is_required_and_is_written_down_elsewhere(
        string school,
        string item,
        ItemResult result,
        Overall overall
    )
    {
        var profile = BuiltInProfiles.All.First(p => p.School(school) is not null);
        var rules = profile.School(school)!;
        var results = rules
            .Items.Elements.Where(r => r.Requirement == Requirement.Required)
            .Aggregate(Results.None, (all, r) => all.With(r.Item, Sound(r.Item)));
        var verdict = Judge.Weigh(
            new(rules.Type, rules, profile),
            results.With(TestItem.Named(item)!, new ItemValue.NotShown())
        );
        var judged = verdict.Items.Single(i => i.Item.Id == item);
        Assert.Equal((result, overall), (judged.Result, verdict.Overall));
        Assert.Contains("could not have shown a leak", judged.Why, StringComparison.Ordinal);
        Assert.Contains("Open a tap downstream", judged.WouldChange, StringComparison.Ordinal);
    }

    private static ItemValue Sound(TestItem item) =>
        item.Kind switch
        {
            ItemKind.TightOrLeaks => new ItemValue.Tightness(true),
            ItemKind.TrueOrFalse => new ItemValue.YesNo(true),
            _ => ItemValue.Of(item == TestItem.Check1 ? 7.4m : 2.4m, Units.DifferentialUnit.Psid),
        };

    [Fact]
    public void Only_a_shutoff_can_be_not_shown()
    {
        Assert.Null(
            TestRecordFormat.Read(
                """{"format":"mordel.test-record/1","assembly":{"type":"RP"},"profile":"psid-standard","results":{"check-2-back-pressure":"not-shown"}}""",
                out var errors
            )
        );
        Assert.Equal("results.check-2-back-pressure", Assert.Single(errors).Place);
        Assert.NotNull(
            TestRecordFormat.Read(
                """{"format":"mordel.test-record/1","assembly":{"type":"RP"},"profile":"psid-standard","results":{"shutoff-2":"not-shown"}}""",
                out errors
            )
        );
        Assert.Empty(errors);
    }
}
