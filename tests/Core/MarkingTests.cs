using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Simulation;
using Mordel.Core.Training;
using Xunit.Abstractions;

namespace Mordel.Core.Tests;

/// <summary>Marks are given by what the rig was in, and say what the water did.</summary>
public sealed class MarkingTests(ITestOutputHelper output)
{
    public static TheoryData<string, string, int> Drawn()
    {
        var data = new TheoryData<string, string, int>();
        foreach (var school in Cases.Rows(SchoolCatalogue.All, nameof(Drawn)))
            for (var seed = 1; seed <= Cases.Of(5); seed++)
                data.Add(school.Id, Kit.All.First(k => k.Kind == school.Kits[seed % school.Kits.Length]).Name, seed);
        return data;
    }

    [Theory, MemberData(nameof(Drawn))]
    public void A_careful_tester_keeps_every_mark_on_any_rig_that_an_exam_draws(string school, string kit, int seed)
    {
        var scenario = new RandomRig(
            SchoolCatalogue.Named(school)!,
            Kit.Named(kit)!,
            RandomRigRules.Exam,
            seed
        ).Scenario;
        var sheet = Marking.Mark(Demonstration.Record(scenario));
        var lost = sheet.Marks.Where(m => !m.Earned).ToList();
        foreach (var mark in lost)
            output.WriteLine($"{mark.Id}: {mark.Says}");
        Assert.True(
            lost.Count == 0,
            $"{string.Join("; ", sheet.Truth)}: {string.Join(" | ", lost.Select(m => $"{m.Id}: {m.Says}"))}"
        );
    }

    [Theory]
    [InlineData("dc-sight-tube", "five-valve")]
    [InlineData("rp-relief-first", "five-valve")]
    [InlineData("pvb-inlet-first", "two-valve")]
    [InlineData("svb-check-first", "five-valve")]
    public void A_careful_tester_keeps_nearly_every_mark_by_field_rules_too(string school, string kit)
    {
        for (var seed = 1; seed <= Cases.Of(4); seed++)
        {
            var sheet = Marking.Mark(
                Demonstration.Record(
                    new RandomRig(SchoolCatalogue.Named(school)!, Kit.Named(kit)!, RandomRigRules.Field, seed).Scenario
                )
            );
            foreach (var mark in sheet.Marks.Where(m => !m.Earned))
                output.WriteLine($"{mark.Id}: {mark.Says}");
            Assert.True(sheet.Percent >= 90, $"seed {seed}, {string.Join("; ", sheet.Truth)}: {sheet.Percent}");
        }
    }

    // Hands that follow a list: seconds from the beginning, and what is done then.
    private static Recording Played(string rig, params (double At, BenchAction What)[] actions) =>
        Played(rig, actions[^1].At + 1, actions);

    private static Recording Played(string rig, double until, params (double At, BenchAction What)[] actions)
    {
        var scenario = RecordingFormat.ReadRig(rig, out var errors);
        Assert.Empty(errors);
        return new(
            scenario!,
            [.. actions.Select(d => new TimedAction((int)(d.At * Recording.PerSecond), d.What))],
            (int)(until * Recording.PerSecond)
        );
    }

    private static string A(string type, string procedure, string kit = "five-valve", string more = "") =>
        $$"""{"format":"mordel.scenario/1","assembly":{"type":"{{type}}"},"procedure":"{{procedure}}","kit":"{{kit}}"{{more}}}""";

    private static BenchAction.Turn Turn(PartId part, double to, double seconds = 0.5) =>
        new BenchAction.Turn(part, new((decimal)to), (int)(seconds * Recording.PerSecond));

    private static BenchAction.Connect On(PartId item, PartId to) => new BenchAction.Connect(item, to);

    private static BenchAction.Write Reads(TestItem item, double psid) =>
        new BenchAction.Write(item, Core.Verdicts.ItemValue.Of((decimal)psid, Core.Units.DifferentialUnit.Psid));

    private static MarkLine Lost(Recording recording, string id)
    {
        var mark = Marking.Mark(recording).Marks.Single(m => m.Id == id);
        Assert.False(mark.Earned, $"{id} was kept: {mark.Says}");
        return mark;
    }

