using System.Text.Json;
using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;
using Mordel.Core.Views;

namespace Mordel.Core.Tests;

/// <summary>A run on a device, made of what was taken along and of what was entered there.</summary>
public class DeviceRunTests
{
    public static TheoryData<string> Schools => [.. SchoolCatalogue.All.Select(s => s.Id)];

    private static DeviceRun Open(SampleRun run)
    {
        var device = DeviceRun.Open(RunSetupFormat.WriteComplete(SampleSetup.For(run.Plan)), null, out var errors)!;
        Assert.Empty(errors);
        Assert.Empty(Take(device, run.Log));
        return device;
    }

    private static System.Collections.Immutable.ImmutableArray<InputError> Take(DeviceRun device, RunLog log) =>
        device.Take($"{{\"entries\":[{string.Join(',', log.Entries.Select(EntryFormat.Write))}]}}");

    [Theory]
    [MemberData(nameof(Schools))]
    public void A_device_shows_to_the_byte_what_the_server_shows(string school)
    {
        var run = SampleRun.Of(school);
        for (var i = 0; i < 12; i++)
        {
            Assert.Equal(Shown(run, run.Log), Shown(Open(run)));
            if (run.State.Current is null)
                break;
            run.GoesOn();
        }
    }

    [Fact]
    public void In_whatever_order_entries_come_each_look_shows_what_the_whole_log_leads_to() =>
        Gen.Select(ReplayTests.Taps, Gen.Int)
            .Sample(
                (taps, seed) =>
                {
                    var run = ReplayTests.Tapped(taps);
                    var device = Open(SampleRun.Of(run.Plan));
                    var (left, known, lot) = (run.Log.Entries.ToList(), RunLog.Empty, new Random(seed));
                    while (left.Count > 0)
                    {
                        // Mostly the next one; now and then several, or one that another device made long before.
                        var many = Math.Min(left.Count, lot.Next(5) == 0 ? 3 : 1);
                        var from = lot.Next(8) == 0 ? lot.Next(left.Count - many + 1) : 0;
                        var some = RunLog.Empty.With(left.GetRange(from, many));
                        left.RemoveRange(from, many);
                        known = known.With(some.Entries);
                        if (Take(device, some).Length > 0 || (lot.Next(3) == 0 && Shown(device) != Shown(run, known)))
                            return false;
                    }

                    return Shown(device) == Shown(run, known);
                },
                iter: Cases.Of(200)
            );

    private static string Shown(DeviceRun device) =>
        JsonSerializer.Serialize(device.View(false), ViewsJson.Border.RunView);

    private static string Shown(SampleRun run, RunLog log) =>
        JsonSerializer.Serialize(RunViews.Of(SampleSetup.For(run.Plan), log, false), ViewsJson.Border.RunView);

    [Fact]
    public void A_batch_with_a_fault_leaves_the_run_as_it_was()
    {
        var device = Open(SampleRun.Begun().To("cv1.read"));
        var before = device.Log.Count;
        Assert.NotEmpty(device.Take("{\"entries\":[{\"id\":\"no\"}]}"));
        Assert.Equal(before, device.Log.Count);
        Assert.Null(DeviceRun.Open("{}", null, out var errors));
        Assert.NotEmpty(errors);
    }

    [Fact]
    public void The_clock_of_the_device_says_when_a_test_began_there()
    {
        var at = SampleSetup.Begun.AddHours(3);
        var setup = RunSetupFormat.WriteComplete(SampleSetup.For(SampleRun.Begun().Plan));
        Assert.Equal(at, DeviceRun.Open(setup, at, out _)!.Setup.BegunAt);
    }

    [Fact]
    public void A_number_is_weighed_as_the_server_weighs_it()
    {
        var device = Open(SampleRun.Begun().To("cv1.read"));
        WeighedView? On(Weighing asked, out string wrong)
        {
            var weighed = asked.On(device.Setup.Plan, device.State, out var errors);
            wrong = string.Join("; ", errors);
            return weighed;
        }

        Assert.Equal("fail", On(new("cv1.read", "0.9", null, null), out _)!.Result);
        // What a gauge shows is rounded to its smallest step.
        Assert.Equal("1.8", On(new("cv1.read", null, "1.7712", "0.001"), out _)!.Rounded);
        Assert.Null(On(new("cv1.read", "much", null, null), out var wrong));
        Assert.StartsWith("value:", wrong, StringComparison.Ordinal);
        Assert.Null(On(new("cv1.read", null, "2", "-1"), out wrong));
        Assert.StartsWith("speed:", wrong, StringComparison.Ordinal);
        Assert.Null(On(new("nowhere", "2", null, null), out wrong));
        Assert.StartsWith("step:", wrong, StringComparison.Ordinal);
    }

