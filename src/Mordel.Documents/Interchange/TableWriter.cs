using System.Globalization;
using System.Text;
using System.Text.Json;
using CsvHelper;
using CsvHelper.Configuration;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Mordel.Core.Outside;
using Mordel.Core.Register;

namespace Mordel.Documents.Interchange;

/// <summary>
/// Where metres east and north of the zero stone lie on the globe. Near the zero stone the ground is taken as flat:
/// within 50 km that is off by less than a metre in a hundred.
/// </summary>
/// <param name="Latitude">Of the zero stone, degrees.</param>
/// <param name="Longitude">Of the zero stone, degrees.</param>
public sealed record ZeroStone(double Latitude, double Longitude)
{
    // Metres of a degree of latitude: a forty millionth of the way round, times 360.
    private const double MetresADegree = 111_320;

    /// <summary>Longitude and latitude of a point.</summary>
    public (double Longitude, double Latitude) Of(int east, int north) =>
        (
            Math.Round(Longitude + (east / (MetresADegree * Math.Cos(Latitude * Math.PI / 180))), 7),
            Math.Round(Latitude + (north / MetresADegree), 7)
        );
}

/// <summary>Writes tables as they come, line by line: CSV, JSON, GeoJSON, iCalendar.</summary>
public static class TableWriter
{
    /// <summary>The endings that a table can be written with.</summary>
    public static readonly string[] Endings = [".csv", ".json", ".geojson", ".ics"];

    private static readonly CsvConfiguration Plain = new(CultureInfo.InvariantCulture);

    private const string Utf8Mark = "\ufeff";

    /// <summary>Why a table cannot be written with an ending; null when it can.</summary>
    /// <param name="ending">The ending.</param>
    /// <param name="table">The table.</param>
    public static string? WhyNot(string ending, ExportTable table)
    {
        ArgumentNullException.ThrowIfNull(table);
        return (ending, table) switch
        {
            (".geojson", { Point: null }) => "its lines have no place.",
            (".ics", { Due: null }) => "nothing in it is due on a day.",
            _ => null,
        };
    }

    /// <summary>Writes a table as its ending says.</summary>
    /// <param name="into">Where it goes.</param>
    /// <param name="ending">One of <see cref="Endings"/>.</param>
    /// <param name="what">What it is.</param>
    /// <param name="table">The table.</param>
    /// <param name="zero">Where the zero stone is.</param>
    /// <param name="now">Now.</param>
    public static Task Write(
        Stream into,
        string ending,
        string what,
        ExportTable table,
        ZeroStone zero,
        DateTimeOffset now
    )
    {
        ArgumentNullException.ThrowIfNull(table);
        return ending switch
        {
            ".json" => Json(into, what, table.Heads, table.Lines),
            ".geojson" => GeoJson(into, table.Heads, table.Lines, table.Point!.Value, zero),
            ".ics" => Calendar(into, table.Lines, table.Due!.Value, now),
            _ => Csv(into, table.Heads, table.Lines),
        };
    }

    /// <summary>CSV (RFC 4180); what a spreadsheet would run is neutralised.</summary>
    /// <param name="into">Where it goes.</param>
    /// <param name="heads">The names of the columns.</param>
    /// <param name="lines">The lines.</param>
    /// <param name="mark">Whether it begins with the mark by which spreadsheets know UTF-8.</param>
    public static async Task Csv(
        Stream into,
        IReadOnlyList<string> heads,
        IAsyncEnumerable<string[]> lines,
        bool mark = false
    )
    {
        ArgumentNullException.ThrowIfNull(heads);
        ArgumentNullException.ThrowIfNull(lines);
        await using var text = new StreamWriter(into, new UTF8Encoding(false), 1 << 16, leaveOpen: true);
        if (mark)
            await text.WriteAsync(Utf8Mark);
        await using var csv = new CsvWriter(text, Plain, leaveOpen: true);
        foreach (var head in heads)
            csv.WriteField(head);
        await csv.NextRecordAsync();
        await foreach (var line in lines)
        {
            foreach (var field in line)
                csv.WriteField(Neutral(field));
            await csv.NextRecordAsync();
        }

        await csv.FlushAsync();
    }

