using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;

namespace Mordel.Core.Serialization;

/// <summary>
/// A findings board between the server and a page that goes on without it: what was seen so far goes out as a log, the
/// core in the browser answers with what stands on the board, in words. Both sides are of one release; it is no format
/// for others.
/// </summary>
public static class BoardFormat
{
    /// <summary>What a page needs to go on.</summary>
    /// <param name="evidence">What was seen.</param>
    /// <param name="rates">The rates that the house's repairs have made.</param>
    /// <param name="order">By which order looks are proposed.</param>
    public static string WriteLog(Evidence evidence, ImmutableArray<FaultRate> rates, LookOrder order)
    {
        ArgumentNullException.ThrowIfNull(evidence);
        return JsonText.Object(json =>
        {
            json.WriteString("type", evidence.Body.Type.Name);
            json.WriteString("body", evidence.Body.Name);
            if (evidence.Procedure is { } procedure)
                json.WriteString("procedure", procedure);
            json.WriteString("by", evidence.By.ToString());
            json.WriteString("order", order.ToString());
            json.WriteStartObject("springs");
            foreach (var (part, psid) in evidence.Springs)
                json.WriteNumber(part.Value, psid);
            json.WriteEndObject();
            json.WriteStartArray("rates");
            foreach (var rate in rates)
                json.WriteNumberValue(rate.Rate);
            json.WriteEndArray();
            json.WriteStrings("seen", evidence.Observations.Select(ObservationFormat.Write));
        });
    }

    /// <summary>The board of a log, in words, as JSON.</summary>
    /// <param name="atlas">The atlas of its body.</param>
    /// <param name="log">The log.</param>
    /// <exception cref="FormatException">It is none of this release.</exception>
    public static string Answer(Atlas atlas, string log)
    {
        ArgumentNullException.ThrowIfNull(atlas);
        try
        {
            using var text = JsonDocument.Parse(log);
            return Answer(atlas, text.RootElement);
        }
        catch (Exception e)
            when (e is JsonException or KeyNotFoundException or InvalidOperationException or ArgumentException)
        {
            throw new FormatException($"The log of the board cannot be read: {e.Message}", e);
        }
    }

    private static string Answer(Atlas atlas, JsonElement log)
    {
        var (type, name) = (log.GetProperty("type").GetString(), log.GetProperty("body").GetString());
        if (
            AssemblyTypes.Named(type) is not { } known
            || Atlas.FileOf(Bodies.Find(known, name)) != Atlas.FileOf(atlas.Body)
        )
            throw new FormatException($"The atlas is of a {Atlas.NameOf(atlas.Body)}.");
        var seen = log.GetProperty("seen").EnumerateArray().Select(s => s.GetString() ?? "");
        var evidence = new Evidence(
            atlas.Body,
            [.. seen.Select((s, i) => ObservationFormat.Read(s, atlas.Body, $"[{i}]")).OfType<Observed>()]
        )
        {
            Procedure = log.TryGetProperty("procedure", out var procedure) ? procedure.GetString() : null,
            By = Enum.Parse<Doer>(log.GetProperty("by").GetString() ?? ""),
            Springs = log.GetProperty("springs")
                .EnumerateObject()
                .ToImmutableDictionary(p => new PartId(p.Name), p => p.Value.GetDouble()),
        };
        var given = log.GetProperty("rates").EnumerateArray().Select(r => r.GetDouble()).ToArray();
        var shipped = Rates.For(atlas.Body);
        return Write(
            Diagnosing.Of(
                atlas,
                evidence,
                given.Length == shipped.Length ? [.. shipped.Zip(given, (s, r) => s with { Rate = r })] : shipped,
                Enum.Parse<LookOrder>(log.GetProperty("order").GetString() ?? "")
            )
        );
    }

    private static string Write(Diagnosed diagnosed)
    {
        var evidence = diagnosed.Evidence;
        var words = evidence
            .Observations.Select(o => Diagnosing.Sentence(o, evidence.Body, evidence.Procedure))
            .ToList();
        return JsonText.Object(json =>
        {
            json.WriteStrings("seen", words);
            json.WriteBoolean("nothing", diagnosed.NothingExplains);
            json.WriteStrings("against", diagnosed.Contradictions.Select(c => words[c.Observation]));
            json.WriteStartArray("hypotheses");
            foreach (var hypothesis in diagnosed.Leading)
            {
                json.WriteStartObject();
                json.WriteString("says", Wording.Capital(hypothesis.Faults.Words(evidence.Body)));
                json.WriteNumber("percent", (int)Math.Round(100 * hypothesis.Weight));
                json.WriteStrings("leaves", hypothesis.Leaves.Select(o => words[o]));
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteStartArray("next");
            foreach (var look in diagnosed.Next)
                json.WriteLook(look, evidence.Body);
            json.WriteEndArray();
        });
    }

    private static void WriteLook(this Utf8JsonWriter json, NextLook look, AssemblyBody body)
    {
        json.WriteStartObject();
        json.WriteString("title", look.Title);
        json.WriteString("effort", Wording.Capital(look.Effort));
        json.WriteString("caution", look.Caution ?? "");
        json.WriteString("ask", look.Ask);
        json.WriteString("part", look.Opens?.Value ?? "");
        json.WriteString("look", look.Id);
        json.WriteStartArray("answers");
        foreach (var (value, says, _) in look.Answers(body))
        {
            json.WriteStartObject();
            json.WriteString("value", value);
            json.WriteString("says", says);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }
}