    private static readonly (double, BenchAction)[] HookedToTheRp =
    [
        (1, On(Parts.HighHose, Parts.Tc2)),
        (2, On(Parts.LowHose, Parts.Tc3)),
        (3, Turn(Parts.Tc3, 1)),
        (4, Turn(Parts.LowBleed, 1)),
        (8, Turn(Parts.Tc2, 1)),
        (9, Turn(Parts.HighBleed, 1)),
        (14, Turn(Parts.HighBleed, 0)),
        (16, Turn(Parts.LowBleed, 0)),
        (20, Turn(Parts.So2, 0, 2)),
    ];

    [Fact]
    public void Swapped_hoses_are_told_by_where_the_ports_felt_the_water()
    {
        var recording = Played(
            A("RP", "rp-relief-first"),
            (1, On(Parts.HighHose, Parts.Tc3)),
            (2, On(Parts.LowHose, Parts.Tc2)),
            (3, Turn(Parts.Tc3, 1)),
            (4, Turn(Parts.HighBleed, 1)),
            (8, Turn(Parts.Tc2, 1)),
            (9, Turn(Parts.LowBleed, 1)),
            (14, Turn(Parts.LowBleed, 0)),
            (16, Turn(Parts.HighBleed, 0)),
            (20, Turn(Parts.So2, 0, 2)),
            (40, Reads(TestItem.Check1, 0))
        );
        var mark = Lost(recording, "check-1.hoses");
        Assert.Contains("swapped", mark.Says, StringComparison.Ordinal);
        Assert.Contains("below zero, to -2.0 psid", mark.Says, StringComparison.Ordinal);
    }

    [Fact]
    public void SO1_shut_first_on_a_vacuum_breaker_is_told_by_the_inlet_that_dropped_unread()
    {
        var actions = new (double, BenchAction)[]
        {
            (1, On(Parts.HighHose, Parts.Tc2)),
            (2, Turn(Parts.Tc2, 1)),
            (3, Turn(Parts.HighBleed, 1)),
            (9, Turn(Parts.HighBleed, 0)),
            (10, new BenchAction.Lift(3)),
            (12, Turn(Parts.So1, 0, 2)),
            (24, Turn(Parts.So2, 0, 2)),
            (30, Reads(TestItem.AirInletOpening, 1.7)),
        };
        var mark = Lost(
            Played(A("PVB", "pvb-inlet-first", more: ",\"site\":{\"demand\":\"open\"}"), actions),
            "so2-first"
        );
        Assert.Contains("the body's water ran off to the site", mark.Says, StringComparison.Ordinal);
        Assert.Contains("inlet dropped", mark.Says, StringComparison.Ordinal);
        // Where the site draws nothing the body keeps its water, and nothing is lost by the other order.
        Assert.True(
            Marking.Mark(Played(A("PVB", "pvb-inlet-first"), actions)).Marks.Single(m => m.Id == "so2-first").Earned
        );
    }

    [Fact]
    public void A_low_control_flung_open_is_told_by_the_flood_at_the_relief_port()
    {
        var recording = Played(
            A("RP", "rp-relief-first"),
            50,
            [
                .. HookedToTheRp,
                (30, Turn(Parts.HighControl, 1)),
                (32, Turn(Parts.LowControl, 1, 0)),
                (36, Reads(TestItem.ReliefOpening, 1.2)),
            ]
        );
        var mark = Lost(recording, "fed-slowly");
        Assert.Contains("100 % open", mark.Says, StringComparison.Ordinal);
        Assert.Contains("the relief poured", mark.Says, StringComparison.Ordinal);
        Assert.InRange(mark.At, 30 * Recording.PerSecond, 33 * Recording.PerSecond);
    }

    [Theory]
    [InlineData(0.01, true)]
    [InlineData(0.6, false)]
    public void The_zone_may_be_fed_by_any_hand_that_is_slow_enough(double to, bool kept)
    {
        var recording = Played(
            A("RP", "rp-relief-first"),
            60,
            [.. HookedToTheRp, (30, Turn(Parts.HighControl, 1)), (32, Turn(Parts.LowControl, to, 0))]
        );
        Assert.Equal(kept, Marking.Mark(recording).Marks.Single(m => m.Id == "fed-slowly").Earned);
    }

