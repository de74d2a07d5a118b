using System.Globalization;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Writer;

namespace Mordel.Documents.Reports;

/// <summary>Sets a report on one page of A4 as PDF: embedded fonts, searchable text, title and language set.</summary>
public sealed class ReportPdf
{
    private const double Left = 48, Right = 547, Bottom = 800, SheetHeight = 842, Ascent = 0.8;
    private static readonly (byte R, byte G, byte B) Ink = (0x1B, 0x21, 0x1F), Soft = (0x55, 0x5C, 0x58), Line = (0xB9, 0xB4, 0xA4);
    private readonly ReportModel report;
    private readonly PdfPageBuilder page;
    private readonly PdfDocumentBuilder.AddedFont regular, strong;
    private readonly Dictionary<char, bool> drawable = [];
    private double y = 44, lowest = Bottom - 146;

    private ReportPdf(ReportModel report, PdfDocumentBuilder document)
    {
        this.report = report;
        page = document.AddPage(PageSize.A4);
        regular = document.AddTrueTypeFont(Font("AtkinsonHyperlegible_400Regular.ttf"));
        strong = document.AddTrueTypeFont(Font("AtkinsonHyperlegible_700Bold.ttf"));
    }

    /// <summary>The PDF's bytes.</summary>
    public static byte[] Make(ReportModel report)
    {
        ArgumentNullException.ThrowIfNull(report);
        using var document = new PdfDocumentBuilder();
        document.DocumentInformation.Title = report.Title;
        document.DocumentInformation.Author = report.Tester;
        document.DocumentInformation.Subject = $"Backflow prevention assembly test report {report.Number}";
        document.DocumentInformation.Producer = "Mordel";
        new ReportPdf(report, document).Draw();
        return PdfLanguage.Set(document.Build(), "en");
    }

    private static byte[] Font(string name)
    {
        using var stream = typeof(ReportPdf).Assembly.GetManifestResourceStream(name) ?? throw new InvalidOperationException($"The font {name} is not in the assembly.");
        using var copy = new MemoryStream();
        stream.CopyTo(copy);
        return copy.ToArray();
    }

    private void Draw()
    {
        Text("Backflow prevention assembly test report", Left, 9.5, false, Soft);
        Text(report.Number, Right, 9.5, false, Soft, toTheRight: true);
        y += 16;
        Text(report.Outcome, Left, 30, true, Ink);
        if (report.Simulated) Text("Simulated data: an invented town", Right, 9.5, true, Soft, toTheRight: true);
        y += 38;
        Paragraph(report.Reason, 10.5, false, Ink);
        y += 4;
        Rule(1.2);
        Columns(report.Where, report.Assembly);
        Rule(0.6);
        Lines(report.Test);
        Rule(0.6);
        Items();
        Section("Readings before", report.Before);
        Section("To weigh", report.Warnings);
        Section("Findings", report.Findings);
        Section("Repairs and parts", [report.Repairs]);
        Section("Remarks", [report.Remarks.Length == 0 ? "None." : report.Remarks]);
        foreach (var amendment in report.Amendments) Section("Amendment", [amendment]);
        Signature();
    }

    private void Items()
    {
        double[] at = [Left, 210, 290, 400, 480];
        string[] heads = ["Item", "Reading", "Least allowed", "Margin", "Result"];
        for (var i = 0; i < heads.Length; i++) Text(heads[i], at[i], 8.5, false, Soft);
        y += 14;
        foreach (var item in report.Items)
        {
            Text(item.Name, at[0], 10.5, false, Ink);
            Text(item.Value, at[1], 10.5, true, Ink);
            Text(item.Limit, at[2], 10, false, Ink);
            Text(item.Margin, at[3], 10, false, Ink);
            Text(item.Result, at[4], 10.5, true, Ink);
            y += 16;
        }

        y += 2;
        Rule(0.6);
    }

    private void Signature()
    {
        y = Math.Max(y + 8, Bottom - 138);
        lowest = Bottom + 20;
        Rule(1.2);
        var top = y;
        Lines([new("Kit", report.Kit), new("Tester", $"{report.Tester}, certificate {report.Certificate}"), new("Signed", report.SignedAt)]);
        if (report.Ink is { } ink) Stroke(ink, 390, top + 22, 130, 42);
        else Text($"{report.Tester} (typed)", 390, 13, true, Ink);
        y = Math.Max(y, top + 66);
        Text($"Seal {report.Hash}", Left, 7, false, Soft);
        y += 11;
        Paragraph(ReportModel.Deference, 7.5, false, Soft);
    }

