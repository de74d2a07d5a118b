using System.Collections.Concurrent;
using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Simulation;
using Mordel.Core.Verdicts;
using Mordel.Validation;

namespace Mordel.Core.Tests;

/// <summary>The procedures, performed on the water by a tester who sees only what shows.</summary>
public class SimulatedTesterTests
{
    private static string Problems(IEnumerable<(string What, Func<string> Look)> cases)
    {
        var problems = new ConcurrentBag<string>();
        Parallel.ForEach(cases, c =>
        {
            if (c.Look() is { Length: > 0 } wrong)
                problems.Add($"{c.What}: {wrong}");
        });
        return string.Join(Environment.NewLine, problems.Order());
    }

    [Fact]
    public void Every_sight_of_chapter_4_comes_out_by_itself_with_every_kit() =>
        Assert.Equal(
            "",
            Problems(
                Cases.Rows(
                    ChapterFour.Rows.SelectMany(row =>
                        Bench
                            .KitsOf(row.Procedure)
                            .Select(kit =>
                                (
                                    $"{row.Procedure} {kit} \"{row.Set}\"",
                                    (Func<string>)(() => row.Missing(Bench.Set(row.Procedure, kit, row.Set).Perform()))
                                )
                            )
                    ),
                    "sights"
                )
            )
        );

    [Fact]
    public void No_finding_hangs_on_how_large_leaks_openings_or_compliances_are() =>
        Assert.Equal(
            "",
            Problems(
                Cases.Of(
                    [
                        .. ChapterFour.Rows.SelectMany(row =>
                            Table.Shifts.Select(shift =>
                                (
                                    $"{row.Procedure} {shift.Name} \"{row.Set}\"",
                                    (Func<string>)(() => Table.Shifted(row, shift.By))
                                )
                            )
                        ),
                    ],
                    "shifts"
                )
            )
        );

    public static TheoryData<string, string> Everything
    {
        get
        {
            var data = new TheoryData<string, string>();
            foreach (
                var (school, kit) in Cases.Rows(
                    SchoolCatalogue.All.SelectMany(s => Bench.KitsOf(s.Id).Select(kit => (s.Id, kit))),
                    nameof(Everything)
                )
            )
                data.Add(school, kit);
            return data;
        }
    }

    private static readonly Gen<string> Sites = Gen.Int[0, 3]
        .Select(i => new[] { "", "; open", "; open -24", "; pressure 20" }[i]);

    [Theory]
    [MemberData(nameof(Everything))]
    public void On_a_sound_rig_it_reads_the_springs_finds_nothing_and_passes(string school, string kit)
    {
        var type = SchoolCatalogue.Named(school)!.Type;
        var vacuum = type.Facts().IsVacuumBreaker;
        Gen.Select(Gen.Double[0, 1], Gen.Double[0, 1], Gen.Double[0, 1], Gen.Double[25, 150], Sites)
            .Sample(
                (a, b, c, supply, site) =>
                {
                    var (cv1, cv2, rv, ai) = type.Name switch
                    {
                        "RP" => (8 + (2 * a), 1.2 + (1.3 * b), 2.2 + (2.6 * c), 0),
                        "PVB" => (1.1 + (0.9 * a), 0.0, 0.0, 1.1 + (1.9 * b)),
                        "SVB" => (3.2 + (1.8 * a), 0.0, 0.0, 1.1 + (1.9 * b)),
                        _ => (1.2 + (2.8 * a), 1.2 + (2.8 * b), 0, 0),
                    };
                    var springs = string.Join(
                        ' ',
                        new[] { (Parts.Cv1, cv1), (Parts.Cv2, cv2), (Parts.Relief, rv), (Parts.AirInlet, ai) }
                            .Where(spring => type.Facts().Has(spring.Item1))
                            .Select(spring => $"{spring.Item1}={spring.Item2:0.000}")
                    );
                    var outcome = Bench
                        .Set(
                            school,
                            kit,
                            $"{(vacuum && site.Contains("pressure", StringComparison.Ordinal) ? "" : site)}; "
                                + $"springs {springs}; supply {supply:0.0}"
                        )
                        .Perform();
                    Assert.True(outcome.Finished);
                    Assert.Empty(outcome.Findings);
                    Assert.Empty(outcome.State.SetAside);
                    Assert.Equal(Overall.Pass, outcome.Verdict.Overall);
                    if (school == "dc-draw-down")
                    {
                        Assert.InRange(outcome.Exact[TestItem.Check1], 1.8, 2.1);
                        return;
                    }

                    // A needle on its way is late by its lag; one that stands is not.
                    void Reads(TestItem item, double spring, double within = 0.021)
                    {
                        if (outcome.Exact.TryGetValue(item, out var read))
                            Assert.InRange(read, spring - within, spring + within);
                    }

                    Reads(TestItem.Check1, cv1);
                    Reads(TestItem.Check2, cv2);
                    Reads(TestItem.ReliefOpening, rv, 0.035);
                    Reads(TestItem.AirInletOpening, ai, 0.035);
                },
                iter: 3
            );
    }

    [Theory]
    [InlineData("dc-sight-tube", "psid-strict")]
    [InlineData("rp-relief-first", "psid-strict")]
    [InlineData("svb-check-first", "psid-strict")]
    public void The_strict_profile_s_watches_are_kept_and_its_extra_items_answered(string school, string profile)
    {
        var scenario = Bench.Set(school, "five-valve", "") with { Profile = BuiltInProfiles.Named(profile)! };
        var outcome = scenario.Perform();
        Assert.Equal(Overall.Pass, outcome.Verdict.Overall);
        Assert.NotNull(outcome.State.Results()[TestItem.StaticLine]);
        Assert.All(outcome.State.Holds.Values.Where(h => h.CutShort is null), h => Assert.True(h.Seconds >= 120));
        Assert.NotEmpty(outcome.State.Holds);
    }

