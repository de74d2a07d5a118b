using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Views;

namespace Mordel.Validation;

/// <summary>
/// Logs that somebody might make who taps anything: over every school, kit and profile, with the views that the core
/// makes of them here. A browser compares its own.
/// </summary>
public static class RandomLogs
{
    private const int Longest = 70;

    private static readonly string[] Numbers = ["0", "0.4", "1.0", "1.8", "2.0", "2.3", "5.0", "7.4", "-0.2", "14.9"];

    /// <summary>Every school with every kit and profile that goes with it, on every body.</summary>
    public static IEnumerable<RunPlan> Plans() =>
        from school in SchoolCatalogue.All
        from kit in Kit.All
        where school.Unfit(kit) is null
        from profile in BuiltInProfiles.All
        where profile.School(school.Id) is not null
        from body in Bodies.Choices(school.Type)
        let kPa = profile.Id.StartsWith("kpa", StringComparison.Ordinal)
        let unit = kPa ? DifferentialUnit.Kpa : DifferentialUnit.Psid
        select new RunPlan(
            school,
            new Rig(Bodies.Find(school.Type, body), kit),
            profile,
            new Differential(kPa ? 1m : 0.2m, unit),
            new Differential(kPa ? 1m : 0.1m, unit),
            new Differential(kPa ? 100m : 15m, unit)
        );

    /// <summary>Writes cases, a line each: setups first, then logs with the hashes of their views.</summary>
    /// <param name="path">The file.</param>
    /// <param name="many">How many logs.</param>
    /// <param name="seed">The seed.</param>
    public static int Write(string path, int many, int seed)
    {
        var setups = Plans().Select(MadeSetup.For).ToList();
        var text = new StringBuilder();
        foreach (var setup in setups)
            text.Append(JsonText.Object(json => json.WriteString("setup", RunSetupFormat.WriteComplete(setup))))
                .Append('\n');
        for (var i = 0; i < many; i++)
        {
            var which = (i + seed) % setups.Count;
            var log = Tapped(setups[which], new Random(HashCode.Combine(seed, i)));
            var run = DeviceRun.Open(RunSetupFormat.WriteComplete(setups[which]), null, out _)!;
            foreach (var part in log.Chunk(EntryFormat.LargestBatch))
                run.Take($"{{\"entries\":[{string.Join(',', part)}]}}");
            text.Append(
                    JsonText.Object(json =>
                    {
                        json.WriteNumber("of", which);
                        json.WriteStrings("log", log);
                        json.WriteString("view", Hash(run.View(false), ViewsJson.Border.RunView));
                        json.WriteString(
                            "verdict",
                            Hash(run.Verdict(null, TimeSpan.Zero), ViewsJson.Border.VerdictView)
                        );
                        json.WriteStrings("seen", run.Seen);
                    })
                )
                .Append('\n');
        }

        File.WriteAllText(path, text.ToString());
        Console.WriteLine(
            string.Create(CultureInfo.InvariantCulture, $"{setups.Count} setups, {many} logs, seed {seed}")
        );
        return 0;
    }

    private static string Hash<T>(T view, System.Text.Json.Serialization.Metadata.JsonTypeInfo<T> how) =>
        ContentHash.Compute(JsonSerializer.Serialize(view, how));

    // Mostly what should be done, now and then anything that a screen offers.
    private static List<string> Tapped(RunSetup setup, Random die)
    {
        var (log, texts) = (RunLog.Empty, new List<string>());
        var length = die.Next(Longest);
        while (log.Count < length)
        {
            var view = RunViews.Of(setup, log, false);
            if (view.Now is null && die.Next(3) > 0)
                break;
            var can = All(view.Actions!, die.Next(4) > 0).ToList();
            if (can.Count == 0)
                break;
            var drafts = RunSession.Draft(can[die.Next(can.Count)], Typed(die));
            var batch = new JsonArray();
            foreach (var draft in drafts)
            {
                var id = new byte[16];
                die.NextBytes(id);
                draft["id"] = new Guid(id).ToString("D");
                draft["tick"] = log.LastTick + 1 + batch.Count;
                draft["at"] = MadeSetup
                    .Begun.AddSeconds((20 * log.Count) + die.Next(15))
                    .UtcDateTime.ToString(JsonText.InstantPattern, CultureInfo.InvariantCulture);
                batch.Add((JsonNode)draft);
            }

            var entries = EntryFormat.ReadBatch(new JsonObject { ["entries"] = batch }.ToJsonString(), out var errors);
            if (!errors.IsEmpty || entries.IsEmpty)
            {
                // Nothing usable was typed: somebody taps something else, or stops.
                length--;
                continue;
            }

            log = log.With(entries);
            texts.AddRange(entries.Select(EntryFormat.Write));
        }

        return texts;
    }

    private static IEnumerable<ActionView> All(RunActionsView can, bool usual)
    {
        ActionView?[] first = [can.Confirm, can.Slate?.Take];
        if (usual && Array.Exists(first, a => a is not null))
            return first.OfType<ActionView>();
        return first
            .Concat([can.Slate?.Passing, can.Note, can.Resume])
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
    }

    private static ImmutableDictionary<string, string> Typed(Random die)
    {
        string[] stands = ["open", "partly", "closed"];
        string Number() => Numbers[die.Next(Numbers.Length)];
        var typed = new Dictionary<string, string>
        {
            ["value"] = Number(),
            ["needle"] = Number(),
            ["text"] = "said “so” in words",
            ["serial"] = "X-1",
            ["replaced"] = die.Next(2) == 0 ? "true" : "false",
        };
        foreach (var part in new[] { "so1", "so2", "tc1", "tc2", "tc3", "tc4", "t1", "t2", "t3" })
            typed[part] = stands[die.Next(3)];
        return typed.ToImmutableDictionary();
    }
}
