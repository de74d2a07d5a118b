using System.Text.Json;
using Mordel.Core.Collections;
using Mordel.Core.Reports;

namespace Mordel.Core.Serialization;

/// <summary>Reads and writes <c>mordel.report/1</c>: every fact of a report as it is printed.</summary>
public static class ReportFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.report/1";

    private const int LongestText = 200_000;

    /// <summary>Writes a report as an object.</summary>
    public static void Write(Utf8JsonWriter json, TestReport report)
    {
        ArgumentNullException.ThrowIfNull(json);
        ArgumentNullException.ThrowIfNull(report);
        json.WriteStartObject();
        json.WriteString("format", Name);
        json.WriteString("title", report.Title);
        json.WriteString("number", report.Number);
        json.WriteString("outcome", report.Outcome);
        json.WriteString("reason", report.Reason);
        Write(json, "place", report.Place);
        Write(json, "assembly", report.Assembly);
        Write(json, "test", report.Test);
        Write(json, "visit", report.Visit);
        json.WriteStrings("notEntered", report.NotEntered);
        Write(json, "items", report.Items);
        json.WriteStrings("times", report.Times);
        json.WriteStrings("before", report.Before);
        json.WriteStrings("warnings", report.Warnings);
        json.WriteStrings("findings", report.Findings);
        json.WriteString("repairs", report.Repairs);
        if (report.Repair is { } repair)
            Write(json, repair);
        json.WriteString("remarks", report.Remarks);
        json.WriteString("kit", report.Kit);
        json.WriteString("tester", report.Tester);
        json.WriteString("certificate", report.Certificate);
        json.WriteString("signedAt", report.SignedAt);
        json.WriteString("nextDue", report.NextDue);
        if (report.Ink is { } ink)
            json.WriteString("ink", ink);
        if (report.KitZero is { } zero)
            json.WriteNumber("kitZero", zero);
        if (report.Form is { } form)
            ProfileFormat.Write(json, "form", form);
        if (report.Simulated)
            json.WriteBoolean("simulated", true);
        json.WriteEndObject();
    }

    /// <summary>Reads a report where it stands; errors go to the node's list.</summary>
    public static TestReport? Read(Node node)
    {
        var before = node.ErrorCount;
        if (!node.IsObject())
            return null;
        node.Format(Name);
        string Words(string name) => node.Required(name)?.Text(LongestText) ?? "";
        EquatableArray<string> Texts(string name) => node.Texts(name, LongestText);
        EquatableArray<ReportLine> Lines(string name) => ReportFormat.Lines(node, name);
        var report = new TestReport
        {
            Title = Words("title"),
            Number = Words("number"),
            Outcome = Words("outcome"),
            Reason = Words("reason"),
            Place = Lines("place"),
            Assembly = Lines("assembly"),
            Test = Lines("test"),
            Visit = Lines("visit"),
            NotEntered = Texts("notEntered"),
            Items = Items(node, "items"),
            Times = Texts("times"),
            Before = Texts("before"),
            Warnings = Texts("warnings"),
            Findings = Texts("findings"),
            Repairs = Words("repairs"),
            Repair = node.Optional("repair") is { } r && r.IsObject() ? Repair(r) : null,
            Remarks = Words("remarks"),
            Kit = Words("kit"),
            Tester = Words("tester"),
            Certificate = Words("certificate"),
            SignedAt = Words("signedAt"),
            NextDue = Words("nextDue"),
            Ink = node.Optional("ink")?.Text(LongestText),
            KitZero = node.Optional("kitZero")?.Number(),
            Form = node.Optional("form") is { } form ? ProfileFormat.FormWordsOf(form) : null,
            Simulated = node.Optional("simulated")?.YesNo() ?? false,
        };
        return node.ErrorCount > before ? null : report;
    }

    private static ReportRepair Repair(Node node) =>
        new(
            node.Required("after")?.Text(LongestText) ?? "",
            Items(node, "initial"),
            Lines(node, "lines"),
            RepairFactsFormat.Photos(node)
        );

    private static EquatableArray<ReportItem> Items(Node node, string name) =>
        [.. (node.Required(name)?.Elements() ?? []).Select(Item)];

    private static EquatableArray<ReportLine> Lines(Node node, string name) =>
        [
            .. (node.Required(name)?.Elements() ?? []).Select(n => new ReportLine(
                n.Required("label")?.Text(LongestText) ?? "",
                n.Required("text")?.Text(LongestText) ?? ""
            )),
        ];

    private static void Write(Utf8JsonWriter json, ReportRepair repair)
    {
        json.WriteStartObject("repair");
        json.WriteString("after", repair.After);
        Write(json, "initial", repair.Initial);
        Write(json, "lines", repair.Lines);
        RepairFactsFormat.WritePhotos(json, repair.Photos);
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, string name, EquatableArray<ReportItem> items)
    {
        json.WriteStartArray(name);
        foreach (var item in items)
        {
            json.WriteStartObject();
            json.WriteString("name", item.Name);
            json.WriteString("value", item.Value);
            json.WriteString("limit", item.Limit);
            json.WriteString("margin", item.Margin);
            json.WriteString("result", item.Result);
            json.WriteString("why", item.Why);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static ReportItem Item(Node node)
    {
        string Words(string name) => node.Required(name)?.Text(LongestText) ?? "";
        return new(Words("name"), Words("value"), Words("limit"), Words("margin"), Words("result"), Words("why"));
    }

    private static void Write(Utf8JsonWriter json, string name, EquatableArray<ReportLine> lines)
    {
        json.WriteStartArray(name);
        foreach (var line in lines)
        {
            json.WriteStartObject();
            json.WriteString("label", line.Label);
            json.WriteString("text", line.Text);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }
}