    [Fact]
    public void A_worn_spring_is_read_and_fails_without_any_finding()
    {
        var outcome = Bench.Set("dc-sight-tube", "two-valve", "; springs cv1=0.6").Perform();
        Assert.Equal(Overall.Fail, outcome.Verdict.Overall);
        Assert.Equal(0.6, outcome.Exact[TestItem.Check1], 1);
        Assert.Empty(outcome.Findings);
    }

    [Theory]
    [MemberData(nameof(Everything))]
    public void Any_two_faults_at_once_lead_to_an_end(string school, string kit)
    {
        var rig = Bench.Set(school, kit, "").Situation.Rig;
        var errors = rig
            .Body.Parts.SelectMany(p =>
                p.Kind switch
                {
                    Rigs.PartKind.Shutoff or Rigs.PartKind.Check => [$"{p.Id} leaks weep", $"{p.Id} leaks large"],
                    Rigs.PartKind.Relief => [$"{p.Id} leaks", $"{p.Id} stuck-closed"],
                    Rigs.PartKind.Inlet => [$"{p.Id} stuck-closed", $"{p.Id} hangs"],
                    Rigs.PartKind.Cock => [$"{p.Id} blocked"],
                    _ => Array.Empty<string>(),
                }
            )
            .Concat(["kit hoses-swapped", "kit air-in-hoses", "kit zero-offset 0.4", "kit gauge-height -6"])
            .ToArray();
        var pairs =
            from a in errors
            from b in errors
            where string.CompareOrdinal(a, b) < 0 && !Same(a, b)
            select $"{a}, {b}";
        static bool Same(string a, string b) => a.Split(' ').Take(2).SequenceEqual(b.Split(' ').Take(2));
        var sites = new[] { "", "; open", "; pressure 80" };
        var some = pairs
            .Where((_, i) => (i * 7 + school.Length + kit.Length) % 23 == 0)
            .Select((p, i) => p + sites[i % 3])
            .Take(9);
        Assert.Equal(
            "",
            Problems(
                some.Select(words =>
                    (
                        words,
                        (Func<string>)(
                            () =>
                            {
                                var outcome = Bench.Set(school, kit, words).Perform();
                                return !outcome.Finished ? "circles: " + string.Join(' ', outcome.Met.Select(Row.Name))
                                    : outcome.State.SetAside.IsEmpty ? ""
                                    : outcome.State.SetAside[0].Why;
                            }
                        )
                    )
                )
            )
        );
    }

    public static TheoryData<string, string, string, string, string> Drips
    {
        get
        {
            var data = new TheoryData<string, string, string, string, string>();
            foreach (var (part, set, shut, flow, flowing) in InService.Cases)
                data.Add(part, set, shut, flow, flowing);
            return data;
        }
    }

    [Theory]
    [MemberData(nameof(Drips))]
    public void An_RP_that_drips_in_service_answers_both_orders_of_looking(
        string part,
        string set,
        string so2Closed,
        string tc4Opened,
        string flowing
    )
    {
        var (drips, shut, flow) = InService.ShutFirst(set);
        Assert.True(drips > 0.003, part);
        Assert.Equal((so2Closed, tc4Opened, flowing), (shut, flow, InService.FlowFirst(set).Flowing));
    }

    [Fact]
    public void The_log_that_a_simulated_test_leaves_replays_to_the_same_verdict()
    {
        var scenario = Bench.Set("rp-check-first", "three-valve", "cv2 leaks");
        var outcome = scenario.Perform();
        var plan = scenario.Plan;
        Assert.Equal(outcome.Verdict.Reason, plan.VerdictOn(Runs.Replay.Run(plan, outcome.Log)).Reason);
    }

    [Theory]
    [InlineData("five-valve", 40)]
    [InlineData("five-valve", 62)]
    [InlineData("three-valve", 100)]
    public void A_large_leak_of_CV2_from_a_charged_site_does_not_pull_the_reliefs_point_down(string kit, int supply)
    {
        var rig = new Rig(Bodies.Find(AssemblyTypes.RP), Kit.Named(kit)!);
        var situation = new Situation
        {
            Rig = rig,
            Springs = Springs.Healthy(AssemblyTypes.RP) with { Relief = 2.4 },
            Supply = new(supply),
            SiteBehind = new(SitePlumbing.OwnPressure, 0, supply + 20),
            Faults = [new(Parts.Cv2, FaultKind.Leaks, LeakSize.Large)],
        };
        var result = new Scenario(
            situation,
            SchoolCatalogue.Named("rp-relief-first")!,
            BuiltInProfiles.PsidStandard
        ).Perform();
        Assert.InRange(result.Exact[TestItem.ReliefOpening], 2.38, 2.42);
        Assert.Equal([FindingKind.Cv2Leaks], result.Findings);
    }

    [Theory]
    [MemberData(nameof(Everything))]
    public void Hoses_that_hang_wrong_are_seen_and_put_right_in_every_school(string school, string kit)
    {
        var procedure = SchoolCatalogue.Named(school)!;
        var situation = new Situation
        {
            Rig = new(Bodies.Find(procedure.Type, procedure.Body), Kit.Named(kit)!),
            Springs = Springs.Healthy(procedure.Type),
            Faults = [new(Parts.Gauge, FaultKind.HosesSwapped)],
        };
        var result = new Scenario(
            situation,
            procedure,
            BuiltInProfiles.All.First(p => p.School(school) is not null)
        ).Perform();
        Assert.Equal([FindingKind.HosesSwapped], result.Findings);
        Assert.Equal(Overall.Pass, result.Verdict.Overall);
    }
}
