using Mordel.Core.Drawing;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Units;
using Mordel.Core.Views;

namespace Mordel.Core.Tests;

public class ViewsTests
{
    private static RunView View(SampleRun run) => RunViews.Build(run.Plan, run.Log, FlowDirection.LeftToRight, false);

    [Fact]
    public void From_the_first_moment_the_next_number_can_be_typed()
    {
        var view = View(SampleRun.Begun());
        Assert.Equal(
            ("cv1.read", "CV1 differential", "psid", "0.1", "at least 1.0 psid"),
            (
                view.Now!.Capture!.Key,
                view.Now.Capture.Name,
                view.Now.Capture.Unit,
                view.Now.Capture.Resolution,
                view.Now.Capture.Limit
            )
        );
    }

    [Fact]
    public void While_a_sight_waits_for_its_answer_no_later_number_is_offered() =>
        Assert.Null(View(SampleRun.Begun().To("cv1.read").Sees("zero-from-start")).Now!.Capture);

    [Fact]
    public void Limit_and_margin_are_known_while_the_number_is_typed()
    {
        var run = SampleRun.Begun();
        var weighed = RunViews.Weigh(run.Plan, run.State, "cv1.read", new Reading(Differential.Psid(0.9m)))!;
        Assert.Equal(("fail", "−0.1 psid"), (weighed.Result, weighed.Margin));
        Assert.Contains("good to 0.2 psid", weighed.Warnings.Single(), StringComparison.Ordinal);
    }

    [Fact]
    public void A_number_that_no_step_asks_for_is_not_weighed() =>
        Assert.Null(
            RunViews.Weigh(
                SampleRun.PlanWith(Kit.FiveValve),
                Replay.Run(SampleRun.PlanWith(Kit.FiveValve), RunLog.Empty),
                "cv1.fill",
                new Reading(Differential.Psid(1m))
            )
        );

    [Fact]
    public void Preliminaries_and_closing_up_are_confirmed_together_and_tests_step_by_step()
    {
        var run = SampleRun.Begun();
        Assert.Equal(5, View(run).Together!.Lines.Length);
        Assert.Null(View(run.To("cv1.fill")).Together);
        Assert.NotNull(View(run.To("cv1.read").Reads(2m).To("cv2.read").Reads(2m).To("finish.ask")).Together);
    }

    [Fact]
    public void The_sheet_shows_where_one_is()
    {
        var view = View(SampleRun.Begun().To("cv1.read").Reads(2m));
        Assert.Equal("now", view.Stages.Single(s => s.Id == "check-1").State);
        Assert.Equal(
            ["cv1.leave"],
            view.Stages.SelectMany(s => s.Steps).Where(l => l.State == "now").Select(l => l.Key)
        );
        Assert.Contains(view.Stages.SelectMany(s => s.Steps), l => l is { Key: "cv1.read", Detail: "2 psid" });
    }

    [Fact]
    public void A_corrected_number_shows_both_values()
    {
        var run = SampleRun.Begun().To("cv1.read").Reads(8.1m);
        run.Says(
            new EntryBody.Corrected(run.Log.Entries.Last().Id, new Reading(Differential.Psid(1.8m)), "typed wrongly")
        );
        var reading = View(run).Readings.Single();
        Assert.Equal(("1.8", "8.1 psid", "typed wrongly"), (reading.Value, reading.First, reading.Reason));
    }

    [Fact]
    public void The_drawing_is_said_in_words_too() =>
        Assert.Contains(
            "sight tube on TC3",
            View(SampleRun.Begun().To("cv1.fill")).DrawingInWords,
            StringComparison.Ordinal
        );

    [Fact]
    public void A_chart_marks_a_fail_by_shape_and_says_its_numbers_in_words()
    {
        var svg = HistoryChart.Draw(
            [new("CV1", "line-1", [new(new(2030, 5, 1), 1.4, true), new(new(2031, 5, 1), 0.8, false)])],
            1.0,
            "psid"
        )!;
        Assert.Single(System.Text.RegularExpressions.Regex.Matches(svg, "class=\"cross\""));
        Assert.Contains("CV1: 1.4 in 2030, 0.8 in 2031 (fails). Limit 1 psid.", svg, StringComparison.Ordinal);
    }

    [Fact]
    public void A_reading_with_a_limit_of_its_own_is_drawn_against_that_one()
    {
        var svg = HistoryChart.Draw(
            [new("CV1", "line-1", [new(new(2030, 5, 1), 5.6, true, 5.3), new(new(2031, 5, 1), 5.2, false, 5.4)])],
            2.0,
            "psid"
        )!;
        Assert.Equal(2, System.Text.RegularExpressions.Regex.Count(svg, "class=\"limit own\""));
        Assert.Contains(
            "CV1: 5.6 in 2030, limit 5.3, 5.2 in 2031 (fails), limit 5.4. Limit 2 psid.",
            svg,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_forecast_is_drawn_hollow_up_to_the_day_it_is_for_and_said_in_words()
    {
        var points = new ChartPoint[] { new(new(2030, 5, 1), 1.4, true), new(new(2031, 5, 1), 1.3, true) };
        string Draw(ChartRange? next) => HistoryChart.Draw([new("CV1", "line-1", [.. points], next)], 1.0, "psid")!;
        var svg = Draw(new(new(2034, 5, 1), 0.8, 1.0, 1.2));
        Assert.Contains("next most likely 0.8 to 1.2.", svg, StringComparison.Ordinal);
        Assert.Single(System.Text.RegularExpressions.Regex.Matches(svg, "class=\"range line-1\""));
        Assert.Contains(">2034</text>", svg, StringComparison.Ordinal);
        Assert.DoesNotContain("class=\"ahead", Draw(null), StringComparison.Ordinal);
    }

    [Fact]
    public void What_was_read_elsewhere_is_drawn_smaller_and_said()
    {
        ChartPoint[] points =
        [
            new(new(2030, 4, 1), 2.1, true) { IsElsewhere = true },
            new(new(2031, 4, 1), 0.4, false) { IsElsewhere = true },
            new(new(2032, 4, 1), 2.0, true),
        ];
        var svg = HistoryChart.Draw([new("CV1", "line-1", [.. points])], 1.0, "psid")!;
        Assert.Equal(2, svg.Split("class=\"dot line-1").Length - 1);
        Assert.Single(svg.Split("elsewhere\"").Skip(1));
        Assert.Contains(
            "2.1 in 2030, brought in, 0.4 in 2031 (fails), brought in, 2 in 2032.",
            svg,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void No_readings_no_chart() => Assert.Null(HistoryChart.Draw([new("CV1", "line-1", [])], 1.0, "psid"));
}
