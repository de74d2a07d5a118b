using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Core.Views;

namespace Mordel.Core.Tests;

/// <summary>Repairs, repeats, breaking off and coming back; findings that fail by themselves.</summary>
public class RepeatTests
{
    [Fact]
    public void In_the_check_first_school_a_leaking_SO2_voids_what_was_read_and_after_its_repair_all_begins_again()
    {
        var run = SampleRun.Of("rp-check-first").OnTo("so2.test").Sees("falls");
        Assert.Equal(Overall.Fail, run.Verdict.Overall);
        Assert.All(run.Verdict.Items.Where(i => i.Item == TestItem.Check1 || i.Item == TestItem.ReliefOpening), i =>
            Assert.Equal(ItemResult.Missing, i.Result)
        );
        run.Sees("mended");
        Assert.Empty(run.State.Readings);
        run.Through();
        Assert.Equal(Overall.Pass, run.Verdict.Overall);
        var before = Assert.Single(run.State.Earlier);
        Assert.Equal(Overall.Fail, run.Plan.VerdictOn(before).Overall);
        Assert.Equal(7.4m, before.Results.Differential(TestItem.Check1)!.Value.Amount);
        Assert.Contains("SO2", run.State.Remarks, StringComparison.Ordinal);
    }

    [Fact]
    public void Isolation_valves_are_mended_before_anything_is_read()
    {
        var run = SampleRun.Of("rp-isolation-first", Kit.ThreeValve).OnTo("iso.test").Sees("rises").Sees("runs-on");
        Assert.Equal(new ItemValue.Tightness(false), run.State.Results()[TestItem.Shutoff1]);
        Assert.Equal("finish.ask", run.Sees("not-today").Now.Step.Id);
        Assert.Equal(Overall.Fail, run.Through().Verdict.Overall);
    }

