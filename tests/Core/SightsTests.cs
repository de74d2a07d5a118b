using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Tests;

/// <summary>Each sight of the sight-tube school, in each test, and in each order in which two can come.</summary>
public class SightsTests
{
    private static SampleRun Open(int check) =>
        check == 1 ? SampleRun.Begun().To("cv1.read") : SampleRun.Begun().To("cv1.read").Reads(2.0m).To("cv2.read");

    private static TestItem Item(int check) => check == 1 ? TestItem.Check1 : TestItem.Check2;

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    public void Water_stops_and_the_needle_settles_is_the_reading(int check)
    {
        var run = Open(check).Reads(1.6m);
        Assert.Equal(1.6m, run.Value(Item(check)));
        Assert.Empty(run.Findings);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    public void A_needle_that_runs_to_zero_records_zero_and_the_check_leaks(int check)
    {
        var run = Open(check).Sees("runs-to-zero");
        Assert.Equal(0m, run.Value(Item(check)));
        Assert.Equal([$"cv{check}-leaks"], run.Findings);
        Assert.Equal(ItemResult.Fail, run.Verdict.Items.Single(i => i.Item == Item(check)).Result);
        Assert.Equal($"cv{check}.leave", run.Now.Step.Id);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    public void Water_that_slows_at_the_tee_is_SO1_and_the_reading_is_the_one_at_the_drip(int check)
    {
        var run = Open(check).Sees("never-stops").Reads(1.9m).Sees("slows").Reads(1.4m);
        Assert.Equal(1.4m, run.Value(Item(check)));
        Assert.Equal(["so1-leaks"], run.Findings);
        Assert.Contains("SO1 leaks", run.State.Remarks, StringComparison.Ordinal);
        Assert.Equal(1.9m, run.State.Held[Item(check)].Reading.Value.Amount);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    public void A_needle_that_drops_at_the_tee_is_SO2_and_the_number_noted_before_stands(int check)
    {
        var run = Open(check).Sees("never-stops").Reads(1.9m).Sees("falls");
        Assert.Equal(1.9m, run.Value(Item(check)));
        if (check == 1)
            run.Done().Sees("comes-again");
        Assert.Equal(["so2-leaks-back-pressure"], run.Findings);
        Assert.Contains("back pressure", run.State.Remarks, StringComparison.Ordinal);
    }

    [Fact]
    public void Water_trapped_behind_a_leaking_CV2_stops_at_TC4s_let_off_and_says_nothing_of_SO2()
    {
        var run = Open(1).Sees("never-stops").Reads(1.9m).Sees("falls").Done();
        Assert.Equal("cv1.let-off", run.Now.Step.Id);
        run.Sees("trapped");
        Assert.Equal(1.9m, run.Value(TestItem.Check1));
        Assert.Empty(run.Findings);
        Assert.DoesNotContain(
            "let-off",
            string.Join(" ", run.Plan.Sheet.Steps.Select(s => s.Step.Id)),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void The_number_is_noted_before_the_tee_is_opened()
    {
        var run = Open(1).Sees("never-stops");
        Assert.True(run.Now.Step.Capture!.Provisional);
        run.Reads(1.8m);
        Assert.Equal("cv1.bleed", run.Now.Step.Id);
    }

    [Fact]
    public void A_needle_near_zero_at_the_drip_means_the_check_leaks_as_well()
    {
        var run = Open(1).Sees("never-stops").Reads(1.9m).Sees("slows").Sees("zero-at-drip");
        Assert.Equal(0m, run.Value(TestItem.Check1));
        Assert.Equal(["so1-leaks", "cv1-leaks"], run.Findings);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    public void A_sinking_level_brings_the_gauge_down_and_is_read_there(int check)
    {
        var run = Open(check).Sees("level-sinks");
        Assert.Equal($"cv{check}.lower", run.Now.Step.Id);
        run.Reads(1.3m);
        Assert.Equal(1.3m, run.Value(Item(check)));
        Assert.Equal(["so2-leaks-with-flow"], run.Findings);
        Assert.Equal(check == 1 ? "tc3" : "tc4", run.State.Rig.Held!.With.Value);
    }

    [Fact]
    public void A_needle_that_leaves_its_peg_is_a_remark_and_the_test_goes_on()
    {
        var run = SampleRun.Begun().To("cv1.shut-so1").Sees("left-the-peg");
        Assert.Equal("cv1.read", run.Now.Step.Id);
        run.Reads(2m).To("cv2.read").Sees("level-sinks").Reads(1.5m);
        Assert.Equal("SO2 leaks with the flow.", run.State.Remarks);
        Assert.Equal(new ItemValue.Tightness(false), run.State.Results()[TestItem.Shutoff2]);
    }

    [Theory]
    [InlineData("zero-from-start")]
    [InlineData("will-not-fall")]
    public void What_clears_is_repeated_from_the_purge(string sight)
    {
        var run = Open(1).Sees(sight).Sees("cleared").Done();
        Assert.Equal(("cv1.fill", 2), (run.Now.Step.Id, run.Now.Attempt));
        Assert.Equal(1.7m, run.To("cv1.read").Reads(1.7m).Value(TestItem.Check1));
    }

    [Theory]
    [InlineData(1, "zero-from-start", "stays")]
    [InlineData(2, "zero-from-start", "stays")]
    [InlineData(1, "will-not-fall", "stays")]
    [InlineData(2, "will-not-fall", "so1-stays-open")]
    public void What_stays_blocked_is_not_testable_and_leads_to_closing_up(int check, string sight, string answer)
    {
        var run = Open(check).Sees(sight).Sees(answer);
        Assert.Equal(Overall.NotTestable, run.Verdict.Overall);
        Assert.Equal("finish.ask", run.Now.Step.Id);
        Assert.Null(run.ToTheEnd().State.Current);
    }

    [Fact]
    public void A_tee_opened_too_far_is_repeated_and_nothing_is_found()
    {
        var run = Open(2).Sees("never-stops").Reads(1.8m).Sees("too-far").Done();
        Assert.Equal("cv2.fill", run.Now.Step.Id);
        Assert.Empty(run.Findings);
        Assert.Empty(run.State.Held);
    }

    [Fact]
    public void Uncompensated_SO1_cannot_lift_a_worn_check_to_a_pass()
    {
        var run = Open(1).Sees("never-stops").Reads(1.1m).Sees("slows").Reads(0.9m).To("cv2.read").Reads(2m).ToTheEnd();
        Assert.Equal(Overall.Fail, run.Verdict.Overall);
    }

    public static TheoryData<string, string> Pairs
    {
        get
        {
            string[] At(string step) =>
                [
                    .. SampleRun
                        .PlanWith(Kit.FiveValve)
                        .Sheet.EveryStep()
                        .Single(s => s.Path == step)
                        .Step.Sights.Select(s => s.Id),
                ];
            var pairs = new TheoryData<string, string>();
            foreach (var first in At("cv1.read"))
            foreach (var second in At("cv2.read"))
                pairs.Add(first, second);
            return pairs;
        }
    }

    [Theory]
    [MemberData(nameof(Pairs))]
    public void After_one_sight_is_taken_back_another_can_be_seen_and_only_the_second_counts(
        string first,
        string second
    )
    {
        var twice = Open(1).Sees(first).TakesBackLast().Sees(second);
        var once = Open(1).Sees(second);
        Assert.Equal(once.Findings, twice.Findings);
        Assert.Equal(once.Value(TestItem.Check1), twice.Value(TestItem.Check1));
        Assert.Equal(once.Now.Step.Id, twice.Now.Step.Id);
    }

    [Theory]
    [MemberData(nameof(Pairs))]
    public void Any_sight_in_the_first_test_can_be_followed_by_any_in_the_second(string first, string second)
    {
        var run = Answered(Answered(SampleRun.Begun().To("cv1.read"), first), null);
        if (run.State.NotTestable is null)
            run = Answered(Reach(run, "cv2.read"), second);
        Assert.NotNull(run.Verdict);
        while (run.State.Current is not null)
            Onward(run);
        Assert.Empty(run.State.SetAside);
    }

    private static SampleRun Reach(SampleRun run, string step)
    {
        while (run.Now.Step.Id != step)
            Onward(run);
        return run;
    }

    // Sees a sight and answers whatever it asks until the main line goes on.
    private static SampleRun Answered(SampleRun run, string? sight)
    {
        if (sight is not null)
            run.Sees(sight);
        while (run.State.Current is { } now && (now.IsBranch || now.Step.Capture is not null))
            Onward(run);
        return run;
    }

    private static void Onward(SampleRun run)
    {
        var step = run.Now.Step;
        if (step.Capture is not null)
            run.Reads(1.5m);
        else if (step.MustAnswer)
            run.Sees(step.Sights[0].Id);
        else
            run.Done();
    }
}
