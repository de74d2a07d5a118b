using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;

namespace Mordel.Core.Serialization;

/// <summary>
/// Reads and writes entries of a run's log:
/// <c>{"id":…,"tick":3,"at":…,"kind":"reading","step":"cv1.read","reading":{"value":2.1,"unit":"psid"}}</c>.
/// </summary>
public static partial class EntryFormat
{
    /// <summary>The most entries taken in one batch.</summary>
    public const int LargestBatch = 200;

    // What is kept is the canonical form: what would not come back from it as it went in is refused before anything
    // rests on it.
    private static bool ComesBack(Entry entry, Node node)
    {
        var wrong = Lost(entry);
        foreach (var error in wrong)
            node.Wrong(error);
        return wrong.Count == 0;
    }

    /// <summary>
    /// Why an entry would not come back from its canonical form as it went in, in words; null when it would.
    /// </summary>
    public static string? WhyNotKept(Entry entry)
    {
        ArgumentNullException.ThrowIfNull(entry);
        return Lost(entry) is { Count: > 0 } wrong ? $"Something cannot be kept: {string.Join("; ", wrong)}." : null;
    }

    private static List<InputError> Lost(Entry entry)
    {
        var wrong = new List<InputError>();
        if (Node.Root(Write(entry), wrong) is { } kept && Read(kept) is { } again && wrong.Count == 0 && again == entry)
            return [];
        return wrong.Count > 0 ? wrong : [new("", "would not come back as it was written")];
    }

    /// <summary>
    /// The canonical form of an entry: one line, members in a fixed order, time in UTC. Sealing hashes this form.
    /// </summary>
    public static string Write(Entry entry)
    {
        ArgumentNullException.ThrowIfNull(entry);
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, VerdictFormat.Options))
            Write(json, entry);
        return Encoding.UTF8.GetString(stream.ToArray());
    }

    /// <summary>Writes an entry as an object.</summary>
    public static void Write(Utf8JsonWriter json, Entry entry)
    {
        ArgumentNullException.ThrowIfNull(json);
        ArgumentNullException.ThrowIfNull(entry);
        json.WriteStartObject();
        json.WriteString("id", entry.Id.ToString());
        json.WriteNumber("tick", entry.Tick);
        json.WriteInstant("at", entry.At);
        void Kind(string kind) => json.WriteString("kind", kind);
        void Where(string step) => json.WriteString("step", step);
        switch (entry.Body)
        {
            case EntryBody.Done b:
                Kind("done");
                Where(b.Step);
                break;
            case EntryBody.Taken b:
                Kind("reading");
                Where(b.Step);
                json.Write("reading", b.Reading);
                break;
            case EntryBody.Saw b:
                Kind("sight");
                Where(b.Step);
                json.WriteString("sight", b.Sight);
                break;
            case EntryBody.Corrected b:
                Kind("correction");
                json.WriteString("of", b.Of.ToString());
                json.Write("reading", b.Reading);
                json.WriteString("reason", b.Reason);
                break;
            case EntryBody.TookBack b:
                Kind("taken-back");
                json.WriteString("of", b.Of.ToString());
                break;
            case EntryBody.WentBack b:
                Kind("back");
                Where(b.Step);
                break;
            case EntryBody.Noted b:
                Kind("note");
                Where(b.Step);
                json.WriteString("text", b.Text);
                break;
            case EntryBody.Found b:
                Kind("finding");
                if (b.Part is { } part)
                    json.WriteString("part", part.Value);
                json.WriteString("text", b.Text);
                break;
            case EntryBody.AsFound b:
                Kind("as-found");
                json.WriteString("part", b.Part.Value);
                json.WriteString("standing", Name(b.Position));
                break;
            case EntryBody.AsLeft b:
                Kind("as-left");
                json.WriteString("part", b.Part.Value);
                json.WriteString("standing", Name(b.Position));
                break;
            case EntryBody.ToBeLeft b:
                Kind("leave");
                json.WriteString("how", b.How.Name());
                break;
            case EntryBody.SerialDiffers b:
                Kind("serial");
                json.WriteString("serial", b.Serial);
                json.WriteBoolean("replaced", b.Replaced);
                break;
            case EntryBody.LineRead b:
                Kind("line-pressure");
                json.Write("pressure", new Verdicts.ItemValue.Line(b.Pressure));
                break;
            case EntryBody.Answered b:
                Kind("answer");
                Where(b.Step);
                json.WriteString("item", b.Item.Id);
                json.Write("value", b.Value);
                break;
            case EntryBody.Glimpsed b:
                Kind("glimpse");
                Where(b.Step);
                json.Write("reading", b.Reading);
                break;
            case EntryBody.HoldStarted b:
                Kind("hold-started");
                Where(b.Step);
                if (b.Reading is { } start)
                    json.Write("reading", start);
                break;
            case EntryBody.HoldWatched b:
                Kind("hold-watched");
                Where(b.Step);
                json.Write("reading", b.Reading);
                break;
            case EntryBody.HoldEnded b:
                Kind("hold-ended");
                Where(b.Step);
                if (b.Reading is { } end)
                    json.Write("reading", end);
                if (b.Reason is { } why)
                    json.WriteString("reason", why);
                break;
            case EntryBody.GaugeOffset b:
                Kind("gauge-height");
                if (b.Offset is { } offset)
                    json.Write("offset", new Verdicts.ItemValue.Clearance(offset));
                break;
            case EntryBody.KitZero b:
                Kind("kit-zero");
                json.Write("reading", b.Reading);
                break;
            case EntryBody.Mended b:
                Kind("mended");
                if (b.Part is { } mended)
                    json.WriteString("part", mended.Value);
                json.WriteString("text", b.Text);
                break;
            case EntryBody.Paused b:
                Kind("paused");
                json.WriteString("reason", b.Reason);
                break;
            case EntryBody.Resumed:
                Kind("resumed");
                break;
            case EntryBody.TookOffer b:
                Kind("offer");
                Where(b.Step);
                json.WriteString("offer", b.Offer);
                break;
            case EntryBody.Agreed b:
                Kind("agreed");
                json.WriteString("about", b.About == Matter.Permission ? "permission" : "restoring");
                json.WriteString("who", b.Who);
                break;
            case EntryBody.Explained b:
                Kind("explained");
                json.WriteString("about", "pace");
                json.WriteString("text", b.Text);
                break;
            case EntryBody.Stopped b:
                Kind("stopped");
                json.WriteString("reason", b.Reason);
                break;
            case EntryBody.Remarks b:
                Kind("remarks");
                json.WriteString("text", b.Text);
                break;
            case EntryBody.Transcribed b:
                Kind("result");
                json.WriteString("item", b.Item.Id);
                json.Write("value", b.Value);
                break;
        }

        json.WriteEndObject();
    }

    /// <summary>A position's name in files.</summary>
    public static string Name(ValvePosition standing) =>
        standing switch
        {
            ValvePosition.Open => "open",
            ValvePosition.Closed => "closed",
            _ => "partly",
        };
}
