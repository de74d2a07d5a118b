using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Simulation;
using Mordel.Core.Training;
using Mordel.Core.Views;
using Mordel.Validation;

namespace Mordel.Core.Tests;

/// <summary>
/// What the core made of a few hundred rigs, sheets and benches when these fixtures were written, to the last bit: a
/// change of the code that is meant to change nothing changes none of them. Where a change is meant,
/// MORDEL_FIXTURES=write writes them anew, and the difference is looked at line by line.
/// </summary>
public class UnchangedTests
{
    private static string Folder([CallerFilePath] string here = "") =>
        Path.Combine(Path.GetDirectoryName(here)!, "Fixtures");

    private static void Compare(string name, IEnumerable<(string What, Func<string> Made)> cases, bool inPart = false)
    {
        var writes = Environment.GetEnvironmentVariable("MORDEL_FIXTURES") == "write";
        var all = cases.ToList();
        var made = new ConcurrentBag<string>();
        Parallel.ForEach(
            writes ? all
                : inPart ? Cases.Of(all, name)
                : Cases.Rows(all, name),
            c => made.Add($"{c.What} · {Hash(c.Made())}")
        );
        var file = Path.Combine(Folder(), name);
        var now = made.Order(StringComparer.Ordinal).ToArray();
        if (writes)
            File.WriteAllLines(file, now);
        var before = File.ReadAllLines(file);
        Assert.NotEmpty(before);
        Assert.Equal("", string.Join('\n', now.Except(before)));
        Assert.Equal(all.Select(c => c.What).Order(), before.Select(l => l.Split(" · ")[0]).Order());
    }

    private static string Hash(string text) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)))[..20];

    private static IEnumerable<(string What, Scenario Scenario)> Scenarios()
    {
        foreach (var (row, i) in ChapterFour.Rows.Select((r, i) => (r, i)))
            yield return (
                $"{row.Procedure} {Bench.KitsOf(row.Procedure).First()} \"{row.Set}\" {i:00}",
                Bench.Set(row.Procedure, Bench.KitsOf(row.Procedure).First(), row.Set)
            );
        foreach (var school in SchoolCatalogue.All)
        foreach (var kit in Bench.KitsOf(school.Id))
        {
            var sound = Bench.Set(school.Id, kit, "");
            foreach (var profile in BuiltInProfiles.All.Where(p => p.School(school.Id) is not null))
                yield return ($"{school.Id} {kit} {profile.Id}", sound with { Profile = profile });
        }
    }

    private static string Outcome(Scenario scenario)
    {
        var outcome = scenario.Perform();
        var log = string.Join('\n', outcome.Log.Entries.Select(EntryFormat.Write));
        return $"{OutcomeFormat.Write(scenario, outcome)}\n{outcome.Fingerprint}\n{log}";
    }

    [Fact]
    public void Simulated_tests_come_out_as_they_did() =>
        Compare("outcomes.txt", Scenarios().Select(s => (s.What, (Func<string>)(() => Outcome(s.Scenario)))));

    // The drawing is compared apart, by its own lines.
    private static string Views(Scenario scenario, bool drawing)
    {
        var outcome = scenario.Perform();
        var text = new StringBuilder();
        var log = RunLog.Empty;
        foreach (var entry in outcome.Log.Entries)
        {
            log = log.With(entry);
            var view = RunViews.Build(outcome.Plan, log, FlowDirection.LeftToRight, false, "Somebody");
            text.AppendLine(drawing ? view.Drawing : Shown(view));
        }

        return text.ToString();
    }

    // What can be done came to the view later, and is compared by tests of its own.
    private static string Shown(RunView view)
    {
        var json = JsonNode
            .Parse(JsonSerializer.Serialize(view with { Drawing = "", Actions = null }, JsonSerializerOptions.Web))!
            .AsObject();
        json.Remove("actions");
        return json.ToJsonString(JsonSerializerOptions.Web);
    }

    private static IEnumerable<(string What, Scenario Scenario)> Sound =>
        SchoolCatalogue.All.Select(s => (s.Id, Bench.Set(s.Id, Bench.KitsOf(s.Id).First(), "cv1 leaks")));

    [Fact]
    public void Run_views_say_what_they_said() =>
        Compare("views.txt", Sound.Select(s => (s.What, (Func<string>)(() => Views(s.Scenario, drawing: false)))));

    [Fact]
    public void Drawings_are_drawn_as_they_were()
    {
        var runs = Sound.Select(s => ($"run {s.What}", (Func<string>)(() => Views(s.Scenario, drawing: true))));
        var benches =
            from school in SchoolCatalogue.All
            from kit in Bench.KitsOf(school.Id)
            from flow in Enum.GetValues<FlowDirection>()
            let scenario = Bench.Set(school.Id, kit, "")
            select (
                $"bench {school.Id} {kit} {flow}",
                (Func<string>)(
                    () =>
                        JsonNode.Parse(BenchViews.Layout(new(scenario, false), flow, true))!["svg"]!.GetValue<string>()
                )
            );
        Compare("drawings.txt", runs.Concat(benches));
    }

    private static string Layout(RandomRig rig)
    {
        var layout = JsonNode
            .Parse(BenchViews.Layout(new(rig.Scenario, true), FlowDirection.LeftToRight, true))!
            .AsObject();
        layout.Remove("svg");
        // What scripts had in tables of their own.
        layout.Remove("letters");
        layout.Remove("heightBy");
        return layout.ToJsonString();
    }

    private static string Marked(RandomRig rig)
    {
        var recording = Demonstration.Record(rig.Scenario);
        var spoiled = recording with { Actions = [.. recording.Actions.Where((_, i) => i % 7 != 3)] };
        var live = recording.Play();
        var happened = string.Join('\n', live.EventLog.All.Select(e => Narrator.Say(e, live.Rig.Rig)));
        return string.Join(
            '\n',
            RecordingFormat.Write(recording, RecordingFormat.Write(rig)),
            MarksFormat.Write(Marking.Mark(recording)),
            MarksFormat.Write(Marking.Mark(spoiled)),
            live.Water.Fingerprint(),
            happened,
            Narrator.Describe(live)
        );
    }

    [Trait("Turn", "0")]
    [Fact]
    public void Benches_lots_and_marks_are_what_they_were() =>
        Compare(
            "benches.txt",
            from school in SchoolCatalogue.All
            from rules in Enum.GetValues<RandomRigRules>()
            from seed in new[] { 3, 11 }
            let rig = new RandomRig(school, Kit.Named(Bench.KitsOf(school.Id).First())!, rules, seed)
            from made in new (string, Func<string>)[] { ("layout", () => Layout(rig)), ("marks", () => Marked(rig)) }
            select ($"{school.Id} {(rules == RandomRigRules.Exam ? "exam" : "field")} {seed} {made.Item1}", made.Item2),
            inPart: true
        );

    [Fact]
    public void Run_sheets_are_written_as_they_were() =>
        Compare(
            "sheets.txt",
            from school in SchoolCatalogue.All
            from kit in Bench.KitsOf(school.Id)
            from profile in BuiltInProfiles.All.Where(p => p.School(school.Id) is not null)
            let sheet = SchoolCatalogue.Sheet(school, Kit.Named(kit)!, profile)
            select (
                $"{school.Id} {kit} {profile.Id}",
                (Func<string>)(() => RunSheetFormat.Json(sheet) + RunSheetText.Write(sheet))
            )
        );
}
