using System.Collections.Immutable;
using System.Reflection;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization.Metadata;
using System.Text.RegularExpressions;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Views;
using Mordel.Validation;

namespace Mordel.Core.Tests;

/// <summary>What can be done at a run, drafted by the core: a screen only fills slots and sends.</summary>
public class RunSessionTests
{
    public static TheoryData<string> Schools => [.. SchoolCatalogue.All.Select(s => s.Id)];

    private static readonly Dictionary<string, string> Typed = new()
    {
        ["value"] = "2.0",
        ["needle"] = "1.8",
        ["text"] = "in words",
        ["serial"] = "X-1",
        ["replaced"] = "true",
    };

    // With what a dialog's fields hold at first where they hold something.
    private static ImmutableDictionary<string, string> Filled(ActionView action) =>
        (action.Dialog?.Fields ?? [])
            .Where(f => f.Kind == "valve")
            .Aggregate(Typed.ToImmutableDictionary(), (typed, field) => typed.SetItem(field.Name, field.Value));

    private static IEnumerable<ActionView> All(RunActionsView can) =>
        new[] { can.Confirm, can.Slate?.Take, can.Slate?.Passing, can.Note, can.Resume }
            .Concat(can.Watch is { } w ? [w.Start, w.Note, w.End, w.CutShort] : [])
            .OfType<ActionView>()
            .Concat(can.Sights)
            .Concat(can.Offers)
            .Concat(can.Likely.Values)
            .Concat(can.Otherwise.Values)
            .Concat(can.Rows.Values)
            .Concat(can.RowSights.Values.SelectMany(s => s))
            .Concat(can.Again.Values)
            .Concat(can.Correct.Values)
            .Concat(can.Parts.Values)
            .Concat(can.Tools);

    private static ImmutableArray<Entry> Entries(ActionView action, RunLog log, out string wrong)
    {
        var drafts = RunSession.Draft(action, Filled(action));
        var batch = new JsonArray();
        foreach (var (draft, i) in drafts.Select((d, i) => (d, i)))
        {
            draft["id"] = Guid.NewGuid().ToString("D");
            draft["tick"] = log.LastTick + 1 + i;
            draft["at"] = "2031-04-02T08:00:00.000Z";
            batch.Add((JsonNode)draft);
        }

        var entries = EntryFormat.ReadBatch(new JsonObject { ["entries"] = batch }.ToJsonString(), out var errors);
        wrong = string.Join("; ", errors);
        return entries;
    }

    [Trait("Turn", "0")]
    [Theory]
    [MemberData(nameof(Schools))]
    public void Whatever_can_be_done_makes_entries_that_take_effect(string school)
    {
        foreach (var words in Cases.Of(["", "cv1 leaks", "so1 leaks", "so2 leaks; open"], school))
        {
            var test = Bench.Set(school, Bench.KitsOf(school).First(), words).Perform();
            var log = RunLog.Empty;
            foreach (var next in test.Log.Entries.Prepend(null))
            {
                log = next is null ? log : log.With(next);
                var view = RunViews.Build(test.Plan, log, FlowDirection.LeftToRight, false, "Ane Kolb");
                var before = Replay.Run(test.Plan, log).SetAside.Length;
                Assert.All(All(view.Actions!), action =>
                {
                    var entries = Entries(action, log, out var wrong);
                    Assert.Equal("", wrong);
                    // A watch is entered in its order only, and a corrected number may have ended the test.
                    if (action.Text.Contains("watch", StringComparison.OrdinalIgnoreCase) || view.Now?.Hold is not null)
                        return;
                    var after = Replay.Run(test.Plan, entries.Aggregate(log, (l, e) => l.With(e)));
                    if (
                        action.Text
                        is not ("Something was repaired" or "correct" or "Note where it stands" or "End it early…")
                    )
                        Assert.True(after.SetAside.Length == before, $"{school} {view.Now?.Key} \"{action.Text}\"");
                });
            }
        }
    }

    [Theory]
    [MemberData(nameof(Schools))]
    public void No_two_actions_that_stand_side_by_side_have_one_key(string school)
    {
        var test = Bench.Set(school, Bench.KitsOf(school).First(), "").Perform();
        var log = RunLog.Empty;
        foreach (var entry in test.Log.Entries)
        {
            log = log.With(entry);
            var can = RunViews.Build(test.Plan, log, FlowDirection.LeftToRight, false).Actions!;
            var keys = can
                .Sights.Concat(can.Tools)
                .Append(can.Confirm ?? can.Note!)
                .Select(a => a.Key)
                .OfType<string>()
                .ToList();
            Assert.Equal(keys.Where(k => k != "n").Distinct().Count(), keys.Count(k => k != "n"));
        }
    }

