using System.Collections.Immutable;
using System.Text.Json;
using Mordel.Core.Rigs;
using Mordel.Core.Training;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Serialization;

// How a recording is written.
public static partial class RecordingFormat
{
    /// <summary>Writes a recording.</summary>
    /// <param name="recording">The recording.</param>
    /// <param name="rig">The rig, as the text it was read from.</param>
    public static string Write(Recording recording, string rig)
    {
        ArgumentNullException.ThrowIfNull(recording);
        return JsonText.Object(json =>
        {
            json.WriteString("format", Name);
            json.WritePropertyName("rig");
            json.WriteRawValue(rig);
            json.WriteNumber("ticks", recording.End);
            json.WriteStartArray("deeds");
            foreach (var action in recording.Actions)
                Write(json, action);
            json.WriteEndArray();
        });
    }

    /// <summary>A rig drawn by lot, as text.</summary>
    public static string Write(RandomRig rig)
    {
        ArgumentNullException.ThrowIfNull(rig);
        return JsonText.Object(json =>
        {
            json.WriteString("format", Drawn);
            json.WriteString("procedure", rig.Procedure.Id);
            json.WriteString("kit", rig.Kit.Name);
            json.WriteString("rules", rig.Rules == RandomRigRules.Exam ? "exam" : "field");
            json.WriteNumber("seed", rig.Seed);
        });
    }

    private static void Write(Utf8JsonWriter json, TimedAction timed)
    {
        json.WriteStartObject();
        json.WriteNumber("at", timed.At);
        switch (timed.What)
        {
            case BenchAction.Turn t:
                json.WriteString("turn", t.Part.Value);
                json.WriteNumber("to", t.To.Fraction);
                if (t.Over > 0)
                    json.WriteNumber("over", t.Over);
                break;
            case BenchAction.Connect c:
                json.WriteString("connect", c.Item.Value);
                json.WriteString("on", c.To.Value);
                break;
            case BenchAction.TakeOff o:
                json.WriteString("off", o.Item.Value);
                break;
            case BenchAction.Lift l:
                json.WriteNumber("lift", l.Inches);
                break;
            case BenchAction.DrawOff t:
                json.WriteBoolean("tap", t.Open);
                break;
            case BenchAction.Write w:
                json.WriteString("write", w.Item.Id);
                json.Write("value", w.Value);
                break;
            case BenchAction.ReportFinding f:
                json.WriteString("find", f.Finding.Id);
                json.WriteBoolean("stands", f.Stands);
                break;
            case BenchAction.Conclude c:
                json.WriteString("verdict", c.Overall.Id());
                break;
        }

        json.WriteEndObject();
    }
}