    /// <summary>JSON: a list of objects; what is empty is left out.</summary>
    public static async Task Json(
        Stream into,
        string what,
        IReadOnlyList<string> heads,
        IAsyncEnumerable<string[]> lines
    )
    {
        ArgumentNullException.ThrowIfNull(heads);
        ArgumentNullException.ThrowIfNull(lines);
        await using var json = new Utf8JsonWriter(into, new() { Indented = true });
        json.WriteStartObject();
        json.WriteString("format", $"mordel.{what}/1");
        json.WriteStartArray("lines");
        await foreach (var line in lines)
        {
            Object(json, heads, line);
            if (json.BytesPending > 1 << 16)
                await json.FlushAsync();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    /// <summary>GeoJSON (RFC 7946): a point for each line.</summary>
    public static async Task GeoJson(
        Stream into,
        IReadOnlyList<string> heads,
        IAsyncEnumerable<string[]> lines,
        (int East, int North) point,
        ZeroStone zero
    )
    {
        ArgumentNullException.ThrowIfNull(heads);
        ArgumentNullException.ThrowIfNull(lines);
        ArgumentNullException.ThrowIfNull(zero);
        await using var json = new Utf8JsonWriter(into, new() { Indented = true });
        json.WriteStartObject();
        json.WriteString("type", "FeatureCollection");
        json.WriteStartArray("features");
        await foreach (var line in lines)
        {
            json.WriteStartObject();
            json.WriteString("type", "Feature");
            json.WriteStartObject("geometry");
            json.WriteString("type", "Point");
            json.WriteStartArray("coordinates");
            var (longitude, latitude) = zero.Of(Whole(line[point.East]), Whole(line[point.North]));
            json.WriteNumberValue(longitude);
            json.WriteNumberValue(latitude);
            json.WriteEndArray();
            json.WriteEndObject();
            json.WritePropertyName("properties");
            Object(json, heads, line);
            json.WriteEndObject();
            if (json.BytesPending > 1 << 16)
                await json.FlushAsync();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    /// <summary>iCalendar (RFC 5545): an event of a whole day for each line.</summary>
    public static async Task Calendar(
        Stream into,
        IAsyncEnumerable<string[]> lines,
        (int Day, int[] Words) due,
        DateTimeOffset now
    )
    {
        ArgumentNullException.ThrowIfNull(lines);
        var calendar = new Ical.Net.Calendar { ProductId = "-//Mordel//Due//EN" };
        await foreach (var line in lines)
        {
            var day = Days.Read(line[due.Day])!.Value;
            var words = due.Words.Select(i => line[i]).ToList();
            calendar.Events.Add(
                new CalendarEvent
                {
                    Uid = $"{words[0]}/{line[due.Day]}@mordel",
                    DtStamp = new CalDateTime(now.UtcDateTime, "UTC"),
                    Start = new CalDateTime(day),
                    End = new CalDateTime(day.AddDays(1)),
                    Summary = $"{words[0]} {words[1]} due: {words[2]}",
                    Location = words[3],
                    Description = words[4],
                }
            );
        }

        var text = new CalendarSerializer().SerializeToString(calendar) ?? "";
        await into.WriteAsync(Encoding.UTF8.GetBytes(text));
    }

    // What begins like a formula is written as text, unless it is a number.
    private static string Neutral(string field) =>
        field is ['=' or '+' or '-' or '@' or '\t' or '\r', ..]
        && !decimal.TryParse(field, NumberStyles.Float, CultureInfo.InvariantCulture, out _)
            ? $"'{field}"
            : field;

    private static void Object(Utf8JsonWriter json, IReadOnlyList<string> heads, string[] line)
    {
        json.WriteStartObject();
        for (var i = 0; i < heads.Count; i++)
            if (line[i].Length > 0)
                json.WriteString(heads[i], line[i]);
        json.WriteEndObject();
    }

    private static int Whole(string text) =>
        int.TryParse(text, CultureInfo.InvariantCulture, out var number) ? number : 0;
}