    [Fact]
    public void A_sealed_run_offers_nothing()
    {
        var test = Bench.Set("dc-sight-tube", "five-valve", "").Perform();
        var view = RunViews.Build(test.Plan, test.Log, FlowDirection.LeftToRight, isSealed: true);
        Assert.Empty(All(view.Actions!));
    }

    [Theory]
    [InlineData("2.0", true)]
    [InlineData("-0.4", true)]
    [InlineData("1234.125", true)]
    [InlineData("2.", false)]
    [InlineData("2,0", false)]
    [InlineData("1e3", false)]
    [InlineData("", false)]
    public void A_number_is_what_hands_can_type(string text, bool number) =>
        Assert.Equal(number, Regex.IsMatch(text, EntryTemplate.NumberPattern));

    [Fact]
    public void A_reading_keeps_its_digits_and_the_gauges_resolution()
    {
        var run = Bench.Set("dc-sight-tube", "five-valve", "");
        var tester = new Simulation.SimulatedTester(run.Plan, run.Situation);
        tester.Perform(until: s => s.Step.Id == "cv1.read");
        var can = RunViews.Build(run.Plan, tester.Log, FlowDirection.LeftToRight, false).Actions!;
        var draft = Assert.Single(
            RunSession.Draft(can.Slate!.Take, new Dictionary<string, string> { ["value"] = "02.0" })
        );
        Assert.Equal(
            """{"kind":"reading","step":"cv1.read","reading":{"value":2.0,"unit":"psid","resolution":0.1}}""",
            draft.ToJsonString()
        );
    }

    [Theory]
    [InlineData(1.83, "1.8")]
    [InlineData(1.85, "1.9")]
    [InlineData(-0.04, "0.0")]
    public void What_a_gauge_shows_is_written_down_at_its_resolution(decimal shown, string written) =>
        Assert.Equal(
            written,
            RunSession
                .Rounded(Bench.Set("dc-sight-tube", "five-valve", "").Plan, shown)
                .Replace("-0.0", "0.0", StringComparison.Ordinal)
        );

    [Fact]
    public void A_gauge_with_a_step_of_one_is_read_in_whole_numbers()
    {
        var plan = Bench.Set("dc-sight-tube", "five-valve", "").Plan with
        {
            Resolution = new(1.0m, Units.DifferentialUnit.Kpa),
        };
        Assert.Equal("13", RunSession.Rounded(plan, 13.2m));
    }

    private static readonly JsonSerializerOptions Reflected = new(ViewsJson.Border.Options)
    {
        TypeInfoResolver = new DefaultJsonTypeInfoResolver(),
    };

    [Fact]
    public void A_view_crosses_the_border_as_it_does_without_the_generated_code()
    {
        var test = Bench.Set("rp-relief-first", "five-valve", "cv1 leaks").Perform();
        var view = RunViews.Build(test.Plan, test.Log, FlowDirection.LeftToRight, false, "Ane Kolb");
        Assert.Equal(
            JsonSerializer.Serialize(view, Reflected),
            JsonSerializer.Serialize(view, ViewsJson.Border.RunView)
        );
    }

    private static PropertyInfo Would =>
        typeof(JsonTypeInfo).GetProperty("CanUseSerializeHandler", BindingFlags.Instance | BindingFlags.NonPublic)!;

    [Fact]
    public void What_crosses_the_border_is_written_by_the_code_that_was_made_for_it()
    {
        // The library says of itself whether it would; any other options, and it would not.
        Assert.All<JsonTypeInfo>(
            [
                ViewsJson.Border.RunView,
                ViewsJson.Border.RunActionsView,
                ViewsJson.Border.WeighedView,
                ViewsJson.Border.VerdictView,
                ViewsJson.Border.RepairView,
            ],
            type => Assert.Equal(true, Would.GetValue(type))
        );
        var other = new ViewsJson(new(ViewsJson.Border.Options) { Encoder = JavaScriptEncoder.Default });
        Assert.Equal(false, Would.GetValue(other.RunView));
    }
}