    private void Stroke(string ink, double x0, double y0, double width, double height)
    {
        page.SetStrokeColor(Ink.R, Ink.G, Ink.B);
        foreach (var part in ink.Replace(',', ' ').Split('M', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            PdfPoint? last = null;
            foreach (var pair in part.Split('L', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
            {
                var numbers = pair.Split(' ', StringSplitOptions.RemoveEmptyEntries);
                if (numbers.Length != 2 || !double.TryParse(numbers[0], CultureInfo.InvariantCulture, out var px) || !double.TryParse(numbers[1], CultureInfo.InvariantCulture, out var py)) continue;
                var point = new PdfPoint(x0 + Math.Clamp(px, 0, 600) * width / 600, SheetHeight - (y0 + Math.Clamp(py, 0, 200) * height / 200));
                if (last is { } from) page.DrawLine(from, point, 1.1);
                last = point;
            }
        }
    }

    private void Columns(IReadOnlyList<ReportLine> left, IReadOnlyList<ReportLine> right)
    {
        var top = y;
        foreach (var line in left) Pair(line, Left, 66, 180);
        var end = y;
        y = top;
        foreach (var line in right) Pair(line, 310, 66, 170);
        y = Math.Max(y, end) + 2;
    }

    private void Lines(IReadOnlyList<ReportLine> lines)
    {
        foreach (var line in lines) Pair(line, Left, 66, 430);
        y += 2;
    }

    private void Pair(ReportLine line, double x, double labelWidth, double width)
    {
        Text(line.Label, x, 8.5, false, Soft);
        Paragraph(line.Text, 9.5, false, Ink, x + labelWidth, width);
    }

    private void Section(string title, IReadOnlyList<string> texts)
    {
        if (texts.Count == 0 || texts.All(string.IsNullOrEmpty)) return;
        Pair(new(title, string.Join(" ", texts)), Left, 92, 404);
        y += 3;
    }

    private void Rule(double weight)
    {
        page.SetStrokeColor(Line.R, Line.G, Line.B);
        page.DrawLine(new PdfPoint(Left, SheetHeight - y), new PdfPoint(Right, SheetHeight - y), weight);
        y += 8;
    }

    private void Text(string text, double x, double size, bool bold, (byte R, byte G, byte B) colour, bool toTheRight = false)
    {
        text = Drawable(text);
        if (text.Length == 0) return;
        page.SetTextAndFillColor(colour.R, colour.G, colour.B);
        page.AddText(text, size, new PdfPoint(toTheRight ? x - Width(text, size, bold) : x, SheetHeight - y - size * Ascent), bold ? strong : regular);
    }

    private double Width(string text, double size, bool bold) =>
        text.Length == 0 ? 0 : page.MeasureText(text, size, new PdfPoint(0, 0), bold ? strong : regular)[^1].EndBaseLine.X;

    // A letter that the shipped typeface has not is shown as a question mark rather than losing the report.
    private string Drawable(string text) => string.Concat(text.Select(c =>
    {
        if (!drawable.TryGetValue(c, out var can))
        {
            try
            {
                page.MeasureText(c.ToString(), 10, new PdfPoint(0, 0), regular);
                page.MeasureText(c.ToString(), 10, new PdfPoint(0, 0), strong);
                can = true;
            }
            catch (InvalidOperationException)
            {
                can = false;
            }

            drawable[c] = can;
        }

        return can ? c : '?';
    }));

    private void Paragraph(string text, double size, bool bold, (byte R, byte G, byte B) colour, double x = Left, double width = Right - Left)
    {
        var lines = Wrap(Drawable(text), size, bold, width);
        // A report is one page: what would run off it is cut, and says so; the page on the screen and the log hold all of it.
        var room = Math.Max(1, (int)((lowest - y) / (size * 1.3)));
        if (lines.Count > room) lines = [.. lines.Take(room - 1), "… continued in the log"];
        foreach (var line in lines)
        {
            Text(line, x, size, bold, colour);
            y += size * 1.3;
        }
    }

    private List<string> Wrap(string text, double size, bool bold, double width)
    {
        var lines = new List<string>();
        var line = "";
        foreach (var word in text.Split([' ', '\n', '\r', '\t'], StringSplitOptions.RemoveEmptyEntries))
        {
            var longer = line.Length == 0 ? word : $"{line} {word}";
            if (line.Length > 0 && Width(longer, size, bold) > width)
            {
                lines.Add(line);
                line = word;
            }
            else
            {
                line = longer;
            }
        }

        lines.Add(line);
        return lines;
    }
}
