using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using Mordel.Core.Diagnosis;

namespace Mordel.Core.Serialization;

/// <summary>Writes <c>mordel.diagnosis/1</c>: what may be wrong, and what to look at next.</summary>
public static class DiagnosisFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.diagnosis/1";

    /// <summary>The diagnosis as JSON text.</summary>
    public static string Write(Diagnosed diagnosed)
    {
        ArgumentNullException.ThrowIfNull(diagnosed);
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, VerdictFormat.Options with { Indented = true }))
        {
            json.WriteStartObject();
            json.WriteString("format", Name);
            // What it is compared with is a model of the water, not a measurement.
            json.WriteBoolean("simulated", true);
            json.WriteString("atlas", diagnosed.Atlas);
            Hypotheses(json, diagnosed);
            json.WriteStartArray("contradictions");
            foreach (var wrong in diagnosed.Contradictions)
            {
                json.WriteStartObject();
                json.WriteString("observation", diagnosed.Evidence.Observations[wrong.Observation].Place);
                json.WriteString("says", wrong.Says);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteStartArray("alike");
            foreach (var group in diagnosed.Alike)
            {
                json.WriteStartArray();
                foreach (var index in group)
                    json.WriteNumberValue(index);
                json.WriteEndArray();
            }

            json.WriteEndArray();
            json.WriteStartArray("next");
            foreach (var look in diagnosed.Next)
                Write(json, look);
            json.WriteEndArray();
            json.WriteEndObject();
        }

        return Encoding.UTF8.GetString(stream.ToArray());
    }

    private static void Hypotheses(Utf8JsonWriter json, Diagnosed diagnosed)
    {
        var lines = diagnosed.Evidence.Observations.Select(Diagnosing.Line).ToArray();
        // Written to four digits, and the last so that they sum to 1 as written.
        var rest = 1m;
        json.WriteStartArray("hypotheses");
        foreach (var hypothesis in diagnosed.Hypotheses)
        {
            var weight = Math.Min(rest, Rounded(hypothesis.Weight));
            rest -= weight;
            json.WriteStartObject();
            Faults(json, "faults", hypothesis.Faults);
            if (hypothesis.Faults.Faults.IsEmpty)
                json.WriteBoolean("sound", true);
            json.WriteNumber("weight", weight);
            Lines(json, "explains", hypothesis.Explains, lines);
            Lines(json, "leaves", hypothesis.Leaves, lines);
            if (hypothesis.Faults.Repair is { IsEmpty: false } repair)
                json.WriteString("repair", string.Join(" ", repair));
            json.WriteEndObject();
        }

        json.WriteStartObject();
        Faults(json, "faults", FaultSet.None);
        json.WriteNumber("weight", rest);
        json.WriteEndObject();
        json.WriteEndArray();
    }

    private static void Lines(Utf8JsonWriter json, string name, ImmutableArray<int> which, string[] lines)
    {
        json.WriteStartArray(name);
        foreach (var index in which)
            json.WriteStringValue(lines[index]);
        json.WriteEndArray();
    }

    private static void Faults(Utf8JsonWriter json, string name, FaultSet set)
    {
        json.WriteStartArray(name);
        foreach (var fault in set.Faults)
        {
            json.WriteStartObject();
            json.WriteString("part", fault.Part.Value);
            json.WriteString("fault", fault.Kind);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void Write(Utf8JsonWriter json, NextLook look)
    {
        json.WriteStartObject();
        json.WriteString("look", look.Id);
        json.WriteString("do", look.Title);
        json.WriteNumber("gain", Rounded(look.Gain));
        json.WriteString("effort", look.Effort);
        if (look.Caution is { } caution)
            json.WriteString("caution", caution);
        json.WriteStartArray("expect");
        foreach (var expected in look.Expect)
        {
            json.WriteStartObject();
            json.WriteString(
                look.Tool == LookTool.None ? "outlet"
                    : look.Tool == LookTool.Wrench ? "found"
                    : "shows",
                expected.Answer
            );
            json.WriteNumber("chance", Rounded(expected.Chance));
            // The likeliest set; where others come near it, they stand beside it.
            Faults(json, "points-to", expected.PointsTo.IsEmpty ? FaultSet.None : expected.PointsTo[0]);
            if (expected.PointsTo.Length > 1)
            {
                json.WriteStartArray("or");
                foreach (var other in expected.PointsTo.Skip(1))
                {
                    json.WriteStartObject();
                    Faults(json, "points-to", other);
                    json.WriteEndObject();
                }

                json.WriteEndArray();
            }

            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static decimal Rounded(double value) => decimal.Round((decimal)value, 4);
}
