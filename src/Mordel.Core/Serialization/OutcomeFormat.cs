using System.Globalization;
using System.Text;
using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Simulation;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Serialization;

/// <summary>Writes what came of a simulated test as <c>mordel.outcome/1</c>, and its trace as CSV.</summary>
public static class OutcomeFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.outcome/1";

    /// <summary>Performs a scenario and writes the outcome with the needle's way, for a page that shows it.</summary>
    /// <param name="scenario">The scenario.</param>
    /// <param name="every">Simulated seconds between two points of the needle's way; 0 leaves it out.</param>
    /// <param name="budget">What may be spent on the water; null for as much as it takes.</param>
    /// <exception cref="TooMuchWorkException">The budget is used up.</exception>
    public static string Perform(Scenario scenario, double every, WorkBudget? budget = null)
    {
        ArgumentNullException.ThrowIfNull(scenario);
        var way = new List<(double, double)>();
        var next = 0.0;
        var outcome = scenario.Perform(
            moment =>
            {
                if (every <= 0 || moment.Water.Time < next)
                    return;
                way.Add((moment.Water.Time, moment.Water.Needle));
                next = moment.Water.Time + every;
            },
            budget
        );
        return Write(scenario, outcome, way);
    }

    /// <summary>The outcome as JSON text.</summary>
    /// <param name="scenario">What was simulated.</param>
    /// <param name="outcome">What came of it.</param>
    /// <param name="way">The needle's way, seconds and psid; null leaves it out.</param>
    public static string Write(
        Scenario scenario,
        SimulatedTest outcome,
        IReadOnlyCollection<(double Seconds, double Needle)>? way = null
    )
    {
        ArgumentNullException.ThrowIfNull(scenario);
        ArgumentNullException.ThrowIfNull(outcome);
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, VerdictFormat.Options with { Indented = true }))
        {
            json.WriteStartObject();
            json.WriteString("format", Name);
            json.WriteBoolean("simulated", true);
            json.WriteString("procedure", scenario.Procedure.Id);
            json.WriteString("profile", scenario.Profile.Id);
            Results(json, outcome);
            json.WriteStartArray("findings");
            foreach (var finding in outcome.Findings)
                json.WriteStringValue(finding.Id);
            json.WriteEndArray();
            json.WriteString("remarks", outcome.State.Remarks);
            json.WriteStartArray("sights");
            foreach (var met in outcome.Met)
            {
                json.WriteStartObject();
                json.WriteString("step", met.Step);
                json.WriteString("sight", met.Sight.Id);
                json.WriteString("seen", met.Sight.Seen);
                json.WriteNumber("seconds", Rounded(met.At, 2));
                json.WriteNumber("needle", Rounded(met.Needle, 4));
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WritePropertyName("verdict");
            VerdictFormat.Write(json, outcome.Verdict);
            json.WriteNumber("simulatedSeconds", Rounded(outcome.Seconds, 2));
            json.WriteString("fingerprint", outcome.Fingerprint);
            if (way is { Count: > 0 })
            {
                json.WriteStartArray("needle");
                foreach (var (seconds, needle) in way)
                {
                    json.WriteStartArray();
                    json.WriteNumberValue(Rounded(seconds, 2));
                    json.WriteNumberValue(Rounded(needle, 4));
                    json.WriteEndArray();
                }

                json.WriteEndArray();
            }

            json.WriteEndObject();
        }

        return Encoding.UTF8.GetString(stream.ToArray());
    }

    private static void Results(Utf8JsonWriter json, SimulatedTest outcome)
    {
        var plan = outcome.Plan;
        var results = Judge.WithDerived(plan.School, outcome.State.Results());
        var asked = plan
            .Sheet.Steps.SelectMany(s =>
                s.Step.Sights.SelectMany(x => x.Gives.Select(g => g.Item)).Append(s.Step.Capture?.Item)
            )
            .OfType<TestItem>();
        var wanted = plan
            .School.Items.Where(r => r.Requirement == Requirement.Required)
            .Select(r => r.Item)
            .Concat(asked)
            .ToHashSet();
        json.WriteStartObject("results");
        foreach (var item in TestItem.All)
        {
            if (results[item] is ItemValue.Measured { Reading: var reading })
            {
                json.WriteStartObject(item.Id);
                json.WriteNumber("value", reading.Value.Amount);
                json.WriteString("unit", reading.Value.Unit.Symbol());
                if (Exact(item, outcome) is { } exact)
                    json.WriteNumber(
                        "exact",
                        Rounded(
                            exact
                                * (
                                    reading.Value.Unit == DifferentialUnit.Psid
                                        ? 1
                                        : (double)DifferentialUnits.KpaPerPsi
                                ),
                            6
                        )
                    );
                json.WriteEndObject();
            }
            else if (results[item] is { } value)
                json.Write(item.Id, value);
            else if (wanted.Contains(item))
                json.WriteNull(item.Id);
        }

        json.WriteEndObject();
    }

    private static double? Exact(TestItem item, SimulatedTest outcome) =>
        item == TestItem.ReliefBuffer
            ? outcome.Exact.TryGetValue(TestItem.Check1, out var check)
            && outcome.Exact.TryGetValue(TestItem.ReliefOpening, out var relief)
                ? check - relief
                : null
            : outcome.Exact.TryGetValue(item, out var exact)
                ? exact
                : null;

    private static decimal Rounded(double value, int digits) => decimal.Round((decimal)value, digits);

    /// <summary>The parts at which water can leave, for the columns of a trace.</summary>
    private static IEnumerable<PartId> Outlets(Rig rig) =>
        rig
            .Parts.Where(p =>
                p.Kind
                    is PartKind.Cock
                        or PartKind.Relief
                        or PartKind.Inlet
                        or PartKind.Screw
                        or PartKind.Bleed
                        or PartKind.BleedOff
                        or PartKind.SightTube
                        or PartKind.Hose
                        or PartKind.Site
            )
            .Select(p => p.Id);

    /// <summary>
    /// The first line of a trace: seconds, step, needle (psid), level in the sight tube (0 to 1), inlet opening (0 to
    /// 1), then a column <c>p:chamber</c> (psi) for each chamber and <c>q:part</c> (in³/s to the air) for each outlet.
    /// </summary>
    public static string TraceHeader(Rig rig, WaterModel water)
    {
        ArgumentNullException.ThrowIfNull(rig);
        ArgumentNullException.ThrowIfNull(water);
        return string.Join(
            ',',
            new[] { "seconds", "step", "needle", "tube", "inlet" }
                .Concat(water.Chambers.Select(c => $"p:{c}"))
                .Concat(Outlets(rig).Select(o => $"q:{o}"))
        );
    }

    /// <summary>One line of a trace.</summary>
    public static string TraceLine(TraceMoment moment)
    {
        var water = moment.Water;
        static string Text(double value, string format) =>
            double.IsNaN(value) ? "" : value.ToString(format, CultureInfo.InvariantCulture);
        return string.Join(
            ',',
            new[]
            {
                Text(water.Time, "0.##"),
                moment.Step,
                Text(water.Needle, "0.####"),
                Text(water.TubeLevel, "0.###"),
                Text(water.InletOpening, "0.##"),
            }
                .Concat(water.Chambers.Select(c => Text(water.PressureIn(c), "0.####")))
                .Concat(Outlets(water.Situation.Rig).Select(o => Text(water.Spills(o), "0.#####")))
        );
    }
}
