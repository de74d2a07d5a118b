using Mordel.Core.Planning;
using Mordel.Core.Serialization;

namespace Mordel.Planning.Tests;

public class FormatTests
{
    [Fact]
    public void A_problem_and_its_plan_come_back_as_they_were_written()
    {
        for (var seed = 1; seed <= 12; seed++)
        {
            var problem = Days.ByLot(seed, 3 + seed, 2, 2);
            var plan = problem.Planned();
            var text = PlanFormat.Write(problem with { Before = plan });
            var read = PlanFormat.Read(text, out var errors);
            Assert.Empty(errors);
            Assert.Equal(text, PlanFormat.Write(read!));
            Assert.Equal(problem.Stops, read!.Stops);
            Assert.Equal(problem.Testers, read.Testers);
            Assert.Equal(problem.Shifts, read.Shifts);
            Assert.Equal(plan.Routes, PlannedFormat.Read(PlannedFormat.Write(plan), out _)!.Routes);
            Assert.Equal(plan.LeftOut, read.Before!.LeftOut);
        }
    }

    [Theory]
    [InlineData("\"minutes\":25", "\"minutes\":0", "stops[0].minutes")]
    [InlineData("\"from\":\"08:00\"", "\"from\":\"8:00\"", "stops[0].windows[0].from")]
    [InlineData("\"place\":\"p1\"", "\"place\":\"p7\"", "stops[0].place")]
    [InlineData("\"type\":\"RP\"", "\"type\":\"ZZ\"", "stops[0].type")]
    [InlineData("\"id\":\"p1\"", "\"id\":\"p0\"", "places")]
    [InlineData("\"tester\":\"a\"", "\"tester\":\"b\"", "shifts[0].tester")]
    [InlineData("[[0,", "[[", "travel[0]")]
    [InlineData("\"from\":\"00:00\",\"minutes\"", "\"from\":\"01:00\",\"minutes\"", "travel")]
    [InlineData("\"seed\":1", "\"seed\":1,\"speed\":2", "speed")]
    public void What_is_wrong_is_said_with_its_place(string from, string to, string place)
    {
        var text = PlanFormat.Write(
            RoundTests.Of([(0, 0), (500, 0)], [Days.Stop("one", 1)], [Days.Able("a", "Ada")], [Days.Shift("a")])
        );
        Assert.Contains(from, text, StringComparison.Ordinal);
        var at = text.IndexOf(from, StringComparison.Ordinal);
        Assert.Null(PlanFormat.Read(text[..at] + to + text[(at + from.Length)..], out var errors));
        Assert.Contains(errors, e => e.Place == place);
    }

    [Theory]
    [InlineData("07:30", false, 450)]
    [InlineData("24:00", false, 1440)]
    [InlineData("24:01", false, null)]
    [InlineData("25:10", true, 1510)]
    [InlineData("100:05", true, 6005)]
    [InlineData("100:05", false, null)]
    [InlineData("7:30", false, null)]
    [InlineData("07:60", true, null)]
    [InlineData("-1:30", true, null)]
    public void A_time_is_read_as_a_minute_of_the_day(string time, bool overnight, int? minute)
    {
        Assert.Equal(minute, Window.Minute(time, overnight));
        if (minute is { } at)
            Assert.Equal(time, Window.Says(at));
    }

    [Fact]
    public void A_plan_with_a_stop_twice_or_shifts_years_apart_is_refused_and_not_planned()
    {
        var problem = RoundTests.Of(
            [(0, 0), (500, 0)],
            [Days.Stop("one", 1)],
            [Days.Able("a", "Ada"), Days.Able("b", "Bo")],
            [Days.Shift("a"), Days.Shift("b")]
        );
        var plan = problem.Planned();
        var twice = plan with { Routes = [.. plan.Routes, plan.Routes[0] with { Tester = "b" }] };
        Assert.Null(PlanFormat.Read(PlanFormat.Write(problem with { Before = twice }), out var errors));
        Assert.Contains(errors, e => e is { Place: "before.routes", Says: "stop \"one\" stands here twice" });
        var apart = problem with { Shifts = [Days.Shift("a"), Days.Shift("b", 4_000)] };
        Assert.Null(PlanFormat.Read(PlanFormat.Write(apart), out errors));
        Assert.Contains(errors, e => e.Place == "shifts");
    }
}
