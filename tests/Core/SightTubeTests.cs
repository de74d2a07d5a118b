using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;

namespace Mordel.Core.Tests;

/// <summary>The procedure is proved by doing it on the rig.</summary>
public class SightTubeTests
{
    public static TheoryData<string> Kits => [.. Kit.All.Select(k => k.Name)];

    [Theory]
    [MemberData(nameof(Kits))]
    public void Every_step_finds_the_rig_as_it_needs_it(string kit)
    {
        var run = SampleRun.Begun(Kit.Named(kit));
        while (run.State.Current is { } step)
        {
            Assert.All(step.Step.Needs, need =>
                Assert.True(need.Holds(run.State.Rig, run.State.Water), $"{step.Key} needs: {need.Text}")
            );
            if (step.Step.Capture is not null)
                run.Reads(2.0m);
            else
                run.Done();
        }
    }

    [Theory]
    [MemberData(nameof(Kits))]
    public void No_step_asks_for_a_move_that_cannot_be_made(string kit)
    {
        var rig = new Rig(DoubleCheck.Body, Kit.Named(kit)!);
        var state = rig.InService();
        foreach (
            var move in SampleRun
                .PlanWith(Kit.Named(kit)!)
                .Sheet.WholeRun.SelectMany(s => s.Steps)
                .SelectMany(s => s.Acts)
                .SelectMany(a => a.For(rig).Moves)
        )
        {
            var made = state.Apply(move);
            Assert.Null(made.Refusal);
            state = made.State;
        }
    }

    [Theory]
    [MemberData(nameof(Kits))]
    public void At_the_end_the_assembly_is_in_service_and_the_kit_off_and_draining(string kit)
    {
        var state = SampleRun
            .Begun(Kit.Named(kit))
            .To("cv1.read")
            .Reads(2m)
            .To("cv2.read")
            .Reads(2m)
            .ToTheEnd()
            .State.Rig;
        Assert.Empty(state.Connections);
        Assert.All(state.Rig.Body.Parts.Where(p => p.Turns), p => Assert.Equal(p.Normal, state[p.Id]));
        Assert.All(state.Rig.Kit.Parts.Where(p => p.Turns), p => Assert.True(state[p.Id].IsOpen));
    }

    [Fact]
    public void While_a_check_is_read_both_shutoffs_are_closed_and_only_the_two_cocks_of_that_test_open()
    {
        foreach (
            var (read, open) in new[]
            {
                ("cv1.read", new[] { Parts.Tc2, Parts.Tc3 }),
                ("cv2.read", [Parts.Tc3, Parts.Tc4]),
            }
        )
        {
            var run = SampleRun.Begun().To("cv1.read");
            if (read == "cv2.read")
                run.Reads(2m).To(read);
            run.Reads(2m);
            var rig = run.State.Rig;
            Assert.False(rig[Parts.So1].IsOpen || rig[Parts.So2].IsOpen);
            Assert.Equal(
                open,
                rig.Rig.Body.Parts.Where(p => p.Kind == PartKind.Cock && rig[p.Id].IsOpen).Select(p => p.Id)
            );
        }
    }

    [Fact]
    public void SO2_stays_closed_between_the_two_tests()
    {
        var run = SampleRun.Begun().To("cv1.read").Reads(2m);
        while (run.Now.Step.Id != "cv2.read")
        {
            Assert.False(run.State.Rig[Parts.So2].IsOpen, run.Now.Key);
            run.Done();
        }
    }

    [Fact]
    public void The_hose_moves_from_TC2_to_TC3_and_the_tube_from_TC3_to_TC4()
    {
        var run = SampleRun.Begun().To("cv1.read").Reads(2m).To("cv2.fill");
        Assert.Equal(
            (Parts.Tc3, Parts.Tc4),
            (run.State.Rig.Connections[Parts.BleedOff], run.State.Rig.Connections[Parts.SightTube])
        );
    }

    [Fact]
    public void Every_step_says_why_and_every_sight_says_what_it_means()
    {
        var procedure = SampleRun.PlanWith(Kit.FiveValve).Sheet;
        Assert.All(procedure.EveryStep(), s => Assert.False(string.IsNullOrWhiteSpace(s.Step.Why)));
        Assert.All(procedure.EveryStep().SelectMany(s => s.Step.Sights), s =>
            Assert.False(string.IsNullOrWhiteSpace(s.Means))
        );
        Assert.All(procedure.EveryStep(), s =>
            Assert.Equal(s.Step.Sights.Length, s.Step.Sights.Select(x => x.Id).Distinct().Count())
        );
        Assert.Equal(procedure.EveryStep().Count(), procedure.EveryStep().Select(s => s.Path).Distinct().Count());
    }

    [Fact]
    public void Every_step_that_must_be_answered_has_answers() =>
        Assert.All(SampleRun.PlanWith(Kit.FiveValve).Sheet.EveryStep().Where(s => s.Step.MustAnswer), s =>
            Assert.NotEmpty(s.Step.Sights)
        );

    [Fact]
    public void The_three_valve_sheet_purges_through_the_bypass_hose_and_the_five_valve_sheet_at_the_bleed()
    {
        var procedure = SchoolCatalogue.Named("dc-sight-tube")!;
        Assert.Contains(
            "Open the high bleed until the water runs without air",
            RunSheetText.Write(SchoolCatalogue.Sheet(procedure, Kit.FiveValve)),
            StringComparison.Ordinal
        );
        var three = RunSheetText.Write(SchoolCatalogue.Sheet(procedure, Kit.ThreeValve));
        Assert.Contains("bypass hose runs without air", three, StringComparison.Ordinal);
        Assert.DoesNotContain("high bleed", three, StringComparison.Ordinal);
    }

    [Fact]
    public void The_sheet_defers_to_local_code() =>
        Assert.Contains(
            "local code",
            RunSheetText.Write(SchoolCatalogue.Sheet(SchoolCatalogue.All[0], Kit.FiveValve)),
            StringComparison.Ordinal
        );
}