    [Fact]
    public void A_verdict_says_what_nobody_entered_and_takes_it()
    {
        var device = Open(SampleRun.Begun().To("cv1.read").Reads(1.8m).To("cv2.read").Reads(0.6m).ToTheEnd());
        var verdict = device.Verdict(null, TimeSpan.Zero);
        Assert.Equal(("fail", 0), (verdict.Overall, verdict.Obstacles.Length));
        Assert.Contains(verdict.Asks, f => f.Name == "permission");
        var typed = new Dictionary<string, string>
        {
            ["permission"] = "Signe Ost",
            ["foundSo1"] = "open",
            ["so2"] = "leaks",
            ["remarks"] = "Told the porter.",
        };
        var entries = verdict
            .Beside.Select(e => EntryTemplate.Fill(e, typed))
            .OfType<System.Text.Json.Nodes.JsonObject>()
            .Select(
                (e, i) =>
                {
                    e["id"] = Guid.NewGuid().ToString("D");
                    e["tick"] = device.Log.LastTick + 1 + i;
                    e["at"] = "2031-04-02T09:00:00.000Z";
                    return e.ToJsonString();
                }
            )
            .ToList();
        Assert.Equal(4, entries.Count);
        Assert.Empty(device.Take($"{{\"entries\":[{string.Join(',', entries)}]}}"));
        var after = device.Verdict(null, TimeSpan.Zero);
        Assert.DoesNotContain(after.Asks, f => f.Name is "permission" or "foundSo1");
        Assert.Contains(after.Items, i => i is { Name: "SO2", Value: "leaks" });
        Assert.Equal("Told the porter.", after.Asks.Single(f => f.Name == "remarks").Value);
        Assert.NotEqual(verdict.Log, after.Log);
        Assert.Equal(VerdictViews.HashOf(device.Log), after.Log);
    }

    [Fact]
    public void A_certificate_that_has_ended_on_the_day_of_the_test_is_an_obstacle_on_the_device_too()
    {
        var plan = SampleRun.Begun().Plan;
        var setup = SampleSetup.For(plan);
        var ended = setup with
        {
            Tester = setup.Tester with { Certificate = SampleSetup.Certificate with { Until = new(2031, 4, 1) } },
        };
        var device = DeviceRun.Open(RunSetupFormat.WriteComplete(ended), null, out _)!;
        Assert.Contains(device.Verdict(null, TimeSpan.Zero).Obstacles, o =>
            o.Contains("ended on 1 April 2031", StringComparison.Ordinal)
        );
        // West of Greenwich it is still the evening before.
        Assert.DoesNotContain(device.Verdict(null, TimeSpan.FromHours(-9)).Obstacles, o =>
            o.Contains("ended", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void The_same_numbers_as_last_time_are_questioned_where_the_verdict_before_is_on_board()
    {
        var run = SampleRun.Begun().To("cv1.read").Reads(1.8m).To("cv2.read").Reads(1.5m).ToTheEnd();
        var before = VerdictFormat.Write(run.Plan.VerdictOn(run.State));
        var device = Open(run);
        Assert.DoesNotContain(device.Verdict(null, TimeSpan.Zero).Warnings, IsSame);
        Assert.Contains(device.Verdict(before, TimeSpan.Zero).Warnings, IsSame);
        Assert.Null(DeviceRun.ResultsOf("{\"format\":\"something\"}"));

        static bool IsSame(string warning) => warning.Contains("equals the test before", StringComparison.Ordinal);
    }

    [Fact]
    public void What_a_run_has_seen_goes_to_the_board_of_the_device()
    {
        var device = Open(SampleRun.Begun().To("cv1.read").Sees("zero-from-start"));
        Assert.Contains(device.Seen, line => line.Contains("zero-from-start", StringComparison.Ordinal));
        Assert.All(device.Seen, line => Assert.NotNull(ObservationFormat.Read(line, device.Setup.Assembly.Parts, "")));
    }

    [Fact]
    public void A_streaming_needle_is_told_in_steps_of_its_gauge()
    {
        var view = Open(SampleRun.Begun().To("cv1.read")).View(false);
        Assert.Equal(new NeedleView(0.1m, 0.5m, 0.2m), view.Now!.Capture!.Needle);
    }
}
