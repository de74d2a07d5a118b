using System.Text.Json;
using Mordel.Core.Planning;

namespace Mordel.Core.Serialization;

// Written in the order of the schema; what is as usual is left out.
public static partial class PlanFormat
{
    /// <summary>A problem.</summary>
    public static string Write(PlanProblem problem)
    {
        ArgumentNullException.ThrowIfNull(problem);
        string Place(int number) => problem.Places[number].Id;
        return JsonText.Object(json =>
        {
            json.WriteString("format", Name);
            List(json, "places", problem.Places, p =>
            {
                json.WriteString("id", p.Id);
                json.WriteString("name", p.Name);
                json.WriteNumber("east", p.East);
                json.WriteNumber("north", p.North);
            });
            List(json, "stops", problem.Stops, s => Write(json, s, Place(s.Place)));
            List(json, "testers", problem.Testers, t => Write(json, t));
            List(json, "shifts", problem.Shifts, s =>
            {
                json.WriteString("tester", s.Tester);
                json.WriteDay("day", s.Day);
                Write(json, "hours", s.Hours);
                json.WriteString("start", Place(s.Start));
                json.WriteString("end", Place(s.End));
                if (s.Lunch is not { } lunch)
                    return;
                json.WriteStartObject("lunch");
                Write(json, "within", lunch.Within);
                json.WriteNumber("minutes", lunch.Minutes);
                json.WriteEndObject();
            });
            List(json, "travel", problem.Travel.Parts, part =>
            {
                json.WriteString("from", Planning.Window.Says(part.Begins));
                json.WriteStartArray("minutes");
                foreach (var row in part.Minutes.Chunk(Math.Max(1, problem.Travel.Places)))
                {
                    json.WriteStartArray();
                    foreach (var minutes in row)
                        if (minutes == TravelTable.NoWay)
                            json.WriteNullValue();
                        else
                            json.WriteNumberValue(minutes);
                    json.WriteEndArray();
                }

                json.WriteEndArray();
            });
            json.WriteNumber("seed", problem.Seed);
            if (problem.Before is not { } before)
                return;
            json.WriteStartObject("before");
            PlannedFormat.Write(json, before);
            json.WriteEndObject();
        });
    }

    private static void Write(Utf8JsonWriter json, PlanStop stop, string place)
    {
        json.WriteString("id", stop.Id);
        json.WriteString("name", stop.Name);
        json.WriteString("place", place);
        json.WriteNumber("minutes", stop.Minutes);
        json.WriteString("authority", stop.Authority);
        json.WriteString("type", stop.Type);
        json.WriteStartArray("windows");
        foreach (var window in stop.Windows)
            Write(json, null, window);
        json.WriteEndArray();
        if (!stop.Days.IsEmpty)
            json.WriteStrings("days", stop.Days.Select(Register.Days.Write));
        if (!stop.Kits.IsEmpty)
            json.WriteStrings("kits", stop.Kits);
        if (!stop.Skills.IsEmpty)
            json.WriteStrings("skills", stop.Skills);
        if (stop.Due is { } due)
            json.WriteDay("due", due);
        json.WriteNumber("priority", stop.Priority);
        if (stop.Together is { } together)
            json.WriteString("together", together);
        if (stop.Pin is not { } pin)
            return;
        json.WriteStartObject("pin");
        json.WriteString("tester", pin.Tester);
        json.WriteDay("day", pin.Day);
        if (pin.At is { } at)
            json.WriteString("at", Planning.Window.Says(at));
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, PlanTester tester)
    {
        json.WriteString("id", tester.Id);
        json.WriteString("name", tester.Name);
        List(json, "certificates", tester.Certificates, c =>
        {
            if (c.Authority is { } authority)
                json.WriteString("authority", authority);
            json.WriteStrings("types", c.Types);
            json.WriteDay("from", c.From);
            json.WriteDay("until", c.Until);
        });
        List(json, "kits", tester.Kits, k =>
        {
            json.WriteString("kind", k.Kind);
            json.WriteString("serial", k.Serial);
            json.WriteDay("calibrationDue", k.CalibrationDue);
            if (!k.Days.IsEmpty)
                json.WriteStrings("days", k.Days.Select(Register.Days.Write));
        });
        if (!tester.Skills.IsEmpty)
            json.WriteStrings("skills", tester.Skills);
    }

    internal static void List<T>(Utf8JsonWriter json, string name, IEnumerable<T> of, Action<T> write)
    {
        json.WriteStartArray(name);
        foreach (var one in of)
        {
            json.WriteStartObject();
            write(one);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    internal static void Write(Utf8JsonWriter json, string? name, Window window)
    {
        if (name is null)
            json.WriteStartObject();
        else
            json.WriteStartObject(name);
        json.WriteString("from", Planning.Window.Says(window.From));
        json.WriteString("until", Planning.Window.Says(window.Until));
        json.WriteEndObject();
    }
}