    [Fact]
    public void A_repair_keeps_the_first_set_beside_the_last()
    {
        var run = SampleRun
            .Begun()
            .To("cv1.read")
            .Reads(0.6m)
            .Says(new EntryBody.Mended(Parts.Cv1, "disc turned"))
            .Through();
        Assert.Equal(
            (0.6m, 2.0m),
            (run.State.Earlier[0].Results.Differential(TestItem.Check1)!.Value.Amount, run.Value(TestItem.Check1))
        );
        Assert.Equal("CV1: disc turned", run.State.Earlier[0].Why);
        Assert.Equal(Overall.Pass, run.Verdict.Overall);
        Assert.Contains(
            "CV1 differential 0.6 psid",
            RunViews.Build(run.Plan, run.Log, FlowDirection.Upward, false).Earlier[0].Lines[0],
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void There_is_nothing_to_mend_before_anything_was_read() =>
        Assert.Single(SampleRun.Begun().To("cv1.fill").Says(new EntryBody.Mended(null, "x")).State.SetAside);

    [Fact]
    public void A_test_broken_off_closes_up_and_is_taken_up_again_from_the_beginning()
    {
        var run = SampleRun.Of("rp-relief-first").OnTo("bp.test").Says(new EntryBody.Paused("the window is over"));
        Assert.Equal("finish.ask", run.Now.Step.Id);
        run.Through();
        Assert.Equal("the window is over", run.State.Paused);
        run.Says(new EntryBody.Resumed());
        Assert.Equal((null, "rig.back"), (run.State.Paused, run.Now.Step.Id));
        Assert.Equal(Overall.Pass, run.Through().Verdict.Overall);
        Assert.Single(run.State.Earlier);
        Assert.Single(run.Says(new EntryBody.Resumed()).State.SetAside);
    }

    [Fact]
    public void A_test_broken_off_before_anything_was_done_is_taken_up_from_the_first_step()
    {
        var run = SampleRun.Begun().Says(new EntryBody.Paused("nobody at home")).Says(new EntryBody.Resumed());
        Assert.Equal("before.notify", run.Now.Step.Id);
        Assert.Empty(run.State.Earlier);
    }

    [Fact]
    public void CV1_below_its_five_ends_the_check_first_test_with_what_was_read()
    {
        var run = SampleRun.Of("rp-check-first").OnTo("cv1.read").Reads(4.9m);
        Assert.Equal("finish.ask", run.Now.Step.Id);
        Assert.Equal(Overall.Fail, run.Through().Verdict.Overall);
        Assert.Equal(
            "check-1",
            run.Says(new EntryBody.WentBack("cv1.read")).State.Ahead.First(a => a.Step.Id == "cv1.read").Stage
        );
    }

    [Fact]
    public void The_strict_profile_wants_five_before_going_on_and_the_standard_one_does_not()
    {
        Assert.Equal(
            "finish.ask",
            SampleRun.Of("rp-relief-first", null, BuiltInProfiles.PsidStrict).OnTo("hook.so2").Reads(4.8m).Now.Step.Id
        );
        Assert.Equal("rv.dry", SampleRun.Of("rp-relief-first").OnTo("hook.so2").Reads(4.8m).Now.Step.Id);
    }

    [Theory]
    [InlineData("rp-relief-first", "rv.feed", "nothing-drips", "relief-stuck")]
    [InlineData("rp-relief-first", "rv.feed", "leaks-untold", "relief-leaks")]
    [InlineData("pvb-inlet-first", "ai.lower", "never-moves", "inlet-stuck")]
    [InlineData("svb-check-first", "ai.read", "never-moves", "inlet-stuck")]
    public void Some_sights_fail_the_assembly_whatever_the_numbers_say(
        string school,
        string step,
        string sight,
        string finding
    )
    {
        var run = SampleRun.Of(school).OnTo(step).Sees(sight);
        Assert.Contains(finding, run.Findings);
        Assert.Equal(Overall.Fail, run.Through().Verdict.Overall);
    }

    [Fact]
    public void A_relief_that_opens_below_its_limit_is_found_low() =>
        Assert.Equal(["relief-low"], SampleRun.Of("rp-relief-first").OnTo("rv.feed").Reads(1.9m).Findings);

    [Fact]
    public void A_corrected_number_that_passes_is_found_low_no_more()
    {
        var run = SampleRun.Of("rp-relief-first").OnTo("rv.feed").Reads(1.9m);
        run.Says(new EntryBody.Corrected(run.Log.Entries.Last().Id, new Reading(Differential.Psid(2.9m)), "misread"));
        Assert.Empty(run.Findings);
    }

    [Fact]
    public void A_leaking_CV1_gives_the_reliefs_point_and_ends_the_test()
    {
        var run = SampleRun.Of("rp-relief-first").OnTo("hook.so2").Sees("relief-runs").Reads(2.4m).Reads(2.4m);
        Assert.Equal("finish.ask", run.Now.Step.Id);
        Assert.Equal((2.4m, 2.4m), (run.Value(TestItem.ReliefOpening), run.Value(TestItem.Check1)));
        Assert.Contains(run.Verdict.Warnings, w => w.Code == "check-not-above-relief");
        Assert.Equal(Overall.Fail, run.Verdict.Overall);
    }

    [Fact]
    public void Over_a_leaking_CV2_SO2_is_not_judged()
    {
        var run = SampleRun.Of("rp-relief-first").OnTo("bp.test").Sees("sinks").Through();
        Assert.Null(run.State.Results()[TestItem.Shutoff2]);
        Assert.DoesNotContain(run.State.Behind, b => b.Planned.Step.Id == "so2.test");
    }

    [Theory]
    [InlineData(false, false)]
    [InlineData(true, true)]
    public void A_needle_at_rest_above_the_reliefs_point_is_what_the_profile_says(bool accepted, bool tight)
    {
        var profile = BuiltInProfiles.PsidStandard with
        {
            Schools =
            [
                .. BuiltInProfiles.PsidStandard.Schools.Select(s => s with { RestAboveReliefIsTight = accepted }),
            ],
        };
        Assert.Equal(
            new ItemValue.Tightness(tight),
            SampleRun.Of("rp-relief-first", null, profile).OnTo("bp.test").Sees("rests-above").State.Results()[
                TestItem.Check2BackPressure
            ]
        );
    }

    [Fact]
    public void What_cannot_be_made_static_is_neither_pass_nor_fail() =>
        Assert.Equal(
            Overall.NotTestable,
            SampleRun
                .Of("svb-static-first", Kit.ThreeValve)
                .OnTo("static.so1")
                .Sees("falls")
                .Sees("stays")
                .Through()
                .Verdict.Overall
        );

    [Fact]
    public void A_low_reading_in_the_draw_down_school_is_a_leak_and_a_low_spring_elsewhere_is_not()
    {
        Assert.Equal(["cv1-leaks"], SampleRun.Of("dc-draw-down").OnTo("cv1.read").Reads(0.4m).Findings);
        Assert.Empty(SampleRun.Begun().OnTo("cv1.read").Reads(0.4m).Findings);
    }
}