    private static (double, BenchAction)[] DcTo(double read, bool purge, double height) =>
        [
            (1, On(Parts.BleedOff, Parts.Tc2)),
            (2, On(Parts.HighHose, Parts.BleedOff)),
            (3, On(Parts.SightTube, Parts.Tc3)),
            (4, Turn(Parts.Tc2, 1)),
            .. purge
                ? [(5.0, Turn(Parts.HighBleed, 1)), (12, Turn(Parts.HighBleed, 0))]
                : Array.Empty<(double, BenchAction)>(),
            (14, Turn(Parts.Tc3, 1)),
            (17, Turn(Parts.Tc3, 0)),
            (19, Turn(Parts.So2, 0, 2)),
            (22, new BenchAction.Lift((decimal)height)),
            (24, Turn(Parts.So1, 0, 2)),
            (28, Turn(Parts.Tc3, 1, 2)),
            (90, Reads(TestItem.Check1, read)),
        ];

    [Fact]
    public void Air_left_in_the_hose_is_told_by_what_it_did_to_the_needle()
    {
        var mark = Lost(Played(A("DC", "dc-sight-tube"), DcTo(2.1, purge: false, 9)), "check-1.purged");
        Assert.Contains("still air", mark.Says, StringComparison.Ordinal);
        Assert.Contains("slowly", mark.Says, StringComparison.Ordinal);
    }

    [Fact]
    public void A_gauge_a_foot_low_is_told_in_psid()
    {
        var mark = Lost(Played(A("DC", "dc-sight-tube"), DcTo(2.5, purge: true, -3)), "check-1.height");
        Assert.Contains("12 in below", mark.Says, StringComparison.Ordinal);
        Assert.Contains("0.43 psid", mark.Says, StringComparison.Ordinal);
        Assert.Contains("2.5 psid, too high", mark.Says, StringComparison.Ordinal);
        Assert.True(
            Marking
                .Mark(Played(A("DC", "dc-sight-tube"), DcTo(2.1, purge: true, 9)))
                .Marks.Single(m => m.Id == "check-1.height")
                .Earned
        );
    }

    [Fact]
    public void Passing_an_assembly_that_fails_ends_the_exam()
    {
        var scenario = RecordingFormat.ReadRig(
            A("DC", "dc-sight-tube", more: ",\"faults\":[{\"part\":\"cv1\",\"fault\":\"leaks\"}]"),
            out _
        )!;
        var right = Demonstration.Record(scenario);
        Assert.True(Marking.Mark(right).Passed);
        var wrong = right with
        {
            Actions = right.Actions.Add(new(right.End, new BenchAction.Conclude(Core.Verdicts.Overall.Pass))),
        };
        var sheet = Marking.Mark(wrong);
        Assert.False(sheet.Passed);
        Assert.True(sheet.Percent > 80);
        Assert.Contains(sheet.Marks, m =>
            m.EndsIt && !m.Earned && m.Says.Contains("it is fail", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void What_is_left_behind_is_told_part_by_part()
    {
        var recording = Played(
            A("DC", "dc-sight-tube"),
            (1, On(Parts.HighHose, Parts.Tc2)),
            (2, Turn(Parts.So2, 0, 2)),
            (6, Turn(Parts.Tc4, 1))
        );
        Assert.Equal(
            "SO2 is not fully open, TC4 stands open, the high hose (H) is still on.",
            Lost(recording, "restored").Says
        );
        Assert.Contains("freezes", Lost(recording, "drained").Says, StringComparison.Ordinal);
        Assert.Contains("TC2 took a hose", Lost(recording, "flushed").Says, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(0.2, false)]
    [InlineData(2, true)]
    public void A_shutoff_flung_open_against_pressure_makes_the_pipes_knock(double seconds, bool gentle)
    {
        var recording = Played(
            A("DC", "dc-sight-tube"),
            14,
            (1, Turn(Parts.So1, 0, 2)),
            (4, Turn(Parts.Tc4, 1)),
            (7, Turn(Parts.Tc4, 0)),
            (10, Turn(Parts.So1, 1, seconds))
        );
        Assert.Equal(gentle, Marking.Mark(recording).Marks.Single(m => m.Id == "hammer").Earned);
    }

    [Fact]
    public void A_hose_that_comes_off_an_open_cock_sprays()
    {
        var recording = Played(
            A("DC", "dc-sight-tube"),
            8,
            (1, On(Parts.HighHose, Parts.Tc2)),
            (2, Turn(Parts.Tc2, 1)),
            (5, new BenchAction.TakeOff(Parts.HighHose))
        );
        Assert.Contains("60 psi behind it", Lost(recording, "relieved").Says, StringComparison.Ordinal);
    }
}
